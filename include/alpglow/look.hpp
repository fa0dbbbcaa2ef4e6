#pragma once
// The look: which way the player faces. Pointer counts and turn rates become yaw and pitch, in full and in the same
// frame.
//
// Positive yaw turns left, positive pitch looks up; moving the pointer right turns right. Limits hold always, ±90°
// included, and what would go beyond one is dropped, so that the first count back moves. Yaw stays in (−180°, 180°].
//
//   LookAngles look;
//   look = displaced(look, {12, -3}, settings, limits);
//   look = turned(look, {0.5, 0}, dt, settings, limits);

#include "alpglow/angles.hpp"
#include "alpglow/intent.hpp"

namespace alpglow {

struct LookSettings {
  /// Radians of yaw for one count of the pointer. Sign-free: use the invert flags.
  double yawPerCount = degrees(0.05);
  /// Radians of pitch for one count of the pointer.
  double pitchPerCount = degrees(0.05);
  /// Yaw rate at full deflection of a stick, radians per second.
  double yawRate = degrees(200);
  /// Pitch rate at full deflection of a stick, radians per second.
  double pitchRate = degrees(120);
  bool invertYaw = false;
  bool invertPitch = false;
};

/// Lowest and highest pitch, radians, within ±90°, low ≤ high.
struct PitchLimits {
  double low = degrees(-80);
  double high = degrees(80);
};

/// Yaw about up, then pitch about the camera's own right; both in radians.
struct LookAngles {
  double yaw = 0;
  double pitch = 0;
};

/// The look after the pointer moved. Independent of time.
LookAngles displaced(LookAngles look, Displacement moved, const LookSettings& settings, const PitchLimits& limits);

/// The look after a turn rate was held for `seconds`: the angle is its integral, clamped at the moment a limit is
/// reached.
LookAngles turned(LookAngles look, Rate rate, double seconds, const LookSettings& settings, const PitchLimits& limits);

/// The look brought inside the limits and wrapped.
LookAngles limited(LookAngles look, const PitchLimits& limits);

}  // namespace alpglow
