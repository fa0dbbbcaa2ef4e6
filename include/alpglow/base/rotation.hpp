#pragma once
// Rotations: of a camera by yaw, pitch and roll, and as vectors (axis times angle, at most half a turn).
//
//   const Eigen::Matrix3d axes = rotationOf(yaw, pitch);          // columns: right, up, backward
//   const Rotation half = rotationBy(0.5 * rotationVector(rotation));

#include "alpglow/base/angles.hpp"
#include "alpglow/base/stored_vector.hpp"

#include <Eigen/Geometry>

namespace alpglow {

/// The rotation of a camera: yaw about up, then pitch about its own right, then roll about its backward axis; radians.
/// Columns are its right, up and backward. Non-finite angles give a matrix that is not finite.
Eigen::Matrix3d rotationOf(double yaw, double pitch, double roll = 0);

/// The axis of a rotation times its angle, radians, of length at most π; zero for no rotation.
Eigen::Vector3d rotationVector(const Rotation& rotation);

/// The rotation about `vector` by its length, radians.
Rotation rotationBy(const Eigen::Vector3d& vector);

}  // namespace alpglow
