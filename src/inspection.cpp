#include "alpglow/inspection.hpp"

#include "alpglow/movement.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

Inspection::Inspection(const InspectionSettings& settings, InspectionTurns turns)
    : settings_(settings),
      turns_(turns),
      distance_(std::clamp(settings.distance, settings.range.nearest, settings.range.farthest)) {}

void Inspection::step(double dt, const Intent& intent) {
  if (!std::isfinite(dt) || dt < 0) return;
  const Rate scale = std::isfinite(intent.turnScale.x + intent.turnScale.y) ? intent.turnScale : Rate{1, 1};
  Rate turn = limitedToOne(intent.turn);
  double zoomRate = std::isfinite(intent.zoomRate) ? intent.zoomRate : 0;
  double now = 0;
  const auto passUntil = [&](double time) {
    const double seconds = std::max(time - now, 0.0);
    look_.pass(seconds, turn, scale, settings_.look, settings_.pitch);
    distance_.pass(seconds, zoomRate, settings_.zoom, settings_.range);
    now += seconds;
  };
  for (const IntentSample& sample : intent.samples) {
    if (!std::isfinite(sample.time) || !std::isfinite(sample.x) || !std::isfinite(sample.y)) continue;
    passUntil(std::min(sample.time, dt));
    switch (sample.kind) {
      // A hand that moves right carries the near side to the right: the camera goes left around it, which is the same
      // yaw as looking right. Down likewise.
      case IntentSample::Kind::look: look_.displace({sample.x, sample.y}, settings_.look, settings_.pitch); break;
      case IntentSample::Kind::turn: turn = limitedToOne({sample.x, sample.y}); break;
      case IntentSample::Kind::zoom: distance_.zoom(sample.x, settings_.zoom, settings_.range); break;
      case IntentSample::Kind::zoomRate: zoomRate = sample.x; break;
      case IntentSample::Kind::freeLook: break;
    }
  }
  passUntil(dt);
}

View Inspection::view(const Eigen::Vector3d& centre, double aspect) const {
  View view;
  const LookAngles look = turns_ == InspectionTurns::camera ? look_.shown() : LookAngles();
  view.yaw = view.heading = look.yaw;
  view.pitch = look.pitch;
  view.pivot = view.head = centre;
  view.distance = view.freeDistance = distance_.shown();
  view.position = centre + distance_.shown() * view.rotation().col(2);
  view.fieldOfView = settings_.lens.lens().verticalFieldOfView();
  view.aspect = aspect;
  view.near = settings_.near;
  view.far = settings_.far;
  return view;
}

Eigen::Quaterniond Inspection::thing() const {
  if (turns_ == InspectionTurns::camera) return Eigen::Quaterniond::Identity();
  const LookAngles look = look_.shown();
  return Eigen::Quaterniond(rotationOf(look.yaw, look.pitch).transpose());
}

}  // namespace alpglow
