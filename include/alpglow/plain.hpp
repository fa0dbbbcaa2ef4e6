#pragma once
// Storage for vectors inside values that are copied byte by byte (Eigen's own types are not trivially copyable).
// Only for members: compute with Eigen::Vector3d, store as Plain3.

#include <Eigen/Core>

namespace alpglow {

struct Plain3 {
  double x = 0, y = 0, z = 0;

  Plain3() = default;
  template <class Derived>
  Plain3(const Eigen::MatrixBase<Derived>& expression) {
    const Eigen::Vector3d v = expression;
    x = v.x(), y = v.y(), z = v.z();
  }
  operator Eigen::Vector3d() const { return {x, y, z}; }
  Eigen::Vector3d vector() const { return {x, y, z}; }
};

}  // namespace alpglow
