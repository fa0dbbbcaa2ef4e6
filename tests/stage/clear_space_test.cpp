// The guarantee: while the head is clear, the near-plane sphere is clear of everything and nothing cuts the line from
// head to camera, in every frame; checked by brute force.

#include "alpglow/camera/group_camera.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"
#include "support/seeds.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow::stage {
namespace {

constexpr double tolerance = 2e-6;  // contacts are exact to a micrometre

struct Checked {
  int frames = 0, pulledIn = 0, unsafe = 0, cut = 0, changing = 0;
  double worst = 0;
};

/// The near distance that a frame should have: of its framing, or on the way between two.
bool isWhole(const CompiledDesign& design, const io::TraceFrame& frame) {
  double least = 1e9;
  for (const NamedFraming& named : design.design().framings) {
    if (frame.framingBlend == 1 && named.name == frame.framingTo)
      return std::abs(frame.nearPlane - named.framing.nearPlane) < 1e-12;
    least = std::min(least, named.framing.nearPlane);
  }
  return frame.nearPlane > 0.95 * least;  // a change of mind may overshoot a little
}

void check(const CompiledDesign& design, const io::Trace& trace, const testing::LevelByForce& all, Checked& checked) {
  PitchLimits pitch{pi, -pi};
  for (const NamedFraming& named : design.design().framings)
    pitch = {std::min(pitch.low, named.framing.pitch.low), std::max(pitch.high, named.framing.pitch.high)};
  const CameraDesign& numbers = design.design();
  const double roll = numbers.unrest.roll + (numbers.pushes.empty() ? 0 : numbers.pushLimits.roll);
  for (const io::TraceFrame& frame : trace) {
    const double drawn = std::max(frame.time - 1.0 / 60, 0.0);
    double nearPlane = frame.nearPlane;
    for (const NamedFraming& named : design.design().framings) nearPlane = std::max(nearPlane, named.framing.nearPlane);
    const double room = nearPlaneRadius(nearPlane, degrees(frame.fieldOfView), frame.aspect);
    if (all.distance(frame.head, drawn) < room + 0.002 || all.inside(frame.head, drawn)) continue;
    ++checked.frames;
    if (!frame.obstacle.empty()) ++checked.pulledIn;
    if (frame.framingBlend < 1) ++checked.changing;
    ASSERT_TRUE(isWhole(design, frame)) << "the head has room, so near is whole: " << frame.nearPlane;
    const double whole = nearPlaneRadius(frame.nearPlane, degrees(frame.fieldOfView), frame.aspect);
    const double missing = whole - all.distance(frame.camera, drawn);
    if (missing > tolerance) ++checked.unsafe, checked.worst = std::max(checked.worst, missing);
    if (all.cut(frame.head, frame.camera, drawn)) ++checked.cut;
    ASSERT_LE(std::abs(frame.roll), toDegrees(roll));
    ASSERT_GE(frame.pitch, toDegrees(pitch.low) - 1e-9);
    ASSERT_LE(frame.pitch, toDegrees(pitch.high) + 1e-9);
  }
}

class DemoRehearsal : public ::testing::TestWithParam<std::tuple<std::string, std::string>> {};

TEST_P(DemoRehearsal, KeepsClearSpaceInEveryFrame) {
  const auto [designName, takeName] = GetParam();
  const std::string demo = ALPGLOW_DEMO "/";
  const CompiledDesign design(io::readDesign(demo + designName + ".camera.toml"));
  const bool hard = takeName.substr(0, 5) == "shed-";  // a level of its own
  const Stage stage(io::readLevel(demo + (hard ? "shed" : "refuge") + ".level.toml"));
  const io::Take take = io::readTake(demo + (hard ? takeName.substr(5) : takeName) + ".take");
  Checked checked;
  check(design, rehearse(design, stage, take, {}), testing::LevelByForce(stage.level()), checked);
  EXPECT_GE(checked.frames, 300);
  EXPECT_EQ(checked.unsafe, 0) << "worst " << checked.worst << " m";
  EXPECT_EQ(checked.cut, 0);
}

std::string nameOf(const ::testing::TestParamInfo<std::tuple<std::string, std::string>>& names) {
  std::string name = std::get<0>(names.param) + "_" + std::get<1>(names.param);
  for (const char c : {'-', '/'}) std::replace(name.begin(), name.end(), c, '_');
  return name;
}

INSTANTIATE_TEST_SUITE_P(AllDesignsAndTakes, DemoRehearsal,
                         ::testing::Combine(::testing::Values("trail", "eyes"),
                                            ::testing::Values("round", "corridor", "corner", "stairs", "cliff",
                                                              "crouch", "ledge", "pad")),
                         nameOf);
INSTANTIATE_TEST_SUITE_P(Warden, DemoRehearsal,
                         ::testing::Combine(::testing::Values("warden"),
                                            ::testing::Values("scope", "switch", "doorway", "mind", "corridor",
                                                              "corner")),
                         nameOf);
INSTANTIATE_TEST_SUITE_P(Assisted, DemoRehearsal,
                         ::testing::Combine(::testing::Values("close", "wide"),
                                            ::testing::Values("swing-back", "lock", "cabin")),
                         nameOf);

INSTANTIATE_TEST_SUITE_P(Hard, DemoRehearsal,
                         ::testing::Combine(::testing::Values("warden"),
                                            ::testing::Values("shed-posts", "shed-fence", "shed-hall", "shed-bend",
                                                              "shed-passage", "shed-steps", "shed-swing", "shed-cart")),
                         nameOf);

INSTANTIATE_TEST_SUITE_P(Briefs, DemoRehearsal,
                         ::testing::Values(std::make_tuple("briefs/calm", "briefs/calm"),
                                           std::make_tuple("briefs/arena", "briefs/arena"),
                                           std::make_tuple("briefs/story", "briefs/story"),
                                           std::make_tuple("briefs/platform", "briefs/platform")),
                         nameOf);

class RandomLevels : public testing::Shards {};
ALPGLOW_SHARDS(RandomLevels);

/// Asks with a smaller sphere than it should.
class Weak final : public Obstacles {
 public:
  explicit Weak(const Obstacles& world) : world_(world) {}
  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    return world_.sweep(from, displacement, radius * 0.9);
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return world_.cast(from, displacement, purpose);
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    return world_.clearance(point, range);
  }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return world_.sweepLarge(from, displacement, radius);
  }
  bool anyLarge() const noexcept override { return world_.anyLarge(); }

 private:
  const Obstacles& world_;
};

/// Takes full of flicks and dashes through levels full of walls and poles.
Checked playedInRandomLevels(const CompiledDesign& design, const std::vector<unsigned>& seeds, bool framings,
                             bool moving = false, bool weak = false) {
  Checked checked;
  for (const unsigned seed : seeds) {
    io::Level level = moving ? testing::movingLevel(seed, seed % 3 != 0) : testing::randomLevel(seed);
    level.body.runSpeed = 15;
    const Stage stage(std::move(level), seed % 2 == 0 ? WorldKind::bullet : WorldKind::triangles);
    const Weak weakened(stage.obstacles());
    testing::Random random(seed);
    RehearsalOptions options;
    if (weak) options.obstacles = &weakened;
    for (int i = 0; i < 97; ++i)
      options.frameTimes.push_back(random.chance(0.03) ? 0.25 : random.between(0.002, 0.025));
    check(design, rehearse(design, stage, testing::randomTake(seed, 10, framings), options),
          testing::LevelByForce(stage.level()), checked);
  }
  return checked;
}

Checked checkedInRandomLevels(const CompiledDesign& design, const std::vector<unsigned>& seeds, bool framings,
                              bool moving = false) {
  const Checked checked = playedInRandomLevels(design, seeds, framings, moving);
  std::printf("checked %d frames, pulled in %d, framings changing %d\n", checked.frames, checked.pulledIn,
              checked.changing);
  EXPECT_GT(checked.pulledIn, checked.frames / 15) << "the levels must be in the way";
  EXPECT_EQ(checked.unsafe, 0) << "worst " << checked.worst << " m";
  EXPECT_EQ(checked.cut, 0);
  return checked;
}

TEST_P(RandomLevels, KeepClearSpaceInEveryFrame) {
  CameraDesign plain;
  plain.framings[0].framing.shoulder = 0.4;
  plain.framings[0].framing.follow.halfLife = 0.15;
  plain.framings[0].framing.pitch = {degrees(-90), degrees(90)};
  plain.motion.bob = {0.06, 0.05};  // whatever moves the eye comes before clear space
  plain.motion.dip.depthPerSpeed = 0.05;
  const std::vector<unsigned> seeds = seedsOf(200);  // 100,000 frames and more
  EXPECT_GE(checkedInRandomLevels(CompiledDesign(plain), seeds, false).frames, 400 * static_cast<int>(seeds.size()));
}

TEST_P(RandomLevels, KeepClearSpaceWithAllTransitionsRunning) {
  CameraDesign plan = testing::wardenDesign();
  plan.motion.bob = {0.06, 0.05};
  for (NamedFraming& named : plan.framings) named.framing.pitch = {degrees(-90), degrees(90)};
  plan.framings[1].framing.pitch = {degrees(-30), degrees(20)};
  plan.framings[1].framing.tilt = degrees(5);
  for (NamedFraming& named : plan.framings) {
    RestZoneSettings& rest = named.framing.follow.rest;
    rest.above = rest.below = 0.5;
    rest.radius = 0.4;
    rest.after = 0.7;
  }
  PushSettings blast;
  blast.pitch = blast.yaw = blast.roll = degrees(4);
  blast.right = blast.up = blast.back = 0.3;
  blast.lens = 1.2;
  plan.pushes = {{"blast", blast}};
  plan.pushLimits.place = 0.8;
  plan.freeShoulder = {0.2, 0.3, 0.4, true};
  plan.idleDrift = {degrees(-25), 0.3, 0.2};
  plan.unrest = {degrees(1), degrees(1), degrees(1), 0.1, 0.1, 0.1};
  plan.framings[0].curves = {
      {Curved::distance, CurveOver::pitch, "", Curve({{-1.2, 5.0}, {0, 3.0}, {0.8, 1.5}})},
      {Curved::shoulder, CurveOver::speed, "", Curve({{0, 0.3}, {5, 0.8}})},
      {Curved::fieldOfView, CurveOver::climb, "", Curve({{-2, degrees(80)}, {0, degrees(60)}})},
  };
  const std::vector<unsigned> seeds = seedsOf(120);
  const Checked checked = checkedInRandomLevels(CompiledDesign(plan), seeds, true);
  EXPECT_GT(checked.frames, 400 * static_cast<int>(seeds.size()));
  EXPECT_GT(checked.changing, 150 * static_cast<int>(seeds.size()));
}

/// Several who walk about on their own, through walls if need be; only the first one has to have room.
TEST_P(RandomLevels, KeepAGroupsNearPlaneClear) {
  int frames = 0, unsafe = 0, cut = 0;
  for (const unsigned seed : seedsOf(60)) {
    const Stage stage(testing::randomLevel(seed));
    const testing::LevelByForce all(stage.level());
    const Neighbourhood near(stage.obstacles());
    testing::Random random(seed);
    GroupCamera camera{GroupSettings(), {random.between(-3, 3), random.between(-0.9, 0)}};
    GroupMember members[4];
    double phases[4];
    for (double& phase : phases) phase = random.between(0, 6);
    for (int i = 0; i < 300; ++i) {
      for (std::uint32_t k = 0; k < 4; ++k) {
        const double a = 0.02 * i + phases[k];
        members[k].id = k;
        members[k].centre = {4 * std::cos(a), 1.6, 4 * std::sin(1.3 * a)};
      }
      const std::size_t count = i % 90 < 45 ? 4 : 2;
      const View view = camera.update(1.0 / 60, {members, count}, near, 16.0 / 9);
      const double room = nearPlaneRadius(0.1, view.fieldOfView, view.aspect);
      if (all.distance(members[0].centre) < room + 0.05 || all.inside(members[0].centre, 0)) continue;
      ++frames;
      unsafe +=
          nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect) - all.distance(view.position) > tolerance;
      cut += all.cut(members[0].centre, view.position);
    }
  }
  EXPECT_GT(frames, 3000);
  EXPECT_EQ(unsafe, 0);
  EXPECT_EQ(cut, 0);
}

TEST_P(RandomLevels, KeepClearSpaceAmongDoorsLiftsAndCrushers) {
  const std::vector<unsigned> seeds = seedsOf(120);
  const CompiledDesign design(testing::wardenDesign());
  EXPECT_GE(checkedInRandomLevels(design, seeds, true, true).frames, 300 * static_cast<int>(seeds.size()));
  const Checked weak = playedInRandomLevels(design, {seeds[0], seeds[1], seeds[2]}, true, true, true);
  EXPECT_GT(weak.unsafe, 20) << "a smaller sphere must show";
}

/// Walls and poles in between for one look and not for the next: where no look holds the point, the view says so.
TEST_P(RandomLevels, KeepTheCrosshairOnItsPointOrSaySo) {
  const CompiledDesign design(testing::wardenDesign());
  int kept = 0, changing = 0;
  double farthest = 0;
  for (const unsigned seed : seedsOf(80)) {
    const Stage stage(testing::randomLevel(seed));
    const io::Take take = testing::randomTake(seed, 10, true);
    Rehearsal rehearsal(design, stage, take, {});
    for (int frame = 1; frame <= 600; ++frame) {
      rehearsal.frameUntil(frame / 60.0);
      const View& view = rehearsal.view();
      if (view.framingBlend == 1) continue;
      ++changing;
      if (!view.aimKept) continue;
      ++kept;
      farthest = std::max(farthest, view.aimError);
      ASSERT_LE(view.aimError, degrees(0.1)) << "level " << seed << " at " << rehearsal.now() << " s";
    }
  }
  std::printf("kept in %d of %d frames of changes, by %g degrees\n", kept, changing, toDegrees(farthest));
  EXPECT_GT(kept, changing / 3);
}

}  // namespace
}  // namespace alpglow::stage
