#include "alpglow/follow/reference_frame.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/limits.hpp"

#include <Eigen/Geometry>

#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

Vector3d ReferenceFrame::toLocal(const Vector3d& point) const { return turnToLocal(point - origin); }

Vector3d ReferenceFrame::toWorld(const Vector3d& local) const { return origin + turnToWorld(local); }

Vector3d ReferenceFrame::turnedToLocal(const Vector3d& v) const { return rotation.conjugate() * v / scale; }

Vector3d ReferenceFrame::turnedToWorld(const Vector3d& v) const { return rotation * (v * scale); }

ReferenceFrame ReferenceFrame::goneOn(const Vector3d& at, double seconds) const {
  ReferenceFrame later = *this;
  if (id == 0) return later;
  const Vector3d spin = yawRate * up, arm = at - origin, drift = velocity - spin.cross(arm);
  const Rotation turn(Eigen::AngleAxisd(yawRate * seconds, up));
  later.origin += drift * seconds;
  later.rotation = (turn * rotation).normalized();
  later.velocity = drift + spin.cross(turn * arm);
  return later;
}

ReferenceFrame ReferenceFrame::normalized() const {
  constexpr double exact = 1e-12;
  ReferenceFrame frame = *this;
  const double turned = rotation.norm(), upright = up.norm();
  if (std::abs(turned - 1) > exact && nearlyOne(turned)) frame.rotation = rotation.normalized();
  if (std::abs(upright - 1) > exact && nearlyOne(upright)) frame.up = up / upright;
  return frame;
}

bool ReferenceFrame::legal() const {
  return legalPosition(origin) && legalPosition(velocity) && std::abs(yawRate) <= 1e4 && nearlyOne(rotation.norm()) &&
         nearlyOne(up.norm()) && scale >= 1e-3 && scale <= 1e3;
}

double turnAbout(const Vector3d& axis, const Rotation& rotation) {
  return wrapAngle(2 * std::atan2(axis.dot(rotation.vec()), rotation.w()));
}

}  // namespace alpglow
