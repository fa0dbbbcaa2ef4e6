#pragma once
// A length that obstacles limit: approached early, as urgently as the rooms ahead demand; never beyond the room of the
// moment; and longer again only by what can be kept, sooner from close by than from almost all the way out.
//
//   UrgentLimit limit;
//   const RoomAhead ahead[] = {{0.1, 2.4}, {0.3, 1.1}};            // in 0.3 s there is room for 1.1 m
//   const double shown = limit.step(whole, {room}, ahead, dt, settings);
//
// How urgent: what is too long, over the time that is left. Below the calm speed nothing is done; so a prediction that
// comes late makes it faster, not a jump. A trivially copyable value.

#include "alpglow/base/span.hpp"
#include "alpglow/space/pull_in_settings.hpp"

#include <algorithm>
#include <array>
#include <limits>

namespace alpglow {

/// Room for so much in so many seconds; infinite where nothing limits it.
struct RoomAhead {
  double seconds = 0, room = 0;
};

/// The room of the moment, and how much of it is ample: with so much around it that it will hardly be less soon.
struct RoomNow {
  double clear = 0, ample = 0;
};

class UrgentLimit {
 public:
  static constexpr double unlimited = std::numeric_limits<double>::infinity();
  /// How long it has to be quiet until it dares to leave the head, and to go out all the way; shares of the delay, and
  /// of what is added for a pump.
  static constexpr double quietInside = 0.4, quietOutside = 3.6;

  /// The length to show: never above `whole`, what one would like, nor above the room of the moment. `scale` is what
  /// the settings' metres are multiplied by.
  double step(double whole, const RoomNow& room, Span<const RoomAhead> ahead, double seconds,
              const PullInSettings& settings, double scale = 1) {
    advance(whole, room, ahead, seconds, settings, scale);
    return shorten(whole, room.clear, settings, scale);
  }
  /// Time passes; it may still be longer than there is room.
  void advance(double whole, const RoomNow& room, Span<const RoomAhead> ahead, double seconds,
               const PullInSettings& settings, double scale);
  /// Whatever was foreseen: never beyond the room of the moment.
  double shorten(double whole, double room, const PullInSettings& settings, double scale);
  /// Nothing is allowed at this moment.
  void close();
  void cut() { *this = UrgentLimit(); }

  bool limiting() const { return length_ < unlimited; }
  /// It goes in because of what is ahead.
  bool goingIn() const { return speed_ > 0; }
  /// Within so many seconds ample room may let it go out sooner than otherwise; where not, it does not matter.
  bool awaitsAmple(double seconds, const PullInSettings& settings) const;
  /// What there is room for, now and ahead, is longer than it is.
  bool hasRoom(double whole, double room, Span<const RoomAhead> ahead, const PullInSettings& settings,
               double scale) const;
  /// How long it is, if nothing shortens it in this moment.
  double length(double whole) const { return std::min(length_, whole); }
  /// How long it has to wait before it goes out, seconds, if nothing shortens it and there is no ample room.
  double wait(const PullInSettings& settings) const;
  /// How much longer it has to be quiet, after `quiet` seconds, before it dares to be so far out (a share of the
  /// whole); `backOff` is what a pump has added, which fades meanwhile.
  static double quietLeft(double share, double quiet, double backOff, const PullInSettings& settings);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("length").number(length_, 0, unlimited);
    fields.named("share").number(share_, 0, 1);
    fields.named("goesOut").flag(goesOut_);
    fields.named("speed").number(speed_, 0, 1e15);
    fields.named("wentIn").number(wentIn_, 0, 1e15);
    fields.named("wentOut").number(wentOut_, 0, 1e15);
    fields.named("quiet backOff age").times(quiet_, backOff_, age_);
    for (double& least : least_) fields.named("least").number(least, 0, unlimited);
  }

 private:
  struct Piece {
    double whole;
    RoomNow room;
    double elapsed, seconds, scale;
  };
  struct Way {
    double from, to;
  };
  /// By what is quiet long enough is measured, in general and where there is ample room, seconds.
  double quietFor(const PullInSettings& settings) const { return settings.delay + backOff_; }
  static double quietForAmple(const PullInSettings& settings, double backOff);
  /// How far out it dares, as a share of the whole.
  static double dared(double quiet, double unit);
  double shareOf(double whole) const { return length_ < whole ? length_ / whole : 1; }
  double urgency(double length, const Piece& piece, Span<const RoomAhead> ahead, double calm) const;
  double keepable(const Piece& piece, Span<const RoomAhead> ahead, double calm) const;
  void goOut(double length, double goal, const Piece& piece, const PullInSettings& settings);
  void goneIn(double by, const PullInSettings& settings, double scale);
  void remember(double room, double seconds);

  static constexpr double bucket = 0.1;    // seconds
  double length_ = unlimited, share_ = 1;  // of what one would like
  bool goesOut_ = false;
  double speed_ = 0;                 // inward
  double wentIn_ = 0, wentOut_ = 0;  // since the quiet time began; since it went in last
  double quiet_ = 0, backOff_ = 0;   // seconds
  double age_ = 0;                   // of the youngest of the least rooms
  std::array<double, 16> least_ = {unlimited, unlimited, unlimited, unlimited, unlimited, unlimited,
                                   unlimited, unlimited, unlimited, unlimited, unlimited, unlimited,
                                   unlimited, unlimited, unlimited, unlimited};
};

}  // namespace alpglow
