#include "alpglow/base/transition.hpp"

#include "support/random.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow {
namespace {

using testing::Random;

TEST(Transition, FromRestIsTheMinimumJerkProfile) {
  Transition t;
  t.begin(2, 0.8);
  for (int i = 0; i <= 7; ++i) {
    const double s = i / 8.0;
    EXPECT_NEAR(t.difference(), 2 * (1 - s * s * s * (10 - 15 * s + 6 * s * s)), 1e-12);
    t.advance(0.1);
  }
  EXPECT_TRUE(t.done());
  EXPECT_EQ(t.difference(), 0);
}

TEST(Transition, DoesNotDependOnHowTimeIsCut) {
  Random random(50);
  for (int run = 0; run < 200; ++run) {
    Transition whole;
    whole.begin(random.between(-3, 3), random.between(-4, 4), random.between(-5, 5), 1);
    Transition split = whole;
    const double time = random.between(0.05, 1.1);
    whole.advance(time);
    for (const double part : random.cut(time, 60)) split.advance(part);
    EXPECT_NEAR(whole.difference(), split.difference(), 1e-9);
  }
}

TEST(Transition, ThousandsOfChangesOfMindKeepValueSpeedAndAccelerationContinuous) {
  Random random(51);
  double target = 0;
  Transition t;
  for (int run = 0; run < 5000; ++run) {
    t.advance(random.between(0, 0.7));
    const double shown = target + t.difference(), speed = t.speed(), acceleration = t.acceleration();
    target = random.between(-2, 2);
    t.begin(shown - target, random.between(0.2, 1.5));
    ASSERT_NEAR(target + t.difference(), shown, 1e-12);
    ASSERT_NEAR(t.speed(), speed, 1e-9 * (1 + std::abs(speed)));
    ASSERT_NEAR(t.acceleration(), acceleration, 1e-7 * (1 + std::abs(acceleration)));
    // And the speed is the slope of the value.
    Transition ahead = t;
    ahead.advance(1e-6);
    if (!ahead.done()) {
      ASSERT_NEAR((ahead.difference() - t.difference()) / 1e-6, t.speed(), 1e-3 * (1 + std::abs(t.acceleration())));
    }
  }
}

TEST(Transition, DoesNotOvershootWhereItCanBrakeInTime) {
  Random random(52);
  int sooner = 0;
  for (int run = 0; run < 3000; ++run) {
    // Changes its mind once on the way, toward a target on the same side: it can always stop there in time.
    Transition t;
    t.begin(random.between(0.5, 3), 1);
    t.advance(random.between(0, 0.95));
    const double extra = random.between(0, 1), asked = random.between(0.3, 2);
    t.begin(t.difference() + extra, asked);
    if (t.brake() < asked) ++sooner;
    for (int i = 0; i < 200 && !t.done(); ++i) {
      ASSERT_GE(t.difference(), -1e-12) << "run " << run;
      t.advance(asked / 200);
    }
    t.advance(1e-9);
    ASSERT_TRUE(t.done());
  }
  EXPECT_GT(sooner, 100) << "the rule must have been needed";
}

TEST(Transition, NeverLeavesItsBoundsHoweverOftenItChangesItsMindAndBrakesNoHarderThanItMust) {
  Random random(53);
  double hardest = 0;
  int at = 0;
  Transition t;
  double target = 1;
  for (int run = 0; run < 20000; ++run) {
    for (int i = 0; i < 30; ++i, t.advance(random.between(0, 0.02))) {
      const double shown = target + t.difference();
      ASSERT_GE(shown, -1e-4) << run;  // seen at 32 points of a plan
      ASSERT_LE(shown, 2 + 2e-5) << run;
      hardest = std::max(hardest, std::abs(t.acceleration()));
      if (shown < 0.01 || shown > 1.99) ++at;
    }
    const double shown = target + t.difference(), ends[] = {0, 2, random.between(0, 2)};
    target = ends[random.whole(0, 2)];
    t.beginWithin(-target, 2 - target, shown - target, 0.4);
  }
  EXPECT_GT(at, 1000) << "the bounds were reached";
  // From rest over the whole range the plan itself takes 5.8·2/0.16 = 72; braking a doubled speed takes a few times
  // that.
  EXPECT_LT(hardest, 400);
}

TEST(Transition, EndsAtOnceWhenThereIsNoTimeOrNoNumber) {
  Transition t;
  t.begin(2, 0);
  EXPECT_TRUE(t.done());
  t.begin(NAN, 1);
  EXPECT_EQ(t.difference(), 0);
  t.begin(1, 1);
  t.finish();
  EXPECT_EQ(t.difference(), 0);
  EXPECT_EQ(t.progress(), 1);
}

}  // namespace
}  // namespace alpglow
