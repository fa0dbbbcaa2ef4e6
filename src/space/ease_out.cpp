#include "alpglow/space/ease_out.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>

namespace alpglow {

double EaseOut::step(double target, double allowed, double dt, const EaseOutSettings& settings) {
  constexpr double arrived = 1e-6;
  const double goal = std::min(target, allowed);
  if (goal < limit_ && allowed < target) {
    limit_ = goal;
    quiet_ = 0;
  } else if (limiting()) {
    const double easing = std::clamp(quiet_ + dt - settings.delay, 0.0, dt);
    quiet_ += dt;
    limit_ = std::min(approach(limit_, std::max(goal, limit_), settings.halfLife, easing), allowed);
    if (limit_ >= target - arrived * std::max(target, 1.0) && allowed >= target) release();
  }
  return std::min(target, limit_);
}

}  // namespace alpglow
