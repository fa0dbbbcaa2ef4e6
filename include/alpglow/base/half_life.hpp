#pragma once
// Exact exponential smoothing in half-lives: in each half-life, half of the way that is left is covered.
//
// Splitting a step in two changes nothing, and a half-life of 0 means direct. Functions take the decay
// u = dt·ln2/h, which `decay` computes; it is infinite at h = 0 and 0 at dt = 0.

#include <cmath>
#include <limits>

namespace alpglow {

constexpr double ln2 = 0.69314718055994530942;

/// ω·h of a critically damped motion from rest: half of the distance is left after h, (1 + ωh)·e^(−ωh) = ½.
constexpr double criticalRate = 1.678346990016661;

/// The rate constant λ = ln2/h in 1/s; infinite at half-life 0.
inline double rateConstant(double halfLife) {
  return halfLife > 0 ? ln2 / halfLife : std::numeric_limits<double>::infinity();
}

/// u = λ·dt; 0 when no time passes, even at half-life 0.
inline double decay(double halfLife, double dt) { return dt > 0 ? dt * rateConstant(halfLife) : 0.0; }

/// φ(u) = (1 − e^(−u))/u, with φ(0) = 1 and φ(∞) = 0: the mean of e^(−u·t) over t in [0, 1].
inline double meanDecay(double u) {
  if (u == 0) return 1.0;
  return std::isinf(u) ? 0.0 : -std::expm1(-u) / u;
}

/// K = (e^(−at) − e^(−bt))/(b − a) for the rate constants of two half-lives: what decays by one and is gathered by
/// something that decays by the other. 0 where either half-life is 0.
inline double decayedTwice(double oneHalfLife, double otherHalfLife, double dt) {
  if (!(oneHalfLife > 0) || !(otherHalfLife > 0) || !(dt > 0)) return 0.0;
  const double a = decay(oneHalfLife, dt), b = decay(otherHalfLife, dt);
  return a < b ? dt * std::exp(-a) * meanDecay(b - a) : dt * std::exp(-b) * meanDecay(a - b);
}

/// A value on its way to a resting target after `dt`.
inline double approach(double value, double target, double halfLife, double dt) {
  return target + (value - target) * std::exp(-decay(halfLife, dt));
}

/// The time after which a fraction (0 … 1) of a way has been covered.
inline double timeToCover(double fraction, double halfLife) { return -std::log2(1.0 - fraction) * halfLife; }

}  // namespace alpglow
