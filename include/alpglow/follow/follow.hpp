#pragma once
// Exact lag on a leash: a point follows a target that moves in a straight line during each step.
//
// Free, the lag e = point − target obeys e' = −λe − v, in closed form e1 = e0·e^(−u) − (p1 − p0)·φ(u). On the leash
// (length L) the point is towed: with θ the angle between target − point and the target's velocity, tan(θ/2) decays
// as e^(−|v|t/L), until the point's own pull suffices. The moment of reaching the leash is the root of a quadratic in
// e^(−λt). Along the ground and vertically there are two half-lives and two leashes. Cutting a step in two changes
// nothing.
//
// The critically damped kind starts as softly as it arrives. Let ω = 1.678346990016661/h, so that half of the way is
// left after h, and v the target's velocity. With y = e + 2v/ω, y' = x' − v and b = y' + ω·y it is
// e1 = −2v/ω + (y + b·t)·e^(−ωt).
// Its leash is a projection after each step and is left out of the exactness promise.
//
//   Follow follow;
//   follow.cut(feet);
//   const Vector3d point = follow.step(feet, dt, settings);   // moves toward the new feet

#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/follow/rest_zone.hpp"

#include <Eigen/Core>

#include <initializer_list>

namespace alpglow {

enum class FollowKind { exponential, criticallyDamped };

struct FollowSettings {
  FollowKind kind = FollowKind::exponential;
  /// Half-life along the ground, seconds; 0 sits on the target.
  double halfLife = 0.05;
  /// Half-life in the vertical, seconds; 0 sits on the target.
  double verticalHalfLife = 0.12;
  /// Longest lag along the ground, metres.
  double leash = 0.5;
  /// Longest lag in the vertical, metres.
  double verticalLeash = 0.6;
  /// Where the target may move before it is followed. For `FrameFollow`.
  RestZoneSettings rest;
  /// A jump of the target by more than this in one frame, metres, is a teleport: it is cut, not chased.
  double teleportDistance = 8.0;
};

/// The lag after a step of `dt` seconds in which the target moved by `moved`. Works in any plane or along any line.
/// `lag` is cut to the leash first. `dt` = 0 keeps the point where it is, as far as the leash allows.
Eigen::Vector3d laggedBy(const Eigen::Vector3d& lag, const Eigen::Vector3d& moved, double dt, double halfLife,
                         double leash);

/// The critically damped lag (metres, from the target to the point) and the velocity of the following point (metres per
/// second), which it carries along.
struct DampedLag {
  Eigen::Vector3d lag, velocity;
};
/// Both after a step of `dt` seconds in which the target moved by `moved`; half-life in seconds, 0 = no lag. The leash
/// is a projection: what is beyond it is cut, and so is the velocity outward. `dt` below 1e-12 s keeps the point where
/// it is.
DampedLag dampedLag(const DampedLag& before, const Eigen::Vector3d& moved, double dt, double halfLife, double leash);

/// What a change of settings may leave to the caller: lag that goes within these seconds, up to so many metres.
struct HandedOn {
  double seconds = 0, handed = 0;
};

/// The following point. A trivially copyable value.
class Follow {
 public:
  /// Sits on the target at once.
  void cut(const Eigen::Vector3d& target);

  /// Moves with a target that goes straight from where it was to `target`. `up` is a unit vector. Returns the point.
  Eigen::Vector3d step(const Eigen::Vector3d& target, double dt, const FollowSettings& settings,
                       const Eigen::Vector3d& up = Eigen::Vector3d::UnitY());

  Eigen::Vector3d target() const { return target_; }
  Eigen::Vector3d point() const { return target_.vector() + lag_.vector(); }
  /// How fast the point moves at this moment while the target moves at `target` per second.
  Eigen::Vector3d speed(const Eigen::Vector3d& target, const FollowSettings& settings, const Eigen::Vector3d& up) const;
  /// From the target to the point.
  Eigen::Vector3d lag() const { return lag_; }

  /// Goes on in other coordinates, in which the target moves at a velocity that differs by `faster` (`lag` is in them
  /// already): with the lag that is due to the new velocity, so that the point's own velocity does not jump.
  void resettle(const Eigen::Vector3d& target, const Eigen::Vector3d& lag, const Eigen::Vector3d& velocity,
                const Eigen::Vector3d& faster, const FollowSettings& settings, const Eigen::Vector3d& up);
  /// Goes on with other settings: with the lag at which the point keeps its speed, as far as that swings no farther
  /// than it would have with those before. Returns how far that is, metres: the rest of its speed is the caller's to
  /// brake, and so is the lag that a faster one would pull in harder than `most.seconds` take.
  double retune(const Eigen::Vector3d& targetVelocity, const FollowSettings& before, const FollowSettings& after,
                const Eigen::Vector3d& up, const HandedOn& most);
  /// Of the point, as far as it is kept (critically damped).
  Eigen::Vector3d velocity() const { return velocity_; }

  /// The unit of its coordinates changes: all numbers are multiplied by this.
  void scale(double by) {
    for (StoredVector3* vector : {&target_, &lag_, &velocity_}) *vector = vector->vector() * by;
  }
  /// Moves the world's origin: `offset` is added to every stored position.
  void shift(const Eigen::Vector3d& offset) { target_ = target_.vector() + offset; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("target lag velocity").vectors(farthestState, target_, lag_, velocity_);
  }

 private:
  StoredVector3 target_;
  StoredVector3 lag_;
  StoredVector3 velocity_;  // of the point, for the critically damped kind
};

}  // namespace alpglow
