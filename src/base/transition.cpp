#include "alpglow/base/transition.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();
constexpr double hardest = 0.2;    // of the time: braking sooner than that is for bounds only
constexpr double rounded = 1e-9;   // of how far the speed would go in the time
constexpr double nothing = 1e-12;  // of whatever unit: a difference that nobody waits for
constexpr double rounding =
    1e-7;  // metres: the direction of a shorter difference says nothing, nor a shorter way to go

struct Motion {
  double difference, speed, acceleration;
};

double goes(double s) { return (1 - s) * (1 - s) * (1 - s) * (1 + s * (3 + 6 * s)); }

/// Whether the quintic over the whole time stays on its side of the target: it is (1 − s)³ times a quadratic.
bool overshoots(const Motion& m, double seconds) {
  const double side = m.difference < 0 ? -1 : 1, v = m.speed * seconds, a = m.acceleration * seconds * seconds;
  const double c0 = side * m.difference, c1 = side * (3 * m.difference + v),
               c2 = side * (6 * m.difference + 3 * v + a / 2);
  const double bend = c2 > 0 ? std::clamp(-c1 / (2 * c2), 0.0, 1.0) : 1.0;
  return std::min(c0 + c1 + c2, c0 + bend * (c1 + bend * c2)) < 0;
}

/// Whether it turns back outside of the bounds.
bool leaves(const Motion& m, double seconds, double low, double high) {
  // Its speed is (1 − s)² times a quadratic whose roots are the turning points.
  const double v = m.speed * seconds, a = m.acceleration * seconds * seconds, whole = m.difference + v / 2 + a / 12;
  const double half = v + a / 2, square = half * half + 30 * whole * v;
  if (square < 0) return false;
  const double q = half + std::copysign(std::sqrt(square), half);  // 30·whole·s² − 2·half·s − v = 0
  const auto outside = [&](double s) {
    if (!(s > 0 && s < 1)) return false;
    const double r = 1 - s, there = whole * goes(s) - r * r * r * (v * (1 + s) / 2 + a * (1 + 3 * s) / 12);
    return there < low || there > high;
  };
  return outside(q / (30 * whole)) || outside(-v / q);
}

/// The longest time of braking that goes on by no more than `room` and does not turn back: sτ/2 + gτ²/12 = room, and
/// τ ≤ −3s/g, for a speed s and an acceleration g in its direction.
double brakeWithin(double room, double s, double g) {
  const double square = s * s / 4 + g * room / 3;
  const double fits = square >= 0 && s + square > 0 ? 2 * room / (s / 2 + std::sqrt(square)) : infinity;
  return g < 0 ? std::min(fits, -3 * s / g) : fits;
}

/// No harder than in a fifth of the time, or than the plan in force was going to, of which this is left.
double leastBrake(double seconds, double left) {
  return left > 0 ? std::min(hardest * seconds, left) : hardest * seconds;
}

/// At most `seconds`. No shorter than `least`, unless bounds ask for it.
double brakeTime(const Motion& m, double seconds, double least, double low, double high) {
  // A difference that is rounding has no side to stay on.
  const bool passes = std::abs(m.difference) > rounded * std::abs(m.speed) * seconds && overshoots(m, seconds);
  if (!passes && !leaves(m, seconds, low, high)) return seconds;
  const double direction = m.speed < 0 || (m.speed == 0 && m.acceleration < 0) ? -1 : 1;
  const double s = direction * m.speed, g = direction * m.acceleration;
  const double hard = brakeWithin(std::max(direction > 0 ? high - m.difference : m.difference - low, 0.0), s, g);
  const bool towards = direction * m.difference < 0;
  const double soft = towards ? std::max(brakeWithin(std::abs(m.difference), s, g), least) : seconds;
  return std::min({seconds, soft, hard});
}

}  // namespace

void Transition::begin(double difference, double speed, double acceleration, double seconds) {
  const double least = leastBrake(seconds, left());
  beginBraking(difference, speed, acceleration, seconds,
               brakeTime({difference, speed, acceleration}, seconds, least, -infinity, infinity));
}

void Transition::beginWithin(double low, double high, double difference, double seconds) {
  const double least = leastBrake(seconds, left());
  const Motion now{difference, speed(), acceleration()};
  beginBraking(difference, now.speed, now.acceleration, seconds, brakeTime(now, seconds, least, low, high));
}

void Transition::beginBraking(double difference, double speed, double acceleration, double seconds, double brake) {
  finish();
  const bool finite = std::isfinite(difference) && std::isfinite(speed) && std::isfinite(acceleration);
  if (!finite || !(seconds >= minTimeStep) || !std::isfinite(seconds)) return;
  const double most =
      std::max({std::abs(difference), std::abs(speed) * seconds, std::abs(acceleration) * seconds * seconds});
  if (most < nothing) return;
  duration_ = seconds;
  whole_ = difference;
  if (!(brake > negligible * seconds)) return;
  brake_ = std::min(brake, seconds);
  speed_ = speed;
  acceleration_ = acceleration;
  whole_ += brake_ * (speed / 2 + acceleration * brake_ / 12);
}

void Transition::advance(double seconds) {
  if (done() || !(seconds > 0)) return;
  elapsed_ += seconds;
  if (elapsed_ >= duration_ * (1 - 1e-12)) finish();
}

double Transition::difference() const {
  if (done()) return 0;
  const double rest = whole_ * goes(elapsed_ / duration_);
  if (elapsed_ >= brake_) return rest;
  const double u = elapsed_ / brake_, w = 1 - u;
  return rest - brake_ * w * w * w * (speed_ * (1 + u) / 2 + acceleration_ * brake_ * (1 + 3 * u) / 12);
}

double Transition::speed() const {
  if (done()) return 0;
  const double s = elapsed_ / duration_, r = 1 - s;
  const double going = -30 * whole_ * s * s * r * r / duration_;
  if (elapsed_ >= brake_) return going;
  const double u = elapsed_ / brake_, w = 1 - u;
  return going + w * w * (speed_ * (1 + 2 * u) + acceleration_ * brake_ * u);
}

double Transition::acceleration() const {
  if (done()) return 0;
  const double s = elapsed_ / duration_, r = 1 - s;
  const double going = -60 * whole_ * s * r * (1 - 2 * s) / (duration_ * duration_);
  if (elapsed_ >= brake_) return going;
  const double u = elapsed_ / brake_, w = 1 - u;
  return going + w * (acceleration_ * (1 - 3 * u) - 6 * u * speed_ / brake_);
}

void Transition3::begin(const Eigen::Vector3d& difference, const Eigen::Vector3d& speed, double seconds, double room,
                        double farthest) {
  const Eigen::Vector3d acceleration = this->acceleration();
  double brake = seconds;
  const double length = difference.norm();
  if (length > rounding && seconds > 0 && std::isfinite(seconds)) {
    const Eigen::Vector3d direction = difference / length;
    const double least = leastBrake(seconds, left());
    brake = brakeTime({length, direction.dot(speed), direction.dot(acceleration)}, seconds, least, -infinity, infinity);
  }
  // Straight on, to the sphere around the target.
  const double ahead = speed.squaredNorm() > 0 ? difference.dot(speed.normalized()) : length;
  const double beyond = std::max(farthest * farthest - length * length, 0.0), half = std::sqrt(ahead * ahead + beyond);
  const double onward = ahead > 0 ? beyond / (half + ahead) : half - ahead;
  const double way = std::isfinite(farthest) ? std::min(room + length, onward + rounding) : room + length;
  brake = std::min(brake, brakeWithin(way, speed.norm(), acceleration.norm()));
  for (int i = 0; i < 3; ++i) axes_[i].beginBraking(difference[i], speed[i], acceleration[i], seconds, brake);
}

}  // namespace alpglow
