#pragma once
// How something rigid moves: doors, lifts, crushers, whatever a subject stands on; and where that takes it.
//
//   const RigidMotion door{{0, 0, 0}, {0, 1.2, 0}, {2, 1, -3}};       // swings at 1.2 rad/s about its hinge
//   const Eigen::Vector3d corner = door.pointIn(0.3, {2, 1, -4});
//
// Straight on and turning as fast as now: good for the half second ahead that it is asked for.

#include "alpglow/base/stored_vector.hpp"
#include "alpglow/space/bounds.hpp"

#include <Eigen/Core>

namespace alpglow {

/// A point x of it moves with velocity + spin × (x − about): metres per second, and radians per second about the spin's
/// own direction.
struct RigidMotion {
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero(), spin = Eigen::Vector3d::Zero(), about = Eigen::Vector3d::Zero();

  /// Whether it moves to speak of: not by less than 2 cm/s or rad/s; nor if its numbers are no motion of a thing,
  /// beyond 100 m/s or rad/s, about a point beyond 1e9 m, or not finite.
  bool moves() const;
  Eigen::Vector3d velocityAt(const Eigen::Vector3d& point) const;
  /// As seen from something that moves itself.
  RigidMotion seenFrom(const RigidMotion& other) const;
  /// How much it turns in so many seconds.
  Rotation turnIn(double seconds) const;
  Eigen::Vector3d pointIn(double seconds, const Eigen::Vector3d& point) const;
  /// What will be at a point, where it is now.
  Eigen::Vector3d pointBefore(double seconds, const Eigen::Vector3d& point) const;
  /// How far any point of it within `reach` of `about` gets in so many seconds, at most; the reach may be without end.
  double wayIn(double seconds, double reach) const;
};

/// How much closer anything of it within these bounds may come in a second, which is more than is looked ahead as a
/// rule, metres; from farther away than the most it is seen later.
constexpr double mostComesCloser = 2;
double comesCloserBy(const RigidMotion& motion, const Bounds& bounds);

}  // namespace alpglow
