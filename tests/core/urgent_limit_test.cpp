#include "alpglow/space/urgent_limit.hpp"

#include "support/random.hpp"

#include <gtest/gtest.h>

#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;

TEST(UrgentLimit, EasingOutDoesNotDependOnHowTimeIsCut) {
  testing::Random random(11);
  const PullInSettings settings;
  for (int run = 0; run < 100; ++run) {
    UrgentLimit whole;
    whole.step(3, {1}, {}, 0.01, settings);
    UrgentLimit split = whole;
    const double total = random.between(0.1, 2);
    const double once = whole.step(3, {UrgentLimit::unlimited}, {}, total, settings);
    double often = 0;
    for (const double part : random.cut(total, 40)) often = split.step(3, {UrgentLimit::unlimited}, {}, part, settings);
    EXPECT_NEAR(once, often, 1e-9);
  }
}

TEST(UrgentLimit, IsAsFastAsTheTimeThatIsLeftAsksAndNoFaster) {
  // 1.5 m too long in 0.3 s: 5 m/s, a little above what is calm. At 4 m/s nothing happens before 0.375 s.
  const PullInSettings settings;
  for (const double notice : {0.5, 0.3, 0.2}) {
    UrgentLimit limit;
    double length = 3, fastest = 0;
    for (double left = notice; left > 0; left -= 0.004) {
      const RoomAhead ahead[] = {{left, 1.5}};
      const double next = limit.step(3, {UrgentLimit::unlimited}, ahead, 0.004, settings);
      fastest = std::max(fastest, (length - next) / 0.004);
      length = next;
    }
    EXPECT_NEAR(length, 1.5, 0.15) << notice;
    EXPECT_LT(fastest, std::max(1.9 * settings.speed, 1.9 * 1.5 / notice)) << notice;
  }
  UrgentLimit never;
  const RoomAhead far[] = {{0.5, 1.5}};
  for (int i = 0; i < 100; ++i)
    EXPECT_EQ(never.step(3, {UrgentLimit::unlimited}, far, 0.004, settings), 3) << "3 m/s will do";
}

TEST(UrgentLimit, GoesOutOnlyToWhatItCanKeep) {
  const PullInSettings settings;
  UrgentLimit limit;
  limit.step(3, {1}, {}, 0.01, settings);
  const RoomAhead ahead[] = {{0.2, 1.6}, {0.3, 0.8}};
  double length = 0;
  for (int i = 0; i < 300; ++i) length = limit.step(3, {UrgentLimit::unlimited}, ahead, 0.01, settings);
  EXPECT_NEAR(length, 1.6, 1e-6)
      << "0.8 m can be reached calmly in 0.3 s from 2.75 m, but 0.2 s from now there is room for 1.6";
}

TEST(UrgentLimit, WhoPumpsWaitsLonger) {
  const PullInSettings settings;
  UrgentLimit limit;
  std::vector<double> waits;
  for (int times = 0; times < 5; ++times) {
    limit.step(3, {1}, {}, 0.01, settings);
    waits.push_back(limit.wait(settings));
    while (limit.step(3, {UrgentLimit::unlimited}, {}, 0.01, settings) < 1.5) {
    }
  }
  const double quiet = 0.4 + 3.2 / 3;  // of a third of the whole, by the delay
  EXPECT_NEAR(waits[0], quiet * settings.delay, 1e-9);
  for (std::size_t i = 1; i < waits.size(); ++i) EXPECT_GE(waits[i], waits[i - 1]);
  EXPECT_GT(waits[2], 2 * waits[0]);
  EXPECT_LE(waits.back(), quiet * (settings.delay + settings.longestBackOff));
}

TEST(UrgentLimit, WaitsAsLongAsItSays) {
  const PullInSettings settings;
  UrgentLimit limit;
  for (int pumps = 0; pumps < 3; ++pumps) {
    limit.step(3, {1}, {}, 0.001, settings);
    const double says = limit.wait(settings);
    double waited = 0;
    while (limit.step(3, {UrgentLimit::unlimited}, {}, 0.001, settings) < 1 + 1e-6) waited += 0.001;
    EXPECT_NEAR(waited, says, 0.006) << "after " << pumps;
    EXPECT_EQ(limit.wait(settings), 0) << "it goes out";
    while (limit.step(3, {UrgentLimit::unlimited}, {}, 0.001, settings) < 1.5) {
    }
  }
}

TEST(UrgentLimit, TheLongerItIsQuietTheFartherOutItDares) {
  const PullInSettings settings;
  for (const double dt : {0.001, 1 / 60.0}) {
    UrgentLimit limit;
    limit.step(3, {0.3}, {}, dt, settings);
    double before = 0.3, most = 0;
    for (double t = dt; t < 1.3; t += dt) {
      const double length = limit.step(3, {UrgentLimit::unlimited}, {}, dt, settings);
      EXPECT_NEAR(length, std::clamp(3 * (t / settings.delay - 0.4) / 3.2, 0.3, 3.0), 0.02) << t;
      most = std::max(most, (length - before) / dt);
      before = length;
    }
    EXPECT_NEAR(most, 3 / (3.2 * settings.delay), 0.01) << "evenly";
    EXPECT_FALSE(limit.limiting());
  }
}

TEST(UrgentLimit, GoesOutSoonerWhereThereIsAmpleRoom) {
  const PullInSettings settings;
  const RoomNow ample{UrgentLimit::unlimited, 2};
  const auto stepFor = [&](UrgentLimit& limit, double seconds) {
    double length = 0;
    for (double t = 0; t < seconds - 1e-9; t += 0.01) length = limit.step(3, ample, {}, 0.01, settings);
    return length;
  };
  UrgentLimit limit;
  limit.step(3, {1}, {}, 0.01, settings);
  const double third = (0.4 + 3.2 / 3) * settings.delay;  // for a third of the whole
  EXPECT_NEAR(stepFor(limit, 0.45 * third), 1, 1e-9);
  EXPECT_GT(limit.wait(settings), 0.2);
  EXPECT_GT(stepFor(limit, 0.05), 1.1);
  EXPECT_EQ(limit.wait(settings), 0) << "it goes out";
  EXPECT_LE(stepFor(limit, 0.3), 2) << "no farther than that is ample";
  EXPECT_GT(stepFor(limit, 1), 2.9) << "after the whole delay";
}

/// Ample room is asked for where it may matter only; elsewhere no answer to it changes anything.
TEST(UrgentLimit, AwaitsAmpleRoomWhereItMatters) {
  testing::Random random(12);
  const PullInSettings settings;
  int awaited = 0, sooner = 0;
  for (int run = 0; run < 300; ++run) {
    UrgentLimit limit;
    for (int frame = 0; frame < 200; ++frame) {
      const double dt = random.between(0.002, 0.05), clear = random.between(0, 30) < 1 ? random.between(0.5, 2) : 3;
      const RoomAhead ahead[] = {{0.1, random.between(0, 20) < 1 ? 1.0 : 3.0}, {0.6, random.between(0, 3)}};
      const bool awaits = limit.awaitsAmple(dt, settings) && limit.hasRoom(3, clear, ahead, settings, 1);
      UrgentLimit never = limit;
      const double with = limit.step(3, {clear, clear}, ahead, dt, settings);
      const double without = never.step(3, {clear, 0}, ahead, dt, settings);
      awaited += awaits ? 1 : 0;
      sooner += with > without ? 1 : 0;
      EXPECT_TRUE(awaits || with == without) << run << ", frame " << frame;
    }
  }
  EXPECT_GT(sooner, 1000);
  EXPECT_LT(awaited, 2 * sooner);
}

}  // namespace
}  // namespace alpglow
