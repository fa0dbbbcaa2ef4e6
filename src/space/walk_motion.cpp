#include "alpglow/space/walk_motion.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double accelerationHalfLife = 0.015, goesOn = 0.103;  // seconds
constexpr double strongest = 100;                               // m/s²: what is more was a collision
constexpr double climbHalfLife = 0.2;                           // seconds

}  // namespace

void WalkMotion::step(const Gait& gait, double seconds) {
  const double climb = gait.velocity.dot(gait.up);
  climb_ = known_ && gait.onGround ? approach(climb_, climb, climbHalfLife, seconds) : climb;
  const Vector3d velocity = gait.velocity + (climb_ - climb) * gait.up;
  if (seconds > minTimeStep) {
    Vector3d measured = known_ ? Vector3d((velocity - velocity_.vector()) / seconds) : Vector3d::Zero();
    if (gait.onGround) measured -= measured.dot(gait.up) * gait.up;
    if (!(measured.norm() < strongest)) measured.setZero();
    acceleration_ = measured + (acceleration_.vector() - measured) * std::exp(-decay(accelerationHalfLife, seconds));
  }
  velocity_ = velocity;
  known_ = true;
}

Vector3d WalkMotion::wayIn(double seconds) const {
  const Vector3d v = velocity_.vector(), a = acceleration_.vector();
  double m = std::min(seconds, goesOn);
  const double along = a.dot(v), square = a.squaredNorm();
  if (along < 0) m = std::min(m, -along / square);  // until nothing is left to brake
  return v * seconds + a * m * (m / 2 + (seconds - m));
}

}  // namespace alpglow
