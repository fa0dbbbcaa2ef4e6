#pragma once
// What a subject stands on: the world, or a vehicle or platform that moves and turns; which way is up there; and the
// subject's scale. Following happens in these axes, so that a ride changes nothing on the screen.
//
//   ReferenceFrame cabin;
//   cabin.id = 7;                                   // any number but 0; another number is another platform
//   cabin.origin = position, cabin.rotation = orientation, cabin.velocity = speedWhereTheSubjectStands;
//   subject.frame = cabin;

#include "alpglow/base/angles.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/stored_vector.hpp"

#include <Eigen/Core>
#include <Eigen/Geometry>

#include <cmath>
#include <cstdint>

namespace alpglow {

struct ReferenceFrame {
  /// 0 is the world: of that, only `up` and `scale` count.
  std::uint32_t id = 0;
  /// Where the frame is, metres, and how it is turned.
  Eigen::Vector3d origin = Eigen::Vector3d::Zero();
  Rotation rotation = Rotation::Identity();
  /// How fast it moves where the subject stands, metres per second.
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
  /// How fast it turns about `up`, radians per second; while it is 0, what it turned since the last frame counts.
  double yawRate = 0;
  /// Against gravity, length 1. Rotation and up may be off by a thousandth: cameras bring them to 1.
  Eigen::Vector3d up = Eigen::Vector3d::UnitY();
  /// Of the subject: all lengths of the design are multiplied by it.
  double scale = 1;

  Eigen::Vector3d toLocal(const Eigen::Vector3d& point) const { return turnToLocal(point - origin); }
  Eigen::Vector3d toWorld(const Eigen::Vector3d& local) const { return origin + turnToWorld(local); }
  /// Differences of points, and velocities.
  Eigen::Vector3d turnToLocal(const Eigen::Vector3d& v) const {
    return untouched() ? v : Eigen::Vector3d(rotation.conjugate() * v / scale);
  }
  Eigen::Vector3d turnToWorld(const Eigen::Vector3d& v) const {
    return untouched() ? v : Eigen::Vector3d(rotation * (v * scale));
  }
  /// Axes and scale are the world's.
  bool untouched() const { return rotation.w() == 1 && scale == 1; }

  /// In so many seconds, if its origin goes on straight and it turns on as it does; `at` is a point where it moves at
  /// its velocity, and then moves at that of the result.
  ReferenceFrame goneOn(const Eigen::Vector3d& at, double seconds) const {
    ReferenceFrame later = *this;
    if (id == 0) return later;
    const Eigen::Vector3d spin = yawRate * up, arm = at - origin, drift = velocity - spin.cross(arm);
    const Rotation turn(Eigen::AngleAxisd(yawRate * seconds, up));
    later.origin += drift * seconds;
    later.rotation = (turn * rotation).normalized();
    later.velocity = drift + spin.cross(turn * arm);
    return later;
  }

  /// The same, or the world as it is: it does not move and is not turned.
  ReferenceFrame rooted() const {
    if (id != 0) return *this;
    ReferenceFrame world;
    world.up = up;
    world.scale = scale;
    return world;
  }

  /// Lengths of rotation and up that rounding explains, as in a chain of floats: cameras bring them to 1.
  static bool nearlyOne(double length) { return std::abs(length - 1) <= 1e-3; }
  /// The same, with rotation and up of length 1 where they are nearly that.
  ReferenceFrame normalized() const {
    constexpr double exact = 1e-12;
    ReferenceFrame frame = *this;
    const double turned = rotation.norm(), upright = up.norm();
    if (std::abs(turned - 1) > exact && nearlyOne(turned)) frame.rotation = rotation.normalized();
    if (std::abs(upright - 1) > exact && nearlyOne(upright)) frame.up = up / upright;
    return frame;
  }

  /// All numbers are finite and within reason (positions and speeds 1e9, turning 1e4 radians per second), rotation and
  /// up have length 1 to a thousandth, and the scale lies within 1e-3 … 1e3.
  bool legal() const {
    return legalPosition(origin) && legalPosition(velocity) && std::abs(yawRate) <= 1e4 && nearlyOne(rotation.norm()) &&
           nearlyOne(up.norm()) && scale >= 1e-3 && scale <= 1e3;
  }
};

/// How far a rotation turns about an axis (unit vector), radians in (−π, π]: the twist of its swing and twist, the
/// short way round. The same for q and −q.
inline double turnAbout(const Eigen::Vector3d& axis, const Rotation& rotation) {
  return wrapAngle(2 * std::atan2(axis.dot(rotation.vec()), rotation.w()));
}

}  // namespace alpglow
