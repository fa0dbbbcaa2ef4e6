// The controllers of the pull-in, on plain numbers: how fast in, when out.

#include "alpglow/space/come_in.hpp"
#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/go_out.hpp"

#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <vector>

namespace alpglow {
namespace {

constexpr InSpeeds speeds{6.5, 9.8};
constexpr double look = 1 / 60.0;
constexpr double endless = 1e9;

/// A room of 1 m that begins at some moment, found by six looks ahead.
std::vector<RoomAhead> roomsUntil(double arrives) {
  std::vector<RoomAhead> rooms;
  double before = 0;
  for (const double time : {0.04, 0.11, 0.2, 0.31, 0.44, 0.58}) {
    rooms.push_back({before, time, time >= arrives ? 1 : endless});
    before = time;
  }
  return rooms;
}

TEST(ComeIn, DoesNothingAsLongAsTheCalmSpeedWillDo) {
  ComeIn in;
  const RoomAhead rooms[] = {{0.3, 0.5, 3 - 0.4 * 6.4}};
  EXPECT_EQ(in.look(3, rooms, look, speeds), 0u);
  EXPECT_EQ(in.speed(), 0);
}

TEST(ComeIn, IsAsFastAsTheTimeThatIsLeftAsksAndNoFaster) {
  ComeIn needed, capped;
  const RoomAhead soon[] = {{0.1, 0.3, 3 - 0.2 * 9.75}}, sudden[] = {{0.1, 0.3, 0.5}};
  needed.look(3, soon, look, speeds);
  capped.look(3, sudden, look, speeds);
  EXPECT_NEAR(needed.speed(), 9.75, 1e-9) << "1.5 times the calm speed";
  EXPECT_EQ(capped.speed(), 9.8);
}

TEST(ComeIn, IsNearlyInTimeForWhatComesCloser) {
  ComeIn in;
  double length = 3;
  for (double arrives = 0.5; length > 1.02 && arrives > 0; arrives -= look) {
    const std::vector<RoomAhead> rooms = roomsUntil(arrives);
    in.look(length, {rooms.data(), rooms.size()}, look, speeds);
    length -= in.speed() * look;
  }
  EXPECT_LT(length, 1.3) << "it cannot know when within an interval the room begins";
}

TEST(ComeIn, APostThatEveryOtherLookMissesMakesNoSurge) {
  ComeIn in;
  const RoomAhead post[] = {{0.1, 0.3, 1}, {0.3, 0.5, 2.9}}, missed[] = {{0.1, 0.3, endless}, {0.3, 0.5, 2.9}};
  in.look(3, post, look, speeds);
  const double speed = in.speed();
  EXPECT_EQ(in.look(3, missed, look, speeds), 1u);
  EXPECT_NEAR(in.speed(), speed - 25 * look, 1e-9) << "it falls gradually";
  in.look(3, post, look, speeds);
  EXPECT_EQ(in.speed(), speed) << "and rises at once";
  const RoomAhead clear[] = {{0.1, 0.3, endless}};
  EXPECT_EQ(in.look(3, clear, look, speeds), 1u);
  EXPECT_EQ(in.speed(), 0) << "nothing ahead is shorter";
}

TEST(GoOut, DoesNotDependOnHowTimeIsCut) {
  testing::Random random(3);
  PullInSettings settings;
  settings.wait = 0;
  for (int i = 0; i < 200; ++i) {
    const double total = random.between(0.01, 1);
    GoOut whole, split;
    const RoomsOut rooms{3, 3, 3};
    const double once = whole.step(1, rooms, total, settings);
    double often = 1;
    for (const double part : random.cut(total, 20)) often = split.step(often, rooms, part, settings);
    EXPECT_NEAR(once, often, 1e-9);
  }
}

TEST(GoOut, WaitsAsLongAsItSaysAndLongerAfterAPump) {
  const PullInSettings settings;
  GoOut out;
  std::vector<double> waits;
  for (int pumps = 0; pumps < 3; ++pumps) {
    out.wentIn(1, settings);
    waits.push_back(out.waits(1 / 3.0, settings));
    double length = 1, waited = 0;
    for (; length < 1 + 1e-6; waited += 0.001) length = out.step(1, {3, 3, 0}, 0.001, settings);
    EXPECT_NEAR(waited, waits.back(), 0.006) << "after " << pumps;
    while (length < 1.5) length = out.step(length, {3, 3, 0}, 0.001, settings);
  }
  EXPECT_NEAR(waits[0], (0.4 + 3.6 / 3) * settings.wait, 1e-9);
  EXPECT_GT(waits[1], 3 * waits[0]);
  EXPECT_NEAR(GoOut::waitsAtFirst(1 / 3.0, true, settings), waits[1], 0.01);
}

TEST(GoOut, GoesOutOnlyToWhatThereIsRoomForAndSoonerWhereThatIsAmple) {
  const PullInSettings settings;
  GoOut tight, ample;
  tight.wentIn(2, settings);
  ample.wentIn(2, settings);
  double slow = 1, fast = 1;
  for (int i = 0; i < 30; ++i) {
    slow = tight.step(slow, {3, 2, 0}, 0.01, settings);
    fast = ample.step(fast, {3, 2, 1.5}, 0.01, settings);
    EXPECT_LE(fast, 1.5);
  }
  EXPECT_EQ(slow, 1);
  EXPECT_GT(fast, 1.3);
  for (int i = 0; i < 300; ++i) slow = tight.step(slow, {3, 2, 0}, 0.01, settings);
  EXPECT_NEAR(slow, 2, 1e-3);
}

TEST(GoOut, IsNeverFasterThanItsSpeed) {
  PullInSettings settings;
  settings.outSpeed = 2;
  settings.wait = 0;
  GoOut out;
  double before = 0;
  for (int i = 0; i < 200; ++i) {
    const double next = out.step(before, {3, 3, 3}, 0.01, settings);
    EXPECT_LE(next - before, 0.02 + 1e-12);
    before = next;
  }
  EXPECT_GT(before, 2.9);
}

TEST(EaseOut, EachPullInHasItsDelay) {
  EaseOut ease;
  const EaseOutSettings settings{0.5, 0.1};
  for (int time = 0; time < 3; ++time) {
    EXPECT_EQ(ease.step(3, 1, 0.1, settings), 1);
    for (int i = 0; i < 4; ++i) EXPECT_EQ(ease.step(3, 3, 0.1, settings), 1) << "quiet for less than the delay";
    double distance = 1;
    for (int i = 0; i < 6; ++i) distance = ease.step(3, 3, 0.1, settings);
    EXPECT_GT(distance, 1.5);
  }
}

}  // namespace
}  // namespace alpglow
