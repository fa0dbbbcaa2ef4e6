#pragma once
// The crosshair: what is under it, and keeping it there while a framing changes, whatever clear space does to the
// pivot.
//
//   AimKeeper aim;
//   aim.begin(frame, look.shown(), 0);                           // from where the crosshair was shown last
//   look.turnBy(aim.step(frame, look.shown(), limits, 0), limits);
//   aim.turned(look.shown());
//   const Crosshair crosshair = aim.crosshair(pose, level, look.shown(), obstacles);
//
// A trivially copyable value.

#include "alpglow/follow/frame_follow.hpp"
#include "alpglow/framing/kept_aim.hpp"
#include "alpglow/framing/shown_framing.hpp"
#include "alpglow/space/pull_in.hpp"

namespace alpglow {

/// The crosshair's axis of a pose on what is followed.
AimFrame aimFrameOn(const FrameFollow& follow, const FramingPose& pose);

/// What the crosshair's ray meets, from beside the pivot on; nothing: a point far ahead.
struct Crosshair {
  Eigen::Vector3d point = Eigen::Vector3d::Zero();
  /// From the eye point, metres.
  double distance = 0;
  ObstacleId obstacle = noObstacle;
  /// The kept point is under the crosshair, and by how much it is off, radians.
  bool kept = false;
  double error = 0;
};

class AimKeeper {
 public:
  bool on() const { return kept_.on(); }
  /// Keeps what was under the crosshair last, if nothing is kept yet. What the subject stands on is yet to turn the
  /// look by `predictedYaw`, which is part of `look` here.
  void begin(const AimFrame& frame, const LookAngles& look, double predictedYaw);
  void end() { kept_.end(); }

  /// How far ahead the kept point is, if that is still a guess: casts the ray as it was when keeping began.
  void look(const Obstacles& obstacles);
  /// What to turn the look by, now that things are as in `frame`; `look` holds `predictedYaw` already.
  LookAngles step(const AimFrame& frame, const LookAngles& look, const PitchLimits& limits, double predictedYaw);
  /// What to turn by on top, once clear space has put the pivot there; zero where that is not worth another sweep.
  LookAngles stepClear(const Rotation& level, const Eigen::Vector3d& pivot, double distance);
  /// The look after a step.
  void turned(const LookAngles& look) { kept_.turned(look); }
  /// What the subject stands on turned the look.
  void carried(double yaw) { kept_.carried(yaw); }
  /// The kept point is a target's and moved by this much; nothing happens if that leads beyond 1e9 m.
  void pointMoved(const Eigen::Vector3d& by);

  /// How far clear space has moved the pivot from where it would be with nothing in the way; or not at all.
  void placed(const Eigen::Vector3d& cleared) { cleared_ = cleared; }
  void placedFreely() { cleared_ = StoredVector3(); }
  /// Casts the crosshair's ray of a view; its point is what `begin` would keep.
  Crosshair crosshair(const PullInPose& pose, const Rotation& level, const LookAngles& look,
                      const Obstacles& obstacles);

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset) { kept_.shift(offset); }

 private:
  KeptAim kept_;
  StoredVector3 cleared_;            // how far clear space moved the pivot
  double distance_ = 0, ahead_ = 0;  // of the camera from the pivot as shown last, and of what was under the crosshair
};

}  // namespace alpglow
