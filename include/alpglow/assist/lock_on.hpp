#pragma once
// Lock on: the camera turns so that subject and target are both inside a chosen fraction of the screen.
//
// Yaw puts the target onto the camera's axis: with the pivot s to the right of the anchor and the target at w from the
// anchor, that is where the target lies s to the right as well, yaw(w) + asin(s/|w|). Pitch stays at its default as far
// as it can. Let a point be at distance R and elevation φ from the pivot, and the camera d behind the pivot. Half of
// the chosen part is the angle ψ. The point is inside from φ − ψ − asin(d·sin ψ/R) to φ + ψ + asin(d·sin ψ/R). The
// shortest distance at which both points and the limits leave a pitch is found by halving, and after that the narrowest
// lens. What lies inside at one distance does so at every longer one.
//
// The turn follows the goal by half-life and never faster than its cap. Look input nudges the view a little; a flick
// asks for the next target. A target close to the pivot's vertical turns yaw more slowly the closer it is, so that one
// overhead or passing through spins nothing.

#include "alpglow/assist/target.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/framing/orbit_distance.hpp"
#include "alpglow/look/look.hpp"

#include <cstdint>

namespace alpglow {

struct LockSettings {
  /// Half-life of turning toward the goal, seconds, and the fastest turning of each axis, radians per second.
  double halfLife = 0.1;
  double cap = degrees(240);
  /// The fraction of the screen's width and height that holds subject and target, 0 … 1.
  double screenFraction = 0.75;
  /// Half-life by which distance and field of view follow, seconds.
  double zoomHalfLife = 0.25;
  /// Widest vertical field of view that it may go to, radians; 0 leaves the framing's.
  double widest = 0;
  /// Lost beyond this distance from the subject's eyes, metres, or hidden for longer than this, seconds.
  double range = 30;
  double hiddenFor = 1.5;
  /// How far look input nudges the view, radians, and the half-life of coming back, seconds.
  double nudge = degrees(8);
  double nudgeHalfLife = 0.2;
  /// A turn of this much within about a tenth of a second is a flick, radians; 0 = none. So is a stick that is pushed
  /// to its end for as long, however fast it turns.
  double flick = degrees(14);
};

/// What a goal is computed from, in level axes.
struct LockScene {
  /// From the anchor to the target, and to the subject's eyes.
  Eigen::Vector3d target, eyes;
  double shoulder = 0;
  double tilt = 0;
  double distance = 0;  ///< what the player has chosen
  DistanceRange range;
  double fieldOfView = degrees(60), aspect = 16.0 / 9.0;
  PitchLimits pitch;
  double defaultPitch = 0;
  double presentYaw = 0;
};

struct LockGoal {
  double yaw = 0, pitch = 0;
  /// Beyond what the player has chosen, in ln(1 + d/0.5 m), and beyond the framing's lens, in ln tan(fov/2).
  double extraDistance = 0, extraFov = 0;
  /// 0 … 1: how far the target is from the pivot's vertical.
  double confidence = 1;
  /// Subject and target are both inside the chosen part there.
  bool both = false;
};

/// Which look holds target and eyes inside the chosen fraction of the screen, and what distance and lens that takes.
/// All numbers must be finite. A target in the anchor's vertical keeps the present yaw, with confidence 0; where
/// nothing holds both, the target goes before the eyes and `both` is false.
LockGoal lockGoal(const LockScene& scene, const LockSettings& settings);

/// What lock on adds to the player's distance, in ln(1 + d/0.5 m), and to the framing's lens, in ln tan(fov/2).
struct LockExtras {
  double distance = 0, fov = 0;
};

/// What a stick asks for while locked on.
struct LockPush {
  /// Radians per second.
  LookAngles rates;
  /// Its deflection, x right and y up, and the multipliers of it, whose signs turn it round.
  Rate deflection, scale;
};

class LockOn {
 public:
  /// Locks on, changes to another target, or tells where the same one is now.
  void begin(const Target& target);
  /// Lets go; nudge, distance and field of view come back by themselves.
  void end() { on_ = false; }
  bool on() const { return on_; }
  /// The target; moves on at its velocity between two tellings.
  Target target() const;
  void targetMoves(double seconds) { position_ = position_.vector() + seconds * velocity_.vector(); }

  /// Look input: nudges the view.
  void nudge(const LookAngles& turn, const LockSettings& settings);
  /// Time passes: the goal goes from one to the other, and a stick nudges the view. Returns the turn.
  LookAngles step(double seconds, const LockGoal& from, const LockGoal& to, const LookAngles& look,
                  const LockPush& push, const LockSettings& settings);
  /// Time passes without a target.
  void rest(double seconds, const LockSettings& settings);

  LookAngles nudged() const { return nudge_; }
  LockExtras extras() const { return {extraDistance_, extraFov_}; }

  /// The flick that was made and not taken yet.
  Rate flick() const { return flick_; }
  /// Takes the flick that was made since this was last asked: to the right and up, length 1; 0 for none.
  Rate takeFlick();
  /// Whether the target has been hidden for too long; `hidden` says whether it is now.
  bool lost(double seconds, bool hidden, const LockSettings& settings);

  void shift(const Eigen::Vector3d& offset) { position_ = position_.vector() + offset; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("position").vectors(farthestState, position_);
    fields.named("velocity").vectors(farthestPosition, velocity_);
    fields.named("radius").number(radius_, 0, 1e9);
    fields.named("yawError").numbers(2 * pi, yawError_);
    fields.named("nudge.yaw nudge.pitch").numbers(pi, nudge_.yaw, nudge_.pitch);
    fields.named("extraDistance").number(extraDistance_, 0, 1e3);
    fields.named("extraFov").number(extraFov_, 0, 1e3);
    fields.named("hidden").times(hidden_);
    fields.named("flicked.yaw flicked.pitch").numbers(farthestState, flicked_.yaw, flicked_.pitch);
    fields.named("flick.x flick.y").numbers(1, flick_.x, flick_.y);
    fields.require(flick_.x * flick_.x + flick_.y * flick_.y <= 1 + 1e-9);
    fields.named("id").ids(id_);
    fields.named("on armed").flags(on_, armed_);
  }

 private:
  void nudgeOn(double seconds, const LockPush& push, const LockSettings& settings);

  StoredVector3 position_, velocity_;
  double radius_ = 0, yawError_ = 0, extraDistance_ = 0, extraFov_ = 0, hidden_ = 0;
  LookAngles nudge_, flicked_;
  Rate flick_;
  std::uint32_t id_ = 0;
  bool on_ = false, armed_ = true;
};

}  // namespace alpglow
