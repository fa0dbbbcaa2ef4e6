#pragma once
// How fast a length must shorten now, so that it is short enough in time.
//
//   ComeIn in;
//   const RoomAhead rooms[] = {{0, 0.1, 2.4}, {0.2, 0.4, 1.1}};   // after 0.2 to 0.4 s there is room for 1.1 m
//   in.look(length, rooms, 1 / 60.0, {6.5, 9.8});
//   length -= in.speed() * dt;                                    // until the next look
//
// With the length d, room for D metres in τ seconds, the calm speed v and the fastest speed f,
//
// speed = min(f, n · eased((n − v) / (v/2))),   n = max (d − D)/τ:
//
// nothing as long as the calm speed is enough, and all that is needed from 1.5 v on. τ is the middle of the time in
// which the room becomes less. The speed rises at once and falls gradually, so that it does not surge where a post is
// seen in every other look. It is 0 as soon as every room ahead is long enough.

#include "alpglow/base/span.hpp"

#include <cstddef>

namespace alpglow {

/// There is room for so many metres, from some moment between two times on, seconds ahead.
struct RoomAhead {
  double from = 0, to = 0, room = 0;
};

/// Metres per second.
struct InSpeeds {
  double calm = 6.5, fastest = 9.8;
};

/// A trivially copyable value.
class ComeIn {
 public:
  /// Looks at the rooms ahead, `since` seconds after the last look. Returns the place of the most urgent one in the
  /// span; the span's size if none of them is shorter than the length.
  std::size_t look(double length, Span<const RoomAhead> rooms, double since, const InSpeeds& speeds);
  /// Inward, m/s.
  double speed() const { return speed_; }
  /// From the last look that found one to the most urgent room, seconds.
  double seconds() const { return seconds_; }
  /// Nothing is ahead.
  void stop() { *this = ComeIn(); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("speed seconds").within(0, 1e15, speed_, seconds_);
  }

 private:
  double speed_ = 0, seconds_ = 0;
};

}  // namespace alpglow
