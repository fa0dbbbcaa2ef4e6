#include "alpglow/io/take_file.hpp"
#include "alpglow/base/angles.hpp"

#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow::io {
namespace {

using testing::temporaryFile;

Take parsed(const std::string& content) { return readTake(temporaryFile("a.take", content)); }

TEST(Take, ReadsEventsInOrder) {
  const Take take =
      parsed("alpglow take 1\n# a walk\n0.5 KeyW 1  # press\n1.25 MouseMove 12 -3\n2 PadAxis2 -0.5\n3 end\n");
  ASSERT_EQ(take.events.size(), 3u);
  EXPECT_STREQ(nameOf(take.events[0].control), "KeyW");
  EXPECT_EQ(take.events[1].time, 1.25);
  EXPECT_EQ(take.events[1].y, -3);
  EXPECT_EQ(take.events[2].x, -0.5);
  EXPECT_EQ(take.length, 3);
}

TEST(Take, SpreadsADisplacementAsWholeCountsThatAddUp) {
  const Take take = parsed("alpglow take 1\n1..2 MouseMove 777 -31\n3 end\n");
  double x = 0, y = 0;
  for (const ControlEvent& event : take.events) {
    EXPECT_EQ(event.x, std::round(event.x));
    EXPECT_GT(event.time, 1);
    EXPECT_LE(event.time, 2);
    x += event.x, y += event.y;
  }
  EXPECT_EQ(x, 777);
  EXPECT_EQ(y, -31);
  EXPECT_GT(take.events.size(), 80u);
  EXPECT_LT(std::abs(take.events.front().x), 3) << "it starts gently";
}

TEST(Take, ReadsBackWhatItWrites) {
  const Take take = parsed(
      "alpglow take 1\n0.1..0.7 MouseMove 100 50\n0.3333333333333333 KeyA 1\n0.9 MouseWheel -1\n0.9 set hurt\n0.9 push "
      "blast 1.5 "
      "90.1\n0.95 push blast\n0.96 number fear 0.25\n0.97 jump\n0.98 jump 2\n0.985 teleport 1.5 0 -2.25\n0.986 "
      "teleport 1 2 3 -90\n0.987 guide tower\n0.988 guide tower 0.25\n0.989 unguide\n0.9895 slow 0.5\n0.99 clear "
      "hurt\n1 end\n");
  const Take again = parsed(writeTake(take));
  ASSERT_EQ(again.events.size(), take.events.size());
  for (std::size_t i = 0; i < take.events.size(); ++i) {
    EXPECT_EQ(again.events[i].time, take.events[i].time);
    EXPECT_EQ(again.events[i].x, take.events[i].x);
  }
  ASSERT_EQ(again.cues.size(), 13u);
  EXPECT_EQ(again.cues[0].kind, Cue::Kind::set);
  EXPECT_EQ(again.cues[1].strength, 1.5);
  EXPECT_EQ(again.cues[1].direction, 90.1);
  EXPECT_EQ(again.cues[2].strength, 1);
  EXPECT_FALSE(again.cues[2].direction);
  EXPECT_EQ(again.cues[3].strength, 0.25);
  EXPECT_EQ(again.cues[4].strength, 1.2);
  EXPECT_EQ(again.cues[5].strength, 2);
  EXPECT_EQ(again.cues[6].place, Eigen::Vector3d(1.5, 0, -2.25));
  EXPECT_FALSE(again.cues[6].direction);
  EXPECT_EQ(again.cues[7].direction, -90);
  EXPECT_EQ(again.cues[8].strength, 0);
  EXPECT_EQ(again.cues[9].strength, 0.25);
  EXPECT_EQ(again.cues[12].name, "hurt");
}

TEST(Take, RefusesWhatIsBroken) {
  const auto refused = [](const std::string& lines, std::initializer_list<const char*> words) {
    testing::expectError([&] { parsed("alpglow take 1\n" + lines); }, words);
  };
  refused("0.5 KeyWW 1\n1 end\n", {"a.take:2:", "unknown control KeyWW", "KeyW"});
  refused("0.5 push\n1 end\n", {":2:", "push is written like"});
  refused("0.5 number fear\n1 end\n", {":2:", "number is written like"});
  refused("0.5 number fear 2\n1 end\n", {":2:", "number is 2", "[0, 1]"});
  refused("0.5 jump high\n1 end\n", {":2:", "height is \"high\""});
  refused("0.5 teleport 1 2\n1 end\n", {":2:", "teleport is written like"});
  refused("0.5 jump 1 2\n1 end\n", {":2:", "jump is written like"});
  refused("0.5 push blast 1 90 2\n1 end\n", {":2:", "push is written like"});
  refused("0.5 push blast 1e4\n1 end\n", {":2:", "strength is 1e4", "[-1000, 1000]"});
  refused("0.5 set hurt on\n1 end\n", {":2:", "set is written like"});
  refused("0.5 KeyW nan\n1 end\n", {":2:", "KeyW is \"nan\"", "finite number"});
  refused("0.5 KeyW 2\n1 end\n", {":2:", "KeyW is 2", "[0, 1]"});
  refused("0.5 MouseMove 1\n1 end\n", {":2:", "MouseMove takes 2 values"});
  refused("soon KeyW 1\n1 end\n", {":2:", "time is \"soon\""});
  refused("2 KeyW 1\n1 KeyW 0\n3 end\n", {":3:", "time is 1", "starts at 2"});
  refused("1..2 KeyW 1\n3 end\n", {":2:", "cannot be spread"});
  refused("2..1 MouseMove 1 1\n3 end\n", {":2:", "end of the time is 1"});
  refused("0.5 KeyW 1\n", {"no last line"});
  refused("1 end\n2 KeyW 1\n", {":3:", "nothing may follow"});
  refused("0.5..4 MouseMove 9 9\n1 end\n", {"ends at 1 s", "an event lies at 3."});
  testing::expectError([] { parsed("0.5 KeyW 1\n"); }, {":1:", "alpglow take 1"});
  testing::expectError([] { parsed(""); }, {"is empty"});
}

TEST(FrameTimes, AreOneNumberALine) {
  EXPECT_EQ(readFrameTimes(temporaryFile("a.frames", "0.016\n0.033 # slow\n")), (std::vector<double>{0.016, 0.033}));
  testing::expectError([] { readFrameTimes(temporaryFile("b.frames", "0.016\n-1\n")); },
                       {":2:", "\"-1\"", "[0.0001, 10]"});
}

TEST(Take, TurnsInDegreesAddUpAndReadBack) {
  const Take take = parsed("alpglow take 1\n0.5..1.5 MouseTurn 90 -12.5\n2 MouseTurn -30 0\n3 end\n");
  const Take again = parsed(writeTake(take));
  ASSERT_EQ(again.turns.size(), take.turns.size());
  EXPECT_EQ(take.turns.size(), 126u);
  double right = 0, down = 0;
  for (const Turn& turn : again.turns) right += turn.right, down += turn.down;
  EXPECT_NEAR(right, degrees(60), 1e-12);
  EXPECT_NEAR(down, degrees(-12.5), 1e-12);
  testing::expectError([] { parsed("alpglow take 1\n0.5 MouseTurn 90\n1 end\n"); },
                       {":2:", "MouseTurn is written like"});
}

}  // namespace
}  // namespace alpglow::io
