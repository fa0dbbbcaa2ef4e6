#pragma once
// A box along the axes, around whatever there is.
//
//   const Bounds near = Bounds::around(head, 0.5).with(camera).grown(radius);
//   if (near.touches(boundsOf(shape))) use(shape);

#include <Eigen/Core>

#include <limits>

namespace alpglow {

/// Empty as it is made.
struct Bounds {
  Eigen::Vector3d low = Eigen::Vector3d::Constant(std::numeric_limits<double>::infinity());
  Eigen::Vector3d high = Eigen::Vector3d::Constant(-std::numeric_limits<double>::infinity());

  static Bounds around(const Eigen::Vector3d& point, double reach = 0) {
    return {point.array() - reach, point.array() + reach};
  }
  static Bounds everything() {
    const double infinity = std::numeric_limits<double>::infinity();
    return {Eigen::Vector3d::Constant(-infinity), Eigen::Vector3d::Constant(infinity)};
  }
  bool empty() const { return !(low.array() <= high.array()).all(); }
  Bounds with(const Eigen::Vector3d& point) const { return {low.cwiseMin(point), high.cwiseMax(point)}; }
  Bounds with(const Bounds& other) const { return {low.cwiseMin(other.low), high.cwiseMax(other.high)}; }
  Bounds grown(double reach) const { return {low.array() - reach, high.array() + reach}; }
  Bounds moved(const Eigen::Vector3d& by) const { return {low + by, high + by}; }
  bool touches(const Bounds& other) const {
    return low.x() <= other.high.x() && other.low.x() <= high.x() && low.y() <= other.high.y() &&
           other.low.y() <= high.y() && low.z() <= other.high.z() && other.low.z() <= high.z();
  }
  bool holds(const Bounds& other) const {
    return (low.array() <= other.low.array()).all() && (other.high.array() <= high.array()).all();
  }
  bool holds(const Eigen::Vector3d& point) const { return holds(around(point)); }
  Eigen::Vector3d centre() const { return (low + high) / 2; }
};

}  // namespace alpglow
