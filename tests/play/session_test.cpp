// What is played, without a window.

#include "alpglow/play/session.hpp"

#include "alpglow/base/rotation.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/play/controls_picture.hpp"
#include "alpglow/play/parts.hpp"
#include "alpglow/play/place_by_eye.hpp"
#include "alpglow/play/thing_in_hand.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace alpglow {
namespace {

using play::Design;
using play::Session;

struct Played : ::testing::Test {
  stage::Stage stage{io::readLevel(ALPGLOW_DEMO "/refuge.level.toml")};
  Design trail = designOf("trail"), warden = designOf("warden");

  static Design designOf(const std::string& name) {
    return std::make_shared<CompiledDesign>(io::readDesign(ALPGLOW_DEMO "/" + name + ".camera.toml"));
  }
  Session session{stage, trail, standardBindings(), {}, 1.6};
  testing::Random random{3};

  void feed(const char* control, double x, double y = 0) { session.feed({0, findControl(control), x, y}); }
  /// A living hand: walks, looks, runs, jumps, aims, at uneven frame rates.
  void play(int frames) {
    for (int i = 0; i < frames; ++i) {
      if (i % 40 == 1) feed("KeyW", 1);
      if (i % 40 == 33) feed("KeyW", 0);
      if (random.chance(0.5)) feed("MouseMove", random.between(-30, 30), random.between(-8, 8));
      if (random.chance(0.03)) feed("ShiftLeft", random.chance(0.5) ? 1 : 0);
      if (random.chance(0.03)) feed("Space", random.chance(0.5) ? 1 : 0);
      if (random.chance(0.03)) feed("MouseButton2", random.chance(0.5) ? 1 : 0);
      if (random.chance(0.02)) feed("KeyV", 1), feed("KeyV", 0);
      session.frame(random.between(0.004, 0.04));
    }
  }
  std::string again(const play::Recording& recording, const CompiledDesign& design) {
    stage::RehearsalOptions options;
    options.aspect = 1.6;
    options.frameTimes = recording.frameTimes;
    return io::writeTrace(stage::rehearse(design, stage, recording.take, options));
  }
};

TEST_F(Played, WhatIsRecordedIsRehearsedToTheByte) {
  session.use(warden);
  play(100);
  session.record(true);
  play(300);
  const play::Recording recording = *session.stopRecording();
  EXPECT_EQ(recording.trace.size(), 300u);
  EXPECT_FALSE(recording.designChanged);
  EXPECT_EQ(again(recording, *warden), io::writeTrace(recording.trace));
  EXPECT_EQ(io::writeTake(recording.take).substr(0, 14), "alpglow take 1");
}

TEST_F(Played, AtAnotherTickRateToo) {
  play(50);
  stage.setTicksPerSecond(20);
  session.ticksChanged();
  play(50);
  session.record(true);
  play(200);
  const play::Recording recording = *session.stopRecording();
  const std::string coarse = again(recording, *trail);
  EXPECT_EQ(coarse, io::writeTrace(recording.trace));
  stage.setTicksPerSecond(60);
  EXPECT_NE(again(recording, *trail), coarse);
}

TEST_F(Played, WhatElseChangesWhileItRecordsIsSaid) {
  session.record();
  play(5);
  session.bodyChanged();
  EXPECT_TRUE(session.stopRecording()->designChanged);
  session.record();
  play(5);
  session.setPreferences({});
  EXPECT_TRUE(session.stopRecording()->designChanged);
}

TEST_F(Played, WhoFliesDoesNotJump) {
  io::Cue fly;
  fly.kind = io::Cue::Kind::camera;
  fly.name = "flying";
  session.obey(fly);
  session.frame(0.02);
  session.frame(0.02);
  const double floor = session.rehearsal().subject().feet.y();
  feed("Space", 1);
  for (int i = 0; i < 10; ++i) EXPECT_NEAR(session.frame(0.03).subject.y(), floor, 1e-9);
}

TEST_F(Played, ARecordingThatIsRewoundGoesOnFromThere) {
  session.record();
  play(400);
  const double from = session.now(), back = session.rewind(2);
  EXPECT_NEAR(back, 2, Session::apart + 0.05);
  EXPECT_NEAR(session.now(), from - back, 1e-12);
  play(100);
  const play::Recording recording = *session.stopRecording();
  EXPECT_EQ(again(recording, *trail), io::writeTrace(recording.trace));
}

TEST_F(Played, RewindingBringsBackCameraWalkerAndPlatformsAndReleasesWhatIsHeld) {
  for (int i = 0; i < 60; ++i) session.frame(1.0 / 60);
  std::vector<io::TraceFrame> rows;
  feed("KeyW", 1);
  for (int i = 0; i < 240; ++i) rows.push_back(session.frame(1.0 / 60));
  const double back = session.rewind(3);
  const io::TraceFrame& then = rows[rows.size() - 1 - static_cast<std::size_t>(std::lround(back * 60))];
  EXPECT_NEAR((session.rehearsal().subject().feet - then.subject).norm(), 0, 1e-12);
  EXPECT_NEAR((session.view().position - then.camera).norm(), 0, 1e-12);
  for (int i = 0; i < 60; ++i) session.frame(1.0 / 60);
  EXPECT_EQ(session.shown().moveY, 0) << "the key is not held any more";
  EXPECT_LT((session.shown().subject - then.subject).norm(), 0.6);
}

/// Live events are not kept, moments only for a while.
TEST_F(Played, DesignsThatAreTunedAllTheTimeAreFreedAgain) {
  std::weak_ptr<const CompiledDesign> old = session.design();
  trail.reset();
  CameraDesign other = warden->design();
  for (int i = 0; i < 1600; ++i) {
    other.framings[0].framing.distance = 2.5 + 0.001 * (i % 500);
    session.use(std::make_shared<CompiledDesign>(other));
    session.frame(0.01);
  }
  EXPECT_TRUE(old.expired());
}

TEST_F(Played, TuningDoesNotMakeTheCameraJump) {
  for (int i = 0; i < 30; ++i) session.frame(1.0 / 60);
  CameraDesign other = trail->design();
  double farthest = 0;
  for (int i = 0; i < 120; ++i) {
    other.framings[0].framing.distance = 2.9 + 0.01 * i;
    const Eigen::Vector3d before = session.view().position;
    session.use(std::make_shared<CompiledDesign>(other));
    session.frame(1.0 / 60);
    farthest = std::max(farthest, (session.view().position - before).norm());
    EXPECT_FALSE(session.view().cut);
  }
  EXPECT_LT(farthest, 0.08);
  for (int i = 0; i < 90; ++i) session.frame(1.0 / 60);
  EXPECT_NEAR(session.view().freeDistance, other.framings[0].framing.distance, 1e-3);
}

TEST_F(Played, WithoutInterpolationItIsDrawnTickByTick) {
  feed("KeyW", 1);
  for (int i = 0; i < 60; ++i) session.frame(1.0 / 60);
  const auto steps = [this] {
    int still = 0;
    for (int i = 0; i < 48; ++i) {
      const Eigen::Vector3d before = session.shown().subject;
      session.frame(1.0 / 240);
      still += (session.shown().subject - before).norm() < 1e-9 ? 1 : 0;
    }
    return still;
  };
  EXPECT_EQ(steps(), 0);
  session.setInterpolated(false);
  session.frame(1.0 / 240);
  EXPECT_NEAR(steps(), 36, 1) << "three of four frames show the tick before";
}

TEST_F(Played, WhileTimeStandsStillTheMouseIsForgottenAndKeysAreNot) {
  session.frame(1.0 / 60);
  const double yaw = session.view().yaw;
  feed("MouseMove", 400, 0);
  feed("KeyW", 1);
  session.wait();
  for (int i = 0; i < 30; ++i) session.frame(1.0 / 60);
  EXPECT_EQ(session.view().yaw, yaw);
  EXPECT_EQ(session.shown().moveY, 1);
}

TEST_F(Played, AReplayLoopsIsSoughtAndTakesAnotherDesign) {
  const io::Take take = io::readTake(ALPGLOW_DEMO "/corner.take");
  session.replay(take);
  std::vector<io::TraceFrame> rows;
  while (session.now() < take.length - 1e-9) rows.push_back(session.frame(1.0 / 60));
  session.seek(4);
  EXPECT_NEAR(session.now(), 4, 1e-9);
  const io::TraceFrame& straight = rows[239];
  EXPECT_NEAR((session.view().position - straight.camera).norm(), 0, 1e-9) << "as if it had been played until there";
  session.seek(take.length);
  session.frame(1.0 / 60);
  EXPECT_NEAR(session.now(), 1.0 / 60, 1e-9) << "and over again";
  feed("KeyW", 1);
  session.use(warden);
  session.seek(1);
  EXPECT_EQ(session.design(), warden);
  session.stopReplay();
  EXPECT_FALSE(session.replaying());
}

TEST_F(Played, TheOtherDesignBesideGetsTheSameInput) {
  play(60);
  session.playBeside(trail);
  for (int i = 0; i < 100; ++i) {
    feed("MouseMove", 5, 1);
    session.frame(1.0 / 60);
  }
  EXPECT_NEAR(session.shownBeside().yaw, session.shown().yaw, 1e-9);
  session.playBeside(warden);
  play(60);
  EXPECT_EQ(session.shownBeside().time, session.shown().time);
  EXPECT_NE(session.shownBeside().distance, session.shown().distance);
}

/// Whatever is bound can be seen, and nothing is drawn that does not exist.
TEST(ControlsPicture, ShowsEachControlOnce) {
  const std::vector<std::string> pictured = play::picturedControls();
  for (const std::string& name : pictured) {
    EXPECT_TRUE(findControl(name).valid()) << name;
    EXPECT_EQ(std::count(pictured.begin(), pictured.end(), name), 1) << name;
  }
  const Bindings standard = standardBindings();
  for (const Mode& mode : standard.modes) {
    for (const Binding& binding : mode.bindings)
      EXPECT_NE(std::count(pictured.begin(), pictured.end(), nameOf(binding.control)), 0) << nameOf(binding.control);
  }
}

TEST(InHand, OnlyWhatIsSmallAndNearInThePicture) {
  io::Level level;
  const auto add = [&](const Eigen::Vector3d& at, double size) {
    level.objects.push_back(
        {"thing-" + std::to_string(level.objects.size()), "metal", {}, io::boxMesh(at, {size, size, size}, 0), true});
  };
  View view;
  view.position = {0, 1.6, 0};
  add({0, 1.6, -3}, 2);     // large
  add({0, 1.6, 3}, 0.1);    // behind
  add({0, 1.6, -30}, 0.1);  // far
  add({9, 1.6, -2}, 0.1);   // beside the picture
  EXPECT_EQ(play::smallThingAhead(level, view), -1);
  add({1, 1.6, -3}, 0.1);
  add({0.3, 1.6, -9}, 0.2);
  ASSERT_EQ(play::smallThingAhead(level, view), 5);
  play::ThingInHand hand(level, 5, standardBindings(), {});
  EXPECT_EQ(hand.name(), "thing-5");
  const double far = hand.inspection().distance();
  hand.feed({0, findControl("MouseWheel"), 100});
  for (int i = 0; i < 200; ++i) hand.frame(0.02);
  EXPECT_LT(hand.inspection().distance(), far / 2);
  EXPECT_GT(hand.inspection().distance(), 0.1 * std::sqrt(3.0)) << "it is never entered";
}

TEST(Parts, EachIsSwitchedOffByItsSettingsOnly) {
  const CameraDesign design = io::readDesign(ALPGLOW_DEMO "/warden.camera.toml");
  const std::uint64_t whole = CompiledDesign(design).digest();
  EXPECT_EQ(CompiledDesign(play::withParts(design, play::allParts())).digest(), whole);
  play::PartFactors lag = play::allParts();
  lag[0] = 0;
  EXPECT_EQ(play::withParts(design, lag).framings[0].framing.follow.halfLife, 0);
  EXPECT_EQ(play::withParts(design, lag).pullIn.horizon, design.pullIn.horizon);
  play::PartFactors much = play::allParts();
  much[0] = 3;
  EXPECT_NEAR(play::withParts(design, much).framings[0].framing.follow.halfLife,
              3 * design.framings[0].framing.follow.halfLife, 1e-12);
}

/// A camera that is placed by a framing, read off, gives the framing's numbers again.
TEST(PlacedByEye, GivesBackTheNumbersOfAFraming) {
  testing::Random random(5);
  for (int i = 0; i < 500; ++i) {
    Framing framing;
    framing.anchorHeight = random.between(0.5, 1);
    const double distance = random.between(0.5, 5), shoulder = random.between(-1, 1), rise = random.between(-0.3, 0.5);
    Subject subject;
    subject.feet = random.point(20);
    subject.head = subject.feet + Eigen::Vector3d(0, 1.7, 0);
    View view;
    view.yaw = random.between(-3, 3);
    view.pitch = random.between(-1.3, 1.3);
    view.fieldOfView = degrees(50);
    const Eigen::Matrix3d turn = rotationOf(view.yaw, 0);
    const Eigen::Vector3d pivot = subject.feet + framing.anchorHeight * Eigen::Vector3d(0, 1.7, 0) +
                                  rise * Eigen::Vector3d::UnitY() + shoulder * turn.col(0);
    view.position = pivot + distance * rotationOf(view.yaw, view.pitch).col(2);
    for (const auto& [key, value] : play::placedByEye(view, subject, framing)) {
      if (key == "distance_m") {
        EXPECT_NEAR(value, distance, 1e-3);
      }
      if (key == "shoulder_m") {
        EXPECT_NEAR(value, shoulder, 1e-3);
      }
      if (key == "anchor_rise_m") {
        EXPECT_NEAR(value, rise, 1e-3);
      }
      if (key == "pitch_deg") {
        EXPECT_NEAR(value, toDegrees(view.pitch), 1e-3);
      }
      if (key == "distance_max_m") {
        EXPECT_GE(value, distance - 1e-3);
      }
    }
    EXPECT_EQ(play::placedByEye(view, subject, framing).size(), 7u);
    view.position = pivot - distance * rotationOf(view.yaw, view.pitch).col(2);
    EXPECT_TRUE(play::placedByEye(view, subject, framing).empty()) << "in front of the character";
  }
}

}  // namespace
}  // namespace alpglow
