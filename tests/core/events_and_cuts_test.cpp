// Events at every end, what a cut forgets, which way input turns, and the rates that a view tells.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::standing;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

const NoObstacles open;
const Subject still = wardenAt({0, 0, 0});

TEST(Events, EveryEndIsAnEvent) {
  CameraDesign plain = wardenDesign();
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  standing(camera, 0.1);
  camera.setPose({1.0, {}, {}});
  standing(camera, 0.1);
  camera.swingBack();
  std::uint32_t events = 0;
  for (int i = 0; i < 100; ++i) events |= standing(camera, 0.01).events;
  EXPECT_TRUE(events & Event::swingBackBegan);
  EXPECT_TRUE(events & Event::swingBackEnded);
  testing::Walls low;
  low.walls.push_back({{0, -1, 0}, -1.68});  // a ceiling that touches the head
  EXPECT_TRUE(standing(camera, 0.01, {}, low).events & Event::headBlocked);
  EXPECT_EQ(standing(camera, 0.01, {}, low).events & (Event::headBlocked | Event::headFreed), 0u);
  EXPECT_TRUE(standing(camera, 0.01).events & Event::headFreed);
  camera.tick(0.01, wardenAt({50, 0, 0}));
  const View view = camera.update(0.01, wardenAt({50, 0, 0}), open, wide);
  EXPECT_TRUE(view.events & Event::teleport) << "also if a tick told of it";
  EXPECT_TRUE(view.cut);
}

TEST(Events, ANewSubjectAndANewPoseAreHandsOn) {
  CameraDesign plain;
  plain.swingBack.rate = 1;
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  EXPECT_EQ(standing(camera, 3).holdoff, 0);
  camera.setPose({1.0, {}, {}});
  EXPECT_NEAR(standing(camera, 0.01).holdoff, plain.swingBack.holdoff, 0.02);
  EXPECT_EQ(standing(camera, 3).holdoff, 0);
  camera.changeSubject(wardenAt({1, 0, 0}));
  EXPECT_NEAR(standing(camera, 0.01).holdoff, plain.swingBack.holdoff, 0.02);
}

TEST(Cut, AfterACutNothingIsLeftOfBefore) {
  CameraDesign plain = wardenDesign();
  plain.motion.bob = {0.06, 0.05};
  plain.steady.cap = degrees(5);
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  testing::Walls room;
  room.walls = {{{0, 0, -1}, -1.2}, {{0, 0, 1}, -0.8}, {{-1, 0, 0}, -0.4}};
  const Vector3d velocity(0, 0, -1.3);
  for (int i = 0; i < 20; ++i) camera.step(0.02, {}, wardenAt(0.02 * i * velocity, 0, velocity), room, wide);
  camera.setCondition(Condition::aiming, true);
  camera.step(0.05, {}, wardenAt(0.42 * velocity, 0, velocity), room, wide);
  const Subject there = wardenAt({70, 0, 0});
  CharacterCamera fresh(design, there);
  fresh.setCondition(Condition::aiming, true);
  const testing::FarSphere ball(30, there.feet);
  const IntentSample look[] = {IntentSample::look(0, {40, -20})};
  camera.setPose({0.0, 0.0, {}});
  fresh.setPose({0.0, 0.0, {}});
  for (int i = 0; i < 40; ++i) {
    const Subject now = wardenAt(there.feet + 0.02 * i * velocity, 0, velocity);
    const View a = camera.step(0.02, i == 1 ? Intent{look} : Intent(), now, ball, wide);
    const View b = fresh.step(0.02, i == 1 ? Intent{look} : Intent(), now, ball, wide);
    ASSERT_EQ(a.cut, i == 0);
    ASSERT_LT((a.position - b.position).norm(), 1e-9) << i;
    ASSERT_NEAR(a.pitch, b.pitch, 1e-9) << i;
    ASSERT_NEAR(a.yaw, b.yaw, 1e-9) << i;
    ASSERT_NEAR(a.fieldOfView, b.fieldOfView, 1e-9) << i;
  }
}

TEST(ViewRates, AViewTellsHowFastAStickTurnsIt) {
  const CompiledDesign design(wardenDesign());
  CharacterCamera camera(design, still);
  standing(camera, 0.1);
  const View before = camera.view();
  const View view = camera.step(0.01, Intent({}, {0.5, 0.25}), still, open, wide);
  EXPECT_NEAR(view.yawRate, shortestTurn(before.yaw, view.yaw) / 0.01, 1e-9);
  EXPECT_NEAR(view.pitchRate, (view.pitch - before.pitch) / 0.01, 1e-9);
  EXPECT_NE(view.pitchRate, 0);
}

}  // namespace
}  // namespace alpglow
