#include "alpglow/follow/follow.hpp"

#include "alpglow/base/half_life.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;

/// The lag by small steps of the differential equation itself: own pull, then the leash as a hard limit.
Vector3d laggedNumerically(Vector3d lag, const Vector3d& moved, double dt, double halfLife, double leash) {
  constexpr int steps = 200000;
  const double h = dt / steps, rate = ln2 / halfLife;
  const Vector3d velocity = moved / dt;
  for (int i = 0; i < steps; ++i) {
    const Vector3d middle = lag + (-rate * lag - velocity) * (h / 2);
    lag += (-rate * middle - velocity) * h;
    if (lag.norm() > leash) lag *= leash / lag.norm();
  }
  return lag;
}

TEST(Follow, SolvesTheDifferentialEquationWithTheLeash) {
  Random random(1);
  for (int i = 0; i < 25; ++i) {
    const double leash = random.between(0.3, 1.5), dt = random.between(0.2, 1.5), halfLife = random.between(0.05, 0.6);
    Vector3d lag = random.point(1), moved = random.point(4);
    lag.y() = moved.y() = 0;
    if (lag.norm() > leash) lag *= leash / lag.norm();
    const Vector3d exact = laggedBy(lag, moved, dt, halfLife, leash);
    const Vector3d numerical = laggedNumerically(lag, moved, dt, halfLife, leash);
    EXPECT_LT((exact - numerical).norm(), 1e-4) << "run " << i;
  }
}

TEST(Follow, DoesNotDependOnHowTimeIsCut) {
  Random random(2);
  int towed = 0;
  for (int i = 0; i < 2000; ++i) {
    FollowSettings settings;
    settings.halfLife = random.between(0.02, 0.8);
    settings.verticalHalfLife = random.between(0.02, 0.8);
    settings.leash = random.between(0.1, 2);
    settings.verticalLeash = random.between(0.1, 1);
    Follow whole;
    whole.cut(random.point(3));
    whole.step(whole.target() + random.point(3), 0.3, settings);  // now it lags
    Follow split = whole;
    const Vector3d start = whole.target(), goal = start + random.point(5);
    whole.step(goal, 1.2, settings);
    double done = 0;
    for (const double part : random.cut(1.2, random.whole(2, 40))) {
      done += part;
      split.step(start + (goal - start) * std::min(done / 1.2, 1.0), part, settings);
    }
    EXPECT_LT((whole.point() - split.point()).norm(), 1e-9) << "run " << i;
    const Vector3d lag = whole.point() - whole.target();
    if (std::hypot(lag.x(), lag.z()) > settings.leash * (1 - 1e-9)) ++towed;
  }
  EXPECT_GT(towed, 200) << "the leash must have been tight in many runs";
}

TEST(DampedFollow, SolvesItsDifferentialEquation) {
  Random random(60);
  for (int run = 0; run < 20; ++run) {
    const double halfLife = random.between(0.05, 0.6), dt = random.between(0.1, 1),
                 omega = 1.678346990016661 / halfLife;
    const DampedLag start{random.point(1), random.point(3)};
    const Vector3d moved = random.point(3), v = moved / dt;
    const DampedLag exact = dampedLag(start, moved, dt, halfLife, 1e9);
    // x'' = −2ω·x' − ω²·(x − p), by small steps.
    Vector3d lag = start.lag, velocity = start.velocity;
    const int steps = 200000;
    for (int i = 0; i < steps; ++i) {
      velocity += (-2 * omega * velocity - omega * omega * lag) * (dt / steps);
      lag += (velocity - v) * (dt / steps);
    }
    EXPECT_LT((exact.lag - lag).norm(), 1e-3);
    EXPECT_LT((exact.velocity - velocity).norm(), 1e-2);
  }
}

TEST(DampedFollow, HalfOfTheWayIsLeftAfterAHalfLifeAndItNeverOvershootsFromRest) {
  DampedLag lag{{2, 0, 0}, Vector3d::Zero()};
  EXPECT_NEAR(dampedLag(lag, Vector3d::Zero(), 0.3, 0.3, 10).lag.x(), 1, 1e-12);
  for (int i = 0; i < 1000; ++i) {
    lag = dampedLag(lag, Vector3d::Zero(), 0.01, 0.3, 10);
    ASSERT_GE(lag.lag.x(), 0);
  }
}

TEST(DampedFollow, DoesNotDependOnHowTimeIsCutAndStaysOnItsLeash) {
  Random random(61);
  FollowSettings settings;
  settings.kind = FollowKind::criticallyDamped;
  settings.leash = settings.verticalLeash = 1e6;
  for (int run = 0; run < 300; ++run) {
    settings.halfLife = random.between(0.02, 0.8);
    settings.verticalHalfLife = random.between(0.02, 0.8);
    Follow whole;
    whole.cut(random.point(3));
    whole.step(whole.target() + random.point(3), 0.2, settings);
    Follow split = whole;
    const Vector3d start = whole.target(), goal = start + random.point(5);
    whole.step(goal, 1.2, settings);
    double done = 0;
    for (const double part : random.cut(1.2, 40)) {
      done += part;
      split.step(start + (goal - start) * std::min(done / 1.2, 1.0), part, settings);
    }
    ASSERT_LT((whole.point() - split.point()).norm(), 1e-9);
    FollowSettings leashed = settings;
    leashed.leash = leashed.verticalLeash = 0.3;
    whole.step(goal + random.point(4), 0.05, leashed);
    const Vector3d lag = whole.point() - whole.target();
    ASSERT_LE(std::hypot(lag.x(), lag.z()), 0.3 + 1e-12);
  }
}

/// A step that is climbed in one tick: faster than the leash lets a point go at rest, and yet within the leash.
TEST(DampedFollow, AFastStepWithinTheLeashDoesNotDependOnHowTimeIsCut) {
  const DampedLag rest{Vector3d::Zero(), Vector3d::Zero()};
  const Vector3d step(0, 0.35, 0);
  const DampedLag whole = dampedLag(rest, step, 1 / 60.0, 0.2, 0.8);
  DampedLag split = rest;
  for (int i = 0; i < 16; ++i) split = dampedLag(split, step / 16, 1 / 960.0, 0.2, 0.8);
  EXPECT_LT((whole.lag - split.lag).norm(), 1e-12);
  EXPECT_LT((whole.velocity - split.velocity).norm(), 1e-9);
}

TEST(Follow, IsDirectAtHalfLifeZeroAndRestsWhenNoTimePasses) {
  FollowSettings settings;
  settings.halfLife = settings.verticalHalfLife = 0;
  Follow direct;
  direct.cut(Vector3d::Zero());
  EXPECT_EQ(direct.step({1, 2, 3}, 0.01, settings), Vector3d(1, 2, 3));

  settings.halfLife = settings.verticalHalfLife = 0.1;
  Follow paused;
  paused.cut(Vector3d::Zero());
  EXPECT_LT(paused.step({0.5, 0.1, 0}, 0.0, settings).norm(), 1e-15);
}

TEST(HalfLife, StatesWhenNinetyPercentAreCovered) {
  const double time = timeToCover(0.9, 0.25);
  EXPECT_NEAR(approach(0.0, 1.0, 0.25, time), 0.9, 1e-14);
  EXPECT_EQ(meanDecay(0), 1.0);
  EXPECT_NEAR(meanDecay(1e-9), 1.0 - 0.5e-9, 1e-15);
}

}  // namespace
}  // namespace alpglow
