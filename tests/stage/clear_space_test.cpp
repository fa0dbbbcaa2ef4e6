// The guarantee: while the head is clear, the near-plane sphere is clear of everything and nothing cuts the line from
// head to camera, in every frame; checked by brute force.

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/lens.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"

#include <gtest/gtest.h>

namespace alpglow::stage {
namespace {

constexpr double tolerance = 2e-6;  // contacts are exact to a micrometre

struct Checked {
  int frames = 0, pulledIn = 0, unsafe = 0, cut = 0;
  double worst = 0;
};

void check(const CompiledDesign& design, const io::Trace& trace, const testing::LevelByForce& all, Checked& checked) {
  const Framing& framing = design.design().framings[0].framing;
  for (const io::TraceFrame& frame : trace) {
    const double drawn = std::max(frame.time - 1 / Walker::ticksPerSecond, 0.0);
    const double whole = nearPlaneRadius(framing.near, degrees(frame.fieldOfView), frame.aspect);
    if (all.distance(frame.head, drawn) < whole + 0.002) continue;
    ++checked.frames;
    if (!frame.obstacle.empty()) ++checked.pulledIn;
    ASSERT_EQ(frame.near, framing.near) << "the head has room, so near is whole";
    const double missing = whole - all.distance(frame.camera, drawn);
    if (missing > tolerance) ++checked.unsafe, checked.worst = std::max(checked.worst, missing);
    if (all.cut(frame.head, frame.camera, drawn)) ++checked.cut;
    ASSERT_EQ(frame.roll, 0);
    ASSERT_GE(frame.pitch, toDegrees(framing.pitch.low) - 1e-9);
    ASSERT_LE(frame.pitch, toDegrees(framing.pitch.high) + 1e-9);
  }
}

class DemoRehearsal : public ::testing::TestWithParam<std::tuple<std::string, std::string>> {};

TEST_P(DemoRehearsal, KeepsClearSpaceInEveryFrame) {
  const auto [designName, takeName] = GetParam();
  const std::string demo = ALPGLOW_DEMO "/";
  const CompiledDesign design(io::readDesign(demo + designName + ".camera.toml"));
  const Stage stage(io::readLevel(demo + "refuge.level.toml"));
  const io::Take take = io::readTake(demo + takeName + ".take");
  Checked checked;
  check(design, rehearse(design, stage, take, {}), testing::LevelByForce(stage.level()), checked);
  EXPECT_GT(checked.frames, 400);
  EXPECT_EQ(checked.unsafe, 0) << "worst " << checked.worst << " m";
  EXPECT_EQ(checked.cut, 0);
}

TEST(DemoRehearsalWithAPad, KeepsClearSpaceInEveryFrame) {
  const std::string demo = ALPGLOW_DEMO "/";
  RehearsalOptions options;
  options.controls = io::readControls(demo + "pad.controls.toml");
  options.preferences = io::readPreferences(demo + "player.preferences.toml");
  const CompiledDesign design(io::readDesign(demo + "trail.camera.toml"), options.preferences);
  const Stage stage(io::readLevel(demo + "refuge.level.toml"));
  Checked checked;
  check(design, rehearse(design, stage, io::readTake(demo + "pad.take"), options), testing::LevelByForce(stage.level()),
        checked);
  EXPECT_GT(checked.frames, 400);
  EXPECT_EQ(checked.unsafe, 0) << "worst " << checked.worst << " m";
  EXPECT_EQ(checked.cut, 0);
}

INSTANTIATE_TEST_SUITE_P(AllDesignsAndTakes, DemoRehearsal,
                         ::testing::Combine(::testing::Values("trail", "eyes"),
                                            ::testing::Values("round", "corridor", "corner", "stairs", "cliff",
                                                              "crouch", "ledge")),
                         [](const auto& names) { return std::get<0>(names.param) + "_" + std::get<1>(names.param); });
INSTANTIATE_TEST_SUITE_P(Assisted, DemoRehearsal,
                         ::testing::Combine(::testing::Values("close", "wide"),
                                            ::testing::Values("recentre", "lock", "cabin")),
                         [](const auto& names) { return std::get<0>(names.param) + "_" + std::get<1>(names.param); });

TEST(RandomLevels, KeepClearSpaceInEveryFrame) {
  CameraDesign plain;
  plain.framings[0].framing.shoulder = 0.4;
  plain.framings[0].framing.follow.halfLife = 0.15;
  plain.framings[0].framing.pitch = {degrees(-90), degrees(90)};
  plain.motion.bob = {0.06, 0.05};  // whatever moves the eye comes before clear space
  plain.motion.dip.depthPerSpeed = 0.05;
  const CompiledDesign design(plain);
  Checked checked;
  for (unsigned seed = 0; seed < 200; ++seed) {
    io::Level level = testing::randomLevel(seed);
    level.body.runSpeed = 15;
    const Stage stage(std::move(level));
    testing::Random random(seed);
    RehearsalOptions options;
    for (int i = 0; i < 97; ++i)
      options.frameTimes.push_back(random.chance(0.03) ? 0.25 : random.between(0.002, 0.025));
    check(design, rehearse(design, stage, testing::randomTake(seed, 10), options), testing::LevelByForce(stage.level()),
          checked);
  }
  RecordProperty("frames", checked.frames);
  std::printf("checked %d frames, pulled in %d\n", checked.frames, checked.pulledIn);
  EXPECT_GE(checked.frames, 100000);
  EXPECT_GT(checked.pulledIn, checked.frames / 10) << "the levels must be in the way";
  EXPECT_EQ(checked.unsafe, 0) << "worst " << checked.worst << " m";
  EXPECT_EQ(checked.cut, 0);
}

}  // namespace
}  // namespace alpglow::stage
