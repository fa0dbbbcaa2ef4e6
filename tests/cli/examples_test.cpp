// What the examples print, against what it must be by the mathematics of cameras.

#include "alpglow/base/angles.hpp"
#include "program.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <iterator>
#include <sstream>
#include <string>
#include <vector>

namespace alpglow {
namespace {

struct Printed {
  int code = -1;
  std::string output;

  bool says(const std::string& text) const { return output.find(text) != std::string::npos; }
  /// The numbers of the first row that begins with this text and holds at least so many; words are passed over.
  std::vector<double> row(const std::string& begin, std::size_t least = 2) const {
    std::istringstream lines(output);
    for (std::string line; std::getline(lines, line);) {
      if (line.rfind(begin, 0) != 0) continue;
      std::vector<double> numbers;
      std::istringstream words(line);
      for (std::string word; words >> word;) {
        char* end = nullptr;
        const double value = std::strtod(word.c_str(), &end);
        if (end != word.c_str()) numbers.push_back(value);
      }
      if (numbers.size() >= least) return numbers;
    }
    ADD_FAILURE() << "no row begins with " << begin << " in\n" << output;
    return std::vector<double>(16, std::nan(""));
  }
};

Printed example(const std::string& name) {
  const testing::Ran ran = testing::run(std::string(ALPGLOW_EXAMPLES) + "/example_" + name);
  EXPECT_EQ(ran.code, 0) << ran.output;
  return {ran.code, ran.output};
}

double magnified(double fieldOfView, double times) {
  return toDegrees(2 * std::atan(std::tan(degrees(fieldOfView) / 2) / times));
}

TEST(Example, OrbitTurnsAtTheStickRate) {
  const Printed printed = example("orbit_a_moving_point");
  for (const double t : {0.5, 1.0, 2.5, 3.5}) {
    char begin[32];
    std::snprintf(begin, sizeof begin, "  %.2f", t);
    const std::vector<double> row = printed.row(begin);
    EXPECT_NEAR(row[4], 45 * (t + 1.0 / 60), 0.06) << "45 degrees a second, and the first frame is one in";
    EXPECT_EQ(row[5], -10) << "the pitch is nobody's";
  }
}

TEST(Example, RebindAndBlockLooksByCountsAndWalksByTheHeading) {
  const Printed printed = example("rebind_and_block");
  EXPECT_TRUE(printed.says("KeyC already means swing-back"));
  char looked[80];
  std::snprintf(looked, sizeof looked, "yaw %6.1f°  pitch %6.1f°", -300 * 0.05, -10 + 100 * 0.05);
  char walked[40];
  std::snprintf(walked, sizeof walked, "walk %5.2f %5.2f", std::sin(degrees(15)), -std::cos(degrees(15)));
  EXPECT_TRUE(printed.says(std::string("W walks where one looks            ") + looked + "  " + walked))
      << printed.output;
  EXPECT_TRUE(printed.says(std::string("W is unbound while held            ") + looked + "  walk  0.00  0.00"));
  EXPECT_TRUE(printed.says(std::string("a menu is open                     ") + looked)) << "900 counts are discarded";
}

TEST(Example, FirstPersonWalkGlancesBackAndLands) {
  const Printed printed = example("first_person_walk");
  for (const char* time : {"  1.00", "  1.25", "  1.50"}) {
    EXPECT_LT(printed.row(time)[5], -20) << "the look is back over the shoulder";
    EXPECT_EQ(printed.row(time)[6], 0) << "the heading never moves";
  }
  const double half = std::log2(printed.row("  1.75")[5] / printed.row("  1.50")[5]);
  EXPECT_NEAR(half, -0.25 / 0.12, 0.02) << "a glance returns by half-life";
  EXPECT_NEAR(printed.row("  3.00")[7], 1 + 1.68, 1e-3) << "on the ledge, standing";
  EXPECT_NEAR(printed.row("  3.00")[2], 0, 0.05) << "and still";
  EXPECT_LT(printed.row("  3.50")[2], -50) << "the dip of a landing";
  EXPECT_NEAR(printed.row("  4.50")[7], 1.68, 1e-3);
}

TEST(Example, FlyAndInspectKeepsItsHeightAndZoomsByNotches) {
  const Printed printed = example("fly_and_inspect");
  for (const char* time : {"   0.5 s", "   1.5 s", "   3.0 s"}) EXPECT_EQ(printed.row(time)[2], 12.0);
  EXPECT_NEAR(printed.row("   1.0 s")[4], 6, 0.02) << "nearly at top speed";
  EXPECT_EQ(printed.row("   3.0 s")[4], 0) << "braked";
  EXPECT_NEAR(printed.row("  1.00 s")[1], 1 / (1.15 * 1.15), 0.006) << "two notches of 1.15";
}

TEST(Example, SwingBackWaitsTurnsAndObeysTheButton) {
  const Printed printed = example("orbit_and_swing_back");
  const std::vector<double> looked = printed.row("  3.50", 5);
  EXPECT_NEAR(looked[1] - looked[2], -10 * 60 * 0.05, 0.011) << "what the hand turned, in degrees";
  EXPECT_TRUE(printed.says("  3.63   begins to turn by itself")) << "one second after the look at frame 159";
  const double before = printed.row("  5.00", 5)[1], last = printed.row("  5.50", 5)[1];
  const double oneFrameEarlier = last - (last - before) / 30;
  EXPECT_NEAR(printed.row("  7.00", 5)[1], toDegrees(wrapAngle(degrees(oneFrameEarlier - 45))), 0.1)
      << "behind the warden, who walked 45 degrees to the right of the view";
}

TEST(Example, LockOnHalvesItsErrorInEveryHalfLife) {
  const Printed printed = example("lock_on");
  const double error = printed.row("  0.50   lantern", 5)[1];
  EXPECT_NEAR(printed.row("  1.00   lantern", 5)[1], error / 32, 0.001) << "five half-lives of 0.1 s";
  EXPECT_NEAR(printed.row("  2.00   lantern", 5)[2], 0, 0.005) << "and centred";
  EXPECT_TRUE(printed.says("  2.53   locks on to the lantern at the bridge")) << printed.output;
  EXPECT_TRUE(printed.says("  4.03   locks on to the lantern at the gate"));
}

TEST(Example, StandingCameraRidesOnTheRoofAndChangesItsMind) {
  const Printed printed = example("standing_camera");
  for (const double t : {0.5, 4.0, 5.0}) {
    char begin[32];
    std::snprintf(begin, sizeof begin, "  %.2f   standing", t);
    const std::vector<double> row = printed.row(begin, 8);
    EXPECT_NEAR(row[2], 11 * std::sin(0.2 * t), 0.006) << "a metre inward of 12";
    EXPECT_NEAR(row[3], 5 + 2.2, 1e-9);
    EXPECT_NEAR(row[4], 11 * std::cos(0.2 * t), 0.006);
    EXPECT_NEAR(row[7], 35, 1e-9);
  }
  EXPECT_EQ(printed.row("  2.50   own", 8)[1], 2) << "a change of mind";
  EXPECT_EQ(printed.row("  2.83   standing", 8)[1], 2);
}

TEST(Example, ScopeAndEyesShowsEveryFramingThroughItsLens) {
  const Printed printed = example("scope_and_eyes");
  EXPECT_NEAR(printed.row("  1.50", 6)[1], magnified(60, 1.8), 0.051);
  EXPECT_NEAR(printed.row("  2.50", 6)[1], magnified(60, 4), 0.051);
  EXPECT_NEAR(printed.row("  2.50", 6)[6], std::tan(degrees(magnified(60, 4)) / 2) / std::tan(degrees(30)), 0.006);
  EXPECT_EQ(printed.row("  4.00", 6)[2], 0.0) << "the eyes are at distance 0";
  EXPECT_NEAR(printed.row("  6.00", 6)[1], 70, 0.051);
  for (const char* time : {"  1.25", "  3.25", "  3.50", "  4.25", "  4.50"})
    EXPECT_LE(printed.row(time, 6)[5], 0.1) << "the crosshair stays while framings change";
}

TEST(Examples, AnEngineOfOnesOwnIsProvedAndPullsTheCameraIn) {
  const testing::Ran ran = testing::run(ALPGLOW_EXAMPLES "/example_own_physics");
  EXPECT_EQ(ran.code, 0);
  EXPECT_NE(ran.output.find("the adapter: nothing found"), std::string::npos) << ran.output;
  EXPECT_NE(ran.output.find("because of 42"), std::string::npos) << ran.output;
}

std::string contentOf(const std::string& path) {
  std::ifstream file(path);
  EXPECT_TRUE(file) << path;
  return {std::istreambuf_iterator<char>(file), {}};
}

/// Every block of a document is in the example that was named last, word for word.
int excerptsOf(const std::string& document) {
  std::istringstream lines(contentOf(document));
  std::string line, example, block;
  int excerpts = 0;
  bool inside = false;
  while (std::getline(lines, line)) {
    const std::size_t named = line.rfind("examples/"), end = line.find(".cpp", named);
    if (!inside && named != std::string::npos && end != std::string::npos)
      example = contentOf(ALPGLOW_DOCS "/../" + line.substr(named, end + 4 - named));
    if (inside && line.rfind("```", 0) == 0) {
      EXPECT_NE(example.find(block), std::string::npos) << document << " has what no example has:\n" << block;
      inside = false;
      ++excerpts;
    } else if (inside) {
      block += line + "\n";
    } else if (line == "```cpp") {
      inside = true;
      block.clear();
    }
  }
  return excerpts;
}

TEST(Examples, WhatTheGuideAndTheReadmePrintIsTakenFromThem) {
  EXPECT_EQ(excerptsOf(ALPGLOW_DOCS "/integration.md"), 13);
  EXPECT_EQ(excerptsOf(ALPGLOW_DOCS "/../README.md"), 1);
}

TEST(Examples, RecipesDoWhatTheySay) {
  const struct {
    const char* name;
    std::vector<const char*> words;
  } recipes[] = {{"smallest_host", {"yaw  -48.0 deg, 3.00 m behind"}},
                 {"own_input", {"yaw -87.4"}},
                 {"foreign_engine", {"near plane inside something in 0, head hidden in 0"}},
                 {"hot_reload", {"fov 60.0 deg, 4.50 m behind, cut 0", "fov 72.0 deg, 4.50 m behind, cut 0"}},
                 {"split_screen", {"1.95 m of 3.00 m\n1.95 m of 3.00 m"}},
                 {"rollback", {"hashes differ", "angles.look.target.yaw: ", "now the same"}},
                 {"cut_scene", {"never more than 0.11 m"}},
                 {"slow_motion", {"at  25 %: walked 0.75 m, turned -15.0", "at   0 %: walked 0.00 m, turned -15.0"}},
                 {"tune_in_game", {"0.5 s: 4.50 m behind, cut 0", "distance_m = 4.5     # an arm's length"}},
                 {"why_here", {" is in the way ", "the bush is drawn to 25 %"}}};
  for (const auto& recipe : recipes) {
    const testing::Ran ran = testing::run(std::string(ALPGLOW_EXAMPLES "/example_") + recipe.name);
    EXPECT_EQ(ran.code, 0) << recipe.name;
    for (const char* words : recipe.words) EXPECT_NE(ran.output.find(words), std::string::npos) << ran.output;
  }
}

}  // namespace
}  // namespace alpglow
