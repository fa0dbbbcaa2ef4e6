#include "alpglow/follow/head_bob.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double stillBelow = 0.1;    // metres per second
constexpr double shortestWay = 0.06;  // of a stride; a step that is all but done goes on to the next neutral point

}  // namespace

void HeadBob::step(double distance, double seconds, bool onGround, const BobSettings& settings) {
  if (!(seconds > 0)) return;
  const double speed = distance / seconds;
  if (onGround && speed > stillBelow) {
    gait_ = Gait::walking;
    const double stride = settings.stride + settings.strideGrowth * speed;
    rate_ = speed / stride;
    phase_ = std::fmod(phase_ + distance / stride, 1.0);
    weight_ = approach(weight_, std::min(speed / settings.fullSpeed, 1.0), settings.blendHalfLife, seconds);
    return;
  }
  if (gait_ == Gait::walking) beginToFinish(settings);
  const double rest = gait_ == Gait::finishing ? finish(seconds) : seconds;
  if (!onGround) weight_ = approach(weight_, 0, settings.blendHalfLife, seconds);
  if (onGround && gait_ == Gait::still) weight_ = approach(weight_, 0, settings.blendHalfLife, rest);
}

void HeadBob::beginToFinish(const BobSettings& settings) {
  gait_ = Gait::finishing;
  startPhase_ = phase_;
  elapsed_ = 0;
  way_ = std::ceil(2 * phase_) / 2 - phase_;
  if (way_ < shortestWay) way_ += 0.5;
  // The cubic from rate r to rest neither turns back nor overshoots while r·T ≤ 3·way.
  startRate_ = std::clamp(rate_, 0.0, 3 * way_ / shortestFinish);
  duration_ = std::max(std::min(settings.finishTime, 3 * way_ / startRate_), shortestFinish);
}

/// Goes on with the step; returns the seconds that are left after it is done.
double HeadBob::finish(double seconds) {
  elapsed_ += seconds;
  if (elapsed_ >= duration_) {
    phase_ = std::round(2 * (startPhase_ + way_)) / 2;
    phase_ = phase_ >= 1 ? phase_ - 1 : phase_;
    gait_ = Gait::still;
    return elapsed_ - duration_;
  }
  const double s = elapsed_ / duration_;
  const double covered = way_ * s * s * (3 - 2 * s) + startRate_ * duration_ * s * (1 - s) * (1 - s);
  phase_ = std::fmod(startPhase_ + covered, 1.0);
  rate_ = way_ / duration_ * 6 * s * (1 - s) + startRate_ * (1 - s) * (1 - 3 * s);
  return 0;
}

Eigen::Vector2d HeadBob::offset(const BobSettings& settings) const {
  if (gait_ == Gait::still) return Eigen::Vector2d::Zero();
  return {settings.lateral * weight_ * std::sin(2 * pi * phase_),
          -settings.vertical * weight_ * (1 - std::cos(4 * pi * phase_)) / 2};
}

}  // namespace alpglow
