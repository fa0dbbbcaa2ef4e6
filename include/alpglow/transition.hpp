#pragma once
// A transition: a value goes over to a target that may itself be moving, smoothly, and can change its mind at any
// moment.
//
// What is planned is the difference to the live target, from the present difference, speed and acceleration to rest at
// zero, as the quintic of least jerk: with s = t/T, difference D, and speed v and acceleration a toward the target,
//   d(s) = (1 − s)³·(D + (3D − vT)·s + (6D − 3vT − ½aT²)·s²).
// It does not overshoot exactly if the second factor stays ≥ 0 on [0, 1]; a plan that would is made shorter until it
// does not. Zooming, following and turning go on underneath. Exact however time is cut.
//
//   Transition shoulder;
//   shoulder.begin(shown - wanted, 0.4);          // from where it is, with the speed it has
//   shoulder.pass(dt);
//   shown = wanted + shoulder.difference();

namespace alpglow {

class Transition {
 public:
  /// Plans anew from a difference (shown − target), over at most `seconds`, with the speed and acceleration that the
  /// difference has now. 0 seconds, or numbers that are not finite, end it at once.
  void begin(double difference, double seconds) { begin(difference, speed(), acceleration(), seconds); }
  void begin(double difference, double speed, double acceleration, double seconds);

  /// Time goes by.
  void pass(double seconds);
  /// Ends at the target at once, as after a cut.
  void finish() { *this = Transition(); }

  /// What is left: its value, its change per second and per second squared.
  double difference() const;
  double speed() const;
  double acceleration() const;
  bool done() const { return duration_ == 0; }
  /// How far it has come in time, 0 … 1; 1 when there is none.
  double progress() const { return done() ? 1 : elapsed_ / duration_; }
  /// How long the plan takes in all, seconds: what was asked for, or less where that would overshoot.
  double duration() const { return duration_; }

 private:
  // d(s) = (1 − s)³·(c0 + c1·s + c2·s²)
  double c0_ = 0, c1_ = 0, c2_ = 0;
  double duration_ = 0, elapsed_ = 0;
};

}  // namespace alpglow
