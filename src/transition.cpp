#include "alpglow/transition.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

struct Plan {
  double c0, c1, c2;
};

/// With D = difference, and speed and acceleration of the difference itself (toward the target is negative for D > 0).
Plan planned(double difference, double speed, double acceleration, double seconds) {
  return {difference, 3 * difference + speed * seconds,
          6 * difference + 3 * speed * seconds + 0.5 * acceleration * seconds * seconds};
}

/// The least value of side·(c0 + c1·s + c2·s²) on [0, 1].
double least(const Plan& plan, double side) {
  const auto at = [&](double s) { return side * (plan.c0 + s * (plan.c1 + s * plan.c2)); };
  double lowest = std::min(at(0), at(1));
  if (plan.c2 != 0) {
    const double bend = -plan.c1 / (2 * plan.c2);
    if (bend > 0 && bend < 1) lowest = std::min(lowest, at(bend));
  }
  return lowest;
}

}  // namespace

double timeWithoutOvershoot(double difference, double speed, double acceleration, double seconds) {
  const double side = difference < 0 ? -1 : 1;
  const auto good = [&](double time) { return least(planned(difference, speed, acceleration, time), side) >= 0; };
  if (difference == 0 || good(seconds)) return seconds;
  double shorter = seconds;
  while (!good(shorter)) {
    shorter *= 0.8;
    if (shorter < 1e-4 * seconds) return seconds;
  }
  double longer = shorter / 0.8;
  for (int i = 0; i < 50; ++i) {
    const double middle = (shorter + longer) / 2;
    (good(middle) ? shorter : longer) = middle;
  }
  return shorter;
}

void Transition::begin(double difference, double speed, double acceleration, double seconds) {
  const bool planned = seconds > 0 && std::isfinite(seconds);
  beginExactly(difference, speed, acceleration,
               planned ? timeWithoutOvershoot(difference, speed, acceleration, seconds) : 0);
}

void Transition::beginWithin(double low, double high, double difference, double seconds) {
  const double speedNow = speed(), accelerationNow = acceleration();
  constexpr int looks = 40;
  for (double time = seconds; time > 0.1 * seconds; time *= 0.85) {
    begin(difference, speedNow, accelerationNow, time);
    double lowest = difference, highest = difference;
    for (Transition ahead = *this; !ahead.done(); ahead.pass(time / looks)) {
      lowest = std::min(lowest, ahead.difference());
      highest = std::max(highest, ahead.difference());
    }
    if (lowest >= low - 1e-9 && highest <= high + 1e-9) return;
  }
}

void Transition::beginExactly(double difference, double speed, double acceleration, double seconds) {
  finish();
  const bool finite = std::isfinite(difference) && std::isfinite(speed) && std::isfinite(acceleration);
  if (!finite || !(seconds > 0) || !std::isfinite(seconds)) return;
  if (difference == 0 && speed == 0 && acceleration == 0) return;
  duration_ = seconds;
  const Plan plan = planned(difference, speed, acceleration, duration_);
  c0_ = plan.c0;
  c1_ = plan.c1;
  c2_ = plan.c2;
}

void Transition::pass(double seconds) {
  if (done() || !(seconds > 0)) return;
  elapsed_ += seconds;
  if (elapsed_ >= duration_ * (1 - 1e-12)) finish();
}

double Transition::difference() const {
  if (done()) return 0;
  const double s = elapsed_ / duration_, r = 1 - s;
  return r * r * r * (c0_ + s * (c1_ + s * c2_));
}

double Transition::speed() const {
  if (done()) return 0;
  const double s = elapsed_ / duration_, r = 1 - s;
  const double q = c0_ + s * (c1_ + s * c2_), slope = c1_ + 2 * s * c2_;
  return (r * r * r * slope - 3 * r * r * q) / duration_;
}

double Transition::acceleration() const {
  if (done()) return 0;
  const double s = elapsed_ / duration_, r = 1 - s;
  const double q = c0_ + s * (c1_ + s * c2_), slope = c1_ + 2 * s * c2_;
  return (r * r * r * 2 * c2_ - 6 * r * r * slope + 6 * r * q) / (duration_ * duration_);
}

void Transition3::begin(const Eigen::Vector3d& difference, const Eigen::Vector3d& speed, double seconds) {
  const Eigen::Vector3d acceleration = this->acceleration();
  double time = seconds;
  const double length = difference.norm();
  if (length > 0 && seconds > 0 && std::isfinite(seconds)) {
    const Eigen::Vector3d way = difference / length;
    time = timeWithoutOvershoot(length, way.dot(speed), way.dot(acceleration), seconds);
    if (time < 0.1 * seconds) time = seconds;
  }
  for (int i = 0; i < 3; ++i) axes_[i].beginExactly(difference[i], speed[i], acceleration[i], time);
}

}  // namespace alpglow
