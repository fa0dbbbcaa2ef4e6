// Large things: looked past, kept out of, faded.

#include "alpglow/space/look_past.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/group_camera.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/space/assembly.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "alpglow/view/fading.hpp"
#include "support/boxes.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <limits>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Boxes;
using testing::wardenAt;
using testing::wide;

constexpr double radius = 0.15;
const Vector3d head(0, 1.7, 0), camera(0, 1.7, 3);

/// A cart 1 m long at this distance from the head, and a wall.
Boxes cartAt(double z, double wallAt = 100) {
  Boxes world;
  world.add({0, 1.5, z}, {1.2, 1.5, 0.5}, true);
  world.add({0, 1.5, wallAt + 0.5}, {5, 5, 0.5}, false);
  return world;
}

Vector3d placeOf(const LookPastPose& pose) { return head + Vector3d(0, 0, 3 * pose.along + pose.pushed); }

LookPastPose shown(LookPast& past, const Boxes& world, double seconds = 1.0 / 60) {
  past.advance(seconds);
  return past.place(head, camera, radius, world, {});
}

TEST(LookPast, LooksPastWhatStandsBetweenAndFadesIt) {
  LookPast past;
  shown(past, cartAt(9));
  LookPastPose pose;
  for (const int rate : {24, 240}) {
    LookPast each;
    for (int i = 0; i < rate / 4; ++i) pose = shown(each, cartAt(1.5), 1.0 / rate);
    EXPECT_EQ(pose.along, 1);
    EXPECT_EQ(each.covers()[0].thing, 0u);
    EXPECT_NEAR(each.covers()[0].opacity, 0.25 + 0.75 * std::exp2(-2.5), 1e-12) << "half-lives of 0.1 s";
  }
  for (int i = 0; i < 60; ++i) shown(past, cartAt(1.5));
  EXPECT_NEAR(past.covers()[0].opacity, 0.25, 1e-2);
  for (int i = 0; i < 90; ++i) shown(past, cartAt(9));
  EXPECT_EQ(past.covers()[0].thing, noObstacle) << "it came back";
  Boxes two = cartAt(0.9);
  two.add({0, 1.5, 2}, {1.2, 1.5, 0.2}, true);
  for (int i = 0; i < 60; ++i) shown(past, two);
  for (const ObstacleId thing : {0u, 2u}) {
    EXPECT_TRUE(std::any_of(past.covers().begin(), past.covers().end(), [thing](const Covering& each) {
      return each.thing == thing && each.opacity < 0.3;
    })) << thing;
  }
}

Hiding hidingBy(std::initializer_list<ObstacleId> things) {
  Hiding hiding;
  for (const ObstacleId thing : things) hiding.things[hiding.count++] = thing;
  return hiding;
}

TEST(Fading, FadesWhatHidesByItsHalfLifeAtAnyFrameRateAndForgetsWhatCameBack) {
  for (const int rate : {24, 240}) {
    Fading fading;
    fading.update(hidingBy({}), 1.0 / rate, {});
    for (int i = 0; i < rate / 4; ++i) fading.update(hidingBy({7, 3}), 1.0 / rate, {});
    EXPECT_EQ(fading.all().size(), 2u);
    EXPECT_NEAR(fading.opacityOf(3), 0.25 + 0.75 * std::exp2(-2.5), 1e-12);
    for (int i = 0; i < rate / 4; ++i) fading.update(hidingBy({7}), 1.0 / rate, {});
    EXPECT_NEAR(fading.opacityOf(3), 1 - 0.75 * (1 - std::exp2(-2.5)) * std::exp2(-2.5), 1e-12);
    for (int i = 0; i < 2 * rate; ++i) fading.update(hidingBy({7}), 1.0 / rate, {});
    ASSERT_EQ(fading.all().size(), 1u);
    EXPECT_EQ(fading.all()[0].thing, 7u);
    EXPECT_EQ(fading.opacityOf(3), 1);
  }
}

TEST(Fading, IsAtOnceAsItWillBeBehindACutAndNoTimeChangesNothing) {
  Fading fading;
  fading.update(hidingBy({4}), 0, {});
  EXPECT_EQ(fading.opacityOf(4), 0.25) << "at first";
  fading.cut();
  fading.update(hidingBy({5}), 0.01, {});
  EXPECT_EQ(fading.opacityOf(5), 0.25);
  EXPECT_EQ(fading.all().size(), 1u);
  for (const double dt : {0.0, -1.0, std::nan(""), std::numeric_limits<double>::infinity()})
    fading.update(hidingBy({}), dt, {});
  EXPECT_EQ(fading.opacityOf(5), 0.25);
}

TEST(Fading, HasRoomForAllThatHidesWhateverHidBefore) {
  Fading fading;
  Hiding before, now;
  for (ObstacleId i = 0; i < Hiding::most; ++i) before.things[i] = i, now.things[i] = 100 + i;
  before.count = now.count = Hiding::most;
  for (int i = 0; i < 60; ++i) fading.update(before, 1.0 / 60, {});
  for (int i = 0; i < 60; ++i) fading.update(now, 1.0 / 60, {});
  for (const ObstacleId thing : now.all()) EXPECT_NEAR(fading.opacityOf(thing), 0.25, 1e-3);
}

TEST(Fading, FindsSoftThingsOnlyAlsoInPartsOfAWorld) {
  const auto sheetAt = [](double z) { return std::vector<Triangle>{{{-3, 0, z}, {3, 0, z}, {0, 4, z}}}; };
  const std::uint32_t soft = std::uint32_t{Purpose::soft} | Purpose::sight;
  const std::vector<Triangle> first = sheetAt(1), second = sheetAt(2);
  Thing leaves;
  leaves.stops = soft;
  const TriangleMesh hedge(first, leaves), fence(second, Thing());
  Assembly world;
  world.add(hedge, hedge.bounds(), {8});
  Thing all = leaves;
  all.id = 9;
  world.add(fence, fence.bounds(), all);
  const Vector3d points[] = {head};
  const Hiding hiding = whatHides({0, 1.7, 4}, points, world, Purpose::soft);
  ASSERT_EQ(hiding.count, 2u);
  EXPECT_EQ(hiding.things[0], 9u);
  EXPECT_EQ(hiding.things[1], 8u);
  EXPECT_EQ(whatHides({0, 1.7, 4}, points, world, Purpose::camera).count, 0u);
  const Neighbourhood near(world);
  EXPECT_EQ(static_cast<const Obstacles&>(near).sweep({0, 1.7, 4}, {0, 0, -4}, 0.2).distance, 4) << "the camera passes";
}

TEST(LookPast, IsPushedBackByWhatBacksIntoItAndComesBack) {
  LookPast past;
  double last = 0, z = 1.5;
  LookPastPose pose;
  for (int i = 0; i < 80; ++i, z += 0.02) {
    const Boxes world = cartAt(z);
    pose = shown(past, world);
    ASSERT_GE(world.clearanceOf(true, placeOf(pose)), radius);
    ASSERT_LT(std::abs(pose.pushed - last), 0.03);
    last = pose.pushed;
  }
  EXPECT_EQ(pose.along, 1);
  EXPECT_NEAR(3 + pose.pushed, z - 0.02 + 0.5 + radius, 2e-3);
  EXPECT_EQ(pose.before, noObstacle);
  for (int i = 0; i < 30; ++i) pose = shown(past, cartAt(9));
  EXPECT_NEAR(pose.pushed, last / 4, 1e-9) << "two half-lives";
}

TEST(LookPast, IsPushedByNoMoreThanItsDistanceAndNowhereAtTheHead) {
  LookPast past;
  for (double z = 1.5; z < 3; z += 0.02) shown(past, cartAt(z));
  const double pushed = shown(past, cartAt(3)).pushed;
  ASSERT_GT(pushed, 0.6);
  double last = 3 + pushed;
  for (double distance = 3; distance > 0; distance -= 0.02) {
    const LookPastPose pose = past.place(head, head + Vector3d(0, 0, distance), radius, cartAt(20), {});
    ASSERT_EQ(pose.along, 1);
    ASSERT_LE(pose.back.norm(), std::min(pushed, distance));
    ASSERT_EQ(pose.back.norm(), pose.pushed);
    ASSERT_LE(std::abs(distance + pose.pushed - last), 0.04 + 1e-9) << "it goes in as it is asked to";
    last = distance + pose.pushed;
  }
  for (double z = 1.5; z < 3; z += 0.02) shown(past, cartAt(z));
  const LookPastPose pose = past.place(head, head + Vector3d(0, 2e-16, 0), radius, cartAt(20), {});
  EXPECT_EQ(pose.pushed, 0);
  EXPECT_EQ(pose.back, Vector3d(0, 0, 0));
}

TEST(LookPast, ComesInBeforeItWhereAWallLeavesNoRoomAndGoesOutOnceItIsGone) {
  LookPast past;
  LookPastPose pose;
  for (double z = 1.5; z < 2.6; z += 0.02) pose = shown(past, cartAt(z, 3.2));
  EXPECT_EQ(pose.before, 0u);
  EXPECT_TRUE(past.cameIn());
  EXPECT_GE(pose.clear, pose.along);
  EXPECT_LT(3 * pose.along, 2.6 - 0.5 - radius);
  for (int i = 0; i < 300; ++i) pose = shown(past, cartAt(1.5, 3.2));
  EXPECT_NEAR(3 * pose.along, 1.5 - 0.5 - radius, 2e-3) << "it does not go through";
  double last = pose.along;
  for (int i = 0; i < 240; ++i) {
    pose = shown(past, cartAt(9, 3.2));
    ASSERT_LT(3 * (pose.along - last), 0.2);
    last = pose.along;
  }
  EXPECT_NEAR(pose.along, 1, 1e-6);
}

TEST(LookPast, StaysBeforeWhatItZoomsOutToward) {
  LookPast past;
  const Boxes world = cartAt(2);
  double last = 0.5;
  for (double distance = 0.5; distance < 4; distance += 0.05) {
    past.advance(1.0 / 60);
    const LookPastPose pose = past.place(head, {0, 1.7, distance}, radius, world, {});
    ASSERT_LT(pose.along * distance - last, 0.06);
    ASSERT_LT(pose.along * distance, 1.5 - radius);
    last = pose.along * distance;
  }
}

TEST(LookPast, CostsNothingAndSaysNothingWhereNothingIsLarge) {
  Boxes world = cartAt(1.5);
  world.all[0].large = false;
  const Neighbourhood near(world);
  near.gather(Bounds::around(head, 5));
  EXPECT_FALSE(near.sweepLarge(head, camera - head, radius).hit());
  LookPast past;
  EXPECT_EQ(past.place(head, camera, radius, near, {}).along, 1);
  EXPECT_FALSE(past.limiting());
}

/// Wherever the head itself is clear.
TEST(LookPast, KeepsTheNearPlaneOutOfWhateverComesAmongWalls) {
  testing::Random random(11);
  int frames = 0, pushed = 0, before = 0, past = 0;
  for (int run = 0; run < 25; ++run) {
    Boxes world;
    std::vector<Vector3d> speeds;
    for (int i = 0; i < 14; ++i) {
      const double x = random.between(-6, 6), z = random.between(-6, 6), w = random.between(0.3, 1.2);
      const double d = random.between(0.3, 1.2), vx = random.between(-2, 2), vz = random.between(-2, 2);
      const bool large = i < 8;
      world.add({x, 1, z}, {w, 1.4, d}, large);
      speeds.push_back(large ? Vector3d(vx, 0, vz) : Vector3d(0, 0, 0));
    }
    const CompiledDesign design{CameraDesign()};
    CharacterCamera filming(design, wardenAt({0, 0, 0}));
    const Neighbourhood near(world);
    for (int i = 1; i < 900; ++i) {
      for (std::size_t k = 0; k < speeds.size(); ++k) {
        Vector3d& middle = world.all[k].box.centre;
        middle += speeds[k] / 60;
        for (const int axis : {0, 2}) {
          if (std::abs(middle[axis]) > 6) speeds[k][axis] = -std::copysign(speeds[k][axis], middle[axis]);
        }
      }
      const double angle = 0.01 * i;
      const Subject subject = wardenAt({2 * std::sin(angle), 0, 2 * std::sin(1.7 * angle)});
      const IntentSample hand[] = {IntentSample::look(0, {25 * std::sin(0.02 * i), 0})};
      const View view = filming.step(1.0 / 60, Intent{hand}, subject, near, wide);
      ++frames;
      const double sphere = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
      if (world.clearanceOf(true, subject.head) < sphere + 0.01 || world.clearanceOf(false, subject.head) < 0.2)
        continue;
      ASSERT_GE(world.clearanceOf(true, view.position), sphere - 1e-4) << run << ", " << i;
      ASSERT_GE(world.clearanceOf(false, view.position), sphere - 1e-4) << run << ", " << i;
      pushed += view.distance > view.freeDistance + 1e-3;
      before += view.obstacle < 8 && view.pulledIn;
      past += std::any_of(view.covers.begin(), view.covers.end(), [](const Covering& c) { return c.opacity < 0.9; });
    }
  }
  EXPECT_GT(pushed, frames / 100);
  EXPECT_GT(before, frames / 100);
  EXPECT_GT(past, frames / 20);
}

/// Pushed back by a cart that follows on its heels, it changes to the eyes.
TEST(LookPast, LeavesTheEyesWhereTheyAre) {
  const CompiledDesign design(testing::wardenDesign());
  int inTheEyes = 0, pushed = 0;
  for (int run = 0; run < 40; ++run) {
    testing::Random random(static_cast<unsigned>(run));
    Subject subject = wardenAt({random.between(-9, 9), random.between(-1, 1), random.between(-9, 9)});
    subject.velocity = {random.between(-1, 1), 0, random.between(-1, 1)};
    CharacterCamera filming(design, subject);
    Vector3d last = filming.step(1.0 / 60, {}, subject, NoObstacles(), wide).position;
    for (int i = 0; i < 120; ++i) {
      if (i == 40) filming.choose(Perspective::first);
      subject.feet += subject.velocity / 60;
      subject.head += subject.velocity / 60;
      Boxes world;
      if (i < 40) world.add(subject.head + Vector3d(0, 0, 1 + 0.05 * i), {1, 0.8, 0.3}, true);
      const Neighbourhood near(world);
      const View view = filming.step(1.0 / 60, {}, subject, near, wide);
      pushed += i == 39 && view.distance > view.freeDistance + 0.3;
      if (view.firstPerson == 1 && view.framingBlend == 1) {
        ++inTheEyes;
        ASSERT_LT((view.position - subject.head).norm(), 1e-9) << run << ", " << i;
        ASSERT_EQ(view.distance, 0);
      }
      ASSERT_LT((view.position - last).norm(), 0.5) << run << ", " << i;
      last = view.position;
    }
  }
  EXPECT_GT(pushed, 20);
  EXPECT_GT(inTheEyes, 1000);
}

TEST(LookPast, IsAWallToAGroup) {
  Boxes world;
  world.add({0, 1.5, 4}, {6, 1.5, 0.5}, true);
  GroupCamera group{GroupSettings()};
  const GroupMember members[] = {{1, {-1.5, 1.6, 0}, 0.6, 1}, {2, {1.5, 1.6, 0}, 0.6, 1}};
  View view;
  for (int i = 0; i < 60; ++i) view = group.update(1.0 / 60, members, world, wide);
  EXPECT_GT(view.freeDistance, 3) << "it would be behind";
  EXPECT_GE(world.clearanceOf(true, view.position),
            nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect) - 1e-6);
  EXPECT_LT(view.position.z(), 3.5);
}

}  // namespace
}  // namespace alpglow
