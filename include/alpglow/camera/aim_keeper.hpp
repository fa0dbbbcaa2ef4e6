#pragma once
// The crosshair: what is under it, and keeping it there while a framing changes, whatever clear space does to the
// pivot.
//
//   AimKeeper aim;
//   aim.begin(course, frame, look.shown(), cap);                      // from where the crosshair was shown last
//   look.turnBy(aim.step(before, shown, look.shown()), limits);
//   aim.turned(look.shown());
//   const Crosshair crosshair = aim.crosshair(pose, level, look.shown(), obstacles);
//
// A trivially copyable value.

#include "alpglow/base/state.hpp"
#include "alpglow/follow/frame_follow.hpp"
#include "alpglow/framing/kept_aim.hpp"
#include "alpglow/framing/shown_framing.hpp"
#include "alpglow/space/pull_in.hpp"

namespace alpglow {

/// The crosshair's axis of a pose on what is followed.
AimFrame aimFrameOn(const FrameFollow& follow, const FramingPose& pose);

/// The same where clear space has put it: `look` is where the camera orbits.
AimFrame aimFramePlaced(const AimFrame& free, const PullInPose& pose, const LookAngles& look);

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
  /// Keeps what was under the crosshair last, if nothing is kept yet. `course` is how the framing before goes on; `cap`
  /// the largest turn, radians.
  void begin(const PoseCourse& course, const AimFrame& frame, const LookAngles& look, double cap) {
    if (!kept_.on()) kept_.begin(course, frame, look, cleared_, distance_, ahead_, cap);
  }
  void end() { kept_.end(); }

  /// Time passes for the framing before; its pose, and how many seconds it is from having arrived.
  void advance(double seconds) { kept_.advance(seconds); }
  FramingPose before() const { return kept_.before(); }
  double left() const { return kept_.left(); }
  /// The framing before has arrived, and so may what is shown be: there is nothing more to turn for.
  bool settled() const { return kept_.left() == 0 && !kept_.guessed(); }

  /// How far ahead the kept point is, if that is still a guess: casts the ray as it was when keeping began. True if it
  /// was a guess.
  bool look(const Obstacles& obstacles);
  /// Whether no moment of the change asks for more than its cap and the limits of the new framing allow, if the subject
  /// stands and nothing comes in the way: `shown` is how the new framing's pose goes on.
  bool canKeep(const FrameFollow& follow, PoseCourse shown, const LookAngles& look, const PitchLimits& limits) const;
  /// Turns no more; the turn of this moment is braked.
  void giveUp(const FrameFollow& follow, PoseCourse shown, const LookAngles& look);
  /// It is known how far ahead the kept point is, and nothing was given up.
  bool known() const { return kept_.on() && !kept_.guessed() && !kept_.givesUp(); }
  /// Nothing is kept, and nothing was: what to turn the look by, so that it is as if it had never begun.
  LookAngles takeBack() {
    const LookAngles turn = kept_.turn();
    end();
    return {-turn.yaw, -turn.pitch};
  }
  /// What to turn the look by, now that the framing before would be at `before` and `shown` is shown.
  LookAngles step(const AimFrame& before, const AimFrame& shown, const LookAngles& look) {
    return kept_.step(before, shown, look);
  }
  /// Where clear space has put things; what that adds changes by at most so many radians.
  void seeClear(const AimFrame& before, const AimFrame& placed, const LookAngles& look, double most) {
    kept_.seeClear(before, placed, look, most);
  }
  /// The look after a step.
  void turned(const LookAngles& look) { kept_.turned(look); }

  /// Where the kept point is now.
  void remember(const AimFrame& before, const LookAngles& look) { point_ = kept_.point(before, look); }
  /// How far clear space has moved the crosshair's axis from where it would be with nothing in the way; or not at all.
  void placed(const Eigen::Vector3d& cleared) { cleared_ = cleared; }
  void placedFreely() { cleared_ = StoredVector3(); }
  /// Casts the crosshair's ray of a view; its point is what `begin` would keep.
  Crosshair crosshair(const PullInPose& pose, const Rotation& level, const LookAngles& look,
                      const Obstacles& obstacles);

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset) {
    kept_.shift(offset);
    point_ = point_.vector() + offset;
  }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("kept").part(kept_);
    fields.named("point").vectors(1e12, point_);
    fields.named("cleared").vectors(1e10, cleared_);
    fields.named("distance ahead").numbers(1e10, distance_, ahead_);
  }

 private:
  KeptAim kept_;
  StoredVector3 point_;              // the kept one
  StoredVector3 cleared_;            // how far clear space moved the pivot
  double distance_ = 0, ahead_ = 0;  // of the camera from the pivot as shown last, and of what was under the crosshair
};

}  // namespace alpglow
