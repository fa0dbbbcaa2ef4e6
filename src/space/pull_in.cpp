#include "alpglow/space/pull_in.hpp"

#include <algorithm>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double skin = 1e-3;
constexpr double smallestNear = 1e-3;
constexpr double unseen = 1e-3;  // metres from where it would be
constexpr double infinity = std::numeric_limits<double>::infinity();

/// The clear part of a way, or infinity where nothing limits it.
double limitOf(const ClearFraction& clear, double length) {
  return clear.obstacle == noObstacle ? infinity : clear.fraction * length;
}

}  // namespace

ClearFraction clearFraction(const Obstacles& obstacles, const Vector3d& from, const Vector3d& to, double radius) {
  const Vector3d displacement = to - from;
  const double length = displacement.norm();
  if (!(length > 1e-8)) return {};
  const Contact contact = obstacles.sweep(from, displacement, radius);
  if (!contact.hit()) return {};
  return {std::clamp((contact.distance - skin) / length, 0.0, 1.0), contact.obstacle};
}

PullInPose PullIn::step(const PullInRequest& request, const Obstacles& obstacles, double dt,
                        const EaseOutSettings& settings) {
  PullInPose pose;
  const double headClearance = obstacles.clearance(request.head, request.radius + skin);
  const double shrink = std::clamp(headClearance / (request.radius + skin), 0.0, 1.0);
  pose.nearPlane = std::max(request.nearPlane * shrink, std::min(smallestNear, request.nearPlane));
  pose.headBlocked = request.nearPlane * shrink < pose.nearPlane;
  const double radius = request.radius * (pose.nearPlane / request.nearPlane);
  if (pose.headBlocked) {  // no way at all; what is known of the way stays, and the camera eases out again
    whole_.close();
    pulledIn_ = true;
    pose.pivot = pose.camera = request.head;
    return pose;
  }

  const ClearFraction toPivot = clearFraction(obstacles, request.head, request.pivot, radius);
  const double pivotShare = toPivot_.step(1.0, limitOf(toPivot, 1.0), dt, settings);
  const Vector3d pivot = request.head + pivotShare * (request.pivot - request.head);

  const ClearFraction toCamera = clearFraction(obstacles, pivot, pivot + request.distance * request.back, radius);
  const double distance = distance_.step(request.distance, limitOf(toCamera, request.distance), dt, settings);
  const Vector3d camera = pivot + distance * request.back;

  const ClearFraction whole = clearFraction(obstacles, request.head, camera, radius);
  const double share = whole_.step(1.0, limitOf(whole, 1.0), dt, settings);

  pose.pivot = request.head + share * (pivot - request.head);
  pose.camera = request.head + share * (camera - request.head);
  pose.distance = share * distance;
  const Vector3d free = request.pivot + request.distance * request.back;
  pulledIn_ = limiting() && (pose.camera - free).norm() > unseen;
  for (const ClearFraction* leg : {&whole, &toCamera, &toPivot}) {
    if (leg->obstacle != noObstacle) pose.obstacle = leg->obstacle;
  }
  return pose;
}

}  // namespace alpglow
