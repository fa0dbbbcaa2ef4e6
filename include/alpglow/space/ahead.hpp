#pragma once
// What the camera asks of clear space, and what it will ask in the next half second.
//
//   Prediction prediction;
//   prediction.observe(request, motion, dt);                             // in every frame, or at even times
//   const PullInRequest soon = prediction.ahead(request, motion, 0.3);   // head, look, shoulder and distance in 0.3 s
//
// The subject walks on at its velocity v, as far as v·t. A hand stops: a turn of rate ω dies away, and the sooner the
// faster it is. A turn that speeds up with acceleration α goes on doing so for a moment m:
//
// turn(t) = ω·T·(1 − e^(−t/T)) + α·s·(t − s/2),   T = 0.3 s / (1 + (ω/2.5 rad/s)²),   s = min(t, m), if α·ω > 0
//
// A change of framing is known from its own blend. docs/maths.md says where the numbers come from.

#include "alpglow/base/rotation.hpp"
#include "alpglow/base/span.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/space/rigid_motion.hpp"

#include <Eigen/Core>

namespace alpglow {

/// Where the camera would be with nothing in the way.
struct PullInRequest {
  Eigen::Vector3d head = Eigen::Vector3d::Zero();
  /// What the camera orbits, without the shoulder.
  Eigen::Vector3d anchor = Eigen::Vector3d::Zero();
  /// Where it orbits, in axes that `level` turns into the world's; radians, the pitch within `pitch`.
  LookAngles orbit;
  Rotation level = Rotation::Identity();
  PitchLimits pitch{-pi / 2, pi / 2};
  /// Of the pivot to the right of the anchor, and from the pivot to the camera, metres.
  double shoulder = 0, distance = 0;
  /// Near distance and the radius of its near-plane sphere, metres.
  double nearPlane = 0.1, radius = 0.15;
  /// What the settings' metres are multiplied by.
  double scale = 1;
  /// The crosshair must not slide; the shoulder is kept, as it also is while a look is solved for where the camera is.
  bool aims = false, keepsShoulder = false;

  /// The camera's axes right, up and back as columns in the world, `lower` radians below the orbit.
  Eigen::Matrix3d axes(double lower = 0) const;
  /// The camera with this shoulder, so many radians lower than asked for.
  Eigen::Vector3d camera(double withShoulder, double lower = 0) const;
  Eigen::Vector3d camera() const { return camera(shoulder); }
};

/// Shoulder and distance at some moment ahead, metres.
struct AskedAhead {
  double shoulder = 0, distance = 0;
};

/// How the request moves.
struct PullInMotion {
  /// The subject's velocity relative to what it stands on, metres per second of the player's clock; the direction up;
  /// whether the subject stands on the ground.
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero(), up = Eigen::Vector3d::UnitY();
  bool onGround = false;
  /// How fast what the subject stands on turns the orbit, radians per second.
  double carriedYawRate = 0;
  /// The motion of what it stands on, by the world's clock; how much of that clock a second of the player's is.
  RigidMotion carried;
  double pace = 1;
  /// Shoulder and distance while a framing changes, at times `askedEvery` seconds apart, from the first after now on.
  /// Empty: they stay.
  Span<const AskedAhead> asked;
  double askedEvery = 0;
};

/// Learns the rates of the request. A trivially copyable value.
class Prediction {
 public:
  /// `seconds` have passed since the last call. The first call, and calls without time, teach no rate.
  void observe(const PullInRequest& request, const PullInMotion& motion, double seconds);
  /// The request in so many seconds, as if there were no walls.
  PullInRequest ahead(const PullInRequest& now, const PullInMotion& motion, double seconds) const;
  /// How fast the look turns, radians per second.
  double turnRate() const;
  /// Whether the subject walks or the look turns.
  bool moves(double scale) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("last rate acceleration").angles(1e9, last_, rate_, acceleration_);
    fields.named("velocity").vectors(1e12, velocity_);
    fields.named("climb").numbers(1e12, climb_);
    fields.named("known").flag(known_);
  }

 private:
  LookAngles last_, rate_, acceleration_;  // radians, a second, a second squared
  StoredVector3 velocity_;                 // m/s
  double climb_ = 0;                       // m/s upward
  bool known_ = false;
};

}  // namespace alpglow
