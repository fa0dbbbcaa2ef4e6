#include "alpglow/base/axes.hpp"

#include <Eigen/Geometry>

#include <cmath>

namespace alpglow {

using Eigen::Matrix3d;
using Eigen::Matrix3f;
using Eigen::Vector3d;
using Eigen::Vector3f;

template <class Scalar>
using Vector3 = Eigen::Matrix<Scalar, 3, 1>;
template <class Scalar>
using Matrix3 = Eigen::Matrix<Scalar, 3, 3>;

Matrix3d HostAxes::basis() const {
  Matrix3d columns;
  columns << right, up, -forward;
  return columns;
}

bool HostAxes::leftHanded() const { return right.cross(up).dot(forward) > 0; }

template <class Scalar>
Vector3<Scalar> HostAxes::toHost(const Vector3d& metres) const {
  return (unitsPerMetre * (basis() * metres)).cast<Scalar>();
}
Vector3d HostAxes::fromHost(const Vector3d& units) const { return basis().transpose() * units / unitsPerMetre; }
Vector3d HostAxes::fromHost(const Vector3f& units) const { return fromHost(Vector3d(units.cast<double>())); }

template <class Scalar>
Vector3<Scalar> HostAxes::directionToHost(const Vector3d& direction) const {
  return (basis() * direction).cast<Scalar>();
}
Vector3d HostAxes::directionFromHost(const Vector3d& direction) const { return basis().transpose() * direction; }
Vector3d HostAxes::directionFromHost(const Vector3f& direction) const {
  return directionFromHost(Vector3d(direction.cast<double>()));
}

template <class Scalar>
Matrix3<Scalar> HostAxes::rotationToHost(const Matrix3d& rotation) const {
  return (basis() * rotation * basis().transpose()).cast<Scalar>();
}
Matrix3d HostAxes::rotationFromHost(const Matrix3d& rotation) const { return basis().transpose() * rotation * basis(); }
Matrix3d HostAxes::rotationFromHost(const Matrix3f& rotation) const {
  return rotationFromHost(Matrix3d(rotation.cast<double>()));
}

// A spin is a pseudovector: mirrored axes turn it about, so that it spins the same thing the same way.
template <class Scalar>
Vector3<Scalar> HostAxes::spinToHost(const Vector3d& spin) const {
  return directionToHost<Scalar>(leftHanded() ? Vector3d(-spin) : spin);
}
Vector3d HostAxes::spinFromHost(const Vector3d& spin) const {
  return directionFromHost(leftHanded() ? Vector3d(-spin) : spin);
}
Vector3d HostAxes::spinFromHost(const Vector3f& spin) const { return spinFromHost(Vector3d(spin.cast<double>())); }

std::string problemOf(const HostAxes& axes) {
  constexpr double most = 1e-3;
  const struct {
    const char* name;
    const Vector3d& axis;
  } all[] = {{"right", axes.right}, {"up", axes.up}, {"forward", axes.forward}};
  for (const auto& each : all) {
    if (!(std::abs(each.axis.norm() - 1) <= most))
      return std::string("HostAxes::") + each.name + " has a length of " + std::to_string(each.axis.norm()) +
             ", but must have 1";
  }
  for (int i = 0; i < 3; ++i) {
    const auto &a = all[i], &b = all[(i + 1) % 3];
    if (std::abs(a.axis.dot(b.axis)) > most)
      return std::string("HostAxes::") + a.name + " and " + b.name + " are not at right angles";
  }
  if (!(axes.unitsPerMetre > 0 && std::isfinite(axes.unitsPerMetre)))
    return "HostAxes::unitsPerMetre is " + std::to_string(axes.unitsPerMetre) + ", but must be more than 0";
  return {};
}

template Vector3d HostAxes::toHost<double>(const Vector3d&) const;
template Vector3f HostAxes::toHost<float>(const Vector3d&) const;
template Vector3d HostAxes::directionToHost<double>(const Vector3d&) const;
template Vector3f HostAxes::directionToHost<float>(const Vector3d&) const;
template Matrix3d HostAxes::rotationToHost<double>(const Matrix3d&) const;
template Matrix3f HostAxes::rotationToHost<float>(const Matrix3d&) const;
template Vector3d HostAxes::spinToHost<double>(const Vector3d&) const;
template Vector3f HostAxes::spinToHost<float>(const Vector3d&) const;

}  // namespace alpglow
