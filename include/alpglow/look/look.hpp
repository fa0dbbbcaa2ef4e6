#pragma once
// The look: which way the player faces. Pointer counts and turn rates become yaw and pitch, in full and in the same
// frame.
//
// Positive yaw turns left, positive pitch looks up; moving the pointer right turns right. Limits hold always, ±90°
// included, and what would go beyond one is dropped, so that the first count back moves. Yaw stays in (−180°, 180°].
// Smoothing is off unless asked for: then what the pointer moved shows by half-life, exactly; a stick's rate is not
// smoothed twice.
//
//   Look look;
//   look.displace({12, -3}, settings, limits);            // in full, at once
//   look.advance(dt, {0.5, 0}, {1, 1}, settings, limits);    // time goes by with the stick half to the right
//   look.shown().yaw;

#include "alpglow/base/angles.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/look/turn_rate.hpp"

#include <initializer_list>

namespace alpglow {

struct LookSettings {
  /// Radians of yaw for one count of the pointer. Sign-free: use the invert flags.
  double yawPerCount = degrees(0.05);
  /// Radians of pitch for one count of the pointer.
  double pitchPerCount = degrees(0.05);
  /// Yaw rate at full deflection of a stick, radians per second.
  double yawRate = degrees(200);
  /// Pitch rate at full deflection of a stick, radians per second.
  double pitchRate = degrees(120);
  /// Half-life of easing into a stick's rate, seconds; 0 = at once.
  double turnHalfLife = 0;
  /// After a stick was at its edge for `edgeDwell` seconds, its rates are multiplied by this; 1 = never.
  double edgeFactor = 1;
  double edgeDwell = 0.5;
  /// Half-life by which the pointer's displacement shows, seconds; 0 = in full in the same frame.
  double smoothing = 0;
  bool invertYaw = false;
  bool invertPitch = false;
};

/// Lowest and highest pitch, radians, within ±90°, low ≤ high.
struct PitchLimits {
  double low = degrees(-80);
  double high = degrees(80);
};

/// Yaw about up, then pitch about the camera's own right; both in radians.
struct LookAngles {
  double yaw = 0;
  double pitch = 0;
};

/// The turn that a displacement asks for, and the turn rates of a stick; `scale` multiplies the latter.
LookAngles turnOf(Displacement moved, const LookSettings& settings);
LookAngles turnRatesOf(Rate deflection, Rate scale, const LookSettings& settings);

/// The look brought inside the limits and wrapped.
LookAngles limited(LookAngles look, const PitchLimits& limits);

/// The look over time. A trivially copyable value.
class Look {
 public:
  Look() = default;
  explicit Look(LookAngles angles) : target_(angles) {}

  /// The pointer moved. Independent of time.
  void displace(Displacement moved, const LookSettings& settings, const PitchLimits& limits, double orbitHalfLife = 0);
  /// `seconds` go by with a stick at this deflection, length 0 … 1; `scale` multiplies its rates.
  /// What orbits by `orbitHalfLife` trails behind it.
  void advance(double seconds, Rate deflection, Rate scale, const LookSettings& settings, const PitchLimits& limits,
               double orbitHalfLife = 0);
  /// Time has passed against limits that open this fast, radians per second up and down: held by one, a stick that
  /// asks for this pitch rate goes along with it.
  void goWithLimit(double asked, const PitchLimits& limits, double up, double down);
  /// Somebody else than the player turned it: in full, and what orbits turns along.
  void turnBy(const LookAngles& turn, const PitchLimits& limits);

  /// The look, and the heading.
  LookAngles shown() const { return {wrapAngle(target_.yaw - pending_.yaw), target_.pitch - pending_.pitch}; }
  /// Where the camera orbits: the look, or what trails behind it the short way round.
  LookAngles orbit() const {
    const LookAngles look = shown();
    return {wrapAngle(look.yaw - trail_.yaw), look.pitch - trail_.pitch};
  }
  /// The stick's turn rates at this moment, radians per second.
  LookAngles rate() const { return rate_; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("target pending rate trail").angles(1e9, target_, pending_, rate_, trail_);
    fields.named("dwell").part(dwell_);
    fields.require(std::abs(shown().pitch) <= pi / 2 + 1e-9);
  }

 private:
  void turn(double seconds, Rate deflection, double factor, const LookSettings& settings, const PitchLimits& limits,
            double orbitHalfLife);

  LookAngles target_;
  LookAngles pending_;  // what smoothing has not shown yet
  LookAngles rate_;
  LookAngles trail_;  // by how much the orbit is behind what is shown
  EdgeDwell dwell_;
};

}  // namespace alpglow
