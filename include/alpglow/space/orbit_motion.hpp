#pragma once
// How fast an orbit turns, from where it was in each frame; and so where it will be.
//
//   OrbitMotion motion;
//   motion.step(yaw - lastYaw, pitch - lastPitch, dt);
//   const LookAngles soon = motion.turnIn(0.3);          // by how much it turns in the next 0.3 s
//
// Rates and accelerations are filtered, exactly over each frame. A hand stops: turns die away, and the sooner the
// faster they are; one that speeds up goes on doing so for a moment. A trivially copyable value.

#include "alpglow/look/look.hpp"

namespace alpglow {

class OrbitMotion {
 public:
  /// It turned by so much in this frame, radians; nothing is learnt from frames without time.
  void step(double yawTurned, double pitchTurned, double seconds);
  LookAngles turnIn(double seconds) const;
  bool turns() const;
  /// Radians per second.
  double rate() const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("yawRate pitchRate yawAcceleration pitchAcceleration")
        .numbers(fastest, yawRate_, pitchRate_, yawAcceleration_, pitchAcceleration_);
  }

 private:
  static constexpr double fastest = 1e6;  // rad/s, rad/s²

  double yawRate_ = 0, pitchRate_ = 0;                  // radians per second
  double yawAcceleration_ = 0, pitchAcceleration_ = 0;  // radians per second squared
};

}  // namespace alpglow
