#include "alpglow/space/sphere_triangle.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;

const Triangle floorBelow{{-5, -2, -5}, {5, -2, -5}, {0, -2, 5}};

TEST(SphereTriangle, TouchesAFaceAnEdgeAndACornerWhereGeometrySays) {
  EXPECT_NEAR(sphereTriangleContact(floorBelow, {0, -1, 0}, 10, 0.5), 1.5, 1e-12);
  // Straight down beside the edge z = −5 by 0.3: the edge is met at a height of sqrt(0.5² − 0.3²) = 0.4.
  const Vector3d aside(0, 0, 5.3);
  const Triangle shifted{floorBelow.a + aside, floorBelow.b + aside, floorBelow.c + aside};
  EXPECT_NEAR(sphereTriangleContact(shifted, {0, -1, 0}, 10, 0.5), 1.6, 1e-6);
  const Triangle corner{{0.3, -2, 0.0}, {5, -2, -1}, {5, -2, 1}};
  EXPECT_NEAR(sphereTriangleContact(corner, {0, -1, 0}, 10, 0.5), 1.6, 1e-6);
}

TEST(SphereTriangle, PassesByAndStopsShort) {
  EXPECT_EQ(sphereTriangleContact(floorBelow, {1, 0, 0}, 10, 0.5), 10);
  EXPECT_EQ(sphereTriangleContact(floorBelow, {0, -1, 0}, 1.0, 0.5), 1.0);
}

TEST(SphereTriangle, StartingInContactItIsBlockedInwardAndFreeOutward) {
  EXPECT_EQ(sphereTriangleContact(floorBelow, {0, -1, 0}, 10, 2.0), 0);
  EXPECT_EQ(sphereTriangleContact(floorBelow, {0, 1, 0}, 10, 2.0), 10);
  EXPECT_EQ(sphereTriangleContact(floorBelow, {1, 0, 0}, 3, 2.0), 3) << "sliding along is free";
}

TEST(RayTriangle, HitsEitherSide) {
  EXPECT_NEAR(rayTriangleContact(floorBelow, {0, -1, 0}, 10), 2, 1e-12);
  const Triangle above{{-5, 2, -5}, {5, 2, -5}, {0, 2, 5}};
  EXPECT_NEAR(rayTriangleContact(above, {0, 1, 0}, 10), 2, 1e-12);
  EXPECT_EQ(rayTriangleContact(above, {0, -1, 0}, 10), 10);
}

}  // namespace
}  // namespace alpglow
