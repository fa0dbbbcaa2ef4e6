#include "alpglow/base/rotation.hpp"

#include <cmath>

namespace alpglow {

using Eigen::Matrix3d;
using Eigen::Vector3d;

Matrix3d rotationOf(double yaw, double pitch, double roll) {
  const double cy = std::cos(yaw), sy = std::sin(yaw), cp = std::cos(pitch), sp = std::sin(pitch);
  Matrix3d level;
  level << cy, sy * sp, sy * cp,  //
      0, cp, -sp,                 //
      -sy, cy * sp, cy * cp;
  if (roll == 0) return level;
  return level * Eigen::AngleAxisd(roll, Vector3d::UnitZ()).toRotationMatrix();
}

}  // namespace alpglow
