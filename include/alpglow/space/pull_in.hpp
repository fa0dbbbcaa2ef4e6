#pragma once
// Clear space: where the camera may be, so that its near plane is never inside anything and nothing opaque stands
// between head and camera.
//
// A sphere that encloses the near plane is swept head → pivot and pivot → camera, which shapes the framing, and then
// head → camera, which alone gives the guarantee: a pole fits between the first two legs. The third one's fraction
// scales shoulder and distance together toward the head, so the head keeps its place in the screen. Every prefix of a
// clear sweep is clear, so easing out again is safe. Shortening is immediate; lengthening waits and eases.
//
//   PullIn space;
//   const PullInPose pose = space.step({head, pivot, back, 3.0, 0.1, radius}, obstacles, dt, settings);

#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/obstacles.hpp"

#include <Eigen/Core>

namespace alpglow {

/// What one would like to have.
struct PullInRequest {
  Eigen::Vector3d head;
  Eigen::Vector3d pivot;
  /// Unit vector from the pivot to the camera.
  Eigen::Vector3d back;
  /// From the pivot to the camera, metres, ≥ 0.
  double distance = 0;
  /// Near distance and the radius of its near-plane sphere, metres.
  double nearPlane = 0;
  double radius = 0;
};

/// What clear space allows.
struct PullInPose {
  Eigen::Vector3d pivot;
  Eigen::Vector3d camera;
  /// From the pivot to the camera, metres.
  double distance = 0;
  /// The near distance; smaller than asked for while the head is closer to something than the sphere's radius.
  double nearPlane = 0;
  /// What limits the camera in this frame; `noObstacle` while free and while easing out.
  ObstacleId obstacle = noObstacle;
  /// The head itself touches something or is inside it: the camera is at the head and nothing can be promised. Once it
  /// is free the camera eases out as after any other obstacle.
  bool headBlocked = false;
};

/// How far the sphere may go of a whole displacement: 1, or the fraction until 1 mm before the first contact.
struct ClearFraction {
  double fraction = 1;
  ObstacleId obstacle = noObstacle;
};
/// Asks for one sweep of a sphere of this radius (metres, ≥ 0) on the straight line between two points of the world.
/// Points at most 1e-8 m apart, or not finite, ask for nothing and give 1.
ClearFraction clearFraction(const Obstacles& obstacles, const Eigen::Vector3d& from, const Eigen::Vector3d& to,
                            double radius);

/// The part with a memory: how far things have eased out. A trivially copyable value.
class PullIn {
 public:
  PullInPose step(const PullInRequest& request, const Obstacles& obstacles, double dt, const EaseOutSettings& settings);

  /// Forgets every limit, as after a cut.
  void cut() { *this = PullIn(); }
  /// Whether the camera is more than a millimetre from where it would be, be it pulled in or easing out.
  bool pulledIn() const { return pulledIn_; }
  /// Whether anything limits it, by however little.
  bool limiting() const { return toPivot_.limiting() || distance_.limiting() || whole_.limiting(); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.part(toPivot_, distance_, whole_);
    fields.flag(pulledIn_);
  }

 private:
  EaseOut toPivot_;   // fraction of head → pivot
  EaseOut distance_;  // metres of pivot → camera
  EaseOut whole_;     // fraction of head → camera
  bool pulledIn_ = false;
};

}  // namespace alpglow
