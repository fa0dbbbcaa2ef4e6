#pragma once
// The aim point kept: while a framing changes, the world point that was under the crosshair stays under it.
//
// The player's own look turns the point about the pivot. Where the point cannot be reached, because it is too close to
// the anchor's vertical or the pitch comes near a limit, the turn is followed with less authority and fades out; what
// was not followed is given up, not caught up with. What clear space does to the pivot is solved for on top.
//
//   KeptAim aim;
//   aim.begin(frame, look.shown(), cleared, distance, ahead);                // what is `ahead` along the crosshair's ray
//   look.turnBy(aim.step(frame, look.shown(), limits), limits);              // in every frame
//   aim.turned(look.shown());                                                // as it is after that

#include "alpglow/base/stored_vector.hpp"
#include "alpglow/framing/aim_point.hpp"

namespace alpglow {

/// The crosshair's axis, hung up in the world: level axes, and the anchor that the pivot is beside.
struct AimFrame {
  Rotation level = Rotation::Identity();
  Eigen::Vector3d anchor = Eigen::Vector3d::Zero();
  AimAxis axis;
};

class KeptAim {
 public:
  /// Keeps what is `ahead` metres along the crosshair's ray, from beside the pivot on. `shift` is how far clear space
  /// has moved the pivot, and `distance` that of the camera from it.
  void begin(const AimFrame& frame, const LookAngles& look, const Eigen::Vector3d& shift, double distance,
             double ahead);
  void end() { *this = KeptAim(); }
  bool on() const { return on_; }

  /// Until `setAhead` the distance along the ray is a guess. As it was at the beginning, the ray starts here and goes
  /// that way (of length 1).
  bool guessed() const { return guessed_; }
  Eigen::Vector3d rayStart() const { return rayStart_; }
  Eigen::Vector3d rayDirection() const { return rayDirection_; }
  void setAhead(double ahead);

  Eigen::Vector3d point() const { return point_; }

  /// The point is a target's and moved by this much.
  void pointMoved(const Eigen::Vector3d& by) { point_ = point_.vector() + by; }
  /// The world's origin moved.
  void shift(const Eigen::Vector3d& offset);
  /// A platform turned the look along: that is not the player's turning, and the point stays where it is in the world.
  /// At the beginning it is yet to turn by this much.
  void predict(double yaw) { predictedYaw_ = yaw; }
  /// Looking ahead, `yaw` is what it will have turned since it last did so.
  void carriedTo(double yaw) {
    carried_ += yaw - predictedYaw_;
    predictedYaw_ = yaw;
  }
  /// It did, by this much.
  void carried(double yaw) {
    carriedTo(yaw);
    predictedYaw_ = 0;
  }

  /// By how much to turn the look so that the crosshair stays on the point, now that things are as in `frame`; `look`
  /// is how the player has left it.
  LookAngles step(const AimFrame& frame, const LookAngles& look, const PitchLimits& limits);
  /// The same once clear space has put the pivot here: what to turn by on top.
  LookAngles stepClear(const Rotation& level, const Eigen::Vector3d& pivot, double distance);
  /// The look after a step.
  void turned(const LookAngles& look) { look_ = look; }

  /// It has been on the point all the time.
  bool reached() const { return on_ && !lost_; }

 private:
  void turnPoint(const Rotation& level, const LookAngles& look);

  StoredVector3 point_, start_;  // the ray since then turned by the player
  StoredVector3 rayStart_, rayDirection_;
  StoredVector3 from_;  // the point from the anchor, in level axes, at the last step
  AimAxis axis_;
  LookAngles look_, solution_, clear_;     // as left; for the free pivot; what clear space adds
  double carried_ = 0, predictedYaw_ = 0;  // turned along since it was left; and what of that is yet to happen
  bool on_ = false, guessed_ = false, lost_ = false;
};

}  // namespace alpglow
