#pragma once
// What counts as a number that the core computes with. Everything beyond these is bad input: it is left out, and a
// fault says so.
//
//   if (!legalPosition(subject.feet)) faults |= Fault::badSubject;

#include <Eigen/Core>

#include <cmath>

namespace alpglow {

/// Positions, displacements and velocities go no farther along any axis, metres and metres per second.
constexpr double farthestPosition = 1e9;

inline bool legalPosition(const Eigen::Vector3d& p) {
  const auto legal = [](double x) { return std::abs(x) <= farthestPosition; };  // false for what is not a number
  return legal(p.x()) && legal(p.y()) && legal(p.z());
}

/// Seconds: finite and not negative.
inline bool legalTime(double seconds) { return std::isfinite(seconds) && seconds >= 0; }

/// Width over height of a screen.
inline bool legalAspect(double aspect) { return aspect >= 0.05 && aspect <= 20; }

}  // namespace alpglow
