#include "alpglow/assist/guide.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

/// An error e (look − goal) while the goal goes at w, the hand turns at p, and the guide at w − λe within ±cap:
/// e' = p − λe where that is within the cap, in a straight line elsewhere; each change between the two in closed form.
double guided(double error, double w, double p, double seconds, double halfLife, double cap) {
  const double lambda = rateConstant(halfLife), high = (w + cap) / lambda, low = (w - cap) / lambda;
  double left = seconds;
  for (int stretch = 0; stretch < 3 && left > 0; ++stretch) {
    const bool above = error > high || (error == high && p >= w + cap),
               below = error < low || (error == low && p <= w - cap);
    if (above || below) {
      const double speed = p - w + (above ? -cap : cap), edge = above ? high : low;
      const double needed = speed != 0 ? (edge - error) / speed : -1;
      if (needed <= 0 || needed >= left) return error + speed * left;
      error = edge, left -= needed;
      continue;
    }
    if (std::isinf(lambda)) return 0;
    const double rest = p / lambda;
    const double edge = rest > high ? high : low;
    const bool leaves = rest > high || rest < low;
    const double needed = leaves ? std::log((error - rest) / (edge - rest)) / lambda : left;
    if (needed >= left) return rest + (error - rest) * std::exp(-lambda * left);
    error = edge, left -= needed;
  }
  return error;
}

}  // namespace

void Guide::begin(const GuideGoal& goal) {
  on_ = true;
  toPoint_ = goal.point.has_value();
  if (toPoint_) point_ = *goal.point;
  turnsYaw_ = toPoint_ || goal.yaw;
  turnsPitch_ = toPoint_ || goal.pitch;
  yaw_ = wrapAngle(goal.yaw.value_or(0));
  pitch_ = goal.pitch.value_or(0);
  playerShare_ = std::clamp(goal.playerShare, 0.0, 1.0);
}

std::optional<Vector3d> Guide::point() const {
  return toPoint_ ? std::optional<Vector3d>(point_.vector()) : std::nullopt;
}

LookAngles Guide::direction(const LookAngles& look) const {
  return {turnsYaw_ ? yaw_ : look.yaw, turnsPitch_ ? pitch_ : look.pitch};
}

double Guide::share(const GuideSettings& settings) const {
  const double weight = settings.easeIn > 0 ? eased(in_) : on_ ? 1 : 0;
  return 1 - (1 - playerShare_) * weight;
}

/// The integral of how far it has set in over the next seconds.
double Guide::weightFor(double seconds, const GuideSettings& settings) const {
  if (!(settings.easeIn > 0)) return on_ ? seconds : 0;
  const double since = in_ * settings.easeIn;
  return on_ ? easedTime(since, since + seconds, settings.easeIn)
             : easedTime(std::max(since - seconds, 0.0), since, settings.easeIn);
}

double Guide::meanShare(double seconds, const GuideSettings& settings) const {
  if (!(seconds > 0)) return share(settings);
  return 1 - (1 - playerShare_) * std::clamp(weightFor(seconds, settings) / seconds, 0.0, 1.0);
}

LookAngles Guide::step(double seconds, const LookAngles& from, const LookAngles& to, const LookAngles& look,
                       const LookAngles& byPlayer, const GuideSettings& settings) {
  const double time = weightFor(seconds, settings);
  const double passed = settings.easeIn > 0 ? seconds / settings.easeIn : 1;
  in_ = std::clamp(in_ + (on_ ? passed : -passed), 0.0, 1.0);
  if (!on_ || !(time > 0)) {
    error_ = 0;
    return {};
  }
  // Setting in makes its time shorter, and so whatever goes on meanwhile faster.
  const auto turn = [&](double error, double goalMoved, double handMoved) {
    const double after = guided(error, goalMoved / time, handMoved / time, time, settings.halfLife, settings.rate);
    return goalMoved + after - error - handMoved;
  };
  LookAngles by;
  if (turnsYaw_) {
    const double error = turnOnward(from.yaw, look.yaw - byPlayer.yaw, error_), moved = shortestTurn(from.yaw, to.yaw);
    by.yaw = turn(error, moved, byPlayer.yaw);
    error_ = error - moved + byPlayer.yaw + by.yaw;
  }
  if (turnsPitch_) by.pitch = turn(look.pitch - byPlayer.pitch - from.pitch, to.pitch - from.pitch, byPlayer.pitch);
  return by;
}

}  // namespace alpglow
