#include "alpglow/camera/shot_search.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/space/look_past.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr int pitches = 3;

bool sees(const Vector3d& from, const Ball& ball, const Obstacles& obstacles) {
  const Vector3d way = ball.centre - from;
  const double length = way.norm(), open = length - ball.radius;
  return open <= 0 || !obstacles.cast(from, way * (open / length), Purpose::sight).hit();
}

bool free(const Vector3d& position, double radius, const Obstacles& obstacles) {
  return obstacles.clearance(position, 2 * radius) >= radius && !touchesLarge(position, radius, obstacles);
}

}  // namespace

std::optional<Shot> searchShot(const Ball& one, const Ball& other, const LookAngles& from, const Obstacles& obstacles,
                               double aspect, const ShotSettings& settings) {
  const bool legal = reachablePoint(one.centre) && reachablePoint(other.centre) && one.radius >= 0 &&
                     other.radius >= 0 && std::isfinite(one.radius + other.radius + from.yaw + from.pitch) &&
                     legalAspect(aspect) && settings.directions > 0 && settings.farthest > 0;
  if (!legal) return std::nullopt;
  const Ball both[] = {one, other};
  const Vector3d apart = other.centre - one.centre;
  const Vector3d line = apart.norm() > 1e-9 ? Vector3d(apart.normalized()) : Vector3d(0, 0, 0);
  const double radius = nearPlaneRadius(settings.nearPlane, settings.fieldOfView, aspect);
  std::optional<Shot> best;
  for (int i = 0; i < settings.directions; ++i) {
    for (int k = 0; k < pitches; ++k) {
      const double share = static_cast<double>(k) / (pitches - 1);
      const LookAngles look{wrapAngle(from.yaw + 2 * pi * i / settings.directions),
                            settings.lowest + share * (settings.highest - settings.lowest)};
      const GroupPlace place = fitGroup(both, look, settings.fieldOfView, aspect, settings.margin, settings.nearPlane);
      if (!(place.distance <= settings.farthest)) continue;
      const Vector3d back = rotationOf(look.yaw, look.pitch).col(2);
      const double turn = std::abs(shortestTurn(from.yaw, look.yaw)) + std::abs(look.pitch - from.pitch);
      const double cost = settings.overlap * std::abs(line.dot(back)) +
                          settings.distance * place.distance / settings.farthest + settings.turn * turn / pi;
      if (best && cost >= best->cost) continue;
      if (!free(place.position, radius, obstacles) || !sees(place.position, one, obstacles) ||
          !sees(place.position, other, obstacles))
        continue;
      best = Shot{place.position, look, settings.fieldOfView, cost};
    }
  }
  return best;
}

}  // namespace alpglow
