#include "alpglow/aim_point.hpp"

#include "alpglow/view.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

AimSolution aimAt(const Vector3d& point, double shoulder, double tilt, double distance) {
  AimSolution solution;
  const double reach = std::hypot(point.x(), point.z()), side = std::abs(shoulder);
  if (!(reach > side) || !(reach > 1e-6)) return solution;
  const double ahead = std::sqrt(reach * reach - shoulder * shoulder), range = std::hypot(ahead, point.y());
  const double above = std::clamp(distance * std::sin(tilt) / range, -1.0, 1.0);
  solution.look = {wrapAngle(std::atan2(-point.x(), -point.z()) + std::asin(shoulder / reach)),
                   std::atan2(point.y(), ahead) - std::asin(above)};
  const double margin = std::max(0.2 * side, 0.02);
  const double s = std::min((reach - side) / margin, 1.0);
  solution.authority = s * s * (3 - 2 * s);
  return solution;
}

Vector3d turnedAim(const Vector3d& point, double shoulder, const LookAngles& from, const LookAngles& to) {
  const Eigen::Matrix3d before = rotationOf(from.yaw, 0), after = rotationOf(to.yaw, 0);
  const Vector3d turned = after * (before.transpose() * point), pivot = shoulder * after.col(0);
  const Eigen::AngleAxisd pitch(to.pitch - from.pitch, Vector3d(after.col(0)));
  return pivot + pitch * Vector3d(turned - pivot);
}

}  // namespace alpglow
