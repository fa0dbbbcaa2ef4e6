// Why the camera is where it is, what hides its subject, and both drawn.

#include "alpglow/view/explanation.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/input/blocks.hpp"
#include "alpglow/view/debug_draw.hpp"
#include "alpglow/view/hiding.hpp"
#include "support/boxes.hpp"
#include "support/camera_run.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <locale>
#include <set>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Boxes;
using testing::wardenAt;
using testing::wide;
using Why = Explanation::Why;

const ExplanationNames names{[](ObstacleId id) { return id == 1 ? std::string("wood\"shed\n") : std::string(); },
                             [](int) { return std::string("trail"); }};

struct Filmed {
  CameraDesign numbers;
  View view;
  Explanation why;
  Filmed(const Boxes& world, double standsFor, const Subject& warden = wardenAt({0, 0, 0})) {
    numbers.framings[0].framing.shoulder = 0;
    numbers.framings[0].framing.defaultPitch = 0;
    const CompiledDesign design(numbers);
    CharacterCamera camera(design, warden);
    for (double t = 0; t <= standsFor; t += 0.02) view = camera.step(0.02, {}, warden, world, wide);
    why = explain(view, world);
  }
};

TEST(Explanation, SaysWhatIsInTheWayAndWhere) {
  Boxes world;
  world.add({10, 0, 0}, {1, 1, 1});
  world.add({0, 1.5, 2.5}, {2, 2, 0.5});
  const Filmed filmed(world, 1);
  ASSERT_EQ(filmed.why.why, Why::obstacle);
  EXPECT_EQ(filmed.why.obstacle, 1u);
  ASSERT_TRUE(filmed.why.met);
  EXPECT_NEAR(filmed.why.point.z(), 2, 1e-6) << "the near side of the box";
  EXPECT_NEAR((filmed.why.normal - Vector3d(0, 0, -1)).norm(), 0, 1e-6);
  EXPECT_NEAR((filmed.why.sphere - filmed.view.position).norm(), 0, 2e-3) << "as far as it can";
  EXPECT_GT(filmed.view.freePosition.z(), 2.2);
  const std::string words = inWords(filmed.view, filmed.why, names);
  EXPECT_NE(words.find("wood\"shed\n is in the way"), std::string::npos) << words;
  EXPECT_NE(inWords(filmed.view, filmed.why).find("obstacle 1 is in the way"), std::string::npos);
  ExplanationNames elsewhere = names;
  elsewhere.axes.up = Vector3d::UnitZ(), elsewhere.axes.forward = Vector3d::UnitY(), elsewhere.axes.unitsPerMetre = 100;
  const std::string told = inWords(filmed.view, filmed.why, elsewhere);
  EXPECT_NE(told.find(" -200.00 1"), std::string::npos) << told;
  EXPECT_NE(told.find("facing 0.00 1.00 0.00"), std::string::npos) << told;
  const std::string json = asJson(filmed.view, filmed.why, names);
  EXPECT_NE(json.find("\"why\":\"obstacle\""), std::string::npos) << json;
  EXPECT_NE(json.find("\"obstacle\":\"wood\\\"shed\\u000a\""), std::string::npos) << json;
}

TEST(Explanation, KnowsNothingAndWaitingAndGoingOutAndABlockedHead) {
  Boxes world;
  EXPECT_EQ(Filmed(world, 1).why.why, Why::asWanted);
  EXPECT_EQ(inWords(Filmed(world, 1).view, Filmed(world, 1).why).substr(5), "m: nothing limits it");

  world.add({0, 1.5, 2.5}, {2, 2, 0.5});
  CameraDesign numbers;
  numbers.framings[0].framing.shoulder = 0;
  const CompiledDesign design(numbers);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const auto step = [&](const Obstacles& in) { return camera.step(0.02, {}, wardenAt({0, 0, 0}), in, wide); };
  const NoObstacles open;
  for (int i = 0; i < 50; ++i) step(open);
  for (int i = 0; i < 3; ++i) step(world);
  std::set<Why> seen;
  for (int i = 0; i < 300; ++i) {
    const View view = step(open);
    const Explanation why = explain(view, open);
    seen.insert(why.why);
    if (why.why != Why::waiting) continue;
    EXPECT_NE(inWords(view, why).find("goes out in"), std::string::npos);
  }
  EXPECT_EQ(seen, (std::set<Why>{Why::waiting, Why::goingOut, Why::asWanted}));

  Boxes around;
  around.add({0, 1.7, 0}, {0.5, 0.5, 0.5});
  const Filmed blocked(around, 0.5);
  EXPECT_EQ(blocked.why.why, Why::headBlocked);
  EXPECT_EQ(blocked.why.obstacle, 0u);
}

TEST(Explanation, TellsThatTheCameraStoops) {
  View view;
  EXPECT_EQ(inWords(view, {}).find("stooped"), std::string::npos);
  view.stooped = degrees(6);
  EXPECT_NE(inWords(view, {}).find("stooped by 6.0\u00b0"), std::string::npos);
  EXPECT_NE(asJson(view, {}, {}).find("\"stooped_deg\":6"), std::string::npos);
}

TEST(Explanation, HasANameForEveryFaultAndBlock) {
  std::set<std::string> seen;
  for (std::uint32_t bit = 1; bit <= Fault::costly; bit *= 2) {
    View view;
    view.faults = bit;
    const std::string words = inWords(view, {});
    ASSERT_NE(words.find("faults: "), std::string::npos);
    EXPECT_GT(words.size(), words.find("faults: ") + 8) << bit;
    EXPECT_TRUE(seen.insert(words).second) << words;
  }
  for (std::uint32_t bit = 1; bit <= Blocked::all; bit *= 2) {
    View view;
    view.blocked = bit;
    const std::string words = inWords(view, {});
    ASSERT_NE(words.find("blocked: "), std::string::npos);
    EXPECT_GT(words.size(), words.find("blocked: ") + 9) << bit;
  }
}

TEST(Explanation, TellsLargeThingsFromWalls) {
  Boxes world;
  world.add({0, 1.5, 4}, {6, 6, 3}, true);
  const Filmed filmed(world, 1);
  EXPECT_EQ(filmed.why.why, Why::large);
  ASSERT_TRUE(filmed.why.met);
  EXPECT_NEAR(filmed.why.point.z(), 1, 1e-6);
}

TEST(Explanation, IsFiniteAndLegalWhateverTheHostAnswers) {
  class Liar final : public Obstacles {
   public:
    Contact sweep(const Vector3d&, const Vector3d&, double) const noexcept override { return {nan, 3, {nan, 0, 0}}; }
    Contact cast(const Vector3d&, const Vector3d&, Purpose::Bit) const noexcept override { return {-1, 3}; }
    double clearance(const Vector3d&, double) const noexcept override { return nan; }
    const double nan = std::numeric_limits<double>::quiet_NaN();
  };
  const Liar liar;
  Boxes world;
  world.add({0, 1.5, 2.5}, {2, 2, 0.5});
  const Filmed filmed(world, 1);
  const Explanation why = explain(filmed.view, liar);
  EXPECT_TRUE(why.point.allFinite() && why.normal.allFinite() && why.sphere.allFinite());
  EXPECT_EQ(asJson(filmed.view, why).find("nan"), std::string::npos);
  const Vector3d points[] = {{0, 1, 0}};
  EXPECT_EQ(whatHides({0, 1, 5}, points, liar).visible, 0);
  View bad;
  bad.freeDistance = bad.position.x() = std::numeric_limits<double>::infinity();
  EXPECT_EQ(asJson(bad, explain(bad, liar)).find("inf"), std::string::npos);
}

TEST(Hiding, NamesEverythingInBetweenOnceAndSaysHowMuchIsSeen) {
  Boxes world;
  world.add({0, 1.5, 2}, {3, 0.05, 0.05});
  world.add({0, 1.5, 3}, {3, 3, 0.5});
  world.add({20, 1.5, 3}, {3, 3, 0.5});
  world.add({0, 0.2, 1}, {3, 0.3, 0.05});
  const Subject warden = wardenAt({0, 0, 0});
  const Vector3d eye(0, 1.5, 6);
  const auto body = bodyPoints(warden, eye);
  const Hiding all = whatHides(eye, body, world);
  EXPECT_EQ(all.visible, 0);
  EXPECT_TRUE(all.complete);
  const std::set<ObstacleId> things(all.all().begin(), all.all().end());
  EXPECT_EQ(things, (std::set<ObstacleId>{0, 1, 3})) << "what is beside is not";
  EXPECT_EQ(all.count, 3u);

  Boxes fence;
  fence.add({0, 0.2, 2}, {3, 0.3, 0.05});
  const auto low = bodyPoints(warden, {0, 0.3, 6});
  const Hiding feet = whatHides({0, 0.3, 6}, low, fence);
  EXPECT_NEAR(feet.visible, 5.0 / 7, 0.15);
  const NoObstacles open;
  EXPECT_EQ(whatHides(eye, body, open).visible, 1);
  Boxes ground;
  ground.add({0, -1, 0}, {50, 1, 50});
  EXPECT_EQ(whatHides(eye, body, ground).visible, 1) << "the ground hides no feet";
  EXPECT_EQ(whatHides(eye, {}, world).visible, 1);
  const Vector3d nowhere[] = {Vector3d(std::nan(""), 0, 0)};
  EXPECT_EQ(whatHides(eye, nowhere, open).visible, 0);
}

TEST(DebugDraw, DrawsWhatThereIsAndNothingThatIsNotFinite) {
  struct Counted final : DebugDraw {
    int lines = 0, spheres = 0;
    std::string labels;
    void line(const Vector3d& a, const Vector3d& b, Meaning) override {
      EXPECT_TRUE(a.allFinite() && b.allFinite());
      ++lines;
    }
    void sphere(const Vector3d& m, double r, Meaning) override {
      EXPECT_TRUE(m.allFinite() && r > 0);
      ++spheres;
    }
    void label(const Vector3d&, const std::string& text, Meaning) override { labels += text; }
  };
  Boxes world;
  Counted free, limited, bad;
  const Filmed open(world, 1);
  drawCamera(open.view, open.why, free);
  world.add({0, 1.5, 2.5}, {2, 2, 0.5});
  const Filmed closed(world, 1);
  drawCamera(closed.view, closed.why, limited);
  EXPECT_EQ(free.spheres, 3);
  EXPECT_EQ(limited.spheres, 5) << "where it would be, and what stops it";
  EXPECT_GT(limited.lines, free.lines);
  EXPECT_EQ(limited.labels, "obstacle 0");
  View nowhere;
  nowhere.head.x() = std::nan("");
  drawCamera(nowhere, {}, bad);
  EXPECT_EQ(bad.lines + bad.spheres, 0);
}

}  // namespace
}  // namespace alpglow
