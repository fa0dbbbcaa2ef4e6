#include "alpglow/camera/flying_camera.hpp"

#include "../base/save_state.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

FlyingCamera::FlyingCamera(const FlightSettings& settings, const Vector3d& position, const LookAngles& look)
    : settings_(settings),
      position_(position),
      look_(limited(look, settings.pitch)),
      stored_{position, look_.shown()} {}

void FlyingCamera::setPose(const Vector3d& position, const LookAngles& look) {
  if (!legalPosition(position) || !legalNumber(look.yaw) || !legalNumber(look.pitch)) return;
  position_ = position;
  velocity_ = StoredVector3();
  look_ = Look(limited(look, settings_.pitch));
  cutNext_ = true;
}

void FlyingCamera::step(double dt, const Intent& intent, Rate move, double rise, bool fast) {
  if (!legalTime(dt) || !std::isfinite(rise)) return;
  const auto advance = [&](double seconds, const PlayedRates& rates) {
    look_.advance(seconds / 2, rates.turn, rates.turnScale, settings_.look, settings_.pitch);
    fly(seconds, look_.shown(), limitedToOne(move), rise, fast);
    look_.advance(seconds / 2, rates.turn, rates.turnScale, settings_.look, settings_.pitch);
  };
  playIntent(intent, held_, dt, advance, [&](const IntentSample& sample) {
    if (sample.kind == IntentSample::Kind::look) look_.displace({sample.x, sample.y}, settings_.look, settings_.pitch);
  });
}

void FlyingCamera::fly(double seconds, const LookAngles& look, Rate move, double rise, bool fast) {
  const auto axes = [&look](FlightFrame frame) {
    return rotationOf(look.yaw, frame == FlightFrame::view ? look.pitch : 0);
  };
  const Eigen::Matrix3d ahead = axes(settings_.ahead), up = axes(settings_.up);
  Vector3d direction = ahead.col(0) * move.x - ahead.col(2) * move.y + up.col(1) * std::clamp(rise, -1.0, 1.0);
  direction /= std::max(direction.norm(), 1.0);
  const Vector3d goal = direction * settings_.topSpeed * (fast ? settings_.fastFactor : 1.0);
  const double constant = goal.norm() > 0 ? settings_.acceleration : settings_.braking;
  if (constant > 0) return flyEvenly(seconds, goal, constant);
  const double halfLife = goal.norm() > 0 ? settings_.accelerateHalfLife : settings_.brakeHalfLife;
  const double u = decay(halfLife, seconds);
  const Vector3d excess = velocity_.vector() - goal;
  position_ = position_.vector() + goal * seconds + excess * (seconds * meanDecay(u));
  if (seconds > 0) velocity_ = goal + excess * std::exp(-u);
}

/// The velocity goes straight to its goal, and stays there.
void FlyingCamera::flyEvenly(double seconds, const Vector3d& goal, double acceleration) {
  const Vector3d before = velocity_, missing = goal - before;
  const double needed = missing.norm() / acceleration, changing = std::min(seconds, needed);
  const Vector3d after = changing < needed ? Vector3d(before + missing * (changing / needed)) : goal;
  position_ = position_.vector() + (before + after) * (changing / 2) + goal * (seconds - changing);
  velocity_ = after;
}

View FlyingCamera::view(double aspect) {
  View view;
  view.position = view.pivot = view.head = view.freePosition = position_;
  const LookAngles look = look_.shown();
  view.yaw = view.heading = look.yaw;
  view.pitch = look.pitch;
  view.fieldOfView = settings_.lens.lens().verticalFieldOfView();
  view.aspect = aspect;
  view.nearPlane = settings_.nearPlane;
  view.farPlane = settings_.farPlane;
  view.opacity = 0;
  view.cut = cutNext_;
  view.events = cutNext_ ? Event::cut : 0u;
  view = last_.show(view);
  cutNext_ &= view.faults != 0;
  return view;
}

template class Saveable<FlyingCamera>;

}  // namespace alpglow
