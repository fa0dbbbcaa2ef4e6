#pragma once
// The aim point kept: while a framing changes, the point that was under the crosshair stays under it.
//
// Only the parallax of the change is turned for. The point lies on the crosshair's ray of the framing before, as that
// would have gone on: it moves along with the subject, and the player's look turns it. So the turn is a function of the
// player's look and of the two poses alone. It does not depend on how time is cut, a walk is not turned, and
// a change that is taken back leaves the look as it was. It is capped; near the cap it follows less and less, and what
// was not followed is given up. What clear space does to the pivot is turned for on top, slowly: walls come and go at
// once.
//
//   KeptAim aim;
//   aim.begin(course, frame, look.shown(), cleared, distance, ahead, degrees(10));   // what is `ahead` on the ray
//   aim.advance(dt);                                                                 // in every piece of time
//   look.turnBy(aim.step(before, shown, look.shown()), limits);
//   aim.turned(look.shown());                                                        // as it is after that

#include "alpglow/base/angles.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/framing/aim_point.hpp"
#include "alpglow/framing/pose_course.hpp"

#include <algorithm>
#include <initializer_list>

namespace alpglow {

/// The crosshair's axis, hung up in the world: level axes, and the anchor that the pivot is beside.
struct AimFrame {
  Rotation level = Rotation::Identity();
  Eigen::Vector3d anchor = Eigen::Vector3d::Zero();
  AimAxis axis;
};

class KeptAim {
 public:
  /// Keeps what is `ahead` metres along the crosshair's ray, from beside the pivot on. `course` is how the pose of the
  /// framing before goes on, `frame` its axis now; `cleared` is how far clear space has moved the pivot (metres, in the
  /// world), and `distance` that of the camera from it. `cap` is the largest turn, radians.
  void begin(const PoseCourse& course, const AimFrame& frame, const LookAngles& look, const Eigen::Vector3d& cleared,
             double distance, double ahead, double cap);
  void end() { *this = KeptAim(); }
  bool on() const { return on_; }

  /// Until `setAhead` the distance along the ray is a guess. As it was at the beginning, the ray starts here and goes
  /// that way (of length 1).
  bool guessed() const { return guessed_; }
  Eigen::Vector3d rayStart() const { return rayStart_; }
  Eigen::Vector3d rayDirection() const { return rayDirection_; }
  void setAhead(double ahead);

  /// Time passes for the framing before; its pose, and how many seconds it is from having arrived.
  void advance(double seconds) {
    course_.advance(seconds);
    for (Transition& brake : brakes_) brake.advance(seconds);
  }
  FramingPose before() const { return course_.pose(); }
  double left() const { return givesUp_ ? std::max(brakes_[0].left(), brakes_[1].left()) : course_.left(); }

  /// The point, in the world, for the look that the player has.
  Eigen::Vector3d point(const AimFrame& before, const LookAngles& look) const;
  /// By how much to turn the look so that the crosshair stays on the point, now that the framing before would be at
  /// `before` and `shown` is shown; `look` is as it was left.
  LookAngles step(const AimFrame& before, const AimFrame& shown, const LookAngles& look);
  /// Clear space has put things elsewhere: `placed` is the axis as it is. What that adds to the look changes by at most
  /// so many radians; the next step turns for it.
  void seeClear(const AimFrame& before, const AimFrame& placed, const LookAngles& look, double most);
  /// The turn that the look holds by now, and the one that the last step asked for, radians.
  LookAngles turn() const { return turn_; }
  LookAngles due() const { return due_; }
  /// Turns no more: what it turns by at this moment, radians per second, is braked.
  void giveUp(const LookAngles& rate);
  bool givesUp() const { return givesUp_; }
  /// The look after a step.
  void turned(const LookAngles& look);

  /// The crosshair is on the point: nothing was capped, out of reach or stopped by a limit.
  bool reached() const { return on_ && solved_; }

  /// The world's origin moved.
  void shift(const Eigen::Vector3d& offset) { rayStart_ = rayStart_.vector() + offset; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("course").part(course_);
    for (Transition& brake : brakes_) fields.named("brakes").part(brake);
    fields.named("rayStart").vectors(1e12, rayStart_);
    fields.named("cleared").vectors(1e11, cleared_);
    fields.named("rayDirection").vectors(2, rayDirection_);
    fields.named("distance ahead").numbers(1e10, distance_, ahead_);
    fields.named("cap").number(cap_, 0, pi);
    fields.named("own turn due free clear held").angles(1e9, own_, turn_, due_, free_, clear_, held_);
    fields.named("on guessed solved givesUp").flags(on_, guessed_, solved_, givesUp_);
  }

 private:
  /// The player's look, without what keeping has turned it by.
  LookAngles own(const LookAngles& look) const;
  LookAngles turnTo(const LookAngles& goal, double authority, const LookAngles& look);

  PoseCourse course_;
  StoredVector3 rayStart_, rayDirection_;  // as they were, in the world
  StoredVector3 cleared_;                  // how far clear space had moved the pivot, in axes that turn with the look
  double distance_ = 0, ahead_ = 0, cap_ = 0;
  LookAngles own_, turn_, due_;  // the player's; what the look holds on top, and ought to
  LookAngles free_, clear_;      // the look for the free pivot; what clear space adds
  LookAngles held_;              // where giving up ends
  Transition brakes_[2];         // what is left to there, of yaw and pitch
  bool on_ = false, guessed_ = false, solved_ = false, givesUp_ = false;
};

}  // namespace alpglow
