#pragma once
// Guide: the host turns the look to where something is to be seen, or along a path, and the player keeps a share.
//
//   camera.guide(GuideGoal::toward(lantern));            // every frame while it lasts; half of the hand counts:
//   camera.guide(GuideGoal::along(pathYaw, 0.5));
//   camera.endGuide();
//
// Yaw and pitch go to the goal by half-life, never faster than a rate, and set in gently, as swinging back does. What
// the player turns meanwhile counts by the share that is left to the player, and goes on top: with a share of 1 the
// guide pulls like a weak spring, with 0 the hand is still. Cutting time in pieces changes nothing, but for a hand that
// turns while it sets in.

#include "alpglow/base/angles.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/look/look.hpp"

#include <Eigen/Core>

#include <optional>

namespace alpglow {

struct GuideSettings {
  /// Fastest turning, radians per second; then by this half-life, seconds.
  double rate = degrees(90), halfLife = 0.3;
  /// Time in which it sets in, and gives the hand back, seconds.
  double easeIn = 0.5;
};

/// What to see. A yaw and a pitch in radians, in the view's level axes (what is not said stays the player's); or a
/// point in the world, metres, which comes under the crosshair: to the dot while nothing pulls the camera in, and near
/// it where clear space moves the shoulder.
struct GuideGoal {
  std::optional<double> yaw, pitch;
  std::optional<Eigen::Vector3d> point;
  /// How much of look input counts, 0 … 1.
  double playerShare = 0;

  static GuideGoal toward(const Eigen::Vector3d& point, double playerShare = 0) { return {{}, {}, point, playerShare}; }
  static GuideGoal along(double yaw, double playerShare = 0) { return {yaw, {}, {}, playerShare}; }
};

/// A trivially copyable value.
class Guide {
 public:
  /// Turns there from now on; one that was on goes on smoothly to the new goal. Numbers must be legal
  /// (base/limits.hpp).
  void begin(const GuideGoal& goal);
  /// Turns no more, and gives the hand back.
  void end() { on_ = false; }
  bool on() const { return on_; }
  /// It turns, or has not given the whole hand back yet.
  bool acting() const { return on_ || in_ > 0; }
  /// The point to see, in the world; nothing where a direction was said.
  std::optional<Eigen::Vector3d> point() const;
  /// The direction that was said; what was not said as in `look`.
  LookAngles direction(const LookAngles& look) const;

  /// How much of look input counts, 0 … 1: now, and on average over the next seconds.
  double share(const GuideSettings& settings) const;
  double meanShare(double seconds, const GuideSettings& settings) const;

  /// Time passes while the goal goes from one direction to the other; the player has turned the look by so much to what
  /// it is now, radians. By how much to turn it beside that.
  LookAngles step(double seconds, const LookAngles& from, const LookAngles& to, const LookAngles& look,
                  const LookAngles& byPlayer, const GuideSettings& settings);

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset) { point_ = point_.vector() + offset; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("point").vectors(farthestState, point_);
    fields.named("yaw pitch error").numbers(1e9, yaw_, pitch_, error_);
    fields.named("playerShare").number(playerShare_, 0, 1);
    fields.named("in").number(in_, 0, 1);
    fields.named("on turnsYaw turnsPitch toPoint").flags(on_, turnsYaw_, turnsPitch_, toPoint_);
  }

 private:
  double weightFor(double seconds, const GuideSettings& settings) const;

  StoredVector3 point_;
  double yaw_ = 0, pitch_ = 0;
  double playerShare_ = 1;
  double in_ = 0;     // of the time that setting in takes
  double error_ = 0;  // of yaw, while turning
  bool on_ = false, turnsYaw_ = false, turnsPitch_ = false, toPoint_ = false;
};

}  // namespace alpglow
