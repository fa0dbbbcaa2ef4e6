#include "alpglow/look/look.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using testing::Random;

/// One displacement of a look at rest.
LookAngles displaced(LookAngles from, Displacement moved, const LookSettings& settings, const PitchLimits& limits) {
  Look look(from);
  look.displace(moved, settings, limits);
  return look.shown();
}

TEST(Look, TurnsByDegreesPerCount) {
  LookSettings settings;
  settings.yawPerCount = degrees(0.1);
  settings.pitchPerCount = degrees(0.2);
  const LookAngles look = displaced({}, {30, -20}, settings, {});
  EXPECT_NEAR(toDegrees(look.yaw), -3, 1e-12) << "moving right turns right";
  EXPECT_NEAR(toDegrees(look.pitch), 4, 1e-12) << "moving away looks up";
}

TEST(Look, InvertsEachAxisOnItsOwn) {
  LookSettings settings;
  settings.invertPitch = true;
  const LookAngles plain = displaced({}, {10, 10}, LookSettings(), {});
  const LookAngles inverted = displaced({}, {10, 10}, settings, {});
  EXPECT_EQ(inverted.yaw, plain.yaw);
  EXPECT_EQ(inverted.pitch, -plain.pitch);
}

TEST(Look, DropsInputBeyondALimitSoThatTheFirstCountBackMoves) {
  const LookSettings settings;
  const PitchLimits limits{degrees(-90), degrees(90)};
  LookAngles look = displaced({}, {0, -1e6}, settings, limits);
  EXPECT_EQ(look.pitch, degrees(90));
  look = displaced(look, {0, 1}, settings, limits);
  EXPECT_NEAR(look.pitch, degrees(90) - settings.pitchPerCount, 1e-15);
}

TEST(Look, SmoothingIsAHalfLifeThatTheHeadingFollows) {
  testing::Random random(16);
  LookSettings settings;
  settings.smoothing = 0.1;
  Look look;
  look.displace({-400, 0}, settings, {});
  const double goal = 400 * settings.yawPerCount;
  EXPECT_NEAR(look.shown().yaw, 0, 1e-15);
  Look split = look;
  look.advance(0.1, {}, {1, 1}, settings, {});
  EXPECT_NEAR(look.shown().yaw, goal / 2, 1e-12);
  for (const double part : random.cut(0.1, 23)) split.advance(part, {}, {1, 1}, settings, {});
  EXPECT_NEAR(split.shown().yaw, look.shown().yaw, 1e-12);
}

TEST(Look, TurnsTheShortWayRound) {
  EXPECT_NEAR(shortestTurn(degrees(170), degrees(-170)), degrees(20), 1e-12);
  EXPECT_NEAR(shortestTurn(degrees(-170), degrees(170)), degrees(-20), 1e-12);
  EXPECT_EQ(wrapAngle(-pi), pi);
}

/// Camera looks after a list of samples, cut into frames of the given lengths.
LookAngles lookedAt(const std::vector<IntentSample>& samples, const std::vector<double>& frames) {
  CameraDesign plain;
  plain.framings[0].framing.pitch = {degrees(-30), degrees(30)};
  const CompiledDesign design(plain);
  CharacterCamera camera(design, Subject());
  Rate held;
  double start = 0;
  std::size_t next = 0;
  for (const double frame : frames) {
    std::vector<IntentSample> inside;
    const Rate before = held;
    for (; next < samples.size() && samples[next].time <= start + frame + 1e-12; ++next) {
      inside.push_back(samples[next]);
      inside.back().time -= start;
      if (samples[next].kind == IntentSample::Kind::turn) held = {samples[next].x, samples[next].y};
    }
    camera.look(frame, Intent(inside, before));
    start += frame;
  }
  return camera.lookAngles();
}

TEST(Look, DoesNotDependOnHowInputIsCutIntoFramesAlsoAgainstALimit) {
  Random random(5);
  for (int run = 0; run < 200; ++run) {
    std::vector<IntentSample> samples;
    double time = 0;
    while ((time += random.between(0.001, 0.1)) < 2) {
      if (random.chance(0.3)) {
        samples.push_back(IntentSample::turn(time, {random.between(-1, 1), random.between(-1, 1)}));
      } else {
        samples.push_back(IntentSample::look(time, {random.between(-300, 300), random.between(-500, 500)}));
      }
    }
    const LookAngles once = lookedAt(samples, {2.0});
    const LookAngles often = lookedAt(samples, random.cut(2.0, random.whole(2, 500)));
    EXPECT_NEAR(shortestTurn(once.yaw, often.yaw), 0, 1e-9);
    EXPECT_NEAR(once.pitch, often.pitch, 1e-9);
  }
}

TEST(Look, ShowsInFullInTheFrameInWhichItArrives) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, Subject());
  camera.step(0.016, {}, Subject(), NoObstacles(), 1.5);
  const IntentSample samples[] = {IntentSample::look(0.016, {100, 0})};
  const View view = camera.step(0.016, Intent{samples}, Subject(), NoObstacles(), 1.5);
  EXPECT_NEAR(view.yaw, -100 * LookSettings().yawPerCount, 1e-15);
  EXPECT_EQ(view.heading, view.yaw);
}

}  // namespace
}  // namespace alpglow
