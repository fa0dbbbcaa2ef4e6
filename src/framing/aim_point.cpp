#include "alpglow/framing/aim_point.hpp"

#include "alpglow/base/capped_approach.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

AimSolution aimAt(const Vector3d& point, const AimAxis& axis) {
  AimSolution solution;
  const double reach = std::hypot(point.x(), point.z()), side = std::abs(axis.shoulder);
  if (!(reach > 1e-6)) return solution;
  const double ahead = std::sqrt(std::max(reach * reach - side * side, 0.0)), range = std::hypot(ahead, point.y());
  const double above =
      axis.tilt == 0 || range == 0 ? 0 : std::asin(std::clamp(axis.distance * std::sin(axis.tilt) / range, -1.0, 1.0));
  solution.look = {
      wrapAngle(std::atan2(-point.x(), -point.z()) + std::asin(std::clamp(axis.shoulder / reach, -1.0, 1.0))),
      std::atan2(point.y(), ahead) - above};
  const double full = std::max(1.2 * side, 0.4), none = std::max(side, 0.2);
  solution.authority = eased((reach - none) / (full - none));
  return solution;
}

}  // namespace alpglow
