#pragma once
// A transition: a value comes to a target that may itself be moving, smoothly, and can change its mind at any
// moment.
//
// What is planned is the difference to the live target: what is left goes to zero from rest over T, as the quintic of
// least jerk, and the present speed and acceleration are braked to rest meanwhile, over τ ≤ T. With s = t/T, u = t/τ,
//  d(t) = (D + Δ)·(1 − s)³(1 + 3s + 6s²) − τ(1 − u)³·(v·(1 + u)/2 + aτ·(1 + 3u)/12),   Δ = vτ/2 + aτ²/12.
// At τ = T the sum is the one quintic that has difference D, speed v and acceleration a at its start and rest at its
// end. Where that would overshoot, or leave bounds, it brakes sooner: as soon as Δ fits into the room there is, however
// often it has changed its mind. Zooming, following and turning go on underneath. Exact however time is cut.
//
//   Transition shoulder;
//   shoulder.begin(shown - target, 0.4);          // from where it is, with the speed it has
//   shoulder.advance(dt);
//   shown = target + shoulder.difference();

#include "alpglow/base/limits.hpp"

#include <Eigen/Core>

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

class Transition {
 public:
  /// Plans anew from a difference (shown − target), over `seconds`, with the speed and acceleration that the difference
  /// has now. It does not overshoot, unless it would have to brake harder than in a fifth of the time and harder than
  /// it was going to anyway. Less than a nanosecond, or numbers that are not finite, end it at once.
  void begin(double difference, double seconds) { begin(difference, speed(), acceleration(), seconds); }
  void begin(double difference, double speed, double acceleration, double seconds);
  /// The same, with bounds for the difference that it never leaves: low ≤ 0 ≤ high, and the difference between them.
  void beginWithin(double low, double high, double difference, double seconds);
  /// Brakes over exactly this time, at most `seconds`, whether it overshoots or not.
  void beginBraking(double difference, double speed, double acceleration, double seconds, double brake);

  /// Time goes by.
  void advance(double seconds);
  /// Ends at the target at once, as after a cut.
  void finish() { *this = Transition(); }

  /// What is left: its value, its change per second and per second squared.
  double difference() const;
  double speed() const;
  double acceleration() const;
  bool done() const { return duration_ == 0; }
  /// How far it has come in time, 0 … 1; 1 when there is none.
  double progress() const { return done() ? 1 : elapsed_ / duration_; }
  /// In which time the speed that it had at its beginning is gone, seconds.
  double brake() const { return brake_; }
  /// What is left of the time, and of that of braking, seconds.
  double left() const { return duration_ - elapsed_; }
  double braking() const { return std::max(brake_ - elapsed_, 0.0); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("whole").numbers(farthest, whole_);
    fields.named("speed").numbers(1e25, speed_);
    fields.named("acceleration").numbers(1e35, acceleration_);
    fields.named("duration").number(duration_, 0, 1e9);
    fields.named("brake").number(brake_, 0, duration_);
    fields.named("elapsed").number(elapsed_, 0, duration_);
    fields.require((duration_ == 0 || duration_ >= minTimeStep) && (brake_ == 0 || brake_ >= negligible * duration_));
    fields.require(brake_ * (std::abs(speed_) / 2 + brake_ * std::abs(acceleration_) / 12) <= farthest);
  }

 private:
  static constexpr double farthest = 1e12;    // that a plan goes, whatever it is a difference of
  static constexpr double negligible = 1e-9;  // of the time: as good as at once

  double whole_ = 0;                     // D + Δ
  double speed_ = 0, acceleration_ = 0;  // at the beginning
  double duration_ = 0, brake_ = 0, elapsed_ = 0;
};

/// Three of them over the same time, for a vector: what was said about overshooting holds along the way to its target.
class Transition3 {
 public:
  /// It goes no farther before it turns back than the plan in force would have, and the length of the difference.
  void begin(const Eigen::Vector3d& difference, double seconds) { begin(difference, speed(), seconds); }
  /// The same, with another speed: what it has beyond the plan in force may take the whole time to brake.
  void begin(const Eigen::Vector3d& difference, const Eigen::Vector3d& speed, double seconds) {
    begin(difference, speed, seconds, swing() + (speed - this->speed()).norm() * seconds / 2);
  }
  /// No farther than `room` and the length of the difference; and no farther from its target than `farthest`, if it is
  /// not there already.
  void begin(const Eigen::Vector3d& difference, const Eigen::Vector3d& speed, double seconds, double room,
             double farthest = std::numeric_limits<double>::infinity());
  void advance(double seconds) {
    for (Transition& axis : axes_) axis.advance(seconds);
  }
  void finish() { *this = Transition3(); }

  Eigen::Vector3d difference() const { return {axes_[0].difference(), axes_[1].difference(), axes_[2].difference()}; }
  Eigen::Vector3d speed() const { return {axes_[0].speed(), axes_[1].speed(), axes_[2].speed()}; }
  Eigen::Vector3d acceleration() const {
    return {axes_[0].acceleration(), axes_[1].acceleration(), axes_[2].acceleration()};
  }
  bool done() const { return axes_[0].done() && axes_[1].done() && axes_[2].done(); }
  /// How far its present speed and acceleration still take it, at most.
  double swing() const { return braking() * (speed().norm() / 2 + acceleration().norm() * braking() / 12); }
  double braking() const { return std::max({axes_[0].braking(), axes_[1].braking(), axes_[2].braking()}); }
  double left() const { return std::max({axes_[0].left(), axes_[1].left(), axes_[2].left()}); }
  double progress() const { return std::min({axes_[0].progress(), axes_[1].progress(), axes_[2].progress()}); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    for (Transition& axis : axes_) fields.named("axes").part(axis);
  }

 private:
  Transition axes_[3];
};

}  // namespace alpglow
