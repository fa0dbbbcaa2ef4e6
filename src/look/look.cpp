#include "alpglow/look/look.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

LookAngles limited(LookAngles look, const PitchLimits& limits) {
  return {wrapAngle(look.yaw), std::clamp(look.pitch, limits.low, limits.high)};
}

LookAngles turnOf(Displacement moved, const LookSettings& settings) {
  return {-(settings.invertYaw ? -moved.x : moved.x) * settings.yawPerCount,
          -(settings.invertPitch ? -moved.y : moved.y) * settings.pitchPerCount};
}

LookAngles turnRatesOf(Rate deflection, Rate scale, const LookSettings& settings) {
  return {-(settings.invertYaw ? -deflection.x : deflection.x) * scale.x * settings.yawRate,
          (settings.invertPitch ? -deflection.y : deflection.y) * scale.y * settings.pitchRate};
}

void Look::displace(Displacement moved, const LookSettings& settings, const PitchLimits& limits, double orbitHalfLife) {
  const LookAngles turn = turnOf(moved, settings), before = target_;
  target_ = limited({before.yaw + turn.yaw, before.pitch + turn.pitch}, limits);
  const LookAngles made{turn.yaw, target_.pitch - before.pitch};
  LookAngles* const behind = settings.smoothing > 0 ? &pending_ : orbitHalfLife > 0 ? &trail_ : nullptr;
  if (behind == nullptr) return;
  behind->yaw = std::remainder(behind->yaw + made.yaw, 2 * pi);
  behind->pitch += made.pitch;
}

void Look::turnBy(const LookAngles& turn, const PitchLimits& limits) {
  if (!std::isfinite(turn.yaw) || !std::isfinite(turn.pitch)) return;
  target_.yaw = wrapAngle(target_.yaw + turn.yaw);
  // What is shown stays within the limits, and so does the target.
  const double between = std::max(limits.high - limits.low, 0.0);
  const double room = pending_.pitch = std::clamp(pending_.pitch, -between, between);
  target_.pitch =
      std::clamp(target_.pitch + turn.pitch, limits.low + std::max(room, 0.0), limits.high + std::min(room, 0.0));
}

void Look::advance(double seconds, Rate deflection, Rate scale, const LookSettings& settings, const PitchLimits& limits,
                   double orbitHalfLife) {
  if (!(seconds > 0)) return;
  const bool resting = deflection.x == 0 && deflection.y == 0 && rate_.yaw == 0 && rate_.pitch == 0;
  const double before = dwell_.step(resting ? 0 : std::hypot(deflection.x, deflection.y), seconds, settings.edgeDwell);
  if (resting && pending_.yaw == 0 && pending_.pitch == 0 && trail_.yaw == 0 && trail_.pitch == 0) return;
  const Rate scaled{deflection.x * scale.x, deflection.y * scale.y};
  turn(before, scaled, 1, settings, limits, orbitHalfLife);
  turn(seconds - before, scaled, settings.edgeFactor, settings, limits, orbitHalfLife);
  if (settings.smoothing <= 0 && pending_.yaw == 0 && pending_.pitch == 0) return;
  const double left = std::exp(-decay(settings.smoothing, seconds));
  const double gathered =
      orbitHalfLife > 0 && settings.smoothing > 0
          ? rateConstant(settings.smoothing) * decayedTwice(settings.smoothing, orbitHalfLife, seconds)
          : 0.0;
  trail_ = {trail_.yaw + pending_.yaw * gathered, trail_.pitch + pending_.pitch * gathered};
  pending_ = {pending_.yaw * left, pending_.pitch * left};
  // Whatever the stick has done meanwhile, the shown pitch stays within the limits as well.
  pending_.pitch = std::clamp(pending_.pitch, target_.pitch - limits.high, target_.pitch - limits.low);
}

void Look::goWithLimit(double asked, const PitchLimits& limits, double up, double down) {
  if (rate_.pitch != 0) return;
  if (asked > 0 && target_.pitch >= limits.high) rate_.pitch = std::min(asked, up);
  if (asked < 0 && target_.pitch <= limits.low) rate_.pitch = std::max(asked, -down);
}

void Look::turn(double seconds, Rate deflection, double factor, const LookSettings& settings, const PitchLimits& limits,
                double orbitHalfLife) {
  constexpr double free = std::numeric_limits<double>::infinity();
  const LookAngles goal = turnRatesOf(deflection, {factor, factor}, settings);
  const EasedAngle yaw = turnedToward({target_.yaw, rate_.yaw, trail_.yaw}, goal.yaw, seconds, settings.turnHalfLife,
                                      -free, free, orbitHalfLife);
  const EasedAngle pitch = turnedToward({target_.pitch, rate_.pitch, trail_.pitch}, goal.pitch, seconds,
                                        settings.turnHalfLife, limits.low, limits.high, orbitHalfLife);
  if (!(seconds > 0)) return;
  target_ = limited({yaw.angle, pitch.angle}, limits);
  rate_ = {yaw.rate, pitch.rate};
  trail_ = {std::remainder(yaw.trail, 2 * pi), pitch.trail};
}

}  // namespace alpglow
