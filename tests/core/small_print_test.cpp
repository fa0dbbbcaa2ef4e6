// What is easy to lose and hard to see: signs, clocks, resets, edges.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/pull_in.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

const NoObstacles open;

Intent turning(Rate rate) { return Intent({}, rate); }

TEST(SmallPrint, UpIsUpAndRightIsRight) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const LookAngles before = camera.lookAngles();
  camera.look(0.1, turning({0, 1}));
  EXPECT_GT(camera.lookAngles().pitch, before.pitch) << "a stick away from the user looks up";
  camera.look(0.1, turning({1, 0}));
  EXPECT_LT(shortestTurn(before.yaw, camera.lookAngles().yaw), 0) << "to the right";
  const double pitch = camera.lookAngles().pitch;
  const IntentSample down[] = {IntentSample::look(0, {0, 50})};
  camera.look(0.1, {down, {0, 0}});
  EXPECT_LT(camera.lookAngles().pitch, pitch) << "a hand toward the user looks down";
}

TEST(SmallPrint, AViewThroughALensThatTheDesignDoesNotHaveIsNotRestored) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  for (const double fieldOfView : {20, 100}) {
    CameraDesign plain;
    plain.framings[0].framing.lens.fieldOfView = degrees(fieldOfView);
    const CompiledDesign foreign(plain);
    CharacterCamera other(foreign, wardenAt({0, 0, 0}));
    other.update(0.1, wardenAt({0, 0, 0}), open, wide);
    CharacterCamera::Saved saved = other.save();
    saved.designDigest = design.digest();
    EXPECT_FALSE(camera.restore(saved)) << fieldOfView;
  }
}

TEST(SmallPrint, MorePushesThanThereMayBeAreLeftOut) {
  CameraDesign plain;
  plain.pushes.resize(mostPushes + 3);
  EXPECT_EQ(CompiledDesign(plain).pushes().size(), mostPushes);
}

TEST(SmallPrint, AStateKnowsHowLongATargetWasHiddenAndHowLongAHandIsWaitedFor) {
  CameraDesign plain;
  plain.swingBack.rate = 1;
  plain.lock.hiddenFor = 1;
  const CompiledDesign design(plain);
  testing::Walls wall;
  wall.walls.push_back({{0, 0, 1}, -5});
  CharacterCamera camera(design, wardenAt({0, 0, 0})), other(design, wardenAt({0, 0, 0}));
  Target target;
  target.id = 1;
  target.position = {0, 1, -9};
  const IntentSample hand[] = {IntentSample::look(0, {3, 0})};
  camera.look(0.01, Intent{hand});
  for (int i = 0; i < 6; ++i) {
    camera.lockOn(target);
    camera.update(0.1, wardenAt({0, 0, 0}), wall, wide);
  }
  ASSERT_TRUE(camera.locked());
  ASSERT_TRUE(other.restore(camera.save()));
  EXPECT_GT(camera.view().holdoff, 0);
  EXPECT_EQ(other.view().holdoff, camera.view().holdoff);
  for (int i = 0; i < 6; ++i) other.update(0.1, wardenAt({0, 0, 0}), wall, wide);
  EXPECT_FALSE(other.locked()) << "hidden for more than a second in all";
}

TEST(SmallPrint, MoreFramingsThanThereMayBeAreLeftOut) {
  CameraDesign plain;
  plain.framings.resize(3 * mostFramings, plain.framings[0]);
  const CompiledDesign design(plain);
  EXPECT_EQ(design.design().framings.size(), mostFramings);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  EXPECT_TRUE(camera.restore(camera.save()));
}

TEST(SmallPrint, AnotherSubjectWithBadNumbersIsLeftOut) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide);
  camera.changeSubject(wardenAt({0, std::nan(""), 0}));
  const View view = camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide);
  EXPECT_EQ(view.faults, Fault::badSubject);
  EXPECT_FALSE(view.cut);
}

TEST(SmallPrint, AStateThatLooksStraightUpOrDownComesBack) {
  CameraDesign plain;
  plain.framings[0].framing.pitch = {-pi / 2, pi / 2};
  const CompiledDesign design(plain);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  for (const double pitch : {-pi / 2, pi / 2}) {
    camera.setPose({{}, pitch, {}});
    EXPECT_EQ(camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide).pitch, pitch);
    EXPECT_TRUE(camera.restore(camera.save()));
  }
}

TEST(SmallPrint, ComfortCapsWhatTurnsByItself) {
  Preferences calm;
  calm.comfort.autoTurnCap = degrees(30);
  const CompiledDesign design(CameraDesign(), calm);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.update(0.0, wardenAt({0, 0, 0}), open, wide);
  camera.lockOn({1, {10, 1.5, 0}, Vector3d::Zero(), 0.5});
  double before = camera.heading();
  for (int i = 0; i < 60; ++i) {
    camera.step(0.01, {}, wardenAt({0, 0, 0}), open, wide);
    ASSERT_LE(std::abs(shortestTurn(before, camera.heading())), degrees(0.3) + 1e-12);
    before = camera.heading();
  }
  EXPECT_LT(before, -0.1) << "but it does turn";
}

TEST(SmallPrint, APauseKeepsTheLockAndRestsTheSway) {
  CameraDesign plain = wardenDesign();
  plain.framings[0].framing.sway = degrees(1);
  plain.lock.hiddenFor = 0.5;
  const CompiledDesign design(plain);
  testing::Walls wall;
  wall.walls.push_back({{0, 0, 1}, -4});  // hides the target
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.lockOn({1, {0, 1.5, -10}, Vector3d::Zero(), 0.5});
  View view = camera.step(0.1, {}, wardenAt({0, 0, 0}), wall, wide);
  const double sway = view.swayPitch;
  for (int i = 0; i < 100; ++i) view = camera.step({0.1, 0.0}, {}, wardenAt({0, 0, 0}), wall, wide);
  EXPECT_TRUE(camera.locked()) << "hidden for ten seconds of the player's clock only";
  EXPECT_EQ(view.swayPitch, sway);
  for (int i = 0; i < 10; ++i) view = camera.step(0.1, {}, wardenAt({0, 0, 0}), wall, wide);
  EXPECT_FALSE(camera.locked());
  EXPECT_NE(view.swayPitch, sway);
}

TEST(SmallPrint, EachPullInHasItsDelay) {
  EaseOut ease;
  const EaseOutSettings settings{0.5, 0.1};
  for (int time = 0; time < 3; ++time) {
    EXPECT_EQ(ease.step(3, 1, 0.1, settings), 1);
    for (int i = 0; i < 4; ++i) EXPECT_EQ(ease.step(3, 3, 0.1, settings), 1) << "quiet for less than the delay";
    double distance = 1;
    for (int i = 0; i < 6; ++i) distance = ease.step(3, 3, 0.1, settings);
    EXPECT_GT(distance, 1.5);
  }
}

TEST(SmallPrint, WhoIsImmenselyFastIsForeseenWithinReasonAndSavedAsEverybody) {
  const CompiledDesign design{CameraDesign()};
  Subject subject = wardenAt({0, 0, 0});
  subject.velocity = {9e8, 0, 0};
  CharacterCamera camera(design, subject);
  camera.update({1e-8, 1e5}, subject, open, wide);
  camera.update({1e-8, 1e5}, subject, open, wide);
  EXPECT_TRUE(camera.restore(camera.save()));
}

TEST(SmallPrint, OnlyTheDirectionOfAFlickCounts) {
  View view;
  view.fieldOfView = degrees(60);
  const Target targets[] = {{1, {0, 0, -10}, Vector3d::Zero(), 0}, {2, {2, 1.9, -10}, Vector3d::Zero(), 0}};
  for (const double strength : {0.01, 1.0, 30.0}) {
    for (const double angle : {-25.0, 25.0, 65.0, 115.0}) {
      const double direction = degrees(angle);
      const Rate flick{strength * std::cos(direction), strength * std::sin(direction)};
      const bool toward = std::abs(angle - 43.5) < 60;
      EXPECT_EQ(nextTarget(view, targets, 1, flick, {}), toward ? 1 : -1) << strength << ", " << angle;
    }
  }
}

TEST(SmallPrint, AFlickGoesToNoTargetOutOfRange) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const View view = camera.update(0.0, wardenAt({0, 0, 0}), open, wide);
  const Target targets[] = {{1, {0, 2, -10}, Vector3d::Zero(), 0.5}, {2, {20, 2, -90}, Vector3d::Zero(), 0.5}};
  EXPECT_EQ(nextTarget(view, targets, 1, {1, 0}, RankingSettings()), -1);
  RankingSettings far;
  far.range = 200;
  EXPECT_EQ(nextTarget(view, targets, 1, {1, 0}, far), 1);
}

TEST(SmallPrint, CentimetresAreNoticed) {
  const CompiledDesign design{CameraDesign()};
  Subject tall = testing::wardenAt({0, 0, 0});
  CharacterCamera camera(design, tall);
  EXPECT_EQ(camera.step(0.01, {}, tall, open, 1.5).faults, 0u);
  tall.head = {0, 168, 0};
  const View view = camera.step(0.01, {}, tall, open, 1.5);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::badUnits});
  EXPECT_EQ(view.head, tall.head) << "they count as they are";
  tall.frame.scale = 100;
  EXPECT_EQ(camera.step(0.01, {}, tall, open, 1.5).faults, 0u) << "a giant";
}

}  // namespace
}  // namespace alpglow
