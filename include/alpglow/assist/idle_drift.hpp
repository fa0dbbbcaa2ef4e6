#pragma once
// Idle drift: the orbit begins to go round by itself while nobody looks around and nobody walks, and stops for them.
//
//   IdleDrift drift;
//   if (looked) drift.stop();                                       // at once: the hand is never fought
//   look.turnBy({drift.step(dt, stands, settings), 0}, limits);
//
// The rate goes to the settings' and, as soon as somebody walks, back to 0 by half-life; the turn is its integral. So
// cutting time in pieces changes nothing.

#include "alpglow/base/angles.hpp"
#include "alpglow/base/state.hpp"

namespace alpglow {

struct IdleDriftSettings {
  /// Radians per second, to the left if positive; 0 = never.
  double rate = 0;
  /// Without look input or steps for so long, seconds.
  double after = 8;
  /// Of setting in, and of coming to rest when the subject walks, seconds.
  double halfLife = 1;
};

/// A trivially copyable value.
class IdleDrift {
 public:
  /// Rests at once, and begins to wait anew.
  void stop() { quiet_ = rate_ = 0; }
  /// By how much yaw turns while `seconds` pass, radians.
  double step(double seconds, bool stands, const IdleDriftSettings& settings);
  /// How fast it turns now, radians per second.
  double rate() const { return rate_; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("quiet").times(quiet_);
    fields.named("rate").numbers(1e3, rate_);
  }

 private:
  double turn(double seconds, double rate, double halfLife);

  double quiet_ = 0;  // since the last look input or step, seconds
  double rate_ = 0;
};

}  // namespace alpglow
