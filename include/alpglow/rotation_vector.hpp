#pragma once
// A rotation as a vector: its axis times its angle, at most half a turn.

#include "alpglow/angles.hpp"
#include "alpglow/plain.hpp"

#include <Eigen/Geometry>

namespace alpglow {

inline Eigen::Vector3d rotationVector(const Rotation& rotation) {
  const double sine = rotation.vec().norm();
  if (sine == 0) return Eigen::Vector3d::Zero();
  const double angle = wrapAngle(2 * std::atan2(sine, rotation.w()));
  return rotation.vec() * (angle / sine);
}

inline Rotation rotationBy(const Eigen::Vector3d& vector) {
  const double angle = vector.norm();
  if (angle == 0) return Rotation::Identity();
  return Rotation(Eigen::AngleAxisd(angle, vector / angle));
}

}  // namespace alpglow
