#include "alpglow/view/shake.hpp"

#include "alpglow/framing/lens.hpp"
#include "alpglow/space/guarded_obstacles.hpp"
#include "alpglow/space/pull_in.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

View shaken(const View& view, const Shake& shake, const Obstacles& world) {
  const Vector3d moved = view.rotation() * Vector3d(shake.right, shake.up, shake.back);
  if (!moved.allFinite() || !std::isfinite(shake.yaw + shake.pitch + shake.roll)) return view;
  View shown = view;
  shown.yaw = wrapAngle(view.yaw + shake.yaw);
  shown.pitch = std::clamp(view.pitch + shake.pitch, -pi / 2, pi / 2);
  shown.roll = wrapAngle(view.roll + shake.roll);
  if (moved.isZero(0)) return shown;
  const GuardedObstacles obstacles(world);
  const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
  const Vector3d goal = view.position + moved;
  const Vector3d there =
      view.position + clearFraction(obstacles, view.position, goal, radius).fraction * (goal - view.position);
  constexpr double line = 1e-3;  // metres
  if (obstacles.sweepLarge(view.position, there - view.position, radius).hit()) return shown;
  if (clearFraction(obstacles, view.head, there, std::min(line, radius)).fraction == 1) shown.position = there;
  return shown;
}

}  // namespace alpglow
