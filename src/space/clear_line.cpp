#include "alpglow/space/clear_line.hpp"

#include <algorithm>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double skin = 1e-3;  // metres between the sphere and what it comes close to

constexpr double smallestNear = 1e-3;  // metres: no renderer's depth makes sense of a closer near plane

}  // namespace

ClearFraction clearFraction(const Obstacles& obstacles, const Vector3d& from, const Vector3d& to, double radius,
                            const MomentAhead& later) {
  const Vector3d way = to - from;
  const double length = way.norm();
  if (!(length > shortestWay)) return {};
  const Contact contact =
      later.seconds > 0 ? obstacles.sweepLater(from, way, radius, later) : obstacles.sweep(from, way, radius);
  if (!contact.hit()) return {};
  return {std::clamp((contact.distance - skin) / length, 0.0, 1.0), contact.obstacle};
}

ClearLine::ClearLine(const Obstacles& obstacles, const Vector3d& head, double nearPlane, double radius, double margin,
                     double range)
    : obstacles_(obstacles), head_(head) {
  const double reach = std::max(radius + margin + skin, range);
  clearance_ = std::min(obstacles.clearance(head, reach), reach);
  const double shrink = std::clamp(clearance_ / (radius + skin), 0.0, 1.0);
  nearPlane_ = std::max(nearPlane * shrink, std::min(smallestNear, nearPlane));
  blocked_ = nearPlane * shrink < nearPlane_;
  radius_ = radius * (nearPlane_ / nearPlane) + std::clamp(clearance_ - radius - skin, 0.0, margin);
}

ClearFraction ClearLine::to(const Vector3d& camera) {
  if (!asked_ || last_ != camera) found_ = clearFraction(obstacles_, head_, camera, radius_);
  asked_ = true;
  last_ = camera;
  return found_;
}

}  // namespace alpglow
