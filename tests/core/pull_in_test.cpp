#include "alpglow/space/pull_in.hpp"

#include "support/counted.hpp"
#include "support/pull_in_requests.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::behind;
using testing::Counted;
using testing::head;
using testing::radius;
using testing::wallBehind;
using testing::Walls;

TEST(PullIn, StopsAMillimetreBeforeTheSphereTouches) {
  PullIn space;
  const PullInPose pose = space.step(behind(4), {}, wallBehind(2), 0.016, {});
  EXPECT_NEAR(pose.distance, 2 - radius - 0.001, 1e-9);
  EXPECT_EQ(pose.obstacle, 0u);
  EXPECT_TRUE(space.pulledIn());
}

/// Out at once, by half-life alone.
PullInSettings plain() {
  PullInSettings settings;
  settings.wait = 0;
  settings.outSpeed = 1e6;
  return settings;
}

TEST(PullIn, IsAtOnceInTheRoomOfTheMomentAndEasesOutByHalfLife) {
  const PullInSettings settings = plain();
  PullIn space;
  EXPECT_EQ(space.step(behind(4), {}, NoObstacles(), 0.01, settings).distance, 4);
  const double close = space.step(behind(4), {}, wallBehind(2), 0.01, settings).distance;
  EXPECT_LT(close, 2);
  const double later = space.step(behind(4), {}, NoObstacles(), 0.15, settings).distance;
  EXPECT_NEAR(4 - later, (4 - close) / 2, 1e-9) << "half of the way in a half-life";
}

TEST(PullIn, ZoomingWhileFreeIsNotHeldBack) {
  PullIn space;
  for (const double distance : {2.0, 3.0, 1.5, 5.0}) {
    EXPECT_EQ(space.step(behind(distance), {}, NoObstacles(), 0.01, {}).distance, distance);
  }
}

TEST(PullIn, AsksForTheLineOfTheMomentOnce) {
  testing::Random random(5);
  int fewer = 0;
  for (int i = 0; i < 300; ++i) {
    Walls walls = wallBehind(random.between(0.1, 4));
    walls.poles.push_back({random.between(-1, 1), random.between(0.5, 3), 0.05});
    const Counted world(walls);
    const PullInSettings settings;
    PullIn space;
    PullInRequest request = behind(3, random.between(-0.6, 0.6));
    for (int frame = 0; frame < 3; ++frame) space.step(request, {}, world, 1 / 60.0, settings);
    ClearLine line = PullIn::line(request, world, settings), anew = line;
    space.advance(space.plan(request, {}, 1 / 60.0, settings), line, settings);
    if (random.chance(0.5)) request.orbit.yaw += 0.01;
    PullIn again = space;
    const auto asked = [&](PullIn& by, ClearLine& on) {
      const int before = world.questions;
      const PullInPose pose = by.place(request, on, settings);
      return std::make_pair(pose, world.questions - before);
    };
    const auto [pose, questions] = asked(space, line);
    const auto [fresh, all] = asked(again, anew);
    EXPECT_EQ(pose.camera, fresh.camera);
    EXPECT_EQ(pose.obstacle, fresh.obstacle);
    EXPECT_EQ(pose.clearDistance, fresh.clearDistance);
    EXPECT_LE(questions, all);
    fewer += questions < all ? 1 : 0;
  }
  EXPECT_GT(fewer, 50);
}

TEST(PullIn, ComesInAlongTheLineToTheHead) {
  // The pivot is 0.8 m to the right of the head; the pole stands between head and camera, beside the axis.
  Walls walls;
  walls.poles.push_back({0.25, 1.2, 0.05});
  EXPECT_FALSE(walls.sweep(head + Vector3d(0.8, 0, 0), Vector3d(0, 0, 3), radius).hit());
  PullInSettings keepsShoulder;
  keepsShoulder.shoulderSpeed = 0;
  PullIn space;
  const PullInPose pose = space.step(behind(3, 0.8), {}, walls, 0.016, keepsShoulder);
  EXPECT_FALSE(walls.sweep(head, pose.camera - head, radius).hit());
  EXPECT_LT(pose.distance, 1.5);
  const Vector3d direct(0.8, 0, 3);
  EXPECT_NEAR((pose.camera - head).normalized().dot(direct.normalized()), 1, 1e-12)
      << "the head keeps its place in the picture";
  EXPECT_NEAR(pose.shoulder / 0.8, pose.distance / 3, 1e-12) << "the shoulder comes along";
}

TEST(PullIn, WhoAimsComesInAlongTheAxis) {
  PullInRequest request = behind(3, 0.6);
  request.aims = true;
  PullIn space;
  PullInPose pose;
  for (int i = 0; i < 30; ++i) pose = space.step(request, {}, wallBehind(1.5), 0.016, {});
  EXPECT_NEAR(pose.pivot.x(), 0.6, 1e-12) << "the crosshair stays where it is";
  EXPECT_NEAR(pose.camera.x(), 0.6, 1e-12);
  EXPECT_LT(pose.distance, 1.4);
  Walls pole;  // between the head and that camera
  pole.poles.push_back({0.3, 0.6, 0.05});
  pose = space.step(request, {}, pole, 0.016, {});
  EXPECT_FALSE(pole.sweep(head, pose.camera - head, radius).hit());
}

TEST(PullIn, WhoAimsSwingsAsideRatherThanComeInFarther) {
  PullInRequest aiming = behind(3, 0.6);
  aiming.aims = true;
  Walls beside = wallBehind(1.5);  // and a pole that the line to the ideal place misses, but not the one along the axis
  beside.poles.push_back({0.35, 0.6, 0.05});
  PullIn aims, free;
  PullInSettings still;
  still.shoulderSpeed = 0;
  for (int i = 0; i < 30; ++i) {
    const PullInPose pose = aims.step(aiming, {}, beside, 0.016, still);
    EXPECT_NEAR(pose.distance, free.step(behind(3, 0.6), {}, beside, 0.016, still).distance, 1e-9) << "none is lost";
    EXPECT_FALSE(beside.sweep(head, pose.camera - head, radius).hit());
    EXPECT_LT(pose.pivot.x(), 0.5);
    EXPECT_NEAR((pose.camera - pose.pivot).normalized().z(), 1, 1e-12) << "and looks the same way";
  }
}

TEST(PullIn, KeepsItsMarginWhereThereIsRoom) {
  PullInSettings settings;
  settings.margin = 0.1;
  PullIn space;
  EXPECT_NEAR(space.step(behind(3), {}, wallBehind(2), 0.016, settings).distance, 2 - radius - 0.1 - 0.001, 1e-9);
  PullIn close;
  const PullInPose pose = close.step(behind(3), {}, wallBehind(0.2), 0.016, settings);
  EXPECT_EQ(pose.nearPlane, 0.1) << "the margin is given up before the near plane comes closer";
}

TEST(PullIn, ShrinksNearAndSphereTogetherWhenTheHeadHasLessRoom) {
  PullIn space;
  const Walls walls = wallBehind(0.1);
  const PullInPose pose = space.step(behind(3), {}, walls, 0.016, {});
  EXPECT_LT(pose.nearPlane, 0.1);
  EXPECT_FALSE(pose.headBlocked);
  EXPECT_GE(walls.clearance(pose.camera, 1), radius * pose.nearPlane / 0.1 - 1e-12);
}

TEST(PullIn, AHeadInsideAWallKeepsTheCameraAtTheHeadAndSaysSo) {
  PullIn space;
  const PullInPose pose = space.step(behind(3), {}, wallBehind(-1), 0.016, {});
  EXPECT_TRUE(pose.headBlocked);
  EXPECT_EQ(pose.camera, head);
  EXPECT_GT(pose.nearPlane, 0);
}

TEST(PullIn, AHeadThatTremblesAtAWallKeepsTheCameraStill) {
  PullIn space;
  Walls besideHead;
  besideHead.walls.push_back({Vector3d::UnitX(), 0});
  double farthest = 0;
  for (int i = 0; i < 240; ++i) {
    const Vector3d trembling(i % 3 == 0 ? 0.0 : 0.002, 1.7, 0);
    const PullInPose pose = space.step(behind(3, 0, trembling), {}, besideHead, 1 / 60.0, {});
    if (i > 0) farthest = std::max(farthest, (pose.camera - trembling).norm());
    EXPECT_EQ(pose.headBlocked, i % 3 == 0);
  }
  EXPECT_EQ(farthest, 0);
}

TEST(PullIn, AHeadThatComesFreeLetsTheCameraOutGently) {
  PullIn space;
  Walls inside, open;
  inside.walls.push_back({Vector3d::UnitX(), 0.5});
  for (int i = 0; i < 20; ++i) space.step(behind(3), {}, open, 1 / 60.0, {});
  EXPECT_TRUE(space.step(behind(3), {}, inside, 1 / 60.0, {}).headBlocked);
  double before = 0, most = 0;
  for (int i = 0; i < 300; ++i) {
    const double distance = space.step(behind(3), {}, open, 1 / 60.0, {}).distance;
    most = std::max(most, distance - before);
    before = distance;
  }
  EXPECT_LT(most, PullInSettings().outSpeed / 60 + 1e-9);
  EXPECT_NEAR(before, 3, 1e-4);
}

TEST(PullIn, EndsAtAMillimetre) {
  PullIn space;
  space.step(behind(3), {}, wallBehind(1), 1 / 60.0, {});
  double out = 0;
  const PullInSettings settings = plain();
  for (int i = 1; i < 600 && space.pulledIn(); ++i) {
    const PullInPose pose = space.step(behind(3), {}, Walls(), 1 / 60.0, settings);
    EXPECT_EQ(space.pulledIn(), 3 - pose.distance > 1e-3);
    out = i / 60.0;
  }
  // Half-lives until 2 m have become 1 mm.
  EXPECT_NEAR(out, 0.15 * std::log2(2.15 / 1e-3), 0.05);
}

/// Random walks and looks among posts and walls, at random frame times.
TEST(PullIn, IsClearInEveryFrameOfRandomPlay) {
  testing::Random random(17);
  int pulledIn = 0;
  for (int run = 0; run < 60; ++run) {
    Walls walls;
    for (int i = 0; i < 8; ++i)
      walls.poles.push_back({random.between(-6, 6), random.between(-6, 6), random.between(0.02, 0.3)});
    walls.walls.push_back({Vector3d::UnitY(), 0});
    walls.walls.push_back({random.chance(0.5) ? Vector3d::UnitX() : Vector3d::UnitZ(), -3});
    PullIn space;
    PullInRequest request = behind(3, random.between(-0.6, 0.6));
    PullInMotion motion;
    PullInSettings settings;
    settings.stoop = random.chance(0.3) ? degrees(6) : 0;
    double rate = 0;
    for (int frame = 0; frame < 300; ++frame) {
      const double dt = random.chance(0.05) ? random.between(0.05, 0.3) : random.between(0.002, 0.03);
      if (random.chance(0.05)) motion.velocity = {random.between(-4, 4), 0, random.between(-4, 4)};
      if (random.chance(0.05)) rate = random.between(-8, 8);
      request.head += dt * motion.velocity;
      request.anchor = request.head;
      request.orbit.yaw += dt * rate;
      request.aims = random.chance(0.02) ? !request.aims : request.aims;
      const PullInPose pose = space.step(request, motion, walls, dt, settings);
      if (pose.headBlocked) continue;
      const double sphere = request.radius * pose.nearPlane / request.nearPlane;
      EXPECT_GE(walls.clearance(pose.camera, 1), sphere - 1e-9) << run << ", " << frame;
      EXPECT_FALSE(walls.sweep(request.head, pose.camera - request.head, 1e-4).hit()) << run << ", " << frame;
      pulledIn += space.pulledIn() ? 1 : 0;
    }
  }
  EXPECT_GT(pulledIn, 2000);
}

}  // namespace
}  // namespace alpglow
