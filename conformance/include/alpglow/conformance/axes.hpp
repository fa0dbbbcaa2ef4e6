#pragma once
// A proof of `HostAxes` against the host's own matrices: truth and adapter may go through the same wrong axes, and
// agree.
//
//   const std::string wrong = conformance::proveAxes(axes, [](const conformance::Shot& shot, const Vector3d& point) {
//     const Matrix4 view = engine::lookAt(shot.eye, shot.target, shot.up);          // the engine's own functions
//     return engine::perspective(shot.fieldOfView, 1) * view * point;                // … to x and y on the screen
//   });

#include "alpglow/base/axes.hpp"

#include <Eigen/Core>

#include <functional>
#include <string>

namespace alpglow::conformance {

/// A camera of the host's, in its units and axes; the picture is square.
struct Shot {
  Eigen::Vector3d eye, target, up;
  /// Vertical, radians.
  double fieldOfView = 0;
};

/// Where the host's own functions draw a point (in its units) in such a picture: x to the right and y up, both −1 … 1
/// from edge to edge.
using Drawn = std::function<Eigen::Vector2d(const Shot& shot, const Eigen::Vector3d& point)>;

/// What is wrong with the axes, in one line, with what it looks like; empty if all of 200 points are drawn where they
/// should be, to a thousandth of the picture. The size of a unit does not show in a picture.
std::string proveAxes(const HostAxes& axes, const Drawn& drawn);

}  // namespace alpglow::conformance
