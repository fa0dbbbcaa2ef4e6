#include "alpglow/ease_out.hpp"

#include "alpglow/half_life.hpp"

#include <algorithm>

namespace alpglow {

double EaseOut::step(double wanted, double allowed, double dt, const EaseOutSettings& settings) {
  constexpr double arrived = 1e-6;
  const double goal = std::min(wanted, allowed);
  if (goal < limit_ && allowed < wanted) {
    limit_ = goal;
    quiet_ = 0;
  } else if (limiting()) {
    const double easing = std::clamp(quiet_ + dt - settings.delay, 0.0, dt);
    quiet_ += dt;
    limit_ = std::min(approach(limit_, std::max(goal, limit_), settings.halfLife, easing), allowed);
    if (limit_ >= wanted - arrived * std::max(wanted, 1.0) && allowed >= wanted) release();
  }
  return std::min(wanted, limit_);
}

}  // namespace alpglow
