// Helping without fighting: the view turns by itself only where nobody looks around, and never faster than it says.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;
using testing::wardenAt;
using testing::wide;

constexpr double frame = 1.0 / 60;

CameraDesign helping() {
  CameraDesign design;
  design.swingBack.rate = degrees(120);
  design.swingBack.halfLife = 0.2;
  design.swingBack.holdoff = 0.8;
  design.swingBack.easeIn = 0.3;
  design.swingBack.cone = 0;
  return design;
}

/// Walks on at a velocity with no input.
class Walk {
 public:
  explicit Walk(const CameraDesign& design, double heading = 0)
      : design_(design), camera(design_, wardenAt({0, 0, 0}, heading)) {
    view = camera.update(0.0, wardenAt({0, 0, 0}, heading), open_, wide);
  }
  const View& on(const Vector3d& velocity, double seconds, const Intent& intent = {}) {
    for (int i = 0; i < std::lround(seconds / frame); ++i) {
      feet_ += velocity * frame;
      view = camera.step(frame, intent, wardenAt(feet_, 0, velocity), open_, wide);
      turned += view.swungBack;
    }
    return view;
  }

 private:
  const CompiledDesign design_;
  const NoObstacles open_;
  Vector3d feet_ = Vector3d::Zero();

 public:
  CharacterCamera camera;
  View view;
  double turned = 0;
};

TEST(SwingBack, TurnsBehindTheDirectionOfMovementAfterTheHoldOff) {
  Walk walk(helping());
  EXPECT_EQ(walk.on({3, 0, 0}, 0.79).yaw, 0) << "not before the hold-off";
  EXPECT_NEAR(walk.view.holdoff, 0.8 - 47 * frame, 1e-9);
  EXPECT_LT(walk.on({3, 0, 0}, 0.1).yaw, 0) << "to the right";
  EXPECT_NEAR(toDegrees(walk.on({3, 0, 0}, 6).yaw), -90, 0.01);
  EXPECT_NEAR(walk.turned, walk.view.yaw, 1e-12) << "the view says how much of the yaw was not the player's";
}

TEST(SwingBack, IsScaledBySpeedAndSilentWhenWalkingTowardTheCamera) {
  Walk slow(helping()), fast(helping());
  EXPECT_NEAR(slow.on({1.5, 0, 0}, 1.4).yaw / fast.on({6, 0, 0}, 1.4).yaw, 0.5, 0.05);
  CameraDesign cone = helping();
  cone.swingBack.cone = degrees(40);
  Walk toward(cone), beside(cone);
  EXPECT_EQ(toward.on({1, 0, 3}, 4).yaw, 0);
  EXPECT_LT(toDegrees(beside.on({4, 0, 3}, 4).yaw), -100);
}

TEST(SwingBack, StaysSilentForANamedReasonAndAfterCancelling) {
  Walk walk(helping());
  EXPECT_TRUE(walk.camera.forbidSwingBack("cut-scene"));
  EXPECT_TRUE(walk.camera.forbidSwingBack("ladder"));
  EXPECT_EQ(walk.on({3, 0, 0}, 2).yaw, 0);
  walk.camera.allowSwingBack("ladder");
  EXPECT_EQ(walk.on({3, 0, 0}, 2).yaw, 0) << "one reason still stands";
  walk.camera.allowSwingBack("cut-scene");
  EXPECT_LT(walk.on({3, 0, 0}, 0.5).yaw, 0);
  walk.camera.cancelSwingBack();
  const double there = walk.view.yaw;
  EXPECT_EQ(walk.on({3, 0, 0}, 3).yaw, there);
  const IntentSample nudge[] = {IntentSample::look(0, {1, 0})};
  walk.on({3, 0, 0}, frame, Intent{nudge});
  EXPECT_LT(walk.on({3, 0, 0}, 2).yaw, there - 0.2) << "looking around arms it again";
  EXPECT_TRUE(walk.camera.forbidSwingBack("a") && walk.camera.forbidSwingBack("b") &&
              walk.camera.forbidSwingBack("c") && walk.camera.forbidSwingBack("d"));
  EXPECT_FALSE(walk.camera.forbidSwingBack("e")) << "no room is said, not forgotten";
}

TEST(SwingBack, AButtonBringsTheWholePoseBackHoldOffOrNot) {
  CameraDesign design = helping();
  design.swingBack.rate = 0;
  Walk walk(design);
  const IntentSample away[] = {IntentSample::look(0, {900, 300}), IntentSample::zoom(0, -3)};
  walk.on({0, 0, 0}, frame, Intent{away});
  walk.on({0, 0, 0}, 0.5);
  EXPECT_NEAR(toDegrees(walk.view.yaw), -45, 1e-9);
  const IntentSample press[] = {IntentSample::swingBack(0.01)};
  const View& begun = walk.on({0, 0, 0}, frame, Intent{press});
  EXPECT_TRUE(begun.events & Event::swingBackBegan);
  const View& done = walk.on({0, 0, 0}, 0.5);
  EXPECT_NEAR(done.yaw, 0, 1e-12);
  EXPECT_NEAR(toDegrees(done.pitch), -10, 1e-9);
  EXPECT_NEAR(done.freeDistance, 3, 1e-3);
}

/// The view after half a second in which the body turns steadily, on firm ground or aboard what turns: the button is
/// pressed in between, and perhaps a hand stops that again.
View pressedAmidATurn(double fps, double spin, double stopped) {
  const CompiledDesign design(helping());
  const NoObstacles open;
  const auto subjectAt = [&](double time) {
    Subject subject = wardenAt({0, 0, 0}, 3 * time + spin * time);
    if (spin == 0) return subject;
    subject.frame.id = 1;
    subject.frame.rotation = Rotation(Eigen::AngleAxisd(spin * time, Vector3d::UnitY()));
    subject.frame.yawRate = spin;
    return subject;
  };
  CharacterCamera camera(design, subjectAt(0));
  View view = camera.update(0.0, subjectAt(0), open, wide);
  const IntentSample events[] = {IntentSample::look(0.02, {-700, 300}), IntentSample::zoom(0.02, -2),
                                 IntentSample::swingBack(0.173), IntentSample::look(stopped, {1, 0})};
  const int frames = static_cast<int>(std::lround(0.5 * fps));
  for (int i = 1; i <= frames; ++i) {
    const double start = (i - 1) / fps, end = i / fps;
    std::vector<IntentSample> samples;
    for (IntentSample event : events) {
      if (event.time <= start || event.time > end) continue;
      event.time -= start;
      samples.push_back(event);
    }
    // A moment of the hand within a frame stops turning from the frame's start on: split there.
    double done = 0;
    for (const IntentSample& sample : samples) {
      camera.look(sample.time - done, {});
      done = sample.time;
      IntentSample now = sample;
      now.time = 0;
      camera.look(0.0, Intent{Span<const IntentSample>(&now, 1)});
    }
    camera.look(1 / fps - done, {});
    view = camera.update(1 / fps, subjectAt(end), open, wide);
  }
  return view;
}

TEST(SwingBack, GoesToWhereTheBodyFacedWhenTheButtonWasPressed) {
  for (const double spin : {0.0, 1.0}) {
    for (const double stopped : {10.0, 0.18, 0.3}) {
      const View fine = pressedAmidATurn(1000, spin, stopped);
      for (const double fps : {4.0, 10.0, 24.0, 50.0}) {
        const View coarse = pressedAmidATurn(fps, spin, stopped);
        EXPECT_NEAR(shortestTurn(coarse.yaw, fine.yaw), 0, 1e-9) << fps << " " << spin << " " << stopped;
        EXPECT_NEAR(coarse.pitch, fine.pitch, 1e-9);
        EXPECT_NEAR(coarse.freeDistance, fine.freeDistance, 1e-5) << "the wheel shows meanwhile";
      }
    }
  }
}

TEST(SwingBack, BringsThePoseBackAfterIdlingAndTheHostCanEndTheHoldOff) {
  CameraDesign design = helping();
  design.swingBack.idle = 3;
  design.swingBack.idleTime = 1;
  Walk still(design, degrees(30));
  const IntentSample away[] = {IntentSample::look(0, {-600, 300})};
  still.on({0, 0, 0}, frame, Intent{away});
  EXPECT_NEAR(toDegrees(still.on({0, 0, 0}, 2.9).pitch), -25, 1e-9);
  EXPECT_NEAR(toDegrees(still.on({0, 0, 0}, 1.2).pitch), -10, 1e-9);
  Walk walk(helping());
  walk.on({3, 0, 0}, 2 * frame);
  walk.camera.endHoldoff();
  EXPECT_LT(walk.on({3, 0, 0}, 0.3).yaw, 0);
}

/// Random input, movement, calls of the host and frame times; a twin that may never turn by itself runs along.
TEST(SwingBack, NeverFightsThePlayerUnderRandomInput) {
  Random random(80);
  const CompiledDesign design(helping());
  const NoObstacles open;
  const SwingBackSettings& settings = design.design().swingBack;
  int turning = 0;
  for (int run = 0; run < 60; ++run) {
    Vector3d feet = Vector3d::Zero(), velocity = Vector3d::Zero();
    CharacterCamera camera(design, wardenAt(feet));
    camera.update(0.0, wardenAt(feet), open, wide);
    double quiet = 0;
    bool looks = false;
    Rate stick;
    for (int i = 0; i < 400; ++i) {
      const double dt = random.chance(0.05) ? 0.2 : random.between(0.002, 0.03);
      if (random.chance(0.02)) velocity = {random.between(-5, 5), 0, random.between(-5, 5)};
      if (random.chance(0.01)) looks = !looks;
      std::vector<IntentSample> samples;
      const Rate before = stick;
      if (looks && random.chance(0.4)) {
        samples.push_back(IntentSample::look(random.between(0, dt), {random.between(-300, 300), 50}));
      } else if (random.chance(0.01)) {
        stick = stick.x == 0 ? Rate{random.between(-1, 1), 0} : Rate{};
        samples.push_back(IntentSample::turn(random.between(0, dt), stick));
      }
      feet += velocity * dt;
      const bool touched = Intent{samples, before}.looksAround();
      CharacterCamera twin = camera;
      twin.forbidSwingBack("test");
      const View view = camera.step(dt, Intent{samples, before}, wardenAt(feet, 0, velocity), open, wide);
      const View other = twin.step(dt, Intent{samples, before}, wardenAt(feet, 0, velocity), open, wide);
      quiet = !touched ? quiet + dt : stick.x != 0 ? 0 : dt - samples.back().time;
      if (touched || quiet < settings.holdoff) {
        ASSERT_EQ(view.yaw, other.yaw) << "frame " << i;
        ASSERT_EQ(view.swungBack, 0);
      }
      ASSERT_LE(std::abs(view.swungBack), settings.rate * dt + 1e-12);
      ASSERT_LE(std::abs(shortestTurn(other.yaw, view.yaw)), pi);
      ASSERT_GT(view.yaw, -pi);
      ASSERT_LE(view.yaw, pi);
      ASSERT_GE(view.freeDistance, design.design().framings[0].framing.distanceRange.nearest);
      ASSERT_NEAR(view.pitch, other.pitch, 0);
      if (view.swungBack != 0) ++turning;
    }
  }
  EXPECT_GT(turning, 3000);
}

TEST(SwingBack, HasItsRatesAndSetsIn) {
  SwingBackSettings settings;
  settings.rate = degrees(60), settings.easeIn = 1, settings.holdoff = 0.5, settings.poseRate = degrees(90);
  SwingBack swing;
  swing.stop();
  const auto turn = [&](double seconds) { return std::abs(swing.step(seconds, {0, 5}, pi / 2, {}, settings).yaw); };
  EXPECT_EQ(turn(0.5), 0);
  // A rate that eases in with the quintic has gone half of its ease-in in effect when that is over.
  EXPECT_NEAR(turn(1), degrees(30), 1e-9);
  EXPECT_NEAR(turn(0.1), degrees(6), 1e-9);
  swing.begin({degrees(120), 0, 0}, 0.1, settings);
  double fastest = 0, time = 0;
  for (; swing.turning(); time += 0.001)
    fastest = std::max(fastest, std::abs(swing.step(0.001, {}, 0, {}, settings).yaw) / 0.001);
  EXPECT_NEAR(fastest, settings.poseRate, 1e-4);
  EXPECT_NEAR(time, 15.0 / 8 * 120 / 90, 0.002);
}

TEST(SwingBack, WhatWasCancelledDoesNotComeBackByIdling) {
  SwingBackSettings settings;
  settings.idle = 1;
  for (const bool cancelled : {false, true}) {
    SwingBack swing;
    if (cancelled) swing.cancel();
    double turned = 0;
    for (int i = 0; i < 40; ++i) turned += swing.step(0.1, {}, 0.5, {0.5 - turned, 0, 0}, settings).yaw;
    EXPECT_EQ(turned != 0, !cancelled);
  }
}

}  // namespace
}  // namespace alpglow
