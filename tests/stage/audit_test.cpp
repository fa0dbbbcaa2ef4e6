// What a camera finds everywhere in a level: places, poses, the worst of them, and that a replay shows it.

#include "alpglow/stage/audit.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow::stage {
namespace {

using Eigen::Vector3d;

io::LevelObject box(const char* name, const Vector3d& base, const Vector3d& size) {
  return {name, "stone", {}, io::boxMesh(base, size, 0), true};
}

/// A terrace of 8 m by 8 m around the spawn.
io::Level terrace() {
  io::Level level;
  level.objects.push_back(box("terrace", {0, -1, 0}, {8, 1, 8}));
  return level;
}

TEST(Reach, IsTheGroundThatOneCanWalkToUpStepsAndDownDrops) {
  const Reach flat = reachOf(Stage(terrace()), 0.5, 1000);
  // The capsule's round end still stands a little beyond the edge.
  EXPECT_GE(flat.feet.size(), 15u * 15u);
  EXPECT_LE(flat.feet.size(), 17u * 17u);
  for (const Vector3d& feet : flat.feet) EXPECT_NEAR(feet.y(), 0, 0.02);

  io::Level level = terrace();
  level.objects.push_back(box("wall", {0, 0, -2}, {8, 2, 0.3}));           // nobody gets behind it
  level.objects.push_back(box("step", {2.5, 0, 2.5}, {3, 0.3, 3}));        // one climbs it
  level.objects.push_back(box("block", {-2.5, 0, 2.5}, {1.6, 1.2, 1.6}));  // but not this
  level.objects.push_back(box("yard", {10, -4, 0}, {12, 1, 12}));          // and drops down here
  const Reach reach = reachOf(Stage(level), 0.5, 3000);
  double highest = 0, lowest = 0;
  for (const Vector3d& feet : reach.feet) {
    EXPECT_TRUE(feet.z() > -1.85 || feet.y() < -2) << feet.transpose();
    highest = std::max(highest, feet.y()), lowest = std::min(lowest, feet.y());
  }
  EXPECT_NEAR(highest, 0.3, 0.02);
  EXPECT_NEAR(lowest, -3, 0.02);
  EXPECT_FALSE(reach.cutShort);
  EXPECT_TRUE(reachOf(Stage(level), 0.5, 50).cutShort);
  for (std::size_t i = 0; i < flat.feet.size(); ++i) {
    for (std::size_t way = 0; way < 4; ++way) {
      const int next = flat.next[i][way];
      if (next < 0) continue;
      EXPECT_EQ(flat.next[static_cast<std::size_t>(next)][(way + 2) % 4], static_cast<int>(i)) << "there and back";
    }
  }
}

TEST(Audit, OfAnEmptyTerraceKeepsEverything) {
  AuditOptions options;
  options.step = 1;
  const Audit open = audit(CompiledDesign(CameraDesign()), Stage(terrace()), options);
  EXPECT_EQ(open.poses, open.places.size() * 16);
  EXPECT_EQ(open.kept, 1);
  EXPECT_EQ(open.hidden, 0);
  EXPECT_TRUE(open.worst.empty());
}

TEST(Audit, FindsThePoleAndSaysHowMuchItTakes) {
  io::Level level = terrace();
  level.objects.push_back(box("pole", {0.4, 0, 2}, {0.4, 3, 0.4}));
  AuditOptions options;
  options.step = 0.5;
  std::size_t called = 0;
  options.forEach = [&](std::size_t count, const std::function<void(std::size_t)>& work) {
    for (std::size_t i = count; i-- > 0; ++called) work(i);
  };
  CameraDesign plain;
  plain.framings[0].framing.shoulder = 0;
  const Stage stage(level);
  const Audit found = audit(CompiledDesign(plain), stage, options);
  EXPECT_EQ(called, found.places.size());
  ASSERT_FALSE(found.worst.empty());
  EXPECT_EQ(found.worst[0].obstacle, "pole");
  EXPECT_GT(found.worst[0].lost(), 2);
  EXPECT_LT(found.kept, 1);
  double nearPole = 1, farOff = 0;
  for (std::size_t i = 0; i < found.places.size(); ++i) {
    const double away = (found.reach.feet[i] - Vector3d(0.4, 0, 2)).norm();
    if (away < 1) nearPole = std::min(nearPole, found.places[i].kept);
    if (away > 4.5) farOff = std::max(farOff, 1 - found.places[i].kept);
  }
  EXPECT_LT(nearPole, 0.9);
  EXPECT_EQ(farOff, 0) << "farther away than the camera is from its subject";
  const std::string png = auditPicture(stage, found, "a pole", 800, 600);
  EXPECT_EQ(png.substr(1, 3), "PNG");
}

/// Framings that ask for a hand, a crouch and a flag; eyes that take over.
TEST(Audit, ReplaysShowWhatItSays) {
  const std::string demo = ALPGLOW_DEMO "/";
  io::Level level = terrace();
  level.objects.push_back(box("pole", {0.4, 0, 2}, {0.4, 3, 0.4}));
  level.objects.push_back(box("hut", {-3, 0, -2}, {1.5, 2.5, 3}));
  const Stage stage(level);
  CameraDesign several;
  for (const char* when : {"aiming", "crouched", "resting", "sprinting"}) {
    NamedFraming framing = several.framings[0];
    framing.name = framing.when = when;
    framing.framing.distance = 2.5;
    several.framings.push_back(framing);
  }
  std::size_t replayed = 0;
  for (const CameraDesign& each :
       {several, io::readDesign(demo + "warden.camera.toml"), io::readDesign(demo + "trail.camera.toml")}) {
    const CompiledDesign design(each);
    AuditOptions options;
    options.step = 1;
    const Audit found = audit(design, stage, options);
    for (const WorstStep& worst : found.worst) {
      EXPECT_NE(worst.framing, "sprinting") << "nobody sprints at rest";
      const io::Take take = io::readTake(testing::temporaryFile("worst.take", replayOf(worst)));
      const io::Trace trace = rehearse(design, stage, take, {});
      EXPECT_NEAR(trace[175].distance, worst.before, 0.01) << replayOf(worst);
      EXPECT_NEAR(trace.back().distance, worst.after, 0.01) << replayOf(worst);
      EXPECT_TRUE(worst.after == 0 || trace.back().framing == worst.framing) << trace.back().framing;
      ++replayed;
    }
  }
  EXPECT_GE(replayed, 8u);
}

}  // namespace
}  // namespace alpglow::stage
