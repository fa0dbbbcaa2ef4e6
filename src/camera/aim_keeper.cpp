#include "alpglow/camera/aim_keeper.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/camera/subject_tracker.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double farAim = 500;        // where the crosshair ends if it hits nothing, metres
constexpr double nothingAhead = 1e6;  // … and then its direction is kept, metres
constexpr double settled = 1e-6;      // radians that are not worth another sweep

}  // namespace

AimFrame aimFrameOn(const FrameFollow& follow, const FramingPose& pose) {
  const double scale = follow.scale();
  return {follow.level(), anchorOn(follow, pose), {pose.shoulder * scale, pose.tilt, pose.distance * scale}};
}

void AimKeeper::begin(const AimFrame& frame, const LookAngles& look, double predictedYaw) {
  if (kept_.on()) return;
  kept_.begin(frame, look, cleared_, distance_, ahead_);
  kept_.predict(predictedYaw);
}

void AimKeeper::look(const Obstacles& obstacles) {
  if (!kept_.guessed()) return;
  const Contact contact = obstacles.cast(kept_.rayStart(), farAim * kept_.rayDirection());
  kept_.setAhead(contact.hit() ? contact.distance : nothingAhead);
}

LookAngles AimKeeper::step(const AimFrame& frame, const LookAngles& look, const PitchLimits& limits,
                           double predictedYaw) {
  kept_.carriedTo(predictedYaw);
  return kept_.step(frame, look, limits);
}

LookAngles AimKeeper::stepClear(const Rotation& level, const Vector3d& pivot, double distance) {
  const LookAngles turn = kept_.stepClear(level, pivot, distance);
  return std::hypot(turn.yaw, turn.pitch) < settled ? LookAngles() : turn;
}

void AimKeeper::pointMoved(const Vector3d& by) {
  if (legalPosition(kept_.point() + by)) kept_.pointMoved(by);
}

Crosshair AimKeeper::crosshair(const PullInPose& pose, const Rotation& level, const LookAngles& look,
                               const Obstacles& obstacles) {
  Crosshair crosshair;
  const Vector3d ahead = level * Vector3d(-rotationOf(look.yaw, look.pitch).col(2));
  const double start = std::max((pose.pivot - pose.camera).dot(ahead), 0.0);
  const Contact contact = obstacles.cast(pose.camera + start * ahead, farAim * ahead);
  crosshair.obstacle = contact.hit() ? contact.obstacle : noObstacle;
  crosshair.distance = start + (contact.hit() ? contact.distance : farAim);
  crosshair.point = pose.camera + crosshair.distance * ahead;
  const Vector3d toKept = kept_.point() - pose.camera;
  crosshair.error = kept_.on() ? std::atan2(ahead.cross(toKept).norm(), ahead.dot(toKept)) : 0;
  crosshair.kept = kept_.reached();
  distance_ = pose.distance;
  ahead_ = (crosshair.point - pose.pivot).norm();
  return crosshair;
}

}  // namespace alpglow
