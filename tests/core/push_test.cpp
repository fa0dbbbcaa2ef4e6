#include "alpglow/view/push.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;

constexpr double wide = 16.0 / 9.0;

PushSettings flare(bool movesAim) {
  PushSettings push;
  push.pitch = degrees(2);
  push.yaw = degrees(1.5);
  push.roll = degrees(1);
  push.right = 0.03;
  push.up = 0.05;
  push.back = 0.08;
  push.lens = 1.1;
  push.movesAim = movesAim;
  return push;
}

TEST(Push, IsStrongestWhenItSaysSoAndIsOneThere) {
  Random random(3);
  for (int i = 0; i < 200; ++i) {
    PushSettings kind;
    kind.up = 0.1;
    kind.attack = i % 5 == 0 ? 0 : random.between(0.001, 0.5);
    kind.comesBack = random.between(0.005, 0.5);
    const PushSettings kinds[] = {kind};
    const auto after = [&](double seconds) {
      Pushes pushes;
      pushes.push(0, {}, kinds, PushLimits());
      pushes.advance(seconds, kinds);
      return pushes.shown(kinds).up;
    };
    const double at = kind.strongestAfter();
    EXPECT_NEAR(after(at), 0.1, 1e-9) << kind.attack << " " << kind.comesBack;
    for (const double other : {0.3 * at, 0.9 * at, 1.1 * at + 1e-3, 3 * at + 1e-2}) EXPECT_LE(after(other), 0.1 + 1e-9);
    EXPECT_EQ(after(0), kind.attack > 0 ? 0 : 0.1);
  }
}

TEST(Push, DoesNotDependOnHowTimeIsCut) {
  const PushSettings kinds[] = {flare(true), flare(false)};
  Random random(4);
  for (int i = 0; i < 50; ++i) {
    Pushes once, often;
    LookAngles turned, turnedOften;
    for (int k = 0; k < 6; ++k) {
      const PushCall call{random.between(-2, 2), random.between(-1, 1), random.between(-1, 1)};
      const std::size_t kind = k % 2 == 0 ? 0 : 1;
      once.push(kind, call, kinds, PushLimits());
      often.push(kind, call, kinds, PushLimits());
      const double seconds = random.between(0, 0.2);
      const LookAngles by = once.advance(seconds, kinds);
      turned = {turned.yaw + by.yaw, turned.pitch + by.pitch};
      for (int piece = 0; piece < 40; ++piece) {
        const LookAngles part = often.advance(seconds / 40, kinds);
        turnedOften = {turnedOften.yaw + part.yaw, turnedOften.pitch + part.pitch};
      }
    }
    EXPECT_NEAR(turned.pitch, turnedOften.pitch, 1e-12);
    EXPECT_NEAR(turned.yaw, turnedOften.yaw, 1e-12);
    EXPECT_NEAR(once.shown(kinds).back, often.shown(kinds).back, 1e-12);
    EXPECT_NEAR(once.shown(kinds).lens, often.shown(kinds).lens, 1e-12);
  }
}

TEST(Push, StaysBelowItsLimitsHoweverOftenItIsCalled) {
  Random random(5);
  for (int run = 0; run < 200; ++run) {
    PushLimits limits;
    limits.turn = random.chance(0.2) ? 0 : degrees(random.between(0, 10));
    limits.lens = random.chance(0.2) ? 1 : random.between(1, 1.5);
    if (random.chance(0.2)) limits.roll = random.chance(0.5) ? 0 : 1e-7;
    PushSettings kinds[] = {flare(true), flare(false), flare(false)};
    for (PushSettings& kind : kinds) {
      kind.attack = random.chance(0.2) ? 0 : random.between(0, 0.3);
      kind.comesBack = random.between(0.01, 0.5);
      kind.spread = random.between(0, 1);
    }
    Pushes pushes;
    for (int i = 0; i < 300; ++i) {
      if (random.chance(0.5))
        pushes.push(static_cast<std::size_t>(random.whole(0, 2)),
                    {random.between(-1000, 1000) * (random.chance(0.5) ? 1 : 1e-3), random.between(-1, 1), 1}, kinds,
                    limits);
      pushes.advance(random.between(0, 0.03), kinds);
      if (random.chance(0.3)) pushes.counter({random.between(-0.1, 0.1), random.between(-0.1, 0.1)}, kinds, limits);
      ASSERT_TRUE(pushes.legal(kinds, limits));
      const Pushed shown = pushes.shown(kinds);
      const LookAngles owed = pushes.owed(kinds);
      ASSERT_LE(std::hypot(shown.turn.yaw, shown.turn.pitch) + std::hypot(owed.yaw, owed.pitch), limits.turn + 1e-9);
      ASSERT_LE(std::abs(shown.roll), limits.roll + 1e-9);
      ASSERT_LE(Vector3d(shown.right, shown.up, shown.back).norm(), limits.place + 1e-9);
      ASSERT_LE(std::abs(std::log(shown.lens)), std::log(limits.lens) + 1e-9);
    }
  }
}

TEST(Push, HasTheSameChancesFromTheSameSeed) {
  PushSettings kind = flare(false);
  kind.spread = 1;
  const PushSettings kinds[] = {kind};
  const auto rolls = [&](std::uint32_t seed) {
    std::vector<double> result;
    Pushes pushes;
    pushes.seed(seed);
    for (int i = 0; i < 40; ++i) {
      pushes.push(0, {}, kinds, PushLimits());
      pushes.advance(0.1, kinds);
      result.push_back(pushes.shown(kinds).roll);
    }
    return result;
  };
  EXPECT_EQ(rolls(7), rolls(7));
  EXPECT_NE(rolls(7), rolls(8));
  double low = 0, high = 0;
  for (const double roll : rolls(7)) low = std::min(low, roll), high = std::max(high, roll);
  EXPECT_LT(low, -degrees(0.2));
  EXPECT_GT(high, degrees(0.2));
}

// Inside a camera

class PushedCamera : public ::testing::Test {
 protected:
  PushedCamera() {
    subject.head = {0, 1.7, 0};
    design.motion = {};
  }
  CompiledDesign compiled(const PushSettings& push) {
    design.pushes = {{"flare", push}};
    return CompiledDesign(design);
  }
  View pass(CharacterCamera& camera, double seconds, double rate, Rate stick = {}) {
    const IntentSample samples[] = {IntentSample::turn(0, stick)};
    View view;
    for (double left = seconds; left > 1e-9; left -= 1 / rate)
      view = camera.step(std::min(left, 1 / rate), Intent{samples}, subject, world, wide);
    return view;
  }

  CameraDesign design;
  Subject subject;
  testing::Walls world;
};

TEST_F(PushedCamera, ComesBackToABillionthAndMeanwhileTheAimGoesAlong) {
  const CompiledDesign aims = compiled(flare(true));
  CharacterCamera camera(aims, subject);
  const View before = pass(camera, 0.5, 60);
  camera.push(0);
  const View kicked = pass(camera, 1.0 / 30, 60);
  EXPECT_GT(kicked.pitch - before.pitch, degrees(1));
  EXPECT_EQ(kicked.pushPitch, 0);
  EXPECT_GT((kicked.aimPoint - before.aimPoint).norm(), 1) << "the crosshair goes along";
  EXPECT_GT(kicked.fieldOfView, before.fieldOfView);
  const View after = pass(camera, 6, 60);
  EXPECT_NEAR(after.pitch, before.pitch, 1e-9);
  EXPECT_LT((after.position - before.position).norm(), 1e-9);
  EXPECT_NEAR(after.fieldOfView, before.fieldOfView, 1e-9);
}

TEST_F(PushedCamera, OfThePictureOnlyLeavesTheAim) {
  PushSettings push = flare(false);
  push.right = push.up = push.back = 0;
  const CompiledDesign pictured = compiled(push);
  CharacterCamera camera(pictured, subject);
  const View before = pass(camera, 0.5, 60);
  camera.push(0, 1, {1, 0, -1});  // to the right and ahead, as it looks along −z
  const View kicked = pass(camera, 1.0 / 30, 60);
  EXPECT_LT(kicked.pushPitch, -degrees(0.7)) << "pushed ahead it nods";
  EXPECT_LT(kicked.pushYaw, -degrees(0.5)) << "and turns to the right";
  EXPECT_LT(kicked.roll, -degrees(0.3));
  EXPECT_NEAR(kicked.pitch - kicked.pushPitch, before.pitch, 1e-12);
  EXPECT_LT((kicked.aimPoint - before.aimPoint).norm(), 1e-6);
  EXPECT_LT((kicked.aimDirection() - before.forward()).norm(), 1e-9);
  EXPECT_NEAR(kicked.heading, before.heading, 1e-12);
  EXPECT_EQ(pass(camera, 20, 60).roll, 0) << "it ends for good";
}

TEST_F(PushedCamera, WhatThePlayerFoughtIsNotTakenBack) {
  const CompiledDesign aims = compiled(flare(true));
  const double perDegree = degrees(1) / aims.design().look.pitchPerCount;
  const auto play = [&](double fought, double rate) {
    CharacterCamera camera(aims, subject);
    pass(camera, 0.2, rate);
    camera.push(0);
    pass(camera, 0.05, rate);
    const IntentSample samples[] = {IntentSample::look(0, {0, fought * perDegree})};
    camera.look(0.0, Intent{samples});
    return toDegrees(pass(camera, 5, rate).pitch - aims.design().framings[0].framing.defaultPitch);
  };
  const double down = 1;  // of the pointer, toward the player
  EXPECT_NEAR(play(0, 60), 0, 1e-9);
  EXPECT_NEAR(play(down * 0.5, 60), 0, 1e-6) << "against it: the hand did what the push would have";
  EXPECT_NEAR(play(down * 5, 60), play(down * 5, 240), 1e-6) << "beyond it: the rest is a look";
  EXPECT_NEAR(std::abs(play(-down * 0.5, 60)), 0.5, 1e-6) << "along with it: a look";
}

TEST_F(PushedCamera, FoughtByAStickItTakesTheSamePathAtAnyFrameRate) {
  const CompiledDesign aims = compiled(flare(true));
  const auto end = [&](double rate) {
    CharacterCamera camera(aims, subject);
    pass(camera, 0.25, rate);
    for (int i = 0; i < 4; ++i) {
      camera.push(0, 1.5);
      pass(camera, 0.25, rate, {0.02, -0.04});
    }
    return pass(camera, 0.25, rate);
  };
  const View fine = end(960);
  for (const double rate : {24.0, 60.0, 144.0}) {
    const View view = end(rate);
    EXPECT_NEAR(toDegrees(view.pitch), toDegrees(fine.pitch), 1e-3) << rate;
    EXPECT_NEAR(toDegrees(view.yaw), toDegrees(fine.yaw), 1e-3) << rate;
  }
}

TEST_F(PushedCamera, ALongPauseUnderAStickTakesNoLongerThanAShortOne) {
  const CompiledDesign aims = compiled(flare(true));
  CharacterCamera camera(aims, subject);
  camera.push(0);
  camera.look({1e6, 0}, Intent({}, {1, 0.3}));
  EXPECT_EQ(camera.update({0, 0}, subject, world, wide).faults, 0u);
}

TEST_F(PushedCamera, WhatAPitchLimitKeptBackIsNotTakenBack) {
  const CompiledDesign aims = compiled(flare(true));
  const double high = aims.design().framings[0].framing.pitch.high;
  CharacterCamera camera(aims, subject);
  camera.setPose({{}, high - degrees(0.5), {}});
  pass(camera, 0.2, 60);
  camera.push(0);
  const double most = pass(camera, 0.04, 60).pitch;
  EXPECT_NEAR(most, high, 1e-9);
  const View after = pass(camera, 5, 60);
  EXPECT_NEAR(after.pitch, high - degrees(0.5), 1e-6);
}

TEST_F(PushedCamera, RefusesWhatIsNoPush) {
  const CompiledDesign aims = compiled(flare(true));
  EXPECT_EQ(aims.push("flare"), 0);
  EXPECT_EQ(aims.push("flair"), -1);
  CharacterCamera camera(aims, subject);
  const View before = pass(camera, 0.2, 60);
  const double nan = std::nan("");
  const auto refused = [&](int kind, double strength, const Vector3d& direction) {
    camera.push(kind, strength, direction);
    const View view = pass(camera, 1.0 / 60, 60);
    EXPECT_EQ(view.faults, Fault::badPush);
    EXPECT_NEAR(view.pitch, before.pitch, 1e-12);
  };
  refused(-1, 1, {0, 0, 0});
  refused(1, 1, {0, 0, 0});
  refused(0, nan, {0, 0, 0});
  refused(0, 1e4, {0, 0, 0});
  refused(0, 1, {nan, 0, 0});
  EXPECT_EQ(pass(camera, 1.0 / 60, 60).faults, 0u);
}

TEST_F(PushedCamera, ThePlayersComfortScalesThePictureNotTheAim) {
  design.pushes = {{"flare", flare(true)}, {"knock", flare(false)}};
  Preferences calm;
  calm.comfort.push = 0;
  const CompiledDesign without(design, calm);
  EXPECT_EQ(without.pushes()[0].pitch, degrees(2));
  EXPECT_EQ(without.pushes()[1].pitch, 0);
  for (const PushSettings& push : without.pushes()) {
    EXPECT_EQ(push.roll, 0);
    EXPECT_EQ(push.back, 0);
    EXPECT_EQ(push.lens, 1);
  }
}

TEST_F(PushedCamera, KeepsOutOfWallsWhateverItIsPushedBy) {
  PushSettings push = flare(false);
  push.back = 0.9;
  push.right = 0.9;
  design.pushLimits.place = 2;
  const CompiledDesign strong = compiled(push);
  testing::Walls room;
  room.walls = {{{1, 0, 0}, -0.9},  {{-1, 0, 0}, -0.8}, {{0, 1, 0}, 0},
                {{0, -1, 0}, -2.2}, {{0, 0, 1}, -1.4},  {{0, 0, -1}, -1.2}};
  CharacterCamera camera(strong, subject);
  Random random(9);
  for (int i = 0; i < 2000; ++i) {
    if (random.chance(0.1)) camera.push(0, random.between(-1, 1), random.point(1));
    const IntentSample samples[] = {IntentSample::look(0, {random.between(-40, 40), 0})};
    const View view = camera.step(1.0 / 60, Intent{samples}, subject, room, wide);
    const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
    ASSERT_GE(room.clearance(view.position, 10), radius - 1e-9) << i;
  }
}

}  // namespace
}  // namespace alpglow
