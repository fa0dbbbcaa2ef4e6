// Switching between third and first person: by command, by zooming, and where an obstacle leaves no room.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Walls;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

/// What may be going on while the perspective is switched.
enum class Meanwhile { nothing, aiming, locked, looksFreely, pulledIn, crouching, switchesBack };

class Switching : public ::testing::TestWithParam<Meanwhile> {};

TEST_P(Switching, GoesOnSmoothlyAndArrives) {
  constexpr double dt = 1 / 240.0;
  const Meanwhile meanwhile = GetParam();
  const CompiledDesign design(wardenDesign());
  Walls world;
  if (meanwhile == Meanwhile::pulledIn) world.walls = {{{0, 0, -1}, -1.1}};
  Subject subject = wardenAt({0, 0, 0});
  if (meanwhile == Meanwhile::crouching) subject.head.y() = 1.1;
  CharacterCamera camera(design, subject);
  camera.setCondition(Condition::crouched, meanwhile == Meanwhile::crouching);
  Target bird;
  bird.id = 7;
  bird.position = {4, 3, -9};
  Intent intent;
  intent.aim = meanwhile == Meanwhile::aiming;
  intent.glance = meanwhile == Meanwhile::looksFreely;
  View view, before;
  double heading = 0, free = 0;
  bool third = true;
  for (int i = 0; i < 720; ++i) {
    std::vector<IntentSample> samples;
    if (i == 60 && intent.glance) samples.push_back(IntentSample::look(0, {300, 0}));
    if (i == 200 || i == 460 || (i == 250 && meanwhile == Meanwhile::switchesBack)) {
      samples.push_back(IntentSample::switchPerspective(dt / 2));
      third = !third;
    }
    if (meanwhile == Meanwhile::locked) camera.lockOn(bird);
    intent.samples = samples;
    before = view;
    view = camera.step(i > 0 ? dt : 0, intent, subject, world, wide);
    if (i == 199) heading = view.heading, free = view.glanceYaw;
    if (i < 200) continue;
    const double step = (view.position - before.position).norm();
    ASSERT_FALSE(view.cut);
    ASSERT_LT(step, 30 * dt) << i;
    ASSERT_LT(std::abs(view.firstPerson - before.firstPerson), 10 * dt) << i;
    ASSERT_LT(std::abs(view.fieldOfView - before.fieldOfView), 4 * dt);
    ASSERT_EQ(camera.perspective(), third ? Perspective::third : Perspective::first);
    if (meanwhile != Meanwhile::locked) {
      ASSERT_NEAR(shortestTurn(heading, view.heading), 0, 0.12) << "the parallax of what one aims at, at most";
    } else {
      ASSERT_EQ(view.lock, 7u);
      ASSERT_LT(view.lockError, degrees(4));
    }
    ASSERT_EQ(view.glanceYaw, free);
    if ((view.position - view.head).norm() < design.design().fade.invisibleBelow) {
      ASSERT_EQ(view.opacity, 0);
    }
    if (meanwhile == Meanwhile::pulledIn) {
      ASSERT_LT(view.position.z(), 1.1 - view.nearPlane);
    }
    if (i != 459 && i != 719) continue;
    ASSERT_EQ(view.framingBlend, 1);
    ASSERT_EQ(view.firstPerson, third ? 0 : 1);
    const int expected = third ? (meanwhile == Meanwhile::aiming      ? 1
                                  : meanwhile == Meanwhile::crouching ? 3
                                                                      : 0)
                               : (meanwhile == Meanwhile::aiming ? 5 : 4);
    ASSERT_EQ(view.framing, expected);
    ASSERT_EQ(view.pulledIn, meanwhile == Meanwhile::pulledIn && third);
  }
}

std::string nameOf(const ::testing::TestParamInfo<Meanwhile>& info) {
  constexpr const char* names[] = {"Nothing",  "Aiming",    "Locked",      "LooksFreely",
                                   "PulledIn", "Crouching", "SwitchesBack"};
  return names[static_cast<int>(info.param)];
}

INSTANTIATE_TEST_SUITE_P(Meanwhile, Switching,
                         ::testing::Values(Meanwhile::nothing, Meanwhile::aiming, Meanwhile::locked,
                                           Meanwhile::looksFreely, Meanwhile::pulledIn, Meanwhile::crouching,
                                           Meanwhile::switchesBack),
                         nameOf);

/// Backs up to a wall and comes away again, the distance of the head from the wall as given; what applied in the end.
int framingWithTheHeadAt(CharacterCamera& camera, double room, double& changes) {
  Walls world;
  world.walls = {{{0, 0, -1}, -room}};
  View view;
  for (int i = 0; i < 400; ++i) {
    view = camera.step(0.01, {}, wardenAt({0, 0, 0}), world, wide);
    if (view.events & (Event::eyesTookOver | Event::eyesGaveBack)) ++changes;
    EXPECT_EQ(camera.perspective(), Perspective::third);
  }
  return view.framing;
}

/// The hardest acceleration of the eye along the way into the eyes, switched back after this many milliseconds.
double hardestOfSwitching(int backAfter) {
  constexpr double dt = 1e-3;
  const CompiledDesign design(wardenDesign());
  const NoObstacles open;
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  double hardest = 0;
  Vector3d before[2] = {Vector3d::Zero(), Vector3d::Zero()};
  for (int i = 0; i < 2000; ++i) {
    if (i == 100 || i == 100 + backAfter) camera.switchPerspective();
    const Vector3d eye = camera.step(i > 0 ? dt : 0, {}, wardenAt({0, 0, 0}), open, wide).position;
    if (i > 1) hardest = std::max(hardest, (eye - 2 * before[0] + before[1]).norm() / (dt * dt));
    before[1] = before[0], before[0] = eye;
  }
  return hardest;
}

TEST(Perspective, SwitchingBackBrakesNoMoreThanTwoAndAHalfTimesAsHard) {
  const double whole = hardestOfSwitching(1000);
  for (int ms = 20; ms < 350; ms += 30) EXPECT_LT(hardestOfSwitching(ms), 2.5 * whole) << ms;
}

TEST(Perspective, TheEyesTakeOverWhereAnObstacleLeavesNoRoomAndGiveBackWithHysteresis) {
  CameraDesign plan = wardenDesign();
  plan.framings[0].framing.shoulder = 0;
  plan.framings[0].framing.anchorRise = 0;
  const CompiledDesign design(plan);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  double changes = 0;
  // The near-plane sphere takes some 0.1 m of the room.
  EXPECT_EQ(framingWithTheHeadAt(camera, 3.0, changes), 0);
  EXPECT_EQ(framingWithTheHeadAt(camera, 0.5, changes), 0) << "0.4 m: faded, but there";
  EXPECT_EQ(changes, 0);
  EXPECT_EQ(framingWithTheHeadAt(camera, 0.3, changes), 4);
  EXPECT_EQ(changes, 1);
  EXPECT_EQ(framingWithTheHeadAt(camera, 0.6, changes), 4) << "not yet";
  EXPECT_EQ(changes, 1);
  EXPECT_EQ(framingWithTheHeadAt(camera, 0.9, changes), 0);
  EXPECT_EQ(changes, 2);
  // Whoever chooses the eyes meanwhile keeps them.
  EXPECT_EQ(framingWithTheHeadAt(camera, 0.3, changes), 4);
  camera.choose(Perspective::first);
  Walls open;
  View view;
  for (int i = 0; i < 200; ++i) view = camera.step(0.01, {}, wardenAt({0, 0, 0}), open, wide);
  EXPECT_EQ(view.framing, 4);
  camera.switchPerspective();
  for (int i = 0; i < 200; ++i) view = camera.step(0.01, {}, wardenAt({0, 0, 0}), open, wide);
  EXPECT_EQ(view.framing, 0);
}

TEST(Perspective, BeingOnTheWayOutIsNoReasonForTheEyesToTakeOver) {
  const CompiledDesign design(wardenDesign());
  Walls beside;  // the shoulder has no room, the way back has
  beside.walls = {{{-1, 0, 0}, -0.25}};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.choose(Perspective::first);
  for (int i = 0; i < 100; ++i) camera.step(0.01, {}, wardenAt({0, 0, 0}), beside, wide);
  camera.switchPerspective();
  for (int i = 0; i < 100; ++i) {
    const View view = camera.step(0.01, {}, wardenAt({0, 0, 0}), beside, wide);
    ASSERT_EQ(view.events & Event::eyesTookOver, 0u) << i;
  }
  EXPECT_EQ(camera.view().framing, 0);
}

TEST(Sway, TurnsThePictureOnlyAndOnlyWhereTheDesignSaysSo) {
  CameraDesign plan = wardenDesign();
  const Subject subject = wardenAt({0, 0, 0});
  const NoObstacles open;
  for (const double sway : {0.0, degrees(0.4)}) {
    plan.framings[1].framing.sway = sway;
    const CompiledDesign design(plan);
    CharacterCamera camera(design, subject);
    Intent aiming;
    aiming.aim = true;
    double most = 0;
    for (int i = 0; i < 1000; ++i) {
      const View view = camera.step(i > 0 ? 0.01 : 0, aiming, subject, open, wide);
      EXPECT_EQ(view.heading, 0);
      EXPECT_NEAR(view.pitch - camera.lookAngles().pitch, view.swayPitch, 1e-12);
      most = std::max({most, std::abs(view.swayPitch), std::abs(view.swayYaw)});
    }
    EXPECT_NEAR(most, sway, 0.02 * sway);
  }
}

TEST(Perspective, EyesThatLagACrouchNeverSeeTheirOwnBody) {
  CameraDesign plan = testing::wardenDesign();
  for (NamedFraming& named : plan.framings) named.framing.eyeHalfLife = 0.2;
  const CompiledDesign design(plan);
  const NoObstacles open;
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0}));
  camera.choose(Perspective::first);
  for (int i = 0; i < 100; ++i) camera.update(0.016, testing::wardenAt({0, 0, 0}), open, testing::wide);
  for (int i = 0; i < 200; ++i) {
    Subject subject = testing::wardenAt({0, 0, 0});
    if (i < 100) subject.head.y() = 1.0;
    const View view = camera.step(0.016, {}, subject, open, testing::wide);
    ASSERT_EQ(view.firstPerson, 1);
    ASSERT_EQ(view.opacity, 0) << i << ": " << (view.position - view.head).norm() << " m from the head";
  }
}

}  // namespace
}  // namespace alpglow
