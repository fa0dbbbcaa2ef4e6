#pragma once
// Storage for vectors inside values that are copied byte by byte (Eigen's own types are not trivially copyable).
// Only for members: compute with Eigen's types, store as these.

#include <Eigen/Core>
#include <Eigen/Geometry>

namespace alpglow {

struct StoredVector3 {
  double x = 0, y = 0, z = 0;

  StoredVector3() = default;
  template <class Derived>
  StoredVector3(const Eigen::MatrixBase<Derived>& expression) {
    const Eigen::Vector3d v = expression;
    x = v.x(), y = v.y(), z = v.z();
  }
  operator Eigen::Vector3d() const { return {x, y, z}; }
  Eigen::Vector3d vector() const { return {x, y, z}; }
};

/// A rotation without demands on alignment.
using Rotation = Eigen::Quaternion<double, Eigen::DontAlign>;

struct StoredRotation {
  double w = 1, x = 0, y = 0, z = 0;

  StoredRotation() = default;
  StoredRotation(const Rotation& q) : w(q.w()), x(q.x()), y(q.y()), z(q.z()) {}
  Rotation rotation() const { return {w, x, y, z}; }
};

}  // namespace alpglow
