#include "alpglow/camera/inspection.hpp"

#include "../base/save_state.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

Inspection::Inspection(const InspectionSettings& settings, InspectionTurns turns)
    : settings_(settings),
      turns_(turns),
      distance_(std::clamp(settings.distance, settings.range.nearest, settings.range.farthest)) {}

void Inspection::step(double dt, const Intent& intent, double roll) {
  if (!std::isfinite(dt) || dt < 0) return;
  if (std::isfinite(roll)) roll_ = wrapAngle(roll_ + std::clamp(roll, -1.0, 1.0) * settings_.rollRate * dt);
  const auto advance = [&](double seconds, const PlayedRates& rates) {
    look_.advance(seconds, rates.turn, rates.turnScale, settings_.look, settings_.pitch);
    distance_.advance(seconds, rates.zoomRate, settings_.zoom, settings_.range);
  };
  playIntent(intent, held_, dt, advance, [&](const IntentSample& sample) {
    // A hand that moves right carries the near side to the right: the camera goes left around it, which is the same yaw
    // as looking right. Down likewise.
    if (sample.kind == IntentSample::Kind::look) look_.displace({sample.x, sample.y}, settings_.look, settings_.pitch);
    if (sample.kind == IntentSample::Kind::zoom) distance_.zoom(sample.x, settings_.zoom, settings_.range);
  });
}

View Inspection::view(const Eigen::Vector3d& centre, double aspect) {
  View view;
  const LookAngles look = turns_ == InspectionTurns::camera ? look_.shown() : LookAngles();
  view.yaw = view.heading = look.yaw;
  view.pitch = look.pitch;
  view.roll = turns_ == InspectionTurns::camera ? roll_ : 0;
  view.pivot = view.head = centre;
  view.distance = view.freeDistance = view.clearDistance = distance_.shown();
  view.position = view.freePosition = centre + distance_.shown() * view.rotation().col(2);
  view.fieldOfView = settings_.lens.lens().verticalFieldOfView();
  view.aspect = aspect;
  view.nearPlane = settings_.nearPlane;
  view.farPlane = settings_.farPlane;
  return last_.show(view);
}

Eigen::Quaterniond Inspection::thing() const {
  if (turns_ == InspectionTurns::camera) return Eigen::Quaterniond::Identity();
  const LookAngles look = look_.shown();
  return Eigen::Quaterniond(rotationOf(look.yaw, look.pitch, roll_).transpose());
}

template class Saveable<Inspection>;

}  // namespace alpglow
