#pragma once
// An angle turned at a rate that is eased, between limits, and the wait at a stick's edge.
//
// Toward a rate R with rate constant k: angle += R·t + (r0 − R)(1 − e^(−kt))/k and r1 = R + (r0 − R)e^(−kt). A limit
// zeroes the outward rate at the moment it is reached; from there the rate eases anew. The dwell runs out inside a
// step. Cutting a step in two changes nothing.
//
// What trails behind the angle by half-life (rate constant μ) grows by R·t·φ(μt) + (r0 − R)·K(k, μ, t) beside its own
// decay, with K(a, b, t) = (e^(−at) − e^(−bt))/(b − a).
//
//   EasedAngle pitch;
//   pitch = turnedToward(pitch, degrees(120), dt, 0.1, degrees(-80), degrees(80));

namespace alpglow {

/// Radians and radians per second.
struct EasedAngle {
  double angle = 0;
  double rate = 0;
  /// By how much something that follows the angle by a half-life of its own trails behind it: q' = angle' − μ·q.
  double trail = 0;
};

/// The angle after `seconds` of easing toward `targetRate` by half-life (0 = at once); low and high may be infinite.
/// With `trailHalfLife` 0 there is no trail.
EasedAngle turnedToward(EasedAngle from, double targetRate, double seconds, double halfLife, double low, double high,
                        double trailHalfLife = 0);

/// How long a stick has been held at its edge.
class EdgeDwell {
 public:
  /// The part of `seconds` that passes before the stick has been at its edge for `dwell` seconds.
  double step(double deflection, double seconds, double dwell);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("held").times(held_);
  }

 private:
  double held_ = 0;
};

}  // namespace alpglow
