#pragma once
// The host's own axes and units, stated once.
//
// Alpglow computes with x right, y up, −z forward, in metres. A host says where its own right, up and forward point
// and how many of its units make a metre; positions, orientations and view matrices then come in the host's terms.
//
//   HostAxes axes;                       // z up, y forward, centimetres
//   axes.up = Eigen::Vector3d::UnitZ();
//   axes.forward = Eigen::Vector3d::UnitY();
//   axes.unitsPerMetre = 100;
//   const Vector3d p = axes.toHost(view.position);

#include <Eigen/Core>

namespace alpglow {

/// Along which z the host's cameras look in view space. x is right and y is up in both.
enum class ViewForward { minusZ, plusZ };

struct HostAxes {
  /// Unit vectors along the host's axes, at right angles to each other. Left-handed sets are welcome.
  Eigen::Vector3d right = Eigen::Vector3d::UnitX();
  Eigen::Vector3d up = Eigen::Vector3d::UnitY();
  Eigen::Vector3d forward = -Eigen::Vector3d::UnitZ();
  /// How many host units make a metre; more than 0.
  double unitsPerMetre = 1;
  ViewForward viewForward = ViewForward::minusZ;

  /// Turns directions in our axes into directions in the host's: its columns are the images of x, y and z.
  Eigen::Matrix3d basis() const {
    Eigen::Matrix3d columns;
    columns << right, up, -forward;
    return columns;
  }
  Eigen::Vector3d toHost(const Eigen::Vector3d& metres) const { return unitsPerMetre * (basis() * metres); }
  Eigen::Vector3d fromHost(const Eigen::Vector3d& units) const { return basis().transpose() * units / unitsPerMetre; }
  /// A rotation of ours, as the rotation of the host's space that does the same.
  Eigen::Matrix3d rotationToHost(const Eigen::Matrix3d& rotation) const {
    return basis() * rotation * basis().transpose();
  }
};

}  // namespace alpglow
