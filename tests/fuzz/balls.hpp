#pragma once
// A world of spheres, for random play.

#include "alpglow/space/surroundings.hpp"
#include "support/random.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace alpglow::testing {

/// Spheres in the air, answered exactly, or listed; every fourth is large; some answers are poisoned.
class Balls final : public Surroundings {
 public:
  Balls(Random& random, int count, double poisoned) : random_(random), poisoned_(poisoned) {
    for (int i = 0; i < count; ++i) balls_.push_back({random.point(12), random.between(0.05, 2)});
  }

  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    return poison(first(from, displacement, radius, Purpose::camera));
  }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return poison(first(from, displacement, radius, Purpose::large));
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return poison(first(from, displacement, 0, purpose));
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    double nearest = range;
    for (std::size_t i = 0; i < balls_.size(); ++i) {
      if ((stopsOf(i) & Purpose::camera) != 0)
        nearest = std::min(nearest, std::max((point - balls_[i].centre).norm() - balls_[i].radius, 0.0));
    }
    return poison(nearest);
  }
  void list(const Bounds& bounds, Found& found) const noexcept override {
    for (std::size_t i = 0; i < balls_.size(); ++i) {
      const Capsule ball{balls_[i].centre, balls_[i].centre, poison(balls_[i].radius)};
      if (boundsOf(ball).touches(bounds)) found.add(ball, {static_cast<ObstacleId>(i), stopsOf(i)});
    }
    if (poisoned_ > 0 && random_.chance(poisoned_)) found.incomplete();
  }
  void follow(const Eigen::Vector3d& by) {
    for (Ball& ball : balls_) ball.centre += by;
  }

  /// Any number that a broken host may come up with in place of this one.
  double poison(double number) const {
    if (poisoned_ == 0 || !random_.chance(poisoned_)) return number;
    constexpr double infinity = std::numeric_limits<double>::infinity();
    const double numbers[] = {std::nan(""), infinity, -infinity, -1,  1e308, -1e308, 4e-310, 0,
                              1e-200,       1e9,      1.0001e9,  0.3, 1e12,  -number};
    return numbers[random_.whole(0, 13)];
  }

 private:
  struct Ball {
    Eigen::Vector3d centre;
    double radius;
  };

  static std::uint32_t stopsOf(std::size_t i) {
    return i % 4 == 3 ? Purpose::large | Purpose::aim | Purpose::sight : std::uint32_t{Purpose::all};
  }

  Contact first(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                Purpose::Bit purpose) const {
    const double length = displacement.norm();
    Contact contact{length, noObstacle};
    if (!(length > 0)) return contact;
    const Eigen::Vector3d ahead = displacement / length;
    for (std::size_t i = 0; i < balls_.size(); ++i) {
      if ((stopsOf(i) & purpose) == 0) continue;
      const Eigen::Vector3d to = balls_[i].centre - from;
      const double reach = balls_[i].radius + radius, along = to.dot(ahead);
      const double square = along * along - to.squaredNorm() + reach * reach;
      if (along <= 0 || square <= 0) continue;
      const double distance = std::max(along - std::sqrt(square), 0.0);
      if (distance < contact.distance) contact = {distance, static_cast<ObstacleId>(i)};
    }
    return contact;
  }
  Contact poison(Contact contact) const {
    contact.distance = poison(contact.distance);
    if (poisoned_ > 0 && random_.chance(poisoned_)) contact.obstacle = noObstacle;
    return contact;
  }

  std::vector<Ball> balls_;
  Random& random_;
  double poisoned_;
};

}  // namespace alpglow::testing
