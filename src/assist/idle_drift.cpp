#include "alpglow/assist/idle_drift.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double resting = 1e-12;  // radians per second

}  // namespace

/// The rate goes from r to w as w + (r − w)·e^(−λt): the integral of that.
double IdleDrift::turn(double seconds, double rate, double halfLife) {
  if (!(seconds > 0)) return 0;
  const double before = rate_ - rate, lambda = rateConstant(halfLife);
  rate_ = approach(rate_, rate, halfLife, seconds);
  const double eased = std::isinf(lambda) ? 0 : before * -std::expm1(-lambda * seconds) / lambda;
  if (rate == 0 && std::abs(rate_) < resting) rate_ = 0;
  return rate * seconds + eased;
}

double IdleDrift::step(double seconds, bool stands, const IdleDriftSettings& settings) {
  if (!stands) {
    quiet_ = 0;
    return turn(seconds, 0, settings.halfLife);
  }
  const double waits = std::clamp(settings.after - quiet_, 0.0, seconds);
  quiet_ += seconds;
  const double rests = turn(waits, 0, settings.halfLife);
  return rests + turn(seconds - waits, settings.rate, settings.halfLife);
}

}  // namespace alpglow
