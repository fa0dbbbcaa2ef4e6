#pragma once
// The first contact of a sphere, or of a ray, among shapes that are handed over one after the other.
//
//   FirstContact first(head, displacement, 0.15, Purpose::camera);
//   if (first.moves()) for (const Box& crate : crates) first(crate, {7});
//   const Contact contact = first.contact();

#include "alpglow/space/surroundings.hpp"

#include <cmath>

namespace alpglow {

class FirstContact {
 public:
  /// A ray where the radius is 0. A way of at most 1e-8 m, or one that is not finite, is none and meets nothing.
  FirstContact(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius, std::uint32_t purpose)
      : FirstContact(from, displacement, displacement.norm(), radius, purpose) {}

  bool moves() const { return moves_; }
  const Eigen::Vector3d& from() const { return from_; }
  const Eigen::Vector3d& direction() const { return axes_.direction; }
  /// How far it may go after what it has met so far.
  const double& distance() const { return contact_.distance; }

  template <class Shape>
  void operator()(const Shape& shape, const Thing& thing) {
    if ((thing.stops & purpose_) != 0) meet(shape, thing.id);
  }
  /// What is known to stop it.
  template <class Shape>
  void meet(const Shape& shape, ObstacleId id) {
    const Touch touch = sweep(shape, from_, axes_, contact_.distance, radius_);
    if (touch.distance < contact_.distance) contact_ = {touch.distance, id, touch.normal};
  }

  const Contact& contact() const { return contact_; }

 private:
  FirstContact(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double length, double radius,
               std::uint32_t purpose)
      : from_(from),
        radius_(radius),
        purpose_(purpose),
        moves_(length > 1e-8 && std::isfinite(length) && from.allFinite()),
        axes_(moves_ ? Eigen::Vector3d(displacement / length) : Eigen::Vector3d::Zero()) {
    contact_.distance = length;
  }

  Eigen::Vector3d from_;
  double radius_;
  std::uint32_t purpose_;
  bool moves_;
  AxesAlong axes_;
  Contact contact_;
};

}  // namespace alpglow
