#include "alpglow/io/level_file.hpp"

#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>
#include <Eigen/Geometry>

#include <cmath>

namespace alpglow::io {
namespace {

using Eigen::Vector3d;
using testing::temporaryFile;

/// Volume by the divergence theorem: positive when the outsides are counter-clockwise.
double volume(const Mesh& mesh) {
  double sum = 0;
  for (const auto& t : mesh.triangles) {
    const auto corner = [&](std::size_t k) { return mesh.vertices[static_cast<std::size_t>(t[k])]; };
    sum += corner(0).dot(corner(1).cross(corner(2))) / 6;
  }
  return sum;
}

TEST(BlockOut, SolidsHaveTheVolumeThatTheirNumbersSay) {
  EXPECT_NEAR(volume(boxMesh({3, 1, -2}, {2, 3, 4}, 0.7)), 24, 1e-9);
  EXPECT_NEAR(volume(rampMesh({1, 0, 1}, {5, 2, 4}, 2, 0.3)), 5 * 2 * 0.3, 1e-9);
  const double ring = 16 * 0.5 * std::sin(2 * pi / 16);
  EXPECT_NEAR(volume(cylinderMesh({1, 2, 3}, 3, 2, 2)), ring * 4 * 3, 1e-9);
  EXPECT_NEAR(volume(cylinderMesh({1, 2, 3}, 3, 2, 0)), ring * 4, 1e-9);
}

const char* const smallLevel = R"(
format = 1
[spawn]
feet_m = [1, 0, 2]
heading_deg = 90
[character]
height_m = 1.7
eye_height_m = 1.6
[[box]]
name = "floor"
group = "plank"
labels = ["see-through"]
base_m = [0, -1, 0]
size_m = [10, 1, 10]
[[cylinder]]
name = "pole"
base_m = [2, 0, 0]
height_m = 2
radius_m = 0.05
)";

TEST(BlockOut, ReadsObjectsSpawnAndCharacter) {
  const Level level = readLevel(temporaryFile("a.level.toml", smallLevel));
  ASSERT_EQ(level.objects.size(), 2u);
  EXPECT_EQ(level.objects[0].name, "floor");
  EXPECT_EQ(level.objects[0].group, "plank");
  EXPECT_TRUE(level.objects[0].labelled("see-through"));
  EXPECT_EQ(level.spawn.position, Vector3d(1, 0, 2));
  EXPECT_NEAR(level.spawn.heading, pi / 2, 1e-15);
  EXPECT_EQ(level.body.height, 1.7);
  EXPECT_EQ(level.body.walkSpeed, Body().walkSpeed);
}

TEST(BlockOut, ACylinderKeepsItsWidthAndAConeLosesIt) {
  const auto volumeOf = [](const std::string& keys) {
    const std::string text =
        "format = 1\n[[cylinder]]\nname = \"a\"\nbase_m = [0, 0, 0]\nheight_m = 3\nradius_m = 2\n" + keys;
    return volume(readLevel(temporaryFile("c.level.toml", text)).objects.at(0).mesh);
  };
  const double ring = 16 * 0.5 * std::sin(2 * pi / 16) * 4;
  EXPECT_NEAR(volumeOf(""), ring * 3, 1e-9);
  EXPECT_NEAR(volumeOf("top_radius_m = 0\n"), ring, 1e-9);
  EXPECT_NEAR(volumeOf("top_radius_m = 1\n"), ring * (1 + 0.5 + 0.25), 1e-9);
}

TEST(MovingPlatform, RidesThereAndBackAndItsVelocityIsTheDerivative) {
  MovingPlatform platform;
  platform.path = {{0, 0, 0}, {6, 0, 0}, {6, 0, -8}};
  platform.speed = 2;
  platform.pause = 1.5;
  platform.turn = degrees(90);
  const double half = 1.5 + 14 / 2.0;
  for (const double t : {0.0, 1.0, 2.5, 4.0, 6.0, 8.0}) {
    const ReferenceFrame there = platform.at(t, 1), back = platform.at(half + t, 1),
                         again = platform.at(2 * half + t, 1);
    const double ridden = std::max(t - 1.5, 0.0);
    const ReferenceFrame mirrored = platform.at(half - ridden, 1);
    EXPECT_LT((back.origin - mirrored.origin).norm(), 1e-12) << t << ": back as it came";
    EXPECT_LT((back.velocity + mirrored.velocity).norm(), 1e-12) << t;
    EXPECT_LT(back.rotation.angularDistance(mirrored.rotation), 1e-7) << t;
    EXPECT_LT((again.origin - there.origin).norm(), 1e-12) << t << ": and anew";
  }
  EXPECT_EQ(platform.at(half, 1).origin, Vector3d(6, 0, -8));
  EXPECT_NEAR(turnAbout(Vector3d::UnitY(), platform.at(half + 1, 1).rotation), degrees(90), 1e-12);
  for (double t = 0.05; t < 2 * half; t += 0.17) {
    const double step = 1e-5;
    if ((platform.at(t - step, 1).velocity.normalized() - platform.at(t + step, 1).velocity.normalized()).norm() > 0.5)
      continue;
    const Vector3d moved = platform.at(t + step, 1).origin - platform.at(t - step, 1).origin;
    EXPECT_LT((moved / (2 * step) - platform.at(t, 1).velocity).norm(), 1e-4) << t;
  }
}

TEST(BlockOut, RefusesWhatIsBroken) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readLevel(temporaryFile("b.level.toml", content)); }, words);
  };
  refused("format = 1\n", {"holds no box, ramp or cylinder"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0, 0]\n", {":2:", "size_m is missing in [[box]]"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0]\nsize_m = [1, 1, 1]\n",
          {":4:10", "base_m", "three numbers"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0, inf]\nsize_m = [1, 1, 1]\n", {"base_m is inf"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0, 0]\nsize_m = [1, -1, 1]\n",
          {":5:", "size_m is -1", "[0.001"});
  refused("format = 1\n[[ramp]]\nname = \"a\"\nfrom_m = [0, 0, 0]\nto_m = [0, 3, 0]\nwidth_m = 1\n",
          {":5:", "to_m stands over from_m"});
  refused("format = 1\n[[box]]\nnmae = \"a\"\nbase_m = [0, 0, 0]\nsize_m = [1, 1, 1]\n", {"name is missing"});
  refused(
      "format = 1\n[character]\nheight_m = 1.2\neye_height_m = "
      "1.5\n[[box]]\nname=\"a\"\nbase_m=[0,0,0]\nsize_m=[1,1,1]\n",
      {":4:", "eye_height_m"});
}

TEST(BlockOut, ReadsRegions) {
  const std::string box = "[[region]]\nflag = \"indoors\"\nbase_m = [1, 0, 2]\nsize_m = [4, 3, 5]\nyaw_deg = 30\n";
  const std::string round =
      "[[region]]\nflag = \"cliff\"\nbase_m = [9, 0, 2]\nradius_m = 2\nheight_m = 8\nleave_m = 1\n";
  const Level level = readLevel(temporaryFile("r.level.toml", smallLevel + box + round));
  ASSERT_EQ(level.regions.size(), 2u);
  EXPECT_EQ(level.regions[0].flag, "indoors");
  EXPECT_NEAR(level.regions[0].region.yaw, degrees(30), 1e-12);
  EXPECT_EQ(level.regions[0].region.size, Vector3d(4, 3, 5));
  EXPECT_TRUE(level.regions[1].region.round);
  EXPECT_EQ(level.regions[1].region.size, Vector3d(4, 8, 4));
  EXPECT_EQ(level.regions[1].region.leave, 1);
  std::string many = smallLevel;
  for (int i = 0; i < 65; ++i) many += box;
  testing::expectError([&] { readLevel(temporaryFile("m.level.toml", many)); }, {"more than 64 regions"});
}

TEST(BlockOut, ReadsGroups) {
  const std::string target = "[[target]]\nname = \"chamois\"\nat_m = [1, 2, 3]\n";
  const auto with = [&](const std::string& group) {
    return temporaryFile("g.level.toml", smallLevel + target + "[[group_shot]]\nname = \"company\"\n" + group);
  };
  const Level level = readLevel(with("members = [\"chamois\", \"character\"]\nfarthest_m = 20\npitch_deg = -30\n"));
  ASSERT_EQ(level.groups.size(), 1u);
  EXPECT_EQ(level.groups[0].members, (std::vector<int>{0, -1}));
  EXPECT_EQ(level.groups[0].settings.farthest, 20);
  EXPECT_NEAR(level.groups[0].look.pitch, degrees(-30), 1e-12);
  testing::expectError([&] { readLevel(with("members = [\"chamoix\"]\n")); }, {"members", "chamoix", "\"chamois\""});
  testing::expectError([&] { readLevel(with("")); }, {"members must name 1 to 16"});
  testing::expectError([&] { readLevel(with("members = [\"character\"]\nnearest_m = 30\n")); }, {"farthest_m"});
}

}  // namespace
}  // namespace alpglow::io
