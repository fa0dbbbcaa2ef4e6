#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/stage.hpp"

#include <gtest/gtest.h>

namespace alpglow::stage {
namespace {

using Eigen::Vector3d;

constexpr double ticks = 60;

class WalkerTest : public ::testing::Test {
 protected:
  void SetUp() override { add("ground", io::boxMesh({0, -1, 0}, {40, 1, 40}, 0)); }

  void add(const std::string& name, io::Mesh mesh, std::vector<std::string> labels = {}) {
    level_.objects.push_back({name, "stone", std::move(labels), std::move(mesh), true});
  }

  /// Where a walk of so many seconds ends.
  Vector3d walked(double seconds, bool run = false, const Vector3d& direction = {0, 0, -1}) {
    const Stage stage(level_);
    Walker walker(stage);
    for (int i = 0; i < seconds * ticks; ++i) walker.tick(direction, run);
    onGround_ = walker.onGround();
    return walker.feet();
  }

  io::Level level_;
  bool onGround_ = false;
};

TEST_F(WalkerTest, WalksAtItsSpeed) {
  const Vector3d end = walked(5);
  EXPECT_NEAR(end.z(), -5 * io::Body().walkSpeed, 0.15);
  EXPECT_NEAR(end.y(), 0, 0.02);
  EXPECT_NEAR(walked(2, true).z(), -2 * io::Body().runSpeed, 0.8);
}

TEST_F(WalkerTest, IsStoppedByAWallAndNotByWhatIsWalkedThrough) {
  add("curtain", io::boxMesh({0, 0, -2}, {4, 3, 0.1}, 0), {"walk-through"});
  add("wall", io::boxMesh({0, 0, -4}, {4, 3, 0.2}, 0));
  EXPECT_NEAR(walked(6).z(), -3.9 + io::Body().radius, 0.03);
}

TEST_F(WalkerTest, SlidesAlongAWall) {
  add("wall", io::boxMesh({0, 0, -3}, {20, 3, 0.2}, degrees(40)));
  const Vector3d end = walked(5);
  EXPECT_GT(std::abs(end.x()), 1);
}

TEST_F(WalkerTest, ComesOutOfSolidsThatItIsPutInto) {
  add("wall", io::boxMesh({0, 0, -4}, {4, 3, 1}, 0));
  add("post", io::cylinderMesh({6, 0, 0}, 3, 0.5, 0.5));
  const Stage stage(level_);
  Walker walker(stage);
  const double radius = io::Body().radius;
  walker.place({0.3, 0, -3.7}, 0);
  EXPECT_NEAR(walker.feet().z(), -3.5 + radius, 0.05) << "the shortest way";
  EXPECT_NEAR(walker.feet().x(), 0.3, 0.02);
  walker.place({6.2, 0, 0.1}, 0);
  EXPECT_NEAR((walker.feet() - Vector3d(6, 0, 0)).norm(), 0.5 + radius, 0.05);
  walker.place({1, 0.004, 2}, 0);
  EXPECT_NEAR((walker.feet() - Vector3d(1, 0, 2)).norm(), 0, 0.02) << "who stands free stays";
  for (int i = 0; i < 60; ++i) walker.tick({0, 0, -1}, false);
  EXPECT_LT(walker.feet().z(), 0.6);
  EXPECT_TRUE(walker.onGround());
}

/// How often it ticks is not how it walks: as far, as high, and for as long.
TEST_F(WalkerTest, WalksAndJumpsAlikeAtAllTickRates) {
  for (const double rate : {20.0, 30.0, 120.0, 240.0}) {
    Stage stage(level_);
    stage.setTicksPerSecond(rate);
    Walker walker(stage);
    walker.jump(1.4);
    double highest = 0, air = 0;
    for (int i = 0; i < 2 * rate; ++i) {
      walker.tick({0, 0, -1}, false);
      highest = std::max(highest, walker.feet().y());
      air += walker.onGround() ? 0 : 1 / rate;
    }
    EXPECT_NEAR(highest, 1.4, 0.05) << rate;
    EXPECT_NEAR(air, 2 * std::sqrt(2 * 1.4 / 9.81), 2 / rate) << rate;
    EXPECT_NEAR(walker.feet().z(), walked(2).z(), 0.05) << rate;
  }
}

TEST_F(WalkerTest, JumpsAsHighAsItIsTold) {
  const Stage stage(level_);
  Walker walker(stage);
  double highest = 0;
  walker.jump(1.4);
  for (int i = 0; i < 2 * ticks; ++i) {
    walker.tick({0, 0, 0}, false);
    if (i == 3) walker.jump(5);  // in the air
    highest = std::max(highest, walker.feet().y());
  }
  EXPECT_NEAR(highest, 1.4, 0.02);
  EXPECT_TRUE(walker.onGround());
  add("ceiling", io::boxMesh({0, 2.2, 0}, {4, 0.2, 4}, 0));
  const Stage low(level_);
  Walker below(low);
  below.jump(3);
  int air = 0;
  for (; air < 200 && (air == 0 || !below.onGround()); ++air) below.tick({0, 0, 0}, false);
  EXPECT_LT(air, 0.8 * ticks) << "it does not stick to the ceiling";
  EXPECT_NEAR(below.feet().y(), 0, 0.02);
}

TEST_F(WalkerTest, ClimbsStairsAndStaysOnThem) {
  for (int i = 0; i < 10; ++i) add("stair", io::boxMesh({0, 0, -2.14 - 0.28 * i}, {2, 0.2 * (i + 1), 0.28}, 0));
  add("landing", io::boxMesh({0, 0, -6.8}, {2, 2, 4}, 0));
  EXPECT_NEAR(walked(5).y(), 2, 0.03);
  EXPECT_TRUE(onGround_);
}

TEST_F(WalkerTest, ClimbsARampButNotACliff) {
  add("ramp", io::rampMesh({0, 0, -1}, {0, 2, -5}, 3, 0.3));
  add("top", io::boxMesh({0, 0, -7}, {3, 2, 4}, 0));
  EXPECT_NEAR(walked(5).y(), 2, 0.05);
  level_.objects.resize(1);
  add("cliff", io::rampMesh({0, 0, -1}, {0, 4, -2.2}, 3, 0.3));  // 73°
  EXPECT_LT(walked(5).y(), 0.5);
}

TEST_F(WalkerTest, FallsFromALedgeAndLands) {
  level_.spawn.position = {0, 2, 0};
  add("ledge", io::boxMesh({0, 0, 0}, {2, 2, 2}, 0));
  EXPECT_NEAR(walked(4).y(), 0, 0.02);
  EXPECT_TRUE(onGround_);
}

TEST_F(WalkerTest, CrouchesUnderALowCeilingAndStaysDownUntilThereIsRoom) {
  add("ceiling", io::boxMesh({0, 1.4, -2}, {4, 0.1, 2}, 0));
  const Stage stage(level_);
  Walker walker(stage);
  const auto walk = [&walker](double seconds, bool crouch, double z) {
    for (int i = 0; i < seconds * ticks; ++i) walker.tick({0, 0, z}, false, crouch);
  };
  walk(2, false, -1);
  EXPECT_GT(walker.feet().z(), -1) << "too tall";
  walk(1.6, true, -1);
  EXPECT_LT(walker.feet().z(), -1.5);
  EXPECT_EQ(walker.eyeHeight(), io::Body().crouchEyeHeight);
  walk(0.2, false, 0);
  EXPECT_EQ(walker.height(), io::Body().crouchHeight) << "no room to stand up";
  walk(4, false, -1);
  EXPECT_EQ(walker.height(), io::Body().height);
}

TEST_F(WalkerTest, ReachesTheUpperFloorOfTheRefuge) {
  io::Level refuge = io::readLevel(ALPGLOW_DEMO "/refuge.level.toml");
  refuge.spawn.position = {3.35, 0.05, -11.5};
  level_ = refuge;
  const Vector3d end = walked(4.2, false, {0, 0, 1});
  EXPECT_NEAR(end.y(), 2.76, 0.05);
}

}  // namespace
}  // namespace alpglow::stage
