#include "pull_in_scene.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr int axisHalvings = 5;

}  // namespace

ClearFraction clearFraction(const Obstacles& obstacles, const Vector3d& from, const Vector3d& to, double radius,
                            const MomentAhead& later) {
  const Vector3d displacement = to - from;
  const double length = displacement.norm();
  if (!(length > shortestWay)) return {};
  return fractionOf(later.seconds > 0 ? obstacles.sweepLater(from, displacement, radius, later)
                                      : obstacles.sweep(from, displacement, radius),
                    length);
}

double PullIn::shoulderLeft(double shoulder) const {
  return std::copysign(std::max(std::abs(shoulder) - shoulder_.given(), 0.0), shoulder);
}

double PullIn::room(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings) {
  const Scene scene(request, obstacles, settings);
  if (scene.headBlocked) return 0;
  const Scene::Room room = scene.room(scene.lineTo(scene.now(0), request.shoulder));
  return std::min(room.clear, room.length);
}

PullInPose PullIn::place(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings,
                         const KnownRoom& known) {
  Scene scene(request, obstacles, settings, 0, known);
  PullInPose pose;
  pose.nearPlane = scene.nearPlane;
  pose.headBlocked = scene.headBlocked;
  const Scene::Place now = scene.now(stoop_.given());
  pose.free = scene.ideal(scene.now(0), request.shoulder);
  pose.stooped = now.stooped;
  if (scene.headBlocked) {  // no way at all; the camera eases out again
    line_.close();
    pulledIn_ = true;
    pose.pivot = pose.camera = request.head;
    return pose;
  }
  const double shoulder = shoulderLeft(request.shoulder);
  const Scene::Room room = scene.room(stoop_.given(), shoulder);
  const double length = line_.shorten(room.length, room.clear, settings, request.scale);
  const double share = room.length > 1e-8 ? std::min(length / room.length, 1.0) : 1;
  pose.obstacle = room.obstacle;
  pose.foreseen = foreseen_;
  pose.foreseenIn = foreseenIn_;
  pose.givenUp = std::abs(request.shoulder - shoulder);
  pose.wait = line_.wait(settings);

  // Coming in along its axis it swings aside as the head sees it, as far as that is clear; the line itself is.
  const auto isClear = [&](double axis) { return scene.isClear(scene.wayTo(now, shoulder, share, axis)); };
  if (alongAxis_ > 0 && share < 1 && !isClear(alongAxis_)) {
    double clear = 0, blocked = alongAxis_;
    for (int i = 0; i < axisHalvings; ++i) {
      const double middle = (clear + blocked) / 2;
      (isClear(middle) ? clear : blocked) = middle;
    }
    alongAxis_ = clear;
  }
  const Vector3d way = scene.wayTo(now, shoulder, share, alongAxis_);
  const double pivotShare = share + alongAxis_ * (1 - share);
  const Vector3d toPivot = scene.pivot(now, shoulder) - request.head;
  pose.camera = request.head + way;
  pose.pivot = request.head + pivotShare * toPivot;
  pose.distance = share * request.distance;
  pose.clearDistance = room.length > 1e-8
                           ? std::max(std::min(room.clear / room.length, 1.0) * request.distance, pose.distance)
                           : request.distance;
  pose.shoulder = pivotShare * shoulder;
  pulledIn_ = limiting() && (pose.camera - pose.free).norm() > unseen;
  return pose;
}

}  // namespace alpglow
