#include "alpglow/look/turn_rate.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

/// What is left of a trail, and what a rate that eases from `from` to `to` adds to it.
double trailed(double trail, double from, double to, double seconds, double halfLife, double trailHalfLife) {
  const double v = decay(trailHalfLife, seconds);
  double result = trail * std::exp(-v) + to * seconds * meanDecay(v);
  if (from != to) result += (from - to) * decayedTwice(halfLife, trailHalfLife, seconds);
  return result;
}

/// Free of limits.
EasedAngle eased(EasedAngle from, double targetRate, double seconds, double halfLife, double trailHalfLife) {
  const double u = decay(halfLife, seconds);
  const double gone = from.rate - targetRate;
  return {from.angle + targetRate * seconds + gone * seconds * meanDecay(u), targetRate + gone * std::exp(-u),
          trailHalfLife > 0 ? trailed(from.trail, from.rate, targetRate, seconds, halfLife, trailHalfLife) : 0.0};
}

/// At rest at a limit.
EasedAngle held(EasedAngle from, double limit, double seconds, double trailHalfLife) {
  return {limit, 0, trailHalfLife > 0 ? from.trail * std::exp(-decay(trailHalfLife, seconds)) : 0.0};
}

/// When the rate changes its sign; `seconds` if it does not within that time.
double turningPoint(EasedAngle from, double targetRate, double seconds, double halfLife) {
  if (from.rate * targetRate >= 0 || halfLife <= 0) return seconds;
  return std::min(seconds, std::log1p(-from.rate / targetRate) / rateConstant(halfLife));
}

/// When a motion that does not turn back reaches `limit`, which lies between its start and its end. The equation mixes
/// t and e^(−kt), so it is solved by halving the bracket, to the last bit.
double timeOfReaching(EasedAngle from, double limit, double targetRate, double seconds, double halfLife) {
  const double direction = eased(from, targetRate, seconds, halfLife, 0).angle > from.angle ? 1 : -1;
  double before = 0, after = seconds;
  for (int i = 0; i < 200; ++i) {
    const double middle = before + (after - before) / 2;
    if (middle <= before || middle >= after) break;
    ((eased(from, targetRate, middle, halfLife, 0).angle - limit) * direction < 0 ? before : after) = middle;
  }
  return after;
}

}  // namespace

EasedAngle turnedToward(EasedAngle from, double targetRate, double seconds, double halfLife, double low, double high,
                        double trailHalfLife) {
  if (!(seconds > 0)) return from;
  if (halfLife <= 0) from.rate = targetRate;
  // At most: out to a limit or a turning point, and back to the other limit.
  for (int part = 0; part < 3 && seconds > 0; ++part) {
    const double outward = from.rate != 0 ? from.rate : targetRate;
    const double limit = outward > 0 ? high : low;
    if (outward != 0 && (limit - from.angle) * outward <= 0) {
      if (targetRate * outward >= 0) return held(from, limit, seconds, trailHalfLife);
      from = {limit, 0, from.trail};
    }
    const double stretch = turningPoint(from, targetRate, seconds, halfLife);
    const EasedAngle end = eased(from, targetRate, stretch, halfLife, trailHalfLife);
    const double ahead = end.angle > from.angle ? high : low;
    if ((end.angle - ahead) * (end.angle > from.angle ? 1 : -1) > 0) {
      const double until = timeOfReaching(from, ahead, targetRate, stretch, halfLife);
      from = {ahead, 0, eased(from, targetRate, until, halfLife, trailHalfLife).trail};
      seconds -= until;
    } else {
      seconds -= stretch;
      from = seconds > 0 ? EasedAngle{end.angle, 0, end.trail} : end;
    }
  }
  return from;
}

double EdgeDwell::step(double deflection, double seconds, double dwell) {
  constexpr double edge = 0.99;
  if (deflection < edge) {
    held_ = 0;
    return seconds;
  }
  const double before = std::clamp(dwell - held_, 0.0, seconds);
  held_ += seconds;
  return before;
}

}  // namespace alpglow
