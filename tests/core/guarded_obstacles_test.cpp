#include "alpglow/space/guarded_obstacles.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Walls;

/// Answers what it is told to.
class Oracle final : public Obstacles {
 public:
  Contact answer;
  double clear = 0;
  std::size_t answers = 8;
  Contact sweep(const Vector3d&, const Vector3d&, double) const noexcept override { return answer; }
  Contact cast(const Vector3d&, const Vector3d&, Purpose::Bit) const noexcept override { return answer; }
  double clearance(const Vector3d&, double) const noexcept override { return clear; }
  void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept override {
    std::fill_n(contacts, std::min(answers, sweeps.size()), answer);
  }
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

TEST(GuardedObstacles, WhatIsNotAnsweredIsNoAnswer) {
  Oracle world;
  world.answer = {2, noObstacle};
  world.answers = 1;
  const GuardedObstacles checked(world);
  const Sweep sweeps[]{{{0, 0, 0}, {0, 2, 0}, 0.1}, {{0, 0, 0}, {2, 0, 0}, 0.1}};
  Contact contacts[]{{1, 5}, {1, 5}};
  checked.sweepAll({sweeps, 1}, contacts);
  EXPECT_EQ(contacts[0].distance, 2);
  EXPECT_FALSE(checked.bad());
  checked.sweepAll(sweeps, contacts);
  EXPECT_EQ(contacts[1].distance, 0);
  EXPECT_EQ(contacts[1].obstacle, unnamedObstacle);
  EXPECT_TRUE(checked.bad());
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

/// Neither view is pulled in; from the one straight to the other there is a post.
TEST(Interpolable, IsNotAFlickAcrossAPost) {
  CameraDesign plain;
  plain.pullIn.horizon = 0;
  const CompiledDesign design(plain);
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0}));
  const View before = camera.update(0.0, testing::wardenAt({0, 0, 0}), Walls(), testing::wide);
  const LookAngles aside{before.yaw + degrees(40), before.pitch};
  CharacterCamera other(design, testing::wardenAt({0, 0, 0}));
  other.setPose({aside.yaw, aside.pitch, {}});
  const View there = other.update(0.0, testing::wardenAt({0, 0, 0}), Walls(), testing::wide);
  Walls post;
  const Vector3d middle = (before.position + there.position) / 2;
  post.poles = {{middle.x(), middle.z(), 0.05}};
  const IntentSample flick[] = {IntentSample::look(0, {-degrees(40) / plain.look.yawPerCount, 0})};
  const View flicked = camera.step(1 / 60.0, Intent{flick}, testing::wardenAt({0, 0, 0}), post, testing::wide);
  EXPECT_FALSE(flicked.pulledIn);
  EXPECT_LT((flicked.position - there.position).norm(), 0.1);
  EXPECT_FALSE(flicked.interpolable);
}

}  // namespace
}  // namespace alpglow
