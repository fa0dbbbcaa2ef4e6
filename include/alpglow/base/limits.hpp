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

/// False for what is not a number.
inline bool withinAlongEachAxis(const Eigen::Vector3d& p, double most) {
  return std::abs(p.x()) <= most && std::abs(p.y()) <= most && std::abs(p.z()) <= most;
}
inline bool legalPosition(const Eigen::Vector3d& p) { return withinAlongEachAxis(p, farthestPosition); }

/// In its direction, no longer than this.
inline Eigen::Vector3d limitedTo(const Eigen::Vector3d& v, double most) {
  const double length = v.norm();
  return length > most ? Eigen::Vector3d(v * (most / length)) : v;
}

/// Points that follow from legal ones are nearer than this along any axis: lag, lead and distance take them no farther.
constexpr double farthestPoint = 3 * farthestPosition;

inline bool reachablePoint(const Eigen::Vector3d& p) { return withinAlongEachAxis(p, farthestPoint); }

/// From a pivot to a camera, metres: what designs allow for a subject of the largest scale.
constexpr double longestDistance = 1e5;

/// Times a turn of the look, for another lens; at most its reciprocal.
constexpr double leastLookScale = 1e-6;

/// The longest time that may pass at once, seconds: eleven days.
constexpr double longestTime = 1e6;
/// Less than a nanosecond is no time: nothing moves, and no speed is worked out from it.
constexpr double minTimeStep = 1e-9;

/// Seconds that may pass: 0 … `longestTime`.
inline bool legalTime(double seconds) { return seconds >= 0 && seconds <= longestTime; }
/// What counts of them; what is not legal stays so.
inline double countedTime(double seconds) { return seconds >= 0 && seconds < minTimeStep ? 0 : seconds; }

/// Angles (radians), counts of a pointer, notches of a wheel, rates and factors: at most 1e9 either way.
inline bool legalNumber(double number) { return std::abs(number) <= 1e9; }

/// Width over height of a screen.
constexpr double narrowestAspect = 0.05, widestAspect = 20;
inline bool legalAspect(double aspect) { return aspect >= narrowestAspect && aspect <= widestAspect; }

/// Slower is standing: metres per second of the subject's scale.
constexpr double standingSpeed = 0.05;

/// Nothing is predicted farther ahead, whatever the frame time, seconds.
constexpr double longestPrediction = 10;

}  // namespace alpglow
