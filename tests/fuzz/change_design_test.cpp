// A running camera takes another design.

#include "fuzz/balls.hpp"
#include "fuzz/legal_view.hpp"
#include "fuzz/random_design.hpp"
#include "support/camera_run.hpp"
#include "support/seeds.hpp"

#include <gtest/gtest.h>

#include <memory>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wide;

/// A random one that comes to rest once nobody does anything.
CameraDesign calmDesign(testing::Random& random) {
  CameraDesign design = testing::randomDesign(random);
  design.unrest = UnrestSettings();
  design.idleDrift.rate = 0;
  design.swingBack.rate = design.swingBack.idle = 0;
  design.motion.breath.amplitude = 0;
  design.look.smoothing = 0;
  for (NamedFraming& named : design.framings) {
    named.framing.sway = named.framing.orbitHalfLife = 0;
    named.framing.follow.rest = RestZoneSettings();
    named.framing.transition = std::min(named.framing.transition, 1.0);
  }
  return design;
}

/// What sliders of a game say of the picture.
Preferences somePreferences(testing::Random& random) {
  Preferences player;
  player.fieldOfView = degrees(random.between(30, 110));
  player.comfort.bob = random.between(0, 1);
  player.comfort.lead = random.between(0, 1);
  player.comfort.push = random.between(0, 1);
  return player;
}

class ChangeDesign : public testing::Shards {};
ALPGLOW_SHARDS(ChangeDesign);

TEST_P(ChangeDesign, GoesThereWithoutACutOrAJumpAndArrives) {
  for (const unsigned seed : seedsOf(10000)) {
    testing::Random random(seed);
    const CameraDesign first = calmDesign(random);
    auto before = std::make_unique<CompiledDesign>(first);
    const CompiledDesign after =
        random.chance(0.3) ? CompiledDesign(first, somePreferences(random)) : CompiledDesign(calmDesign(random));
    const NoObstacles open;
    CharacterCamera camera(*before, wardenAt({0, 0, 0}));
    const Vector3d walks(random.between(-3, 3), 0, random.between(-3, 3));
    Vector3d feet(0, 0, 0);
    const bool zooms = random.chance(0.5);
    const auto step = [&](double dt, bool looks, bool walking) {
      const Displacement moved{random.between(-20, 20), random.between(-20, 20)};
      const IntentSample samples[] = {IntentSample::look(0, moved), IntentSample::zoom(0, random.whole(-1, 1))};
      const Span<const IntentSample> all(samples, zooms ? 2 : 1);
      if (walking) feet += dt * walks;
      const Subject warden = wardenAt(feet, 0, walking ? walks : Vector3d(0, 0, 0));
      return camera.step(dt, looks ? Intent{all} : Intent(), warden, open, wide);
    };
    for (int i = random.whole(0, 30); i >= 0; --i) step(random.between(0.001, 0.03), true, true);
    camera.setCondition(Condition::sprinting, random.chance(0.3));
    const View last = step(0.01, true, true);

    const double seconds = random.between(0.2, 1);
    camera.changeDesign(after, seconds);
    before.reset();
    const View start = step(1e-5, false, true);
    ASSERT_FALSE(start.cut) << seed;
    const double goes = 1e-5 * (last.velocity.norm() + start.velocity.norm());
    ASSERT_LT((start.position - last.position).norm(), goes + 1e-4 * (1 + last.distance + start.distance)) << seed;
    ASSERT_LT(std::abs(shortestTurn(last.yaw, start.yaw)) + std::abs(last.pitch - start.pitch), 0.06) << seed;
    ASSERT_NEAR(logTanHalfFov(start.fieldOfView), logTanHalfFov(last.fieldOfView), 1e-3) << seed;
    // Where it comes from and where it goes are no farther apart than that, and it goes on as fast as it went:
    const double gap = last.distance + start.freeDistance + testing::pivotReach(after, 1.7);
    View shown = start;
    for (double t = 0; t < seconds + 0.05; t += 1.0 / 60) {
      const View next = step(1.0 / 60, false, true);
      const double most = 0.25 * std::max(1.0, 0.25 / seconds) * gap + last.velocity.norm() / 60;
      ASSERT_LT((next.position - shown.position).norm(), most) << seed;
      ASSERT_FALSE(next.cut);
      ASSERT_EQ(testing::whatIsWrong(next, after), "") << seed;
      shown = next;
    }
    EXPECT_EQ(shown.designBlend, 1) << seed;
    for (int i = 0; i < 200; ++i) shown = step(1, false, false);
    CharacterCamera fresh(after, wardenAt(feet));
    fresh.choose(camera.perspective());
    fresh.setCondition(Condition::sprinting, (camera.conditions() & Condition::sprinting) != 0);
    for (int i = 0; i < 200; ++i) fresh.step(1, {}, wardenAt(feet), open, wide);
    fresh.setPose({camera.lookAngles().yaw, camera.lookAngles().pitch, {}});
    View due;
    for (int i = 0; i < 200; ++i) due = fresh.step(1, {}, wardenAt(feet), open, wide);
    ASSERT_EQ(shown.framing, due.framing) << seed;
    ASSERT_NEAR(shown.pitch, due.pitch, 1e-9) << seed;
    ASSERT_NEAR(shown.nearPlane, due.nearPlane, 1e-9) << seed;
    if (zooms) continue;  // the player had chosen another distance or lens
    ASSERT_NEAR(shown.fieldOfView, due.fieldOfView, 1e-9) << seed;
    ASSERT_LT((shown.position - due.position).norm(), 1e-9 * (1 + due.distance)) << seed;
  }
}

TEST_P(ChangeDesign, KeepsClearAndLegalWhateverHappens) {
  int changing = 0;
  for (const unsigned seed : seedsOf(400)) {
    testing::Random random(seed);
    std::vector<CompiledDesign> designs;
    for (int i = 0; i < 3; ++i) designs.emplace_back(testing::randomDesign(random));
    const testing::Balls balls(random, 25, 0);
    CharacterCamera camera(designs[0], wardenAt({0, 0, 0}));
    Vector3d feet(0, 0, 0);
    int of = 0;
    for (int frame = 0; frame < 200; ++frame) {
      const double dt = random.chance(0.05) ? 0 : random.between(0.001, 0.04);
      feet += dt * random.point(6);
      const IntentSample looked[] = {IntentSample::look(0, {random.between(-90, 90), random.between(-60, 60)})};
      if (random.chance(0.1)) {
        of = random.whole(0, 2);
        camera.changeDesign(designs[static_cast<std::size_t>(of)], random.chance(0.2) ? 0 : random.between(0, 0.8));
        CharacterCamera other(designs[static_cast<std::size_t>(of)], wardenAt({1, 2, 3}));
        ASSERT_TRUE(other.restore(camera.save())) << seed << ' ' << frame;
        if (random.chance(0.5)) camera = other;
      }
      if (random.chance(0.05)) camera.setCondition(Condition::aiming, random.chance(0.5));
      if (random.chance(0.03)) camera.choose(random.chance(0.5) ? Perspective::first : Perspective::third);
      const View view = camera.step(dt, Intent{looked}, wardenAt(feet), balls, wide);
      ASSERT_EQ(testing::whatIsWrong(view, camera.design()), "") << seed << ' ' << frame;
      if (view.designBlend == 1) continue;
      const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
      if (balls.clearance(view.head, 10) < radius + 0.01) continue;
      ASSERT_GE(balls.clearance(view.position, 10), radius - 1e-6) << seed << ' ' << frame;
      ++changing;
      if (balls.sweepLarge(view.head, {0, 1e-6, 0}, radius + 0.01).hit()) continue;
      ASSERT_FALSE(balls.sweepLarge(view.position, {0, 1e-6, 0}, radius - 1e-6).hit()) << seed << ' ' << frame;
    }
  }
  EXPECT_GT(changing, 1000);
}

TEST(ChangeDesigns, NothingHappensForTheSameNumbersAndZeroCuts) {
  const NoObstacles open;
  auto one = std::make_unique<CompiledDesign>(CameraDesign());
  const CompiledDesign same{CameraDesign()};
  CharacterCamera camera(*one, wardenAt({0, 0, 0}));
  const View before = camera.step(0.016, {}, wardenAt({0, 0, 0}), open, wide);
  camera.changeDesign(same);
  one.reset();
  EXPECT_EQ(camera.step(0.016, {}, wardenAt({0, 0, 0}), open, wide).designBlend, 1);
  CameraDesign wider;
  wider.framings[0].framing.lens.fieldOfView = degrees(80);
  wider.framings[0].framing.distance = 4;
  const CompiledDesign slider(wider);
  const CharacterCamera::Saved saved = camera.save();
  camera.changeDesign(slider, 0);
  EXPECT_FALSE(camera.restore(saved)) << "of the old one";
  const View cut = camera.step(0.016, {}, wardenAt({0, 0, 0}), open, wide);
  EXPECT_TRUE(cut.cut);
  EXPECT_NEAR(cut.fieldOfView, degrees(80), 1e-12);
  EXPECT_NEAR(cut.distance, 4, 1e-12) << "nobody had chosen another";
  EXPECT_NE(before.distance, 4);
}

/// Who has walked for long is led and trailed as the new design would have by now, so that the way there is the
/// transition's alone.
TEST(ChangeDesigns, LeadAndLagAreThoseOfTheNewDesignAtOnce) {
  const auto with = [](double lead, double halfLife, double lag) {
    CameraDesign design;
    design.lead = {lead, halfLife, 4};
    design.framings[0].framing.follow.halfLife = lag;
    design.framings[0].framing.follow.leash = 2;
    return CompiledDesign(design);
  };
  const CompiledDesign designs[] = {with(0, 0.4, 0.05), with(1, 0.02, 0.2), with(0.5, 0.5, 0), with(0, 0.1, 0.3)};
  const NoObstacles open;
  for (const CompiledDesign& before : designs) {
    for (const CompiledDesign& after : designs) {
      CharacterCamera changed(before, wardenAt({0, 0, 0})), always(after, wardenAt({0, 0, 0}));
      const Vector3d speed(1.5, 0, -2);
      double time = 0;
      const auto step = [&](CharacterCamera& camera) {
        return camera.step(0.02, {}, wardenAt(time * speed, 0, speed), open, wide);
      };
      for (int i = 0; i < 2000; ++i) {
        time += 0.02;
        const View shown = step(changed), due = step(always);
        if (i == 1000) changed.changeDesign(after, 0.1);
        if (i < 1007) continue;
        ASSERT_LT((shown.position - due.position).norm(), 1e-6);
        ASSERT_NEAR(shown.velocity.norm(), 2.5, 1e-6);
      }
    }
  }
}

}  // namespace
}  // namespace alpglow
