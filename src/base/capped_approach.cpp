#include "alpglow/base/capped_approach.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();

/// An error and the time that is left.
struct Stretch {
  double error, seconds;
};

/// Closes in a straight line down to `until`.
Stretch straight(double error, double closing, double until, double seconds) {
  const double needed = closing > 0 ? (error - until) / closing : infinity;
  if (needed >= seconds) return {error - closing * seconds, 0};
  return {until, seconds - needed};
}

}  // namespace

double cappedApproach(double error, double targetMoved, double seconds, double halfLife, double cap) {
  if (!(seconds > minTimeStep)) return error - targetMoved;
  if (error < 0) return -cappedApproach(-error, -targetMoved, seconds, halfLife, cap);
  const double speed = targetMoved / seconds;
  const double lambda = rateConstant(halfLife);
  const double slows = std::max((cap + speed) / lambda, 0.0);  // above: back at the cap
  const double loses = std::max((speed - cap) / lambda, 0.0);  // below: forward at the cap, and not fast enough
  Stretch now{error, seconds};
  if (now.error > slows) {
    now = straight(now.error, cap + speed, slows, now.seconds);
    if (now.seconds <= 0) return now.error;
  }
  if (speed > cap) {
    const double decaying = now.error > loses && loses > 0 ? std::log(now.error / loses) / lambda : 0.0;
    if (decaying >= now.seconds) return now.error * std::exp(-lambda * now.seconds);
    return std::min(now.error, loses) - (speed - cap) * (now.seconds - decaying);
  }
  if (speed < -cap) return now.error - (cap + speed) * now.seconds;
  return std::isinf(lambda) ? 0.0 : now.error * std::exp(-lambda * now.seconds);
}

double turnOnward(double from, double to, double turning) {
  const double turn = shortestTurn(from, to);
  if (turning * turn >= 0 || std::abs(turn) < pi - degrees(10)) return turn;
  return turn > 0 ? turn - 2 * pi : turn + 2 * pi;
}

double easedTime(double from, double to, double easeIn) {
  const auto integral = [easeIn](double time) {
    if (time <= 0) return 0.0;
    if (time >= easeIn) return time - easeIn / 2;
    const double s = time / easeIn;
    return easeIn * s * s * s * (1 - s / 2);
  };
  return easeIn > 0 ? integral(to) - integral(from) : std::max(to, 0.0) - std::max(from, 0.0);
}

}  // namespace alpglow
