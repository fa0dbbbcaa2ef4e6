#include "alpglow/framing/group_fit.hpp"

#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

using Eigen::Vector3d;

namespace {

/// The two edges of a direction of the picture.
struct Edges {
  double tangent = 1, high = -std::numeric_limits<double>::infinity(), low = high;

  void add(double across, double depth, double radius) {
    const double beside = radius * std::sqrt(1 + tangent * tangent);
    high = std::max(high, across - depth * tangent + beside);
    low = std::max(low, -across - depth * tangent + beside);
  }
  double depth() const { return -(high + low) / (2 * tangent); }
  double middle() const { return (high - low) / 2; }
};

}  // namespace

GroupPlace fitGroup(Span<const Ball> balls, const LookAngles& look, double fieldOfView, double aspect, double margin,
                    double nearest) {
  if (balls.empty()) return {};
  const Eigen::Matrix3d axes = rotationOf(look.yaw, look.pitch);
  const double up = std::tan(fieldOfView / 2) * (1 - margin);
  Edges wide, high;
  wide.tangent = up * aspect;
  high.tangent = up;
  Vector3d middle(0, 0, 0);
  double front = std::numeric_limits<double>::infinity();
  const Vector3d origin = balls[0].centre;
  for (const Ball& ball : balls) {
    const Vector3d seen = axes.transpose() * (ball.centre - origin);
    wide.add(seen.x(), -seen.z(), ball.radius);
    high.add(seen.y(), -seen.z(), ball.radius);
    front = std::min(front, -seen.z() - ball.radius);
    middle += seen / static_cast<double>(balls.size());
  }
  const double depth = std::min({wide.depth(), high.depth(), front - nearest});
  const Vector3d place(wide.middle(), high.middle(), -depth);
  return {origin + axes * place, -middle.z() - depth};
}

double lensFor(Span<const Ball> balls, const Vector3d& position, const LookAngles& look, double aspect, double margin) {
  const Eigen::Matrix3d axes = rotationOf(look.yaw, look.pitch);
  double most = 0;
  for (const Ball& ball : balls) {
    const Vector3d seen = axes.transpose() * (ball.centre - position);
    const auto tangent = [&](double across) {
      const double away = std::hypot(across, seen.z());
      const double angle =
          away > ball.radius ? std::atan2(std::abs(across), -seen.z()) + std::asin(ball.radius / away) : pi;
      return angle < degrees(89) ? std::tan(angle) : std::numeric_limits<double>::infinity();
    };
    most = std::max({most, tangent(seen.x()) / aspect, tangent(seen.y())});
  }
  return std::isfinite(most) ? 2 * std::atan(most / (1 - margin)) : pi;
}

}  // namespace alpglow
