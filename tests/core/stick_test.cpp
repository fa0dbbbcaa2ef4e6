#include "alpglow/input/stick.hpp"

#include "alpglow/look/look.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow {
namespace {

using testing::Random;

TEST(Stick, IsZeroInsideOneAtTheOuterEdgeAndKeepsItsDirection) {
  Random random(20);
  const StickSettings settings{0.15, 0.9, 1.7};
  for (int i = 0; i < 10000; ++i) {
    const double angle = random.between(-pi, pi), length = random.between(0, 1.4);
    const Rate out = shaped({length * std::cos(angle), length * std::sin(angle)}, settings);
    const double size = std::hypot(out.x, out.y);
    if (length <= 0.15) {
      ASSERT_EQ(size, 0);
    } else {
      ASSERT_NEAR(size, std::pow(std::min((length - 0.15) / 0.75, 1.0), 1.7), 1e-12);
      if (size > 1e-6) {
        ASSERT_NEAR(shortestTurn(angle, std::atan2(out.y, out.x)), 0, 1e-9);
      }
    }
  }
}

TEST(Trigger, PressesAndReleasesWithHysteresis) {
  const TriggerSettings settings{0.6, 0.4};
  EXPECT_FALSE(pressed(false, 0.5, settings));
  EXPECT_TRUE(pressed(false, 0.6, settings));
  EXPECT_TRUE(pressed(true, 0.5, settings));
  EXPECT_FALSE(pressed(true, 0.39, settings));
}

/// A second of a stick that swings to full right and up, rests, and swings back, with easing and the second rate on.
LookAngles turnedFor(const std::vector<double>& parts, const PitchLimits& limits) {
  LookSettings settings;
  settings.turnHalfLife = 0.07;
  settings.edgeFactor = 1.8;
  settings.edgeDwell = 0.3;
  Look look;
  double now = 0;
  const auto deflection = [](double time) {
    return time < 0.6 ? Rate{0.6, 0.8} : time < 0.75 ? Rate{} : Rate{-0.3, -0.4};
  };
  for (const double part : parts) {
    const double end = now + part;
    for (const double bend : {0.6, 0.75, 2.0}) {
      if (bend <= now) continue;
      const double until = std::min(end, bend);
      look.advance(until - now, deflection(now), {1, 1}, settings, limits);
      now = until;
      if (now == end) break;
    }
  }
  return look.shown();
}

TEST(TurnRate, TurnsTheSameAngleAtAnyFrameRateAlsoAgainstALimit) {
  Random random(21);
  for (const double top : {90.0, 25.0, 3.0}) {
    const PitchLimits limits{degrees(-80), degrees(top)};
    const LookAngles once = turnedFor({1.0}, limits);
    EXPECT_LT(once.yaw, -0.5);
    for (const int fps : {24, 1000}) {
      const LookAngles often = turnedFor(std::vector<double>(static_cast<std::size_t>(fps), 1.0 / fps), limits);
      EXPECT_NEAR(once.yaw, often.yaw, 1e-9);
      EXPECT_NEAR(once.pitch, often.pitch, 1e-9);
    }
    for (int run = 0; run < 20; ++run) EXPECT_NEAR(once.pitch, turnedFor(random.cut(1.0, 77), limits).pitch, 1e-9);
  }
}

TEST(TurnRate, EasesIntoTheRateAndCoversWhatTheIntegralSays) {
  // Half-life h: the angle lags the full rate by R/k = R·h/ln2 in the end.
  const EasedAngle end = turnedToward({0, 0}, 2, 10, 0.1, -1e9, 1e9);
  EXPECT_NEAR(end.angle, 2 * 10 - 2 * 0.1 / std::log(2), 1e-9);
  EXPECT_NEAR(end.rate, 2, 1e-9);
}

TEST(TurnRate, ALimitTakesTheOutwardRateAndTheWayBackStartsFromRest) {
  const EasedAngle at = turnedToward({0.9, 3}, 3, 1, 0.1, -1, 1);
  EXPECT_EQ(at.angle, 1);
  EXPECT_EQ(at.rate, 0);
  const EasedAngle fresh = turnedToward({1, 0}, -3, 0.2, 0.1, -1, 1), back = turnedToward(at, -3, 0.2, 0.1, -1, 1);
  EXPECT_EQ(back.angle, fresh.angle);
}

TEST(TurnRate, TheSecondRateBeginsAfterTheDwellInsideAFrame) {
  LookSettings settings;
  settings.edgeFactor = 3;
  settings.edgeDwell = 0.25;
  Look look;
  look.advance(0.5, {-1, 0}, {1, 1}, settings, {});
  EXPECT_NEAR(look.shown().yaw, wrapAngle(settings.yawRate * (0.25 + 3 * 0.25)), 1e-12);
}

}  // namespace
}  // namespace alpglow
