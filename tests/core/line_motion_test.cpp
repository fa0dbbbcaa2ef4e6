// How what foresight follows goes on: the line, the walker, the orbit.

#include "alpglow/space/line_motion.hpp"
#include "alpglow/space/orbit_motion.hpp"
#include "alpglow/space/walk_motion.hpp"

#include "alpglow/base/half_life.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;

TEST(LineMotion, KnowsWhatComesToRest) {
  // All come to rest with the time constant that is assumed, and then the rest of the way is known exactly.
  constexpr double frame = 1 / 240.0, tau = 0.15, start = -0.5;
  const auto lineAt = [](double time) {
    const double left = std::exp(-std::max(time, 0.0) / tau);
    return LineMotion::Line{1.7 - 0.7 * left, Vector3d(0.1 * left, 0.2 * left, -0.3 * left), 0.5 * left, 3 + left};
  };
  LineMotion motion;
  for (double time = start; time <= 0.1; time += frame) motion.step(lineAt(time), frame);
  const LineMotion::Line now = lineAt(0.1), change = motion.changeIn(0.3), then = lineAt(0.4);
  EXPECT_TRUE(motion.moves());
  const auto expect = [](double predicted, double happens) {
    EXPECT_NEAR(predicted, happens, 0.2 * std::abs(happens));
  };
  expect(change.headHeight, then.headHeight - now.headHeight);
  expect(change.offset.x, then.offset.x - now.offset.x);
  expect(change.offset.y, then.offset.y - now.offset.y);
  expect(change.offset.z, then.offset.z - now.offset.z);
  expect(change.shoulder, then.shoulder - now.shoulder);
  expect(change.distance, then.distance - now.distance);
  EXPECT_EQ(motion.changeIn(0).distance, 0);
}

TEST(LineMotion, LearnsNothingFromJumpsPausesAndTheFirstFrame) {
  LineMotion motion;
  motion.step({1.7, Vector3d(0, 0.1, 0), 0.5, 3}, 0.016);
  EXPECT_FALSE(motion.moves());
  motion.step({1.0, Vector3d(0, 0.1, 0), -0.5, 6}, 0.016);  // within a frame
  EXPECT_FALSE(motion.moves());
  motion.step({1.1, Vector3d(0, 0.1, 0), -0.5, 6}, 0);
  EXPECT_FALSE(motion.moves());
  for (int i = 0; i < 100; ++i) motion.step({1.1, Vector3d(0, 0.1, 0), -0.5, 6}, 0.016);
  EXPECT_FALSE(motion.moves());
  motion.step({1.1, Vector3d(0, 0.12, 0), -0.5, 6}, 0.016);
  EXPECT_TRUE(motion.moves());
  EXPECT_FALSE(motion.moves(100)) << "nothing to a giant";
}

TEST(OrbitMotion, PitchGoesOnAsYawDoes) {
  OrbitMotion yaws, pitches;
  for (int i = 0; i < 12; ++i) {
    const double turned = 0.001 * i * i;
    yaws.step(turned, 0, 0.01);
    pitches.step(0, turned, 0.01);
    for (const double seconds : {0.05, 0.15, 0.5})
      EXPECT_EQ(yaws.turnIn(seconds).yaw, pitches.turnIn(seconds).pitch) << seconds;
  }
}

TEST(OrbitMotion, TheFasterItTurnsTheSoonerThatDiesAway) {
  const auto goesOn = [](double rate) {
    OrbitMotion steady;
    for (int i = 0; i < 60; ++i) steady.step(rate / 60, 0, 1.0 / 60);
    EXPECT_NEAR(steady.turnIn(1e-5).yaw, rate * 1e-5, rate * 1e-8) << "at first it goes on";
    EXPECT_NEAR(steady.rate(), rate, 1e-6 * rate);
    return steady.turnIn(10).yaw / rate;
  };
  EXPECT_NEAR(goesOn(0.01), 0.3, 1e-4);
  EXPECT_NEAR(goesOn(2.5), 0.15, 1e-3);
  EXPECT_NEAR(goesOn(7.5), 0.03, 1e-3);
}

/// Whoever takes steps at the speed of a walk is where the ramp under them leads, not where the last step points.
TEST(WalkMotion, StairsAreARamp) {
  constexpr double tick = 1 / 60.0, ahead = 0.3, pace = 1.5, rise = 0.18;
  constexpr int every = 12;  // ticks to a step
  const Vector3d slope(0, rise / (every * tick), -pace);
  WalkMotion onStairs, inTheAir;
  double worst = 0, worstInTheAir = 0;
  for (int i = 0; i < 240; ++i) {
    const Vector3d velocity(0, i % every == 0 ? rise / tick : 0, -pace);
    onStairs.step({velocity, true}, tick);
    inTheAir.step({velocity, false}, tick);
    if (i < 120) continue;
    worst = std::max(worst, (onStairs.wayIn(ahead) - ahead * slope).norm());
    worstInTheAir = std::max(worstInTheAir, (inTheAir.wayIn(ahead) - ahead * slope).norm());
  }
  EXPECT_LT(worst, 0.25);
  EXPECT_GT(worstInTheAir, 1);
}

}  // namespace
}  // namespace alpglow
