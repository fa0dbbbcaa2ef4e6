#include "alpglow/space/orbit_motion.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double rateHalfLife = 0.015, accelerationHalfLife = 0.020;  // seconds
constexpr double dyingAway = 0.3, speedingUp = 0.15;                  // seconds
constexpr double halfAsLong = 2.5;                                    // rad/s at which it dies away twice as soon
constexpr double resting = 0.01;                                      // rad/s

}  // namespace

void OrbitMotion::step(double yawTurned, double pitchTurned, double seconds) {
  if (!(seconds > minTimeStep)) return;
  const auto follow = [seconds](double& value, double goal, double halfLife) {
    value = std::clamp(approach(value, goal, halfLife, seconds), -fastest, fastest);
  };
  const double before = yawRate_, pitchBefore = pitchRate_;
  follow(yawRate_, yawTurned / seconds, rateHalfLife);
  follow(pitchRate_, pitchTurned / seconds, rateHalfLife);
  follow(yawAcceleration_, (yawRate_ - before) / seconds, accelerationHalfLife);
  follow(pitchAcceleration_, (pitchRate_ - pitchBefore) / seconds, accelerationHalfLife);
}

LookAngles OrbitMotion::turnIn(double seconds) const {
  const double fast = rate() / halfAsLong, dies = dyingAway / (1 + fast * fast);
  const double going = dies * -std::expm1(-seconds / dies);
  LookAngles turn{yawRate_ * going, pitchRate_ * going};
  const double m = std::min(seconds, speedingUp), grows = m * (m / 2 + (seconds - m));
  if (yawAcceleration_ * yawRate_ > 0) turn.yaw += yawAcceleration_ * grows;
  if (pitchAcceleration_ * pitchRate_ > 0) turn.pitch += pitchAcceleration_ * grows;
  return turn;
}

bool OrbitMotion::turns() const { return rate() >= resting; }

double OrbitMotion::rate() const { return std::sqrt(yawRate_ * yawRate_ + pitchRate_ * pitchRate_); }

}  // namespace alpglow
