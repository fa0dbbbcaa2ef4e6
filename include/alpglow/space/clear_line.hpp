#pragma once
// The guarantee: from the head to the camera nothing is in the way, and the near plane is inside nothing.
//
//   ClearLine line(obstacles, head, nearPlane, radius);
//   camera = line.blocked() ? head : Eigen::Vector3d(head + line.to(wanted).fraction * (wanted - head));
//
// A sphere of the radius encloses the near plane. Near distance and sphere shrink together, in proportion, until the
// sphere fits around the head. Then one sweep of the sphere from the head to the wanted camera finds the clear fraction
// of that line. The sphere touches nothing at the head, so it touches nothing on any part of the line up to there.
// docs/maths.md has the proof. Nothing here has a memory: whatever chose the wanted camera cannot make a frame unsafe.

#include "alpglow/space/obstacles.hpp"

#include <Eigen/Core>

namespace alpglow {

/// Ways of at most so many metres are no way: nothing is asked.
constexpr double shortestWay = 1e-8;

/// How far a sphere may go of a whole displacement: 1, or the fraction until 1 mm before the first contact.
struct ClearFraction {
  double fraction = 1;
  ObstacleId obstacle = noObstacle;
};

/// Sweeps a sphere of this radius (metres, ≥ 0) on the straight line between two points of the world, now or as the
/// world will be. Points at most 1e-8 m apart, or not finite, ask for nothing and give 1.
ClearFraction clearFraction(const Obstacles& obstacles, const Eigen::Vector3d& from, const Eigen::Vector3d& to,
                            double radius, const MomentAhead& later = {});

/// The clear lines of one head at one moment.
class ClearLine {
 public:
  /// Asks for the head's clearance once, up to `range` metres and at least as far as the sphere reaches. `radius` is
  /// that of the near-plane sphere, `margin` is how much farther the sphere stays from obstacles where the head's room
  /// allows it; metres, ≥ 0.
  ClearLine(const Obstacles& obstacles, const Eigen::Vector3d& head, double nearPlane, double radius, double margin = 0,
            double range = 0);

  /// The clear fraction of the line from the head to a camera. One sweep; none for the camera that was asked for last.
  ClearFraction to(const Eigen::Vector3d& camera);

  const Eigen::Vector3d& head() const { return head_; }
  /// The near distance, metres: smaller than asked for while the head has less room than the sphere.
  double nearPlane() const { return nearPlane_; }
  /// The radius that is swept, metres.
  double radius() const { return radius_; }
  /// From the head to the nearest obstacle, metres, at most the range.
  double clearance() const { return clearance_; }
  /// The head touches something or is inside it: no near plane fits, and nothing can be promised.
  bool blocked() const { return blocked_; }
  const Obstacles& obstacles() const { return obstacles_; }

 private:
  const Obstacles& obstacles_;
  const Eigen::Vector3d head_;
  double nearPlane_, radius_, clearance_;
  bool blocked_, asked_ = false;
  Eigen::Vector3d last_ = Eigen::Vector3d::Zero();
  ClearFraction found_;
};

}  // namespace alpglow
