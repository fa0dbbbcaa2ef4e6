#pragma once
// What a camera gives up of where it would like to be because that keeps more distance: its side, or its height.
//
//   GiveWay side;
//   side.judge(2.9, 1.4, 0.5, dt);                   // metres of room: given up, kept; and what giving it up costs
//   side.move(2 * shoulder, 1.2, dt, 1e-6);
//   const double left = shoulder - side.given();     // from the one shoulder to the other
//
// All is given up as soon as that leaves more room than keeping does, by more than its price. All is taken back once
// that has been worth less than half of the price for a second. The way between is critically damped and never faster
// than the speed.

namespace alpglow {

/// A trivially copyable value.
class GiveWay {
 public:
  /// Metres of room with all of it given up, and with all kept; the price in metres; the time since the last call.
  void judge(double givenUp, double kept, double price, double seconds);
  /// All is wanted back at once.
  void takeBack() { gives_ = false; }
  /// Time passes: of `whole`, at most `speed` a second; what is less than `hair` is nothing.
  void move(double whole, double speed, double seconds, double hair);

  /// How much is given up, now; and in so many seconds.
  double given() const { return given_; }
  double in(double whole, double speed, double seconds) const;
  /// It is on the way to giving up, or has given up.
  bool gives() const { return gives_; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("given").number(given_, 0, 1e15);
    fields.named("speed").numbers(1e15, speed_);
    fields.named("free").times(free_);
    fields.named("gives").flag(gives_);
  }

 private:
  double given_ = 0, speed_ = 0;
  double free_ = 0;  // seconds for which giving it up has not been worth it
  bool gives_ = false;
};

}  // namespace alpglow
