#include "alpglow/space/line_motion.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double rateHalfLife = 0.015, dyingAway = 0.15;  // seconds
constexpr double fastest = 20;                            // m/s: what is more was a jump
constexpr double resting = 0.02;                          // m/s

/// The same number of both, one after the other.
template <class Each>
void forEach(LineMotion::Line& to, const LineMotion::Line& from, Each&& each) {
  each(to.headHeight, from.headHeight), each(to.offset.x, from.offset.x), each(to.offset.y, from.offset.y);
  each(to.offset.z, from.offset.z), each(to.shoulder, from.shoulder), each(to.distance, from.distance);
}

}  // namespace

void LineMotion::step(const Line& line, double seconds, double scale) {
  if (seconds > minTimeStep) {
    Line measured = line;
    forEach(measured, last_, [&](double& value, double last) {
      const double rate = (value - last) / seconds;
      value = known_ && std::abs(rate) < fastest * scale ? rate : 0;
    });
    forEach(rate_, measured, [&](double& rate, double now) { rate = approach(rate, now, rateHalfLife, seconds); });
  }
  last_ = line;
  known_ = true;
}

LineMotion::Line LineMotion::changeIn(double seconds) const {
  Line change;
  const double going = dyingAway * -std::expm1(-seconds / dyingAway);
  forEach(change, rate_, [going](double& value, double rate) { value = rate * going; });
  return change;
}

bool LineMotion::moves(double scale) const {
  bool any = false;
  Line rates = rate_;
  forEach(rates, rate_, [&](double&, double rate) { any = any || std::abs(rate) > resting * scale; });
  return any;
}

}  // namespace alpglow
