#include "alpglow/base/capped_approach.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/half_life.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using testing::Random;

struct Case {
  double error, moved, seconds, halfLife, cap;
};

Case anyCase(Random& random) {
  return {random.between(-3, 3), random.between(-4, 4), random.between(0.05, 2), random.between(0.02, 0.5),
          random.between(0.2, 4)};
}

/// The differential equation x' = limited(w − λe, cap) by small steps.
double numerically(const Case& c) {
  constexpr int steps = 200000;
  const double h = c.seconds / steps, w = c.moved / c.seconds, lambda = ln2 / c.halfLife;
  double error = c.error;
  const auto slope = [&](double e) { return std::clamp(w - lambda * e, -c.cap, c.cap) - w; };
  for (int i = 0; i < steps; ++i) error += h * slope(error + h / 2 * slope(error));
  return error;
}

TEST(CappedApproach, SolvesItsDifferentialEquation) {
  Random random(70);
  for (int i = 0; i < 60; ++i) {
    const Case c = anyCase(random);
    ASSERT_NEAR(cappedApproach(c.error, c.moved, c.seconds, c.halfLife, c.cap), numerically(c), 2e-6);
  }
}

TEST(CappedApproach, DoesNotDependOnHowTimeIsCutAndNeverExceedsItsCap) {
  Random random(71);
  for (int run = 0; run < 3000; ++run) {
    Case c = anyCase(random);
    if (random.chance(0.1)) c.halfLife = 0;
    if (random.chance(0.1)) c.moved = c.cap * c.seconds;
    double error = c.error;
    for (const double part : random.cut(c.seconds, 40)) {
      const double after = cappedApproach(error, c.moved * part / c.seconds, part, c.halfLife, c.cap);
      ASSERT_LE(std::abs(after - error + c.moved * part / c.seconds), c.cap * part + 1e-12) << "the value's own way";
      error = after;
    }
    ASSERT_NEAR(error, cappedApproach(c.error, c.moved, c.seconds, c.halfLife, c.cap), 1e-9);
  }
}

TEST(CappedApproach, StaysOnATargetThatIsSlowerThanTheCap) {
  EXPECT_EQ(cappedApproach(0, 1.5, 1, 0.2, 2), 0);
  EXPECT_NEAR(cappedApproach(0, 3, 1, 0.2, 2), -1, 1e-12);
  EXPECT_EQ(cappedApproach(0.1, 0, 1, 0, 2), 0) << "half-life 0: at the cap, and there";
}

TEST(CappedApproach, KeepsTurningTheWayItWasTurningNearTheOppositeDirection) {
  EXPECT_NEAR(turnOnward(0, degrees(179), 1), degrees(179), 1e-12);
  EXPECT_NEAR(turnOnward(0, degrees(-179), 1), degrees(181), 1e-12);
  EXPECT_NEAR(turnOnward(0, degrees(-179), 0), degrees(-179), 1e-12);
  EXPECT_NEAR(turnOnward(0, degrees(-160), 1), degrees(-160), 1e-12) << "clearly shorter";
}

TEST(CappedApproach, EasesItsTimeInSmoothlyAndAddsUp) {
  EXPECT_NEAR(easedTime(0, 0.5, 0.5), 0.25, 1e-15) << "half of the time of easing in is lost";
  EXPECT_NEAR(easedTime(0.5, 2, 0.5), 1.5, 1e-15);
  EXPECT_NEAR(easedTime(-1, 0.2, 0.5) + easedTime(0.2, 3, 0.5), easedTime(-1, 3, 0.5), 1e-15);
  EXPECT_NEAR(easedTime(0, 0.01, 0.5), 0, 1e-5) << "gently";
  EXPECT_EQ(easedTime(-1, 2, 0), 2);
}

}  // namespace
}  // namespace alpglow
