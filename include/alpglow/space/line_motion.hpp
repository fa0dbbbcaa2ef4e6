#pragma once
// How the line from head to camera changes by itself, from what it was in each frame; and so what it will be: a head
// that crouches, an anchor that catches up, a shoulder that is swapped, a camera that moves out.
//
//   LineMotion motion;
//   motion.step({headHeight, offset, shoulder, distance}, dt);
//   const LineMotion::Line soon = motion.changeIn(0.3);      // by how much it changes in the next 0.3 s
//
// All of these come to rest: what changes now dies away. Jumps are not learnt from. A trivially copyable value.

#include "alpglow/base/stored_vector.hpp"

namespace alpglow {

class LineMotion {
 public:
  struct Line {
    /// Of the head above the feet, metres.
    double headHeight = 0;
    /// From the head to the anchor, in level axes, metres.
    StoredVector3 offset;
    /// Metres.
    double shoulder = 0, distance = 0;

    template <class Fields>
    void state(Fields& fields) {
      fields.named("headHeight shoulder distance").numbers(1e15, headHeight, shoulder, distance);
      fields.named("offset").vectors(1e15, offset);
    }
  };

  /// Nothing is learnt from frames without time, and not from the first; `scale` is what metres are multiplied by.
  void step(const Line& line, double seconds, double scale = 1);
  Line changeIn(double seconds) const;
  /// Whether anything changes by more than 2 cm per second.
  bool moves(double scale = 1) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("last rate").part(last_, rate_);
    fields.named("known").flag(known_);
  }

 private:
  Line last_, rate_;  // the rates per second
  bool known_ = false;
};

}  // namespace alpglow
