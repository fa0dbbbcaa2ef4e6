// What is given up for distance: the side, and how high the camera orbits.

#include "alpglow/space/neighbourhood.hpp"
#include "support/pull_in_requests.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::behind;
using testing::head;
using testing::radius;
using testing::wallBehind;
using testing::Walls;

TEST(GiveWay, WhoAimsKeepsTheShoulder) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.3});
  PullInRequest aiming = behind(3, 0.5);
  aiming.aims = true;
  PullIn space;
  for (int i = 0; i < 60; ++i) space.step(behind(3, 0.5), {}, walls, 1 / 60.0, {});
  PullInPose pose;
  for (int i = 0; i < 60; ++i) pose = space.step(aiming, {}, walls, 1 / 60.0, {});
  EXPECT_NEAR(pose.givenUp, 0, 0.01) << "and takes it back at once";
}

TEST(GiveWay, GoesOverToTheOtherShoulderWhereThatKeepsTheDistance) {
  // A wall close on the right that the camera's place is behind, with the shoulder.
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.3});
  PullIn space;
  double before = 0;
  PullInPose pose;
  for (int i = 0; i < 120; ++i) {
    pose = space.step(behind(3, 0.5), {}, walls, 1 / 60.0, {});
    EXPECT_LE(pose.givenUp - before, PullInSettings().shoulderSpeed / 60 + 1e-9) << "gently";
    before = pose.givenUp;
  }
  EXPECT_GT(pose.distance, 2.8);
  EXPECT_NEAR(pose.shoulder, -0.5, 0.03);
  EXPECT_TRUE(space.changesSide());
  for (int i = 0; i < 300; ++i) pose = space.step(behind(3, 0.5), {}, NoObstacles(), 1 / 60.0, {});
  EXPECT_NEAR(pose.shoulder, 0.5, 1e-6);
  EXPECT_FALSE(space.limiting());
}

TEST(GiveWay, StaysWhereTheOtherShoulderIsNoBetterOrNotWorthItsPrice) {
  PullIn corridor, never;
  Walls both = wallBehind(2), right;
  right.walls.push_back({-Vector3d::UnitX(), -0.3});
  PullInSettings settings;
  settings.shoulderSpeed = 0;
  for (int i = 0; i < 120; ++i) {
    EXPECT_EQ(corridor.step(behind(3, 0.5), {}, both, 1 / 60.0, {}).givenUp, 0);
    EXPECT_EQ(never.step(behind(3, 0.5), {}, right, 1 / 60.0, settings).givenUp, 0);
  }
}

TEST(GiveWay, WhatIsOnThisSideAnywayIsNotTakenForTheOther) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.3});
  PullIn space;
  for (int i = 0; i < 120; ++i) space.step(behind(3, 0.5), {}, walls, 1 / 60.0, {});
  const PullInPose pose = space.step(behind(3, -0.5), {}, walls, 1 / 60.0, {});
  EXPECT_EQ(pose.givenUp, 0) << "the player has swapped the shoulder";
  EXPECT_NEAR(pose.shoulder, -0.5, 0.03);
}

/// Looks down by 15° under a ceiling 40 cm above the head: behind it the camera comes in to about a metre.
PullInRequest lookingDown() {
  PullInRequest request = behind(3);
  request.orbit.pitch = -degrees(15);
  return request;
}
Walls lowCeiling() {
  Walls ceiling;
  ceiling.walls.push_back({-Vector3d::UnitY(), -2.1});
  return ceiling;
}
PullInSettings stooping(double by) {
  PullInSettings settings;
  settings.stoop = by;
  return settings;
}
/// Two seconds of `asked`.
PullInPose rested(PullIn& space, const PullInRequest& asked, const Obstacles& world, const PullInSettings& settings) {
  PullInPose pose;
  for (int i = 0; i < 120; ++i) pose = space.step(asked, {}, world, 1 / 60.0, settings);
  return pose;
}

TEST(GiveWay, StoopsUnderALowCeilingIfItMay) {
  PullIn upright, stoops;
  const PullInPose before = rested(upright, lookingDown(), lowCeiling(), {}),
                   pose = rested(stoops, lookingDown(), lowCeiling(), stooping(degrees(6)));
  EXPECT_EQ(before.stooped, 0);
  EXPECT_NEAR(before.distance, (0.4 - radius - 0.001) / std::sin(degrees(15)), 0.01);
  EXPECT_NEAR(pose.stooped, degrees(6), 1e-3);
  EXPECT_NEAR(pose.distance, (0.4 - radius - 0.001) / std::sin(degrees(9)), 0.01);
  EXPECT_TRUE((pose.free - before.free).isZero(0)) << "where it would be with nothing in the way";
  const Vector3d back = pose.camera - head;
  EXPECT_NEAR(std::atan2(back.y(), back.z()), degrees(15) - pose.stooped, 1e-6);
  EXPECT_TRUE(stoops.limiting());
  EXPECT_TRUE(stoops.pulledIn());
}

TEST(GiveWay, StoopsGentlyAndStandsUpAgainAfterAWhile) {
  PullIn space;
  const PullInSettings settings = stooping(degrees(6));
  double before = 0, upAfter = 0;
  for (int i = 0; i < 360; ++i) {
    const bool inTheOpen = i >= 120;
    const NoObstacles open;
    const Walls ceiling = lowCeiling();
    const Obstacles& world = inTheOpen ? static_cast<const Obstacles&>(open) : ceiling;
    const double stooped = space.step(lookingDown(), {}, world, 1 / 60.0, settings).stooped;
    EXPECT_LE(std::abs(stooped - before), 3 * degrees(6) / 60 + 1e-12);
    if (inTheOpen && upAfter == 0 && stooped < before - degrees(0.01)) upAfter = (i - 120) / 60.0;
    before = stooped;
  }
  EXPECT_EQ(before, 0);
  EXPECT_GT(upAfter, 0.9) << "not for a moment of more room";
  EXPECT_FALSE(space.limiting());
}

TEST(GiveWay, StoopsNeitherWhereItIsNotWorthItNorWhileAiming) {
  PullIn space;
  const PullInSettings settings = stooping(degrees(6));
  EXPECT_EQ(rested(space, lookingDown(), NoObstacles(), settings).stooped, 0);
  EXPECT_EQ(rested(space, behind(3), wallBehind(2), settings).stooped, 0) << "the wall stands upright";
  PullInRequest aiming = lookingDown();
  aiming.aims = true;
  EXPECT_EQ(rested(space, aiming, lowCeiling(), settings).stooped, 0);
}

TEST(GiveWay, StoopsNoLowerThanTheOrbitMayGo) {
  PullInRequest limited = lookingDown();
  limited.pitch.high = -degrees(7);
  PullIn space;
  EXPECT_NEAR(rested(space, limited, lowCeiling(), stooping(degrees(12))).stooped, degrees(12), degrees(12));
}

/// Of a host that lists: whoever is asked something by itself was asked beyond the list.
class Hut final : public Surroundings {
 public:
  mutable int asked = 0;
  void list(const Bounds&, Found& found) const noexcept override {
    found.add(HalfSpace{{0, -1, 0}, -2.1}, {0});
    found.add(HalfSpace{{0, 1, 0}, 0}, {1});
  }
  Contact sweep(const Vector3d& from, const Vector3d& displacement, double wide) const noexcept override {
    ++asked;
    return Surroundings::sweep(from, displacement, wide);
  }
  double clearance(const Vector3d& point, double range) const noexcept override {
    ++asked;
    return Surroundings::clearance(point, range);
  }
};

TEST(GiveWay, StoopsWithinTheListOfTheFrame) {
  const Hut hut;
  const Neighbourhood near(hut);
  PullIn space;
  PullInRequest request = lookingDown();
  double most = 0;
  for (int i = 0; i < 240; ++i) {
    request.orbit = {i < 120 ? 0 : (i - 120) * degrees(3), -degrees(15)};
    near.gather(space.plan(request, {}, 1 / 60.0, stooping(degrees(12))).reach(stooping(degrees(12))));
    most = std::max(most, space.step(request, {}, near, 1 / 60.0, stooping(degrees(12))).stooped);
  }
  EXPECT_GT(most, degrees(9));
  EXPECT_EQ(hut.asked, 0);
}

}  // namespace
}  // namespace alpglow
