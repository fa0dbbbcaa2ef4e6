#pragma once
// What a subject stands on: the world, or a vehicle or platform that moves and turns; which way is up there; and the
// subject's scale. Following happens in these axes, so that a ride changes nothing on the screen.
//
//   ReferenceFrame cabin;
//   cabin.id = 7;                                   // any number but 0; another number is another platform
//   cabin.origin = position, cabin.rotation = orientation, cabin.velocity = speedWhereTheSubjectStands;
//   subject.frame = cabin;

#include "alpglow/base/stored_vector.hpp"

#include <Eigen/Core>

#include <cmath>
#include <cstdint>

namespace alpglow {

struct ReferenceFrame {
  /// 0 is the world: of that, only `up` and `scale` count.
  std::uint32_t id = 0;
  /// Where the frame is, metres, and how it is turned.
  Eigen::Vector3d origin = Eigen::Vector3d::Zero();
  Rotation rotation{1, 0, 0, 0};
  /// How fast it moves where the subject stands, metres per second.
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
  /// How fast it turns about `up`, radians per second; while it is 0, what it turned since the last frame counts.
  double yawRate = 0;
  /// Against gravity, length 1. Rotation and up may be off by a thousandth: cameras bring them to 1.
  Eigen::Vector3d up{0, 1, 0};
  /// Of the subject: all lengths of the design are multiplied by it.
  double scale = 1;

  Eigen::Vector3d toLocal(const Eigen::Vector3d& point) const;
  Eigen::Vector3d toWorld(const Eigen::Vector3d& local) const;
  /// Differences of points, and velocities.
  Eigen::Vector3d turnToLocal(const Eigen::Vector3d& v) const { return untouched() ? v : turnedToLocal(v); }
  Eigen::Vector3d turnToWorld(const Eigen::Vector3d& v) const { return untouched() ? v : turnedToWorld(v); }
  /// Axes and scale are the world's.
  bool untouched() const { return rotation.w() == 1 && scale == 1; }

  /// In so many seconds, if its origin goes on straight and it turns on as it does; `at` is a point where it moves at
  /// its velocity, and then moves at that of the result.
  ReferenceFrame goneOn(const Eigen::Vector3d& at, double seconds) const;

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
  ReferenceFrame normalized() const;

  /// All numbers are finite and within reason (positions and speeds 1e9, turning 1e4 radians per second), rotation and
  /// up have length 1 to a thousandth, and the scale lies within 1e-3 … 1e3.
  bool legal() const;

 private:
  Eigen::Vector3d turnedToLocal(const Eigen::Vector3d& v) const;
  Eigen::Vector3d turnedToWorld(const Eigen::Vector3d& v) const;
};

/// How far a rotation turns about an axis (unit vector), radians in (−π, π]: the twist of its swing and twist, the
/// short way round. The same for q and −q.
double turnAbout(const Eigen::Vector3d& axis, const Rotation& rotation);

}  // namespace alpglow
