#include "alpglow/stage/storyboard.hpp"

#include "alpglow/stage/picture.hpp"
#include "support/random_level.hpp"

#include <gtest/gtest.h>

#include <set>

namespace alpglow::stage {
namespace {

io::Trace tenSeconds() {
  io::Trace trace(101);
  for (std::size_t i = 0; i < trace.size(); ++i) trace[i].time = 0.1 * static_cast<double>(i);
  return trace;
}

TEST(Storyboard, ShowsTheTimesAskedForAndAtLeastSix) {
  EXPECT_EQ(storyboardTimes(tenSeconds(), {}).size(), 6u);
  const std::vector<double> filled = storyboardTimes(tenSeconds(), {2, 9});
  EXPECT_EQ(filled.size(), 6u);
  EXPECT_TRUE(std::is_sorted(filled.begin(), filled.end()));
  EXPECT_TRUE(std::count(filled.begin(), filled.end(), 2.0) == 1 && std::count(filled.begin(), filled.end(), 9.0) == 1);
  EXPECT_EQ(storyboardTimes(tenSeconds(), {1, 2, 3, 4, 5, 6, 7, 99}).back(), 10);
}

TEST(Picture, ShowsTheFigureInTheMiddleAndTheSkyAbove) {
  io::Level level;
  level.objects.push_back({"meadow", "meadow", {}, io::boxMesh({0, -1, 0}, {60, 1, 60}, 0), true});
  Painter painter(level);
  Shot shot;
  shot.view.position = {0, 1.2, 4};
  const Image with = painter.paint(shot, 320, 180);
  shot.opacity = 0;
  const Image without = painter.paint(shot, 320, 180);
  int left = 320, right = -1, top = 180, bottom = -1;
  std::set<std::uint8_t> blues;
  for (int y = 0; y < 180; ++y) {
    for (int x = 0; x < 320; ++x) {
      const auto at = static_cast<std::size_t>((y * 320 + x) * 4);
      if (y < 40) blues.insert(with.pixels[at + 2]);
      if (with.pixels[at] == without.pixels[at]) continue;
      if (x < 240)
        left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
    }
  }
  // 1.8 m at 4 m under a lens of 60° on 180 lines: the eye is at 1.2 m, so 0.6 m up and 1.2 m down from the middle.
  const double pixelsPerMetre = 90 / (4 * std::tan(degrees(30)));
  EXPECT_NEAR(top, 90 - 0.6 * pixelsPerMetre, 4);
  EXPECT_NEAR(bottom, 90 + 1.2 * pixelsPerMetre, 6);
  EXPECT_LT(left, 160);
  EXPECT_GT(right, 160);
  EXPECT_GT(blues.size(), 5u) << "the sky is graded";
}

}  // namespace
}  // namespace alpglow::stage
