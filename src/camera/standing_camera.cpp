#include "alpglow/camera/standing_camera.hpp"

#include "../base/save_state.hpp"

#include "alpglow/space/guarded_obstacles.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double samePoint = 1e-6;  // metres
constexpr double straight = 1e-9;   // metres beside the vertical
constexpr double smallestNear = 1e-3;

Vector3d velocityOf(const ReferenceFrame* thing) { return thing != nullptr ? thing->velocity : Vector3d(0, 0, 0); }

}  // namespace

Vector3d StandPoint::on(const ReferenceFrame* thing) const {
  if (thing == nullptr) return point;
  return axes == PointAxes::thing ? thing->normalized().toWorld(point) : Vector3d(thing->origin + point);
}

void StandingCamera::trim(double pan, double tilt) {
  if (!std::isfinite(pan) || !std::isfinite(tilt)) return;
  settings_.pan = wrapAngle(pan);
  settings_.tilt = std::clamp(tilt, -pi / 2, pi / 2);
}

View StandingCamera::view(const ReferenceFrame* standsOn, const ReferenceFrame* looksAt, double aspect,
                          const Obstacles* obstacles) {
  View view;
  const Vector3d stand = settings_.stand.on(standsOn), displacement = settings_.look.on(looksAt) - stand;
  if (!legalAspect(aspect)) return last_.keep(Fault::badAspect);
  if (!legalPosition(stand) || !displacement.allFinite()) return last_.keep(Fault::badSubject);
  view.position = stand;
  view.aspect = aspect;
  const double across = std::hypot(displacement.x(), displacement.z());
  if (displacement.norm() <= samePoint) {
    view.faults |= Fault::samePoint;
  } else if (across <= straight) {
    view.faults |= Fault::noYaw;
    look_.pitch = std::copysign(pi / 2, displacement.y());
  } else {
    look_ = {std::atan2(-displacement.x(), -displacement.z()), std::atan2(displacement.y(), across)};
    const Vector3d moves = velocityOf(looksAt) - velocityOf(standsOn);
    const double closing = (displacement.x() * moves.x() + displacement.z() * moves.z()) / across;
    view.yawRate = (displacement.z() * moves.x() - displacement.x() * moves.z()) / (across * across);
    view.pitchRate = (across * moves.y() - displacement.y() * closing) / displacement.squaredNorm();
  }
  view.yaw = view.heading = wrapAngle(look_.yaw + settings_.pan);
  view.pitch = std::clamp(look_.pitch + settings_.tilt, -pi / 2, pi / 2);
  view.roll = settings_.roll;
  view.velocity = velocityOf(standsOn);
  view.fieldOfView = settings_.lens.lens().verticalFieldOfView();
  view.nearPlane = settings_.nearPlane;
  view.farPlane = settings_.farPlane;
  view.pivot = view.head = view.freePosition = view.position;
  if (obstacles != nullptr) {
    const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, aspect);
    const GuardedObstacles checked(*obstacles);
    const double clearance = checked.clearance(view.position, radius);
    if (checked.bad()) view.faults |= Fault::badObstacles;
    if (clearance < radius) {
      view.faults |= Fault::inBody;
      view.nearPlane = std::max(view.nearPlane * clearance / radius, std::min(smallestNear, view.nearPlane));
    }
  }
  return last_.show(view);
}

template class Saveable<StandingCamera>;

}  // namespace alpglow
