#pragma once
// Angles in radians, made by functions that name their unit.
//
//   const double limit = degrees(85);
//   yaw = wrapAngle(yaw + degrees(10));   // stays in (-180°, 180°]
//   const double turn = shortestTurn(from, to);        // never the long way round

#include <cmath>

namespace alpglow {

constexpr double pi = 3.14159265358979323846;

/// An angle stated in degrees, as radians.
constexpr double degrees(double angleInDegrees) { return angleInDegrees * (pi / 180.0); }

/// An angle in radians, as degrees.
constexpr double toDegrees(double angle) { return angle * (180.0 / pi); }

/// The same direction, in (−π, π]. Exact for every finite angle; non-finite angles give NaN.
inline double wrapAngle(double angle) {
  if (angle > -pi && angle <= pi) return angle;
  const double wrapped = std::remainder(angle, 2.0 * pi);
  return wrapped <= -pi ? pi : wrapped;
}

/// The signed angle in (−π, π] that turns `from` into `to` the short way round.
inline double shortestTurn(double from, double to) { return wrapAngle(to - from); }

}  // namespace alpglow
