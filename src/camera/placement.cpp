#include "alpglow/camera/placement.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/camera/subject_tracker.hpp"
#include "alpglow/framing/lens.hpp"

#include <algorithm>

namespace alpglow {

using Eigen::Vector3d;

PullInRequest requestFor(const FramingPose& pose, const FrameFollow& follow, const Subject& subject,
                         const LookAngles& look, const Vector3d& eyeMotion, double aspect) {
  const double scale = subject.frame.scale, nearPlane = pose.nearPlane * scale;
  PullInRequest request;
  request.head = subject.head;
  request.anchor = anchorOn(follow, pose) + eyeMotion;
  request.orbit = {look.yaw, std::clamp(look.pitch - pose.tilt, -pi / 2, pi / 2)};
  request.level = follow.level();
  request.shoulder = pose.shoulder * scale;
  request.distance = std::min(pose.distance * scale, longestDistance);
  request.nearPlane = nearPlane;
  request.radius = nearPlaneRadius(nearPlane, pose.fieldOfView, aspect);
  request.scale = scale;
  return request;
}

double opacityAt(double headToCamera, const FadeSettings& fade) {
  if (fade.keepBody || headToCamera >= fade.opaqueFrom) return 1;
  if (headToCamera <= fade.invisibleBelow) return 0;
  return eased((headToCamera - fade.invisibleBelow) / (fade.opaqueFrom - fade.invisibleBelow));
}

PullInPose Placement::place(const PullInRequest& request, ClearLine& line, const PullInSettings& settings,
                            const LookPastSettings& large) {
  const Obstacles& obstacles = line.obstacles();
  PullInPose pose = pullIn_.place(request, line, settings);
  if (pose.headBlocked) {
    lookPast_.cut();
    return pose;
  }
  const double radius = request.radius * (pose.nearPlane / request.nearPlane);
  const LookPastPose past = lookPast_.place(request.head, pose.camera, radius, obstacles, large, request.scale);
  if (past.before != noObstacle) {
    pose.obstacle = past.before;
    pose.clearDistance = std::min(pose.clearDistance, past.clear * pose.distance);
  }
  for (Vector3d* point : {&pose.pivot, &pose.camera}) *point = request.head + past.along * (*point - request.head);
  pose.distance *= past.along;
  pose.shoulder *= past.along;
  if (past.pushed == 0) return pose;
  // Away from the head; the pivot stays on the camera's axis.
  const double pitch = request.orbit.pitch + pose.stooped;
  const Vector3d axis = request.level * Vector3d(rotationOf(request.orbit.yaw, pitch).col(2));
  pose.camera += past.back;
  pose.pivot += past.back - past.pushed * axis;
  pose.distance = std::min(pose.distance + past.pushed, longestDistance);
  pose.clearDistance = std::max(pose.clearDistance, pose.distance);
  return pose;
}

void Placement::judgeEyes(bool could, bool close, const PullInRequest& whole, double scale, const Obstacles& obstacles,
                          double seconds, const CameraDesign& design) {
  const auto room = [&] { return PullIn::room(whole, obstacles, design.pullIn) / scale; };
  if (eyes_) {
    roomFor_ = could && room() < design.fade.eyesUntil ? 0 : roomFor_ + seconds;
    if (could && roomFor_ < design.pullIn.wait) return;
  } else if (!could || !close || room() >= design.fade.eyesBelow) {
    return;
  }
  eyes_ = !eyes_;
  roomFor_ = 0;
}

bool Placement::judgeShoulder(const PullInRequest& here, const Obstacles& obstacles, double seconds,
                              const CameraDesign& design) {
  PullInRequest there = here;
  there.shoulder = -here.shoulder;
  const ShoulderRooms rooms{PullIn::room(here, obstacles, design.pullIn) / here.scale,
                            PullIn::room(there, obstacles, design.pullIn) / here.scale};
  return freeShoulder_.step(rooms, seconds, design.freeShoulder);
}

}  // namespace alpglow
