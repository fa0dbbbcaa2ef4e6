#pragma once
// The logarithms in which distances and lenses blend evenly: ln(1 + d/0.5 m), finite at first person, and ln
// tan(fov/2), in which equal steps are equal magnifications.

#include <cmath>

namespace alpglow {

inline double logDistance(double distance) { return std::log1p(distance / 0.5); }
inline double distanceFromLog(double inSpace) { return 0.5 * std::expm1(inSpace); }

/// Field of view in radians.
inline double logTanHalfFov(double fieldOfView) { return std::log(std::tan(fieldOfView / 2)); }
inline double fieldOfViewFromLog(double inSpace) { return 2 * std::atan(std::exp(inSpace)); }

}  // namespace alpglow
