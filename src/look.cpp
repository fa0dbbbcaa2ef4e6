#include "alpglow/look.hpp"

#include "alpglow/half_life.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

LookAngles limited(LookAngles look, const PitchLimits& limits) {
  return {wrapAngle(look.yaw), std::clamp(look.pitch, limits.low, limits.high)};
}

void Look::displace(Displacement moved, const LookSettings& settings, const PitchLimits& limits) {
  const double right = settings.invertYaw ? -moved.x : moved.x;
  const double down = settings.invertPitch ? -moved.y : moved.y;
  const LookAngles before = target_;
  target_ = limited({before.yaw - right * settings.yawPerCount, before.pitch - down * settings.pitchPerCount}, limits);
  if (settings.smoothing <= 0) return;
  pending_.yaw = std::remainder(pending_.yaw - right * settings.yawPerCount, 2 * pi);
  pending_.pitch += target_.pitch - before.pitch;
}

void Look::pass(double seconds, Rate deflection, Rate scale, const LookSettings& settings, const PitchLimits& limits) {
  if (!(seconds > 0)) return;
  const bool resting = deflection.x == 0 && deflection.y == 0 && rate_.yaw == 0 && rate_.pitch == 0;
  const double before = dwell_.step(resting ? 0 : std::hypot(deflection.x, deflection.y), seconds, settings.edgeDwell);
  if (resting && pending_.yaw == 0 && pending_.pitch == 0) return;
  const Rate scaled{deflection.x * scale.x, deflection.y * scale.y};
  turn(before, scaled, 1, settings, limits);
  turn(seconds - before, scaled, settings.edgeFactor, settings, limits);
  const double left = std::exp(-decay(settings.smoothing, seconds));
  pending_ = {pending_.yaw * left, pending_.pitch * left};
  // Whatever the stick has done meanwhile, the shown pitch stays within the limits as well.
  pending_.pitch = std::clamp(pending_.pitch, target_.pitch - limits.high, target_.pitch - limits.low);
}

void Look::turn(double seconds, Rate deflection, double factor, const LookSettings& settings,
                const PitchLimits& limits) {
  constexpr double free = std::numeric_limits<double>::infinity();
  const double right = (settings.invertYaw ? -deflection.x : deflection.x) * factor;
  const double up = (settings.invertPitch ? -deflection.y : deflection.y) * factor;
  const EasedAngle yaw =
      turnedToward({target_.yaw, rate_.yaw}, -right * settings.yawRate, seconds, settings.turnHalfLife, -free, free);
  const EasedAngle pitch = turnedToward({target_.pitch, rate_.pitch}, up * settings.pitchRate, seconds,
                                        settings.turnHalfLife, limits.low, limits.high);
  target_ = limited({yaw.angle, pitch.angle}, limits);
  rate_ = {yaw.rate, pitch.rate};
}

}  // namespace alpglow
