#pragma once
// A box along the axes, around whatever there is.
//
//   const Bounds near = Bounds::around(head, 0.5).with(camera).grown(radius);
//   if (near.touches(boundsOf(shape))) use(shape);

#include <Eigen/Core>

#include <limits>

namespace alpglow {

/// Empty as it is made. Written number by number: every header would pay for Eigen's expressions.
struct Bounds {
  static constexpr double infinity = std::numeric_limits<double>::infinity();
  Eigen::Vector3d low{infinity, infinity, infinity}, high{-infinity, -infinity, -infinity};

  static Bounds around(const Eigen::Vector3d& point, double reach = 0) {
    return {{point.x() - reach, point.y() - reach, point.z() - reach},
            {point.x() + reach, point.y() + reach, point.z() + reach}};
  }
  static Bounds everything() { return {{-infinity, -infinity, -infinity}, {infinity, infinity, infinity}}; }
  bool empty() const { return !(low.x() <= high.x() && low.y() <= high.y() && low.z() <= high.z()); }
  Bounds with(const Eigen::Vector3d& point) const { return with(point, point); }
  Bounds with(const Bounds& other) const { return with(other.low, other.high); }
  Bounds grown(double reach) const {
    return {{low.x() - reach, low.y() - reach, low.z() - reach},
            {high.x() + reach, high.y() + reach, high.z() + reach}};
  }
  Bounds moved(const Eigen::Vector3d& by) const {
    return {{low.x() + by.x(), low.y() + by.y(), low.z() + by.z()},
            {high.x() + by.x(), high.y() + by.y(), high.z() + by.z()}};
  }
  bool touches(const Bounds& other) const {
    return low.x() <= other.high.x() && other.low.x() <= high.x() && low.y() <= other.high.y() &&
           other.low.y() <= high.y() && low.z() <= other.high.z() && other.low.z() <= high.z();
  }
  bool holds(const Bounds& other) const {
    return low.x() <= other.low.x() && low.y() <= other.low.y() && low.z() <= other.low.z() &&
           other.high.x() <= high.x() && other.high.y() <= high.y() && other.high.z() <= high.z();
  }
  bool holds(const Eigen::Vector3d& point) const {
    return low.x() <= point.x() && low.y() <= point.y() && low.z() <= point.z() && point.x() <= high.x() &&
           point.y() <= high.y() && point.z() <= high.z();
  }
  Eigen::Vector3d centre() const {
    return {(low.x() + high.x()) / 2, (low.y() + high.y()) / 2, (low.z() + high.z()) / 2};
  }

 private:
  static double least(double a, double b) { return b < a ? b : a; }
  static double most(double a, double b) { return a < b ? b : a; }
  Bounds with(const Eigen::Vector3d& l, const Eigen::Vector3d& h) const {
    return {{least(low.x(), l.x()), least(low.y(), l.y()), least(low.z(), l.z())},
            {most(high.x(), h.x()), most(high.y(), h.y()), most(high.z(), h.z())}};
  }
};

}  // namespace alpglow
