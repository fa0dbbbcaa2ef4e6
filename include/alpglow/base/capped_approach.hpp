#pragma once
// A value approaches a moving target by half-life, and never faster than a cap.
//
// The value x follows a target g with velocity w as x' = w − λ(x − g), limited to ±cap: linear at the cap while the
// error is large, exponential without any lag behind the target once it is small, and falling behind in a straight
// line where the target is faster than the cap. Each moment of change inside a step is found in closed form, so cutting
// a step in two changes nothing.
//
//   error = cappedApproach(error, targetMoved, dt, 0.1, degrees(180));     // error = value − target
//
// An ease-in scales a rate up from nothing: over a time T, from 0 to 1 as s²(3 − 2s). Run for the eased time instead of
// the real one, an approach to a resting target starts gently and is still exact.

#include <algorithm>

namespace alpglow {

/// The error (value − target) after `seconds` in which the target moves by `targetMoved`.
double cappedApproach(double error, double targetMoved, double seconds, double halfLife, double cap);

/// From angle to angle, the short way round; but within 10° of the opposite direction the way it was turning before
/// (the sign of `turning`; 0 = not turning). Within ±190°.
double turnOnward(double from, double to, double turning);

/// From 0 to 1 without a kink, s²(3 − 2s), held at either end; s is how far one is, 0 … 1.
inline double eased(double s) {
  const double t = std::clamp(s, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

/// The eased time between two moments since the start: the integral of the scale, seconds.
double easedTime(double from, double to, double easeIn);

}  // namespace alpglow
