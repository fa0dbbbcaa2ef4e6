#include "alpglow/space/rigid_motion.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"

#include <Eigen/Geometry>

#include <algorithm>

namespace alpglow {

using Eigen::Vector3d;

bool RigidMotion::moves() const {
  constexpr double least = 0.02, most = 100;
  const double square = std::max(velocity.squaredNorm(), spin.squaredNorm());
  return square > least * least && square < most * most && legalPosition(about) && velocity.allFinite() &&
         spin.allFinite();
}

Vector3d RigidMotion::velocityAt(const Vector3d& point) const { return velocity + spin.cross(point - about); }

RigidMotion RigidMotion::seenFrom(const RigidMotion& other) const {
  return {velocity - other.velocityAt(about), spin - other.spin, about};
}

Rotation RigidMotion::turnIn(double seconds) const { return rotationBy(spin * seconds); }

Vector3d RigidMotion::pointIn(double seconds, const Vector3d& point) const {
  return about + turnIn(seconds) * Vector3d(point - about) + velocity * seconds;
}

Vector3d RigidMotion::pointBefore(double seconds, const Vector3d& point) const {
  return about + turnIn(seconds).conjugate() * Vector3d(point - about - velocity * seconds);
}

double RigidMotion::wayIn(double seconds, double reach) const {
  const double turns = spin.norm();
  return (velocity.norm() + (turns > 0 ? turns * reach : 0)) * seconds;
}

double comesCloserBy(const RigidMotion& motion, const Bounds& bounds) {
  constexpr double ahead = 1;
  const Vector3d reach = (bounds.high - motion.about).cwiseAbs().cwiseMax((bounds.low - motion.about).cwiseAbs());
  return std::min(motion.wayIn(ahead, reach.norm()), mostComesCloser);
}

}  // namespace alpglow
