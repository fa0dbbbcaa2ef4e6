#include "alpglow/look.hpp"

#include <algorithm>

namespace alpglow {

LookAngles limited(LookAngles look, const PitchLimits& limits) {
  return {wrapAngle(look.yaw), std::clamp(look.pitch, limits.low, limits.high)};
}

LookAngles displaced(LookAngles look, Displacement moved, const LookSettings& settings, const PitchLimits& limits) {
  const double right = settings.invertYaw ? -moved.x : moved.x;
  const double down = settings.invertPitch ? -moved.y : moved.y;
  return limited({look.yaw - right * settings.yawPerCount, look.pitch - down * settings.pitchPerCount}, limits);
}

LookAngles turned(LookAngles look, Rate rate, double seconds, const LookSettings& settings, const PitchLimits& limits) {
  const double right = std::clamp(settings.invertYaw ? -rate.x : rate.x, -1.0, 1.0);
  const double up = std::clamp(settings.invertPitch ? -rate.y : rate.y, -1.0, 1.0);
  return limited({look.yaw - right * settings.yawRate * seconds, look.pitch + up * settings.pitchRate * seconds},
                 limits);
}

}  // namespace alpglow
