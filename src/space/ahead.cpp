#include "alpglow/space/ahead.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

// What taking each number out costs: docs/research/pull_in.md.
constexpr double rateHalfLife = 0.015;  // seconds: smooths the reports of a mouse, 125 a second
constexpr double dyingAway = 0.3;       // seconds until 63 % of the rest of a slow turn has happened
constexpr double halfAsLong = 2.5;      // rad/s at which a turn dies away twice as soon
constexpr double speedingUp = 0.12;     // seconds for which a turn goes on speeding up
constexpr double climbHalfLife = 0.2;   // seconds: stairs are a ramp
constexpr double fastestTurn = 1e6;     // rad/s: keeps the state finite
constexpr double restingTurn = 0.01;    // rad/s that are no turn

double turnedIn(double rate, double acceleration, double dies, double seconds) {
  const double way = rate * dies * -std::expm1(-seconds / dies), s = std::min(seconds, speedingUp);
  return acceleration * rate > 0 ? way + acceleration * s * (seconds - s / 2) : way;
}

double pitchWithin(const PullInRequest& request, double pitch) {
  return std::clamp(pitch, std::min(request.pitch.low, request.orbit.pitch),
                    std::max(request.pitch.high, request.orbit.pitch));
}

}  // namespace

Eigen::Matrix3d PullInRequest::axes(double lower) const {
  return level.toRotationMatrix() * rotationOf(orbit.yaw, pitchWithin(*this, orbit.pitch + lower));
}

Vector3d PullInRequest::camera(double withShoulder, double lower) const {
  const Eigen::Matrix3d turned = axes(lower);
  return anchor + withShoulder * turned.col(0) + distance * turned.col(2);
}

void Prediction::observe(const PullInRequest& request, const PullInMotion& motion, double seconds) {
  const double climb = motion.velocity.dot(motion.up);
  climb_ = known_ && motion.onGround ? approach(climb_, climb, climbHalfLife, seconds) : climb;
  velocity_ = motion.velocity + (climb_ - climb) * motion.up;
  if (known_ && seconds > minTimeStep) {
    const auto learn = [seconds](double& rate, double& acceleration, double turned) {
      const double before = rate;
      rate = std::clamp(approach(rate, turned / seconds, rateHalfLife, seconds), -fastestTurn, fastestTurn);
      acceleration = approach(acceleration, (rate - before) / seconds, rateHalfLife, seconds);
      acceleration = std::clamp(acceleration, -fastestTurn, fastestTurn);
    };
    learn(rate_.yaw, acceleration_.yaw, shortestTurn(last_.yaw, request.orbit.yaw) - motion.carriedYawRate * seconds);
    learn(rate_.pitch, acceleration_.pitch, request.orbit.pitch - last_.pitch);
  }
  last_ = request.orbit;
  known_ = true;
}

double Prediction::turnRate() const { return std::sqrt(rate_.yaw * rate_.yaw + rate_.pitch * rate_.pitch); }

bool Prediction::moves(double scale) const {
  return turnRate() >= restingTurn || velocity_.vector().norm() >= standingSpeed * scale;
}

PullInRequest Prediction::ahead(const PullInRequest& now, const PullInMotion& motion, double seconds) const {
  PullInRequest then = now;
  const double fast = turnRate() / halfAsLong, dies = dyingAway / (1 + fast * fast);
  then.head += seconds * velocity_.vector();
  then.anchor += seconds * velocity_.vector();
  then.orbit.yaw += turnedIn(rate_.yaw, acceleration_.yaw, dies, seconds);
  then.orbit.pitch = pitchWithin(now, now.orbit.pitch + turnedIn(rate_.pitch, acceleration_.pitch, dies, seconds));
  if (motion.asked.empty() || !(motion.askedEvery > 0)) return then;
  const double at = std::min(seconds / motion.askedEvery, static_cast<double>(motion.asked.size()));
  const auto next = std::min(static_cast<std::size_t>(at), motion.asked.size() - 1);
  const AskedAhead from = next == 0 ? AskedAhead{now.shoulder, now.distance} : motion.asked[next - 1];
  const AskedAhead to = motion.asked[next];
  const double share = at - static_cast<double>(next);
  then.shoulder = from.shoulder + share * (to.shoulder - from.shoulder);
  then.distance = from.distance + share * (to.distance - from.distance);
  return then;
}

}  // namespace alpglow
