#pragma once
// Sway of the hand that holds a scope: a small turn of the view that never repeats quite the same, in step with time.
//
//   Sway sway;
//   sway.advance(dt, 4);
//   const LookAngles turn = sway.turn(degrees(0.3));   // of what is shown; neither look nor heading know of it

#include "alpglow/base/angles.hpp"
#include "alpglow/look/look.hpp"

#include <cmath>

namespace alpglow {

class Sway {
 public:
  /// `period` in seconds: of a breath, up and down.
  void advance(double seconds, double period) {
    breath_ = wrapped(breath_ + seconds / period);
    drift_ = wrapped(drift_ + seconds / (period * sideways));
  }
  /// At most `amplitude` up and down, radians, and 0.6 of it to either side.
  LookAngles turn(double amplitude) const {
    if (amplitude == 0) return {};
    return {0.6 * amplitude * std::sin(2 * pi * drift_), amplitude * std::sin(2 * pi * breath_)};
  }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("breath").number(breath_, 0, 1);
    fields.named("drift").number(drift_, 0, 1);
  }

 private:
  static double wrapped(double phase) { return phase - std::floor(phase); }

  static constexpr double sideways = 1.6180339887498949;  // the two never meet again
  double breath_ = 0, drift_ = 0;                         // of a period, 0 … 1
};

}  // namespace alpglow
