#pragma once
// The host's own axes and units, stated once.
//
// Alpglow computes with x right, y up, −z forward, in metres; yaw and heading are 0 along forward and grow to the left.
// A host says where its own right, up and forward point, how many of its units make a metre and which way its yaw
// grows; everything then goes in and comes out in the host's terms, in float or double.
//
//   HostAxes axes;                                          // left-handed, z up, x forward, centimetres
//   axes.right = Eigen::Vector3d::UnitY();
//   axes.up = Eigen::Vector3d::UnitZ();
//   axes.forward = Eigen::Vector3d::UnitX();
//   axes.unitsPerMetre = 100;
//   axes.positiveYaw = YawSense::right;
//   subject.head = axes.fromHost(head);                     // Eigen::Vector3f or Vector3d, in centimetres
//   subject.heading = axes.headingFromHost(yaw);
//   const Eigen::Vector3f eye = axes.toHost<float>(view.position);

#include <Eigen/Core>

#include <string>

namespace alpglow {

/// Along which z the host's cameras look in view space. x is right and y is up in both.
enum class ViewForward { minusZ, plusZ };

/// Which way a yaw or heading of the host grows, seen from above.
enum class YawSense { left, right };

struct HostAxes {
  /// Unit vectors along the host's axes, at right angles to each other. Left-handed sets are welcome.
  Eigen::Vector3d right{1, 0, 0};
  Eigen::Vector3d up{0, 1, 0};
  Eigen::Vector3d forward{0, 0, -1};
  /// How many host units make a metre; more than 0.
  double unitsPerMetre = 1;
  ViewForward viewForward = ViewForward::minusZ;
  YawSense positiveYaw = YawSense::left;

  /// Turns directions in our axes into directions in the host's: its columns are the images of x, y and z.
  Eigen::Matrix3d basis() const;
  bool leftHanded() const;

  /// Positions, displacements, velocities and accelerations: metres into units of the host and back. Scalar: float or
  /// double.
  template <class Scalar = double>
  Eigen::Matrix<Scalar, 3, 1> toHost(const Eigen::Vector3d& metres) const;
  Eigen::Vector3d fromHost(const Eigen::Vector3d& units) const;
  Eigen::Vector3d fromHost(const Eigen::Vector3f& units) const;

  /// Directions, normals: the length stays as it is.
  template <class Scalar = double>
  Eigen::Matrix<Scalar, 3, 1> directionToHost(const Eigen::Vector3d& direction) const;
  Eigen::Vector3d directionFromHost(const Eigen::Vector3d& direction) const;
  Eigen::Vector3d directionFromHost(const Eigen::Vector3f& direction) const;

  /// A rotation of ours as the rotation of the host's space that does the same, and back. It is proper for left-handed
  /// axes too: Eigen::Quaternion<Scalar>(…) of it is the host's quaternion. Of an object it is the orientation if the
  /// object's own right, up and forward are along the host's when it is not turned.
  template <class Scalar = double>
  Eigen::Matrix<Scalar, 3, 3> rotationToHost(const Eigen::Matrix3d& rotation) const;
  Eigen::Matrix3d rotationFromHost(const Eigen::Matrix3d& rotation) const;
  Eigen::Matrix3d rotationFromHost(const Eigen::Matrix3f& rotation) const;
  /// How fast something spins, radians per second, along its axis: in either axes a point at `arm` from the axis moves
  /// with spin.cross(arm).
  template <class Scalar = double>
  Eigen::Matrix<Scalar, 3, 1> spinToHost(const Eigen::Vector3d& spin) const;
  Eigen::Vector3d spinFromHost(const Eigen::Vector3d& spin) const;
  Eigen::Vector3d spinFromHost(const Eigen::Vector3f& spin) const;

  /// Yaws, headings and their rates, in radians: 0 along forward, growing as `positiveYaw` says.
  double headingToHost(double heading) const { return positiveYaw == YawSense::left ? heading : -heading; }
  double headingFromHost(double heading) const { return headingToHost(heading); }

  double lengthToHost(double metres) const { return metres * unitsPerMetre; }
  double lengthFromHost(double units) const { return units / unitsPerMetre; }
};

/// What is wrong with them, in one line: a number that is not finite, axes that are not of unit length or not at right
/// angles (to a thousandth), units that are not more than 0. Empty if nothing is; for when a host starts.
std::string problemOf(const HostAxes& axes);

}  // namespace alpglow
