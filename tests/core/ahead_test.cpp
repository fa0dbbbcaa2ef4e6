// What the camera will ask of clear space.

#include "alpglow/space/ahead.hpp"

#include "support/pull_in_requests.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::behind;

/// A prediction that has seen the look turn at this rate for a second.
Prediction turning(double yawRate, double pitchRate = 0) {
  Prediction prediction;
  PullInRequest request = behind(3);
  prediction.observe(request, {}, 0);
  for (int i = 0; i < 60; ++i) {
    request.orbit.yaw += yawRate / 60;
    request.orbit.pitch += pitchRate / 60;
    prediction.observe(request, {}, 1 / 60.0);
  }
  return prediction;
}

TEST(Prediction, TheFasterALookTurnsTheSoonerThatDiesAway) {
  const auto goesOn = [](double rate) {
    const Prediction prediction = turning(rate);
    const auto yawIn = [&](double seconds) { return prediction.ahead(behind(3), {}, seconds).orbit.yaw; };
    EXPECT_NEAR(yawIn(1e-5), rate * 1e-5, rate * 1e-8) << "at first it goes on";
    EXPECT_NEAR(prediction.turnRate(), rate, 1e-6 * rate);
    return yawIn(10) / rate;
  };
  EXPECT_NEAR(goesOn(0.01), 0.3, 1e-4);
  EXPECT_NEAR(goesOn(2.5), 0.15, 1e-3);
  EXPECT_NEAR(goesOn(7.5), 0.03, 1e-3);
}

TEST(Prediction, PitchGoesOnAsYawDoesWithinItsLimits) {
  PullInRequest request = behind(3);
  const double yaw = turning(1).ahead(request, {}, 0.3).orbit.yaw;
  EXPECT_EQ(turning(0, 1).ahead(request, {}, 0.3).orbit.pitch, yaw);
  request.pitch.high = 0.1;
  EXPECT_EQ(turning(0, 1).ahead(request, {}, 0.3).orbit.pitch, 0.1);
}

TEST(Prediction, ATurnThatSpeedsUpGoesFarther) {
  Prediction steady = turning(1), speedsUp = turning(1);
  PullInRequest request = behind(3);
  request.orbit.yaw = 1;
  steady.observe(request, {}, 0);
  speedsUp.observe(request, {}, 0);
  for (int i = 1; i <= 3; ++i) {
    request.orbit.yaw += (1 + 0.2 * i) / 60;
    speedsUp.observe(request, {}, 1 / 60.0);
  }
  EXPECT_GT(speedsUp.ahead(behind(3), {}, 0.3).orbit.yaw, steady.ahead(behind(3), {}, 0.3).orbit.yaw + 0.1);
}

TEST(Prediction, FramesWithoutTimeAndTheFirstTeachNoRate) {
  Prediction prediction;
  PullInRequest request = behind(3);
  request.orbit.yaw = 2;
  prediction.observe(request, {}, 0.016);
  EXPECT_FALSE(prediction.moves(1));
  request.orbit.yaw = 1;
  prediction.observe(request, {}, 0);
  EXPECT_FALSE(prediction.moves(1));
}

TEST(Prediction, WhatCarriesTheSubjectIsNoTurnOfTheLook) {
  Prediction prediction;
  PullInMotion carousel;
  carousel.carriedYawRate = 1.5;
  PullInRequest request = behind(3);
  prediction.observe(request, carousel, 0);
  for (int i = 0; i < 60; ++i) {
    request.orbit.yaw += 1.5 / 60;
    prediction.observe(request, carousel, 1 / 60.0);
  }
  EXPECT_NEAR(prediction.turnRate(), 0, 1e-9);
}

/// A walker on stairs will be where the ramp under them leads, not where the last step points.
TEST(Prediction, StairsAreARamp) {
  constexpr double tick = 1 / 60.0, ahead = 0.3, pace = 1.5, rise = 0.18;
  constexpr int every = 12;  // ticks to a step
  const Vector3d slope(0, rise / (every * tick), -pace);
  Prediction onStairs, inTheAir;
  double worst = 0, worstInTheAir = 0;
  for (int i = 0; i < 240; ++i) {
    PullInMotion motion;
    motion.velocity = {0, i % every == 0 ? rise / tick : 0, -pace};
    inTheAir.observe(behind(3), motion, tick);
    motion.onGround = true;
    onStairs.observe(behind(3), motion, tick);
    if (i < 120) continue;
    const auto off = [&](const Prediction& prediction) {
      const Vector3d way = prediction.ahead(behind(3), motion, ahead).head - behind(3).head;
      return (way - ahead * slope).norm();
    };
    worst = std::max(worst, off(onStairs));
    worstInTheAir = std::max(worstInTheAir, off(inTheAir));
  }
  EXPECT_LT(worst, 0.25);
  EXPECT_GT(worstInTheAir, 1);
}

TEST(Prediction, AChangeOfFramingIsKnownFromItsBlend) {
  const AskedAhead asked[] = {{0.1, 3}, {0.4, 4}, {0.7, 5}};
  PullInMotion motion;
  motion.asked = asked;
  motion.askedEvery = 0.1;
  const PullInRequest now = behind(2, 0), then = Prediction().ahead(now, motion, 0.15);
  EXPECT_NEAR(then.shoulder, 0.25, 1e-12);
  EXPECT_NEAR(then.distance, 3.5, 1e-12);
  EXPECT_NEAR(Prediction().ahead(now, motion, 0.05).distance, 2.5, 1e-12);
  EXPECT_NEAR(Prediction().ahead(now, motion, 1).distance, 5, 1e-12) << "and then it stays";
}

}  // namespace
}  // namespace alpglow
