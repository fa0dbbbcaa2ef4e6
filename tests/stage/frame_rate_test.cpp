#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"
#include "support/same_path.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <vector>

namespace alpglow::stage {
namespace {

io::Level openMeadow() {
  io::Level level;
  level.objects.push_back({"meadow", "meadow", {}, io::boxMesh({0, -1, 0}, {400, 1, 400}, 0), true});
  return level;
}

TEST(FrameRate, TheSameRehearsalGivesTheSameTraceToTheBit) {
  const CompiledDesign design{CameraDesign()};
  const Stage stage(testing::randomLevel(3));
  const io::Take take = testing::randomTake(3, 3);
  EXPECT_EQ(io::writeTrace(rehearse(design, stage, take, {})), io::writeTrace(rehearse(design, stage, take, {})));
}

TEST(FrameRate, TheHeadingOfAFrameIsKnownBeforeTheCharacterMoves) {
  // A quarter turn to the right at 0.2 s and forward from then on: the walk goes along +x and nowhere else.
  const CompiledDesign design{CameraDesign()};
  const Stage stage(openMeadow());
  io::Take take;
  take.length = 3;
  take.events = {{0.2, findControl("MouseMove"), 1800, 0}, {0.2, findControl("KeyW"), 1, 0}};
  const io::TraceFrame last = rehearse(design, stage, take, {}).back();
  EXPECT_GT(last.subject.x(), 3);
  EXPECT_NEAR(last.subject.z(), 0, 1e-5) << "a heading to a millionth of a radian";
}

TEST(FrameRate, WhoLooksBackWhileWalkingWalksAStraightLine) {
  const CompiledDesign design(io::readDesign(ALPGLOW_DEMO "/eyes.camera.toml"));
  const Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  const io::Trace trace = rehearse(design, stage, io::readTake(ALPGLOW_DEMO "/cliff.take"), {});
  double x = 0, heading = 0, farthest = 0;
  for (const io::TraceFrame& frame : trace) {
    if (frame.time < 6.5) x = frame.subject.x(), heading = frame.heading;
    if (frame.time < 6.5 || frame.time > 12) continue;
    farthest = std::max(farthest, std::abs(frame.glanceYaw));
    ASSERT_NEAR(frame.subject.x(), x, 1e-5);
    ASSERT_EQ(frame.heading, heading);
  }
  EXPECT_GT(farthest, 90) << "over the shoulder";
}

TEST(FrameRate, FirstAndThirdPersonSeeTheSameWalk) {
  const CompiledDesign third{CameraDesign()};
  CameraDesign eyes;
  eyes.framings[0].framing.distance = eyes.framings[0].framing.distanceRange.nearest =
      eyes.framings[0].framing.distanceRange.farthest = 0;
  eyes.framings[0].framing.shoulder = eyes.framings[0].framing.anchorRise = 0;
  eyes.framings[0].framing.follow.halfLife = eyes.framings[0].framing.follow.verticalHalfLife = 0;
  eyes.framings[0].framing.eyeHalfLife = 0;
  const Stage stage(testing::randomLevel(8));
  const io::Take take = testing::randomTake(8, 4);
  const io::Trace a = rehearse(third, stage, take, {}), b = rehearse(CompiledDesign(eyes), stage, take, {});
  EXPECT_EQ(a.back().subject, b.back().subject);
  for (const io::TraceFrame& frame : b) {
    ASSERT_LT((frame.camera - frame.head).norm(), 1e-12);
    ASSERT_EQ(frame.opacity, 0);
  }
}

/// Each of two rates sees the wall at instants of its own; once both have eased out, that is forgotten.
TEST(FrameRate, AmongObstaclesThePathIsTheSameWhereNothingPullsIn) {
  const Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  int free = 0, pulled = 0;
  for (const char* const name : {"trail", "close", "wide"}) {
    const CompiledDesign design(io::readDesign(ALPGLOW_DEMO "/" + std::string(name) + ".camera.toml"));
    for (const char* const played : {"round", "corner", "cliff", "cabin"}) {
      const io::Take take = io::readTake(ALPGLOW_DEMO "/" + std::string(played) + ".take");
      Rehearsal coarse(design, stage, take, {}), fine(design, stage, take, {});
      for (int frame = 1; frame / 30.0 <= take.length; ++frame) {
        const double end = frame / 30.0;
        coarse.frameUntil(end);
        while (fine.now() + 0.002 < end) fine.frameUntil(fine.now() + 0.002);
        fine.frameUntil(end);
        const View &a = coarse.view(), &b = fine.view();
        if (a.pulledIn || b.pulledIn) {
          ++pulled;
          continue;
        }
        ++free;
        ASSERT_LE((a.position - b.position).norm(), 3e-3) << name << " " << played << " at " << end << " s";
        ASSERT_NEAR(shortestTurn(a.yaw, b.yaw), 0, degrees(0.01)) << name << " " << played << " at " << end << " s";
      }
    }
  }
  EXPECT_GT(pulled, 500);
  EXPECT_GT(free, 1000);
}

/// At both rates the camera looks ahead at the same moments and sees the same. It acts on that at different times: at
/// sixty for the sixtieth of a second that ends with the look, at two hundred and forty for the one that begins with
/// it.
TEST(FrameRate, AmongObstaclesThePathAtSixtyIsThatAtTwoHundredAndForty) {
  const Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  std::vector<double> apart;
  int pulled = 0;
  for (const char* const name : {"trail", "warden", "close"}) {
    const CompiledDesign design(io::readDesign(ALPGLOW_DEMO "/" + std::string(name) + ".camera.toml"));
    for (const char* const played : {"round", "corner", "corridor", "cliff", "stairs"}) {
      const io::Take take = io::readTake(ALPGLOW_DEMO "/" + std::string(played) + ".take");
      Rehearsal coarse(design, stage, take, {}), fine(design, stage, take, {});
      for (int frame = 1; frame / 60.0 <= take.length; ++frame) {
        coarse.frameUntil(frame / 60.0);
        for (int part = 3; part >= 0; --part) fine.frameUntil(frame / 60.0 - part / 240.0);
        apart.push_back((coarse.view().position - fine.view().position).norm());
        pulled += coarse.view().pulledIn ? 1 : 0;
      }
    }
  }
  EXPECT_GT(pulled, 5000);
  const auto nearly = apart.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(apart.size()));
  std::nth_element(apart.begin(), nearly, apart.end());
  EXPECT_LE(*nearly, 0.1) << "95 % of the frames";
}

/// Every demo design with a take, the camera unobstructed: at these rates and at uneven times, compared with a thousand
/// frames a second that also end at their times.
class DemoPaths : public ::testing::TestWithParam<std::tuple<const char*, const char*>> {};

TEST_P(DemoPaths, AreTheSameAtEveryFrameRate) {
  const auto [name, played] = GetParam();
  const CompiledDesign design(io::readDesign(ALPGLOW_DEMO "/" + std::string(name) + ".camera.toml"));
  const Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  const io::Take take = io::readTake(ALPGLOW_DEMO "/" + std::string(played) + ".take");
  RehearsalOptions fine;
  const NoObstacles unobstructed;
  fine.obstacles = &unobstructed;
  testing::expectTheSamePath(design, stage, take, fine);
}

INSTANTIATE_TEST_SUITE_P(Shard, DemoPaths,
                         ::testing::Combine(::testing::Values("warden", "trail", "close", "wide", "eyes"),
                                            ::testing::Values("round", "corner", "corridor", "stairs", "cliff", "ledge",
                                                              "crouch", "swing-back", "lock", "cabin", "cameras",
                                                              "scope", "switch", "mind", "doorway", "pad", "strafe")));

}  // namespace
}  // namespace alpglow::stage
