#include "alpglow/camera/aim_keeper.hpp"

#include "alpglow/base/rotation.hpp"
#include "alpglow/camera/subject_tracker.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double farAim = 500;        // where the crosshair ends if it hits nothing, metres
constexpr double nothingAhead = 1e6;  // … and then its direction is kept, metres
constexpr double keptWithin = degrees(0.1);

/// What a crosshair is on, from beside the pivot on. That may be within a wall, as only the camera keeps clear: then it
/// is on that, also where the wall is a mesh, which a ray meets from within.
Contact aimed(const Obstacles& obstacles, const Vector3d& from, const Vector3d& ahead) {
  constexpr double hardlyAway = 1e-6;
  Contact contact = obstacles.cast(from, farAim * ahead, Purpose::aim);
  if (contact.hit() && obstacles.clearance(from, hardlyAway) == 0) contact.distance = 0;
  return contact;
}

}  // namespace

AimFrame aimFrameOn(const FrameFollow& follow, const FramingPose& pose) {
  const double scale = follow.scale();
  return {follow.level(), anchorOn(follow, pose), {pose.shoulder * scale, pose.tilt, pose.distance * scale}};
}

AimFrame aimFramePlaced(const AimFrame& free, const PullInPose& pose, const LookAngles& look) {
  const Vector3d right = free.level * Vector3d(rotationOf(look.yaw, 0).col(0));
  const double tilt = free.axis.tilt - pose.stooped;
  return {free.level, pose.pivot - pose.shoulder * right, {pose.shoulder, tilt, pose.distance}};
}

bool AimKeeper::look(const Obstacles& obstacles) {
  if (!kept_.guessed()) return false;
  const Contact contact = aimed(obstacles, kept_.rayStart(), kept_.rayDirection());
  kept_.setAhead(contact.hit() ? contact.distance : nothingAhead);
  return true;
}

bool AimKeeper::canKeep(const FrameFollow& follow, PoseCourse shown, const LookAngles& look,
                        const PitchLimits& limits) const {
  constexpr int moments = 8;
  KeptAim tried = kept_;
  const double every = std::max(tried.left(), shown.left()) / moments;
  for (int i = 0; i <= moments; ++i) {
    const LookAngles by = tried.step(aimFrameOn(follow, tried.before()), aimFrameOn(follow, shown.pose()), look);
    const double pitch = look.pitch + by.pitch;
    if (!tried.reached() || pitch < limits.low || pitch > limits.high) return false;
    tried.advance(every);
    shown.advance(every);
  }
  return true;
}

void AimKeeper::giveUp(const FrameFollow& follow, PoseCourse shown, const LookAngles& look) {
  constexpr double soon = 1e-4;  // seconds
  const auto due = [&](KeptAim& tried) {
    tried.step(aimFrameOn(follow, tried.before()), aimFrameOn(follow, shown.pose()), look);
    return tried.due();
  };
  KeptAim tried = kept_;
  const LookAngles now = due(tried);
  tried.advance(soon);
  shown.advance(soon);
  const LookAngles then = due(tried);
  kept_.giveUp({(then.yaw - now.yaw) / soon, (then.pitch - now.pitch) / soon});
}

Crosshair AimKeeper::crosshair(const PullInPose& pose, const Rotation& level, const LookAngles& look,
                               const Obstacles& obstacles) {
  Crosshair crosshair;
  const Vector3d ahead = level * Vector3d(-rotationOf(look.yaw, look.pitch).col(2));
  const double start = std::max((pose.pivot - pose.camera).dot(ahead), 0.0);
  const Contact contact = aimed(obstacles, pose.camera + start * ahead, ahead);
  crosshair.obstacle = contact.hit() ? contact.obstacle : noObstacle;
  crosshair.distance = start + (contact.hit() ? contact.distance : farAim);
  crosshair.point = pose.camera + crosshair.distance * ahead;
  const Vector3d toKept = point_.vector() - pose.camera;
  crosshair.error = kept_.on() ? std::atan2(ahead.cross(toKept).norm(), ahead.dot(toKept)) : 0;
  crosshair.kept = kept_.reached() && crosshair.error <= keptWithin;
  distance_ = pose.distance;
  ahead_ = (crosshair.point - pose.pivot).norm();
  return crosshair;
}

}  // namespace alpglow
