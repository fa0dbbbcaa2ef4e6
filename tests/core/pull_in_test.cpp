#include "alpglow/space/pull_in.hpp"

#include "alpglow/space/guarded_obstacles.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Walls;

constexpr double radius = 0.15;
const Vector3d head(0, 1.7, 0);

PullInRequest behind(double distance, const Vector3d& pivot = head) {
  return {head, pivot, Vector3d::UnitZ(), distance, 0.1, radius};
}

/// A wall across the way back, `z` metres behind the head.
Walls wallBehind(double z) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitZ(), -z});
  return walls;
}

TEST(PullIn, StopsAMillimetreBeforeTheSphereTouches) {
  PullIn space;
  const PullInPose pose = space.step(behind(4), wallBehind(2), 0.016, {});
  EXPECT_NEAR(pose.distance, 2 - radius - 0.001, 1e-9);
  EXPECT_EQ(pose.obstacle, 0u);
  EXPECT_TRUE(space.pulledIn());
}

TEST(PullIn, PullsInAtOnceAndEasesOutAfterTheDelayByHalfLife) {
  const EaseOutSettings settings{0.3, 0.2};
  PullIn space;
  EXPECT_EQ(space.step(behind(4), NoObstacles(), 0.01, settings).distance, 4);
  const double close = space.step(behind(4), wallBehind(2), 0.01, settings).distance;
  EXPECT_LT(close, 2);
  EXPECT_EQ(space.step(behind(4), NoObstacles(), 0.3, settings).distance, close) << "it waits for the delay";
  const double later = space.step(behind(4), NoObstacles(), 0.2, settings).distance;
  EXPECT_NEAR(4 - later, (4 - close) / 2, 1e-9) << "half of the way in a half-life";
}

TEST(PullIn, EasingOutDoesNotDependOnHowTimeIsCut) {
  testing::Random random(11);
  const EaseOutSettings settings{0.25, 0.2};
  for (int run = 0; run < 100; ++run) {
    EaseOut whole;
    whole.step(3, 1, 0.01, settings);
    EaseOut split = whole;
    const double total = random.between(0.1, 2);
    const double once = whole.step(3, 1e9, total, settings);
    double often = 0;
    for (const double part : random.cut(total, 40)) often = split.step(3, 1e9, part, settings);
    EXPECT_NEAR(once, often, 1e-9);
  }
}

TEST(PullIn, ZoomingWhileFreeIsNotHeldBack) {
  PullIn space;
  for (const double distance : {2.0, 3.0, 1.5, 5.0}) {
    EXPECT_EQ(space.step(behind(distance), NoObstacles(), 0.01, {}).distance, distance);
  }
}

TEST(PullIn, SeesThePoleBetweenTheTwoLegs) {
  // The pivot is 0.8 m to the right of the head; the pole stands inside the triangle head, pivot, camera.
  Walls walls;
  walls.poles.push_back({0.25, 1.2, 0.05});
  const Vector3d pivot = head + Vector3d(0.8, 0, 0);
  EXPECT_FALSE(walls.sweep(head, pivot - head, radius).hit());
  EXPECT_FALSE(walls.sweep(pivot, Vector3d(0, 0, 3), radius).hit()) << "neither leg meets it";
  PullIn space;
  const PullInPose pose = space.step(behind(3, pivot), walls, 0.016, {});
  EXPECT_FALSE(walls.sweep(head, pose.camera - head, radius).hit());
  EXPECT_LT(pose.distance, 1.5);
  const Vector3d direct = pivot + Vector3d(0, 0, 3) - head;
  EXPECT_NEAR((pose.camera - head).normalized().dot(direct.normalized()), 1, 1e-12)
      << "the head keeps its place in the screen";
}

TEST(PullIn, ShrinksNearAndSphereTogetherWhenTheHeadHasLessRoom) {
  PullIn space;
  const Walls walls = wallBehind(0.1);
  const PullInPose pose = space.step(behind(3), walls, 0.016, {});
  EXPECT_LT(pose.nearPlane, 0.1);
  EXPECT_FALSE(pose.headBlocked);
  EXPECT_GE(walls.clearance(pose.camera, 1), radius * pose.nearPlane / 0.1 - 1e-12);
}

TEST(PullIn, AHeadInsideAWallKeepsTheCameraAtTheHeadAndSaysSo) {
  PullIn space;
  const PullInPose pose = space.step(behind(3), wallBehind(-1), 0.016, {});
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
    const PullInPose pose =
        space.step({trembling, trembling, Vector3d::UnitZ(), 3, 0.1, radius}, besideHead, 1 / 60.0, {});
    if (i > 0) farthest = std::max(farthest, (pose.camera - trembling).norm());
    EXPECT_EQ(pose.headBlocked, i % 3 == 0);
  }
  EXPECT_EQ(farthest, 0);
}

TEST(PullIn, AHeadThatComesFreeLetsTheCameraOutGently) {
  PullIn space;
  Walls inside, open;
  inside.walls.push_back({Vector3d::UnitX(), 0.5});
  for (int i = 0; i < 20; ++i) space.step(behind(3), open, 1 / 60.0, {});
  EXPECT_TRUE(space.step(behind(3), inside, 1 / 60.0, {}).headBlocked);
  double before = 0, most = 0;
  for (int i = 0; i < 300; ++i) {
    const double distance = space.step(behind(3), open, 1 / 60.0, {}).distance;
    most = std::max(most, distance - before);
    before = distance;
  }
  EXPECT_LT(most, 3 * (1 - std::exp2(-1 / 60.0 / EaseOutSettings().halfLife)) + 1e-9);
  EXPECT_NEAR(before, 3, 1e-4);
}

TEST(PullIn, EndsAtAMillimetre) {
  PullIn space;
  space.step(behind(3), wallBehind(1), 1 / 60.0, {});
  double out = 0;
  const EaseOutSettings settings;
  for (int i = 1; i < 600 && space.pulledIn(); ++i) {
    const PullInPose pose = space.step(behind(3), Walls(), 1 / 60.0, settings);
    EXPECT_EQ(space.pulledIn(), 3 - pose.distance > 1e-3);
    out = i / 60.0;
  }
  // The delay, and half-lives until 2 m have become 1 mm.
  EXPECT_NEAR(out, settings.delay + settings.halfLife * std::log2(2.15 / 1e-3), 0.05);
}

/// Answers what it is told to.
class Oracle final : public Obstacles {
 public:
  Contact answer;
  double clear = 0;
  Contact sweep(const Vector3d&, const Vector3d&, double) const noexcept override { return answer; }
  Contact cast(const Vector3d&, const Vector3d&, Purpose::Bit) const noexcept override { return answer; }
  double clearance(const Vector3d&, double) const noexcept override { return clear; }
};

TEST(GuardedObstacles, TakesGoodAnswersAsTheyAre) {
  Oracle world;
  const GuardedObstacles checked(world);
  for (const Contact& good : {Contact{1.5, 7}, Contact{0, 0}, Contact{2, noObstacle}, Contact{2, 3}}) {
    world.answer = good;
    const Contact swept = checked.sweep({0, 0, 0}, {0, 2, 0}, 0.1),
                  cast = checked.cast({0, 0, 0}, {0, 2, 0}, Purpose::aim);
    EXPECT_EQ(swept.distance, good.distance);
    EXPECT_EQ(cast.obstacle, good.obstacle);
  }
  world.answer = {2.00001, noObstacle};  // as single precision rounds
  EXPECT_EQ(checked.cast({0, 0, 0}, {0, 2, 0}, Purpose::aim).distance, 2);
  world.clear = 9;
  EXPECT_EQ(checked.clearance({0, 0, 0}, 0.4), 0.4);
  EXPECT_FALSE(checked.bad());
}

TEST(GuardedObstacles, CountsABadAnswerAsAnObstacleRightThere) {
  const double nan = std::nan("");
  for (const Contact& bad : {Contact{nan, 1}, Contact{-0.1, 1}, Contact{2.1, 1}, Contact{1e308, noObstacle}}) {
    Oracle world;
    world.answer = bad;
    const GuardedObstacles checked(world);
    const Contact contact = checked.sweep({0, 0, 0}, {0, 2, 0}, 0.1);
    EXPECT_EQ(contact.distance, 0);
    EXPECT_TRUE(contact.hit());
    EXPECT_TRUE(checked.bad());
  }
  Oracle world;
  world.answer = {0.7, noObstacle};  // without an id, or a fraction of the way
  world.clear = nan;
  const GuardedObstacles checked(world);
  const Contact contact = checked.cast({0, 0, 0}, {0, 2, 0}, Purpose::aim);
  EXPECT_EQ(contact.distance, 0.7);
  EXPECT_EQ(contact.obstacle, unnamedObstacle);
  EXPECT_EQ(checked.clearance({0, 0, 0}, 0.4), 0);
}

TEST(GuardedObstacles, ACameraAmongNonsenseSaysSoAndForgetsItAtOnce) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0})), sane = camera;
  const NoObstacles open;
  Oracle world;
  world.answer = {std::nan(""), noObstacle};
  world.clear = 1;
  const View during = camera.update(0.016, testing::wardenAt({0, 0, 0}), world, testing::wide);
  EXPECT_EQ(during.faults, std::uint32_t{Fault::badObstacles});
  EXPECT_NEAR((during.position - during.head).norm(), 0, 1e-9);
  View after, never;
  for (int i = 0; i < 600; ++i) {
    after = camera.update(0.016, testing::wardenAt({0, 0, 0}), open, testing::wide);
    never = sane.update(0.016, testing::wardenAt({0, 0, 0}), open, testing::wide);
    ASSERT_EQ(after.faults, 0u);
    ASSERT_EQ(after.yaw, never.yaw);
  }
  EXPECT_LT((after.position - never.position).norm(), 1e-4);
}

TEST(Interpolable, IsWhatHasNoObstacleInBetween) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0}));
  const Walls open;
  EXPECT_FALSE(camera.update(0.0, testing::wardenAt({0, 0, 0}), open, testing::wide).interpolable) << "the first view";
  EXPECT_TRUE(camera.update(0.016, testing::wardenAt({0.02, 0, 0}), open, testing::wide).interpolable);
  Walls pole;  // comes between head and camera: the camera has to go through it
  const View before = camera.view();
  const Vector3d middle = (before.head + before.position) / 2;
  pole.poles = {{middle.x(), middle.z(), 0.1}};
  const View pulled = camera.update(0.016, testing::wardenAt({0.02, 0, 0}), pole, testing::wide);
  EXPECT_TRUE(pulled.pulledIn);
  EXPECT_FALSE(pulled.cut);
  EXPECT_FALSE(pulled.interpolable);
  for (int i = 0; i < 60; ++i)
    EXPECT_TRUE(camera.update(0.016, testing::wardenAt({0.02, 0, 0}), pole, testing::wide).interpolable) << i;
}

}  // namespace
}  // namespace alpglow
