#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"

#include <gtest/gtest.h>

namespace alpglow::stage {
namespace {

io::Level openMeadow() {
  io::Level level;
  level.objects.push_back({"meadow", "meadow", {}, io::boxMesh({0, -1, 0}, {400, 1, 400}, 0), true});
  return level;
}

TEST(FrameRate, ATakeEndsAtTheSamePlaceWhereNothingObstructs) {
  CameraDesign plain;
  plain.framings[0].framing.pitch = {degrees(-60), degrees(5)};  // never into the ground, often against a limit
  plain.framings[0].framing.follow.leash = 0.4;
  const CompiledDesign design(plain);
  const Stage stage(openMeadow());
  for (unsigned seed = 0; seed < 5; ++seed) {
    io::Take take = testing::randomTake(seed, 6);
    take.events.insert(take.events.begin(), {0.05, findControl("PadAxis2"), 0.3, 0});
    const io::Trace reference = rehearse(design, stage, take, {});
    EXPECT_GT(summarise(reference).subjectPath, 2);
    EXPECT_EQ(summarise(reference).framesPulledIn, 0u);
    std::vector<RehearsalOptions> rates(7);
    const double fps[] = {24, 30, 60, 144, 240, 1000};
    for (std::size_t i = 0; i < 6; ++i) rates[i].framesPerSecond = fps[i];
    testing::Random random(seed);
    rates[6].frameTimes = random.cut(1.3, 71);
    for (const RehearsalOptions& rate : rates) {
      const io::TraceFrame last = rehearse(design, stage, take, rate).back();
      EXPECT_NEAR(last.time, 6, 1e-12);
      EXPECT_LT((last.camera - reference.back().camera).norm(), 1e-9) << rate.framesPerSecond;
      EXPECT_LT((last.subject - reference.back().subject).norm(), 1e-9);
      EXPECT_NEAR(shortestTurn(degrees(last.yaw), degrees(reference.back().yaw)), 0, 1e-9);
      EXPECT_NEAR(last.pitch, reference.back().pitch, 1e-9);
    }
  }
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
  EXPECT_NEAR(last.subject.z(), 0, 1e-9);
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
    ASSERT_NEAR(frame.subject.x(), x, 1e-9);
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

}  // namespace
}  // namespace alpglow::stage
