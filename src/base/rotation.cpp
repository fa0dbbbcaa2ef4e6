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

Eigen::Vector3d rotationVector(const Rotation& rotation) {
  const double sine = rotation.vec().norm();
  if (sine == 0) return Eigen::Vector3d::Zero();
  const double angle = wrapAngle(2 * std::atan2(sine, rotation.w()));
  return rotation.vec() * (angle / sine);
}

Rotation rotationBy(const Eigen::Vector3d& vector) {
  const double angle = vector.norm();
  if (angle == 0) return Rotation::Identity();
  return Rotation(Eigen::AngleAxisd(angle, vector / angle));
}

}  // namespace alpglow
