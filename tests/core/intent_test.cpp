// What an intent says holds until it says otherwise; what the host says is another matter.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/flying_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <type_traits>

namespace alpglow {
namespace {

using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

static_assert(!std::is_constructible_v<CharacterCamera, CompiledDesign, Subject>, "a temporary design would dangle");
static_assert(std::is_constructible_v<CharacterCamera, const CompiledDesign&, Subject>);

class Intents : public ::testing::Test {
 protected:
  View run(int frames, const Intent& first = {}) {
    View view;
    for (int i = 0; i < frames; ++i) view = camera_.step(0.01, i == 0 ? first : Intent(), subject_, open_, wide);
    return view;
  }
  Intent zooming(double rate) const {
    Intent intent;
    intent.zoomRate = rate;
    return intent;
  }

  const CompiledDesign design_{wardenDesign()};
  const NoObstacles open_{};
  const Subject subject_ = wardenAt({0, 0, 0});
  CharacterCamera camera_{design_, subject_};
};

TEST_F(Intents, WhatIsSaidOnceHoldsOverFrames) {
  const IntentSample on[] = {IntentSample::aim(0, true), IntentSample::turn(0, {0.5, 0})};
  run(1, Intent{on});
  const double yaw = camera_.heading();
  EXPECT_EQ(run(100).framing, 1) << "still aiming";
  EXPECT_LT(shortestTurn(yaw, camera_.heading()), -0.3) << "still turning to the right";
  const IntentSample off[] = {IntentSample::aim(0, false), IntentSample::turn(0, {0, 0})};
  run(1, Intent{off});
  EXPECT_EQ(run(100).framing, 0);
  const double rest = camera_.heading();
  run(50);
  EXPECT_NEAR(camera_.heading(), rest, 1e-12);
}

TEST_F(Intents, AndTheHostsAimingIsAnotherMatter) {
  camera_.setCondition(Condition::aiming, true);
  Intent lowered;
  lowered.aim = false;
  EXPECT_EQ(run(100, lowered).framing, 1) << "the host says so";
  const IntentSample raised[] = {IntentSample::aim(0, true)};
  run(1, Intent{raised});
  camera_.setCondition(Condition::aiming, false);
  EXPECT_EQ(run(100).framing, 1) << "the player says so";
  EXPECT_EQ(run(100, lowered).framing, 0);
}

TEST_F(Intents, APoseSaysOnlyWhatItSays) {
  run(1);
  const LookAngles look = camera_.lookAngles();
  camera_.setPose({1.0, {}, {}});
  View view = run(1);
  EXPECT_NEAR(view.yaw, 1, 1e-12);
  EXPECT_NEAR(view.pitch, look.pitch, 1e-12);
  EXPECT_NEAR(view.freeDistance, wardenDesign().framings[0].framing.distance, 1e-9);
  camera_.setPose({{}, 0.2, 2.0});
  view = run(1);
  EXPECT_NEAR(view.yaw, 1, 1e-12);
  EXPECT_NEAR(view.pitch, 0.2, 1e-12);
  EXPECT_NEAR(view.freeDistance, 2, 1e-9);
  EXPECT_TRUE(view.cut);
}

TEST_F(Intents, AHeldZoomClimbsTheMagnifications) {
  camera_.setCondition(Condition::aiming, true);
  run(100);
  const double shoulder = camera_.view().fieldOfView;
  const auto magnified = [&](const View& view) { return std::tan(shoulder / 2) / std::tan(view.fieldOfView / 2); };
  run(1, zooming(1));
  EXPECT_NEAR(magnified(run(30, zooming(0))), 2, 1e-6) << "pressed once: a step at once";
  EXPECT_NEAR(magnified(run(30, zooming(-1))), 1, 1e-6);
  EXPECT_NEAR(magnified(run(50, zooming(1))), 4, 1e-6) << "held: one after the other";
  run(1, zooming(0));
  EXPECT_NEAR(run(200, zooming(-1)).fieldOfView, shoulder, 1e-9);
}

TEST_F(Intents, AHeldZoomEntersTheEyesAndLeavesThemAlikeAtEveryFrameRate) {
  CameraDesign plain = wardenDesign();
  plain.zoomIntoEyes = true;
  plain.zoom.notchesPerSecond = 4;
  const CompiledDesign design(plain);
  CharacterCamera coarse(design, subject_), fine = coarse;
  bool eyes = false;
  for (int i = 0; i < 120; ++i) {
    const Intent intent = zooming(i < 70 ? 0.8 : -1);
    const View a = coarse.step(1 / 24.0, intent, subject_, open_, wide);
    View b;
    for (int k = 0; k < 10; ++k) b = fine.step(1 / 240.0, intent, subject_, open_, wide);
    ASSERT_LT((a.position - b.position).norm(), 1e-7) << i;
    ASSERT_NEAR(a.fieldOfView, b.fieldOfView, 1e-9);
    eyes |= a.firstPerson == 1;
  }
  EXPECT_TRUE(eyes);
  EXPECT_EQ(coarse.perspective(), Perspective::third) << "and out again";
  EXPECT_GT(coarse.view().distance, 2);
}

/// At every turn rate that a design may have, and upward as to the side, a stick at its end asks for another target.
TEST_F(Intents, AStickFlicksHoweverFastItTurns) {
  for (const double rate : {10.0, 60.0, 150.0, 200.0, 720.0}) {
    for (const Rate push : {Rate{1, 0}, Rate{-1, 0}, Rate{0, 1}, Rate{0, -1}}) {
      CameraDesign plain;
      plain.look.yawRate = plain.look.pitchRate = degrees(rate);
      const CompiledDesign design(plain);
      CharacterCamera camera(design, subject_);
      camera.update(0.0, subject_, open_, wide);
      camera.lockOn({1, {0, 2, -10}, Eigen::Vector3d::Zero(), 0.5});
      Rate flick;
      int flicks = 0;
      for (int i = 0; i < 60; ++i) {
        Intent intent;
        intent.turn = i < 30 ? push : Rate{0.4 * push.x, 0.4 * push.y};
        intent.turnScale = {-1, 1};
        const View view = camera.step(1 / 60.0, intent, subject_, open_, wide);
        if (view.flick.x == 0 && view.flick.y == 0) continue;
        flick = view.flick;
        ++flicks;
      }
      EXPECT_EQ(flicks, 1) << rate;
      EXPECT_NEAR(flick.x, -push.x, 1e-6) << "the player has turned it round";
      EXPECT_NEAR(flick.y, push.y, 1e-6);
    }
  }
}

TEST(FlyingCamera, LooksInNoTimeAndGoesWhereItIsPut) {
  FlyingCamera camera(FlightSettings(), {1, 2, 3}, {0, 0});
  camera.step(1, Intent(), {0, 1}, 0, true);
  camera.view(wide);
  const IntentSample moved[] = {IntentSample::look(0, {100, 0})};
  camera.step(0, Intent{moved}, {}, 0, false);
  EXPECT_LT(camera.view(wide).yaw, -0.01);
  camera.setPose({7, 8, 9}, {1, 3});
  const View view = camera.view(wide);
  EXPECT_EQ(view.position, Eigen::Vector3d(7, 8, 9));
  EXPECT_NEAR(view.yaw, 1, 1e-12);
  EXPECT_NEAR(view.pitch, pi / 2, 1e-12) << "within its limits";
  EXPECT_TRUE(view.cut);
  EXPECT_EQ(camera.velocity(), Eigen::Vector3d::Zero());
}

TEST(InputSigns, UpIsUpAndRightIsRight) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const LookAngles before = camera.lookAngles();
  camera.look(0.1, Intent({}, {0, 1}));
  EXPECT_GT(camera.lookAngles().pitch, before.pitch) << "a stick away from the user looks up";
  camera.look(0.1, Intent({}, {1, 0}));
  EXPECT_LT(shortestTurn(before.yaw, camera.lookAngles().yaw), 0) << "to the right";
  const double pitch = camera.lookAngles().pitch;
  const IntentSample down[] = {IntentSample::look(0, {0, 50})};
  camera.look(0.1, {down, {0, 0}});
  EXPECT_LT(camera.lookAngles().pitch, pitch) << "a hand toward the user looks down";
}

}  // namespace
}  // namespace alpglow
