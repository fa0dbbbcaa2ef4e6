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

#include <Eigen/Core>

#include <algorithm>

namespace alpglow {

class Transition {
 public:
  /// Plans anew from a difference (shown − target), over at most `seconds`, with the speed and acceleration that the
  /// difference has now. 0 seconds, or numbers that are not finite, end it at once.
  void begin(double difference, double seconds) { begin(difference, speed(), acceleration(), seconds); }
  void begin(double difference, double speed, double acceleration, double seconds);
  /// The same, with bounds for the difference: a plan that would cross one is made shorter, at most to a tenth, so that
  /// it turns back sooner.
  void beginWithin(double low, double high, double difference, double seconds);
  /// Over exactly `seconds`, whether it overshoots or not.
  void beginExactly(double difference, double speed, double acceleration, double seconds);

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

/// The longest time, up to the one asked for, in which a plan does not overshoot; the one asked for where every plan
/// does (nothing is left, and it is still moving).
double timeWithoutOvershoot(double difference, double speed, double acceleration, double seconds);

/// Three of them over the same time, for a vector: it does not overshoot along the way to its target, unless it would
/// have to stop within a tenth of the time.
class Transition3 {
 public:
  void begin(const Eigen::Vector3d& difference, double seconds) { begin(difference, speed(), seconds); }
  void begin(const Eigen::Vector3d& difference, const Eigen::Vector3d& speed, double seconds);
  void pass(double seconds) {
    for (Transition& axis : axes_) axis.pass(seconds);
  }
  void finish() { *this = Transition3(); }

  Eigen::Vector3d difference() const { return {axes_[0].difference(), axes_[1].difference(), axes_[2].difference()}; }
  Eigen::Vector3d speed() const { return {axes_[0].speed(), axes_[1].speed(), axes_[2].speed()}; }
  Eigen::Vector3d acceleration() const {
    return {axes_[0].acceleration(), axes_[1].acceleration(), axes_[2].acceleration()};
  }
  bool done() const { return axes_[0].done() && axes_[1].done() && axes_[2].done(); }
  double progress() const { return std::min({axes_[0].progress(), axes_[1].progress(), axes_[2].progress()}); }

 private:
  Transition axes_[3];
};

}  // namespace alpglow
