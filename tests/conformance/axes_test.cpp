// The host's own look-at and perspective against its axes, right and wrong.

#include "alpglow/conformance/axes.hpp"

#include <gtest/gtest.h>
#include <Eigen/Geometry>

#include <cmath>
#include <limits>

namespace alpglow::conformance {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

/// An engine of either hand draws a point: its own axes are all that it knows.
Vector2d draw(const Shot& shot, const Vector3d& point, bool leftHanded) {
  const Vector3d ahead = (shot.target - shot.eye).normalized();
  const Vector3d right = (leftHanded ? shot.up.cross(ahead) : ahead.cross(shot.up)).normalized();
  const Vector3d up = leftHanded ? ahead.cross(right) : right.cross(ahead), seen = point - shot.eye;
  return Vector2d(seen.dot(right), seen.dot(up)) / (seen.dot(ahead) * std::tan(shot.fieldOfView / 2));
}

TEST(Axes, AreProvedByWhatTheHostDraws) {
  HostAxes zUp;  // left-handed, centimetres: x forward, y right, z up
  zUp.right = Vector3d::UnitY(), zUp.up = Vector3d::UnitZ(), zUp.forward = Vector3d::UnitX();
  zUp.unitsPerMetre = 100;
  const auto left = [](const Shot& shot, const Vector3d& point) { return draw(shot, point, true); };
  const auto right = [](const Shot& shot, const Vector3d& point) { return draw(shot, point, false); };
  EXPECT_EQ(proveAxes(zUp, left), "");
  EXPECT_EQ(proveAxes(HostAxes(), right), "");

  HostAxes mirrored = zUp;  // adapter and truth through these would agree
  mirrored.right = -mirrored.right;
  EXPECT_NE(proveAxes(mirrored, left).find("left and right are exchanged"), std::string::npos)
      << proveAxes(mirrored, left);
  EXPECT_NE(proveAxes(zUp, right).find("left and right are exchanged"), std::string::npos);
  const auto downward = [&](const Shot& shot, const Vector3d& point) {
    const Vector2d drawn = left(shot, point);
    return Vector2d(drawn.x(), -drawn.y());
  };
  EXPECT_NE(proveAxes(zUp, downward).find("up and down are exchanged"), std::string::npos);
}

TEST(Axes, SayWhatIsWrongWithThem) {
  EXPECT_EQ(problemOf(HostAxes()), "");
  HostAxes axes;
  axes.unitsPerMetre = 0;
  EXPECT_NE(problemOf(axes).find("unitsPerMetre is 0"), std::string::npos);
  axes = HostAxes();
  axes.up = Vector3d(0.1, 1, 0).normalized();
  EXPECT_NE(problemOf(axes).find("right and up are not at right angles"), std::string::npos);
  axes = HostAxes();
  axes.forward *= 100;
  EXPECT_NE(problemOf(axes).find("forward has a length of 100"), std::string::npos);
  axes.forward.x() = std::numeric_limits<double>::quiet_NaN();
  EXPECT_NE(problemOf(axes), "");
}

}  // namespace
}  // namespace alpglow::conformance
