#pragma once
// The free shoulder: where a wall is on the camera's side and the other one is free, the camera goes over by itself.
//
//   FreeShoulder shoulder;
//   if (shoulder.step({here, there}, dt, settings)) swap();       // metres that either shoulder would leave
//
// Only after the other one has been better by so much for so long without a break, and not again for a while after any
// swap; so that a post that passes, or a lane with walls on both sides, swaps nothing.

#include "alpglow/base/state.hpp"

namespace alpglow {

struct FreeShoulderSettings {
  /// The other shoulder must be better for so long, seconds; 0 = never swaps by itself.
  double after = 0;
  /// By so much distance, metres of the subject's scale.
  double gain = 0.6;
  /// From one swap to the next, the player's included, seconds.
  double rest = 2;
  /// Also while aiming.
  bool whileAiming = false;
};

/// The distance that there is room for over this shoulder and the other one, metres.
struct ShoulderRooms {
  double here = 0, there = 0;
};

/// A trivially copyable value.
class FreeShoulder {
 public:
  /// Whether to swap now.
  bool step(const ShoulderRooms& rooms, double seconds, const FreeShoulderSettings& settings);
  /// Time passes in which nobody asks how much room there is.
  void rest(double seconds) { since_ += seconds, better_ = 0; }
  /// The shoulder was swapped by somebody else.
  void swapped() { since_ = better_ = 0; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("better since").times(better_, since_);
  }

 private:
  double better_ = 0;   // for so long the other one has been, seconds
  double since_ = 1e6;  // the last swap, seconds
};

inline bool FreeShoulder::step(const ShoulderRooms& rooms, double seconds, const FreeShoulderSettings& settings) {
  since_ += seconds;
  better_ = rooms.there >= rooms.here + settings.gain ? better_ + seconds : 0;
  if (better_ < settings.after || since_ < settings.rest || better_ == 0) return false;
  swapped();
  return true;
}

}  // namespace alpglow
