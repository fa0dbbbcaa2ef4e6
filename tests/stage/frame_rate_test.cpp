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

/// Every demo design with a take, the camera unobstructed: at these rates and at uneven times, compared with a thousand
/// frames a second that also end at their times.
class DemoPaths : public ::testing::TestWithParam<std::tuple<const char*, const char*>> {};

TEST_P(DemoPaths, AreTheSameAtEveryFrameRate) {
  const auto [name, played] = GetParam();
  const CompiledDesign design(io::readDesign(ALPGLOW_DEMO "/" + std::string(name) + ".camera.toml"));
  const Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  const io::Take take = io::readTake(ALPGLOW_DEMO "/" + std::string(played) + ".take");
  RehearsalOptions fine;
  fine.cameraUnobstructed = true;
  // Where another distance begins to hold subject and target, lock on eases there from the end of that piece of time.
  const bool jumps = std::string(name) == "wide" && std::string(played) == "lock";
  for (const double fps : {24.0, 30.0, 60.0, 144.0, 240.0, 0.0}) {
    RehearsalOptions options = fine;
    options.framesPerSecond = fps;
    if (fps == 0) options.frameTimes = testing::Random(1).cut(1.3, 71);
    const io::Trace trace = rehearse(design, stage, take, options);
    Rehearsal reference(design, stage, take, fine);
    double farthest = 0, widest = 0;
    for (const io::TraceFrame& frame : trace) {
      while (reference.now() + 0.001 < frame.time - 1e-9) reference.frameUntil(reference.now() + 0.001);
      const io::TraceFrame other = reference.frameUntil(frame.time);
      farthest = std::max(farthest, (frame.camera - other.camera).norm());
      widest = std::max({widest, std::abs(shortestTurn(degrees(frame.yaw), degrees(other.yaw))) / degrees(1),
                         std::abs(frame.pitch - other.pitch)});
    }
    EXPECT_LE(farthest, jumps ? 0.1 : 1e-3) << fps;
    EXPECT_LE(widest, 1e-2) << fps;
  }
}

INSTANTIATE_TEST_SUITE_P(Shard, DemoPaths,
                         ::testing::Combine(::testing::Values("warden", "trail", "close", "wide", "eyes"),
                                            ::testing::Values("round", "corner", "corridor", "stairs", "cliff", "ledge",
                                                              "crouch", "swing-back", "lock", "cabin", "cameras",
                                                              "scope", "switch", "mind", "doorway")));

}  // namespace
}  // namespace alpglow::stage
