#include "alpglow/view/view.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Matrix3d;
using Eigen::Matrix4d;
using Eigen::Vector3d;

namespace {

/// Turns axes x right, y up, z backward into the host's view space.
Vector3d viewSigns(const HostAxes& axes) { return {1, 1, axes.viewForward == ViewForward::minusZ ? 1.0 : -1.0}; }

Matrix3d viewRotation(const View& view, const HostAxes& axes) {
  return viewSigns(axes).asDiagonal() * view.rotation().transpose() * axes.basis().transpose();
}

}  // namespace

Matrix3d View::rotation() const {
  const Matrix3d inLevel = rotationOf(yaw, pitch, roll);
  return level.w() == 1 ? inLevel : Matrix3d(level.toRotationMatrix() * inLevel);
}

View View::from(const Vector3d& position, const Matrix3d& told, double fieldOfView) {
  if (!position.allFinite() || !told.allFinite() || !std::isfinite(fieldOfView)) return {};
  const Matrix3d axes = Eigen::Quaterniond(told).normalized().toRotationMatrix();
  const Vector3d right = axes.col(0), back = axes.col(2);
  View view;
  view.position = view.head = view.pivot = view.freePosition = position;
  view.fieldOfView = fieldOfView;
  view.pitch = std::asin(std::clamp(-back.y(), -1.0, 1.0));
  const bool upright = std::hypot(back.x(), back.z()) > 1e-9;  // else yaw and roll are one, and yaw has it
  view.yaw = upright ? std::atan2(back.x(), back.z()) : std::atan2(-right.z(), right.x());
  const Vector3d rolled = rotationOf(view.yaw, view.pitch).transpose() * right;
  view.roll = std::atan2(rolled.y(), rolled.x());
  view.heading = view.yaw;
  view.aimPoint = position - 100 * back;
  return view;
}

Matrix4d View::worldToView(const HostAxes& axes) const {
  Matrix4d m = Matrix4d::Identity();
  const Matrix3d rotation = viewRotation(*this, axes);
  m.topLeftCorner<3, 3>() = rotation;
  m.topRightCorner<3, 1>() = -rotation * positionIn(axes);
  return m;
}

Eigen::Matrix4f View::cameraRelativeView(const HostAxes& axes) const {
  Eigen::Matrix4f m = Eigen::Matrix4f::Identity();
  m.topLeftCorner<3, 3>() = viewRotation(*this, axes).cast<float>();
  return m;
}

Vector3d View::aimDirection() const {
  if (pushYaw == 0 && pushPitch == 0) return forward();
  return level * Vector3d(-rotationOf(yaw - pushYaw, pitch - pushPitch).col(2));
}

Vector3d View::aimOrigin() const {
  const Vector3d ahead = aimDirection();
  return position + std::max((pivot - position).dot(ahead), 0.0) * ahead;
}

double View::aimDifference(const Vector3d& hand) const {
  const Vector3d displacement = aimPoint - hand, ahead = aimDirection();
  return std::atan2(ahead.cross(displacement).norm(), ahead.dot(displacement));
}

std::optional<Eigen::Vector2d> View::onScreen(const Vector3d& point) const {
  constexpr double beside = 1e-6;  // of how far it is, out of the plane through the eye
  const Vector3d seen = rotation().transpose() * (point - position);
  const double up = -seen.z() * std::tan(fieldOfView / 2);
  if (!(-seen.z() > beside * seen.norm() && up > 0)) return std::nullopt;
  return Eigen::Vector2d(seen.x() / (up * aspect), seen.y() / up);
}

Vector3d View::rayThrough(const Eigen::Vector2d& screen) const {
  const double up = std::tan(fieldOfView / 2);
  return rotation() * Vector3d(screen.x() * up * aspect, screen.y() * up, -1).normalized();
}

std::array<FrustumPlane, 6> View::frustum() const {
  const Matrix3d axes = rotation();
  const double up = std::tan(fieldOfView / 2), side = up * aspect;
  const auto through = [&](const Vector3d& inView, double offset) {
    const Vector3d normal = axes * inView.normalized();
    return FrustumPlane{normal, offset - normal.dot(position)};
  };
  return {through({1, 0, -side}, 0), through({-1, 0, -side}, 0),      through({0, 1, -up}, 0),
          through({0, -1, -up}, 0),  through({0, 0, -1}, -nearPlane), through({0, 0, 1}, farPlane)};
}

Matrix4d View::projection(ClipSpace clip, const HostAxes& axes) const {
  Matrix4d m = perspective(fieldOfView, aspect, nearPlane * axes.unitsPerMetre, farPlane * axes.unitsPerMetre, clip);
  if (axes.viewForward == ViewForward::plusZ) m.col(2) *= -1;
  return m;
}

View View::from(const Vector3d& position, const Eigen::Quaterniond& orientation, double fieldOfView) {
  return from(position, orientation.toRotationMatrix(), fieldOfView);
}

Eigen::Quaterniond View::orientation() const { return Eigen::Quaterniond(rotation()); }

Vector3d View::forward() const { return -rotation().col(2); }

Eigen::Quaterniond View::orientationIn(const HostAxes& axes) const {
  return Eigen::Quaterniond(axes.rotationToHost(rotation()));
}

Eigen::Vector3f View::relative(const Vector3d& point, const HostAxes& axes) const {
  return axes.toHost(point - position).cast<float>();
}

double FrustumPlane::height(const Vector3d& point) const { return normal.dot(point) + offset; }

}  // namespace alpglow
