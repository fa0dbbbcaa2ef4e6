// The kept aim near walls: with no hand on the mouse the look never jumps, and what says that it is kept is.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/seeds.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wide;

double turned(const View& a, const View& b) {
  const Vector3d from = a.forward(), to = b.forward();
  return std::atan2(from.cross(to).norm(), from.dot(to));
}

double off(const View& view, const Vector3d& point) {
  const Vector3d there = point - view.position;
  return std::atan2(view.forward().cross(there).norm(), view.forward().dot(there));
}

class KeptAimAtWalls : public testing::Shards {};
ALPGLOW_SHARDS(KeptAimAtWalls);
ALPGLOW_FEW_SEEDS(KeptAimAtWalls);

/// From 8° on one side to 8° on the other in 0.25 s is 2° a frame. A wall ahead at 0.2 to 2 m, perhaps others beside
/// and above; all pitches; every framing, shoulder and lens.
TEST_P(KeptAimAtWalls, TurnsWithoutAJumpAndSaysSoWhenItIsOff) {
  int kept = 0;
  for (const unsigned seed : seedsOf(200)) {
    testing::Random random(seed);
    const CompiledDesign design(testing::wardenDesign());
    testing::Walls world;
    world.walls = {{{0, 1, 0}, 0}, {{0, 0, 1}, -random.between(0.2, 2)}};
    if (random.chance(0.5)) world.walls.push_back({{1, 0, 0}, -random.between(0.2, 2)});
    if (random.chance(0.5)) world.walls.push_back({{-1, 0, 0}, -random.between(0.2, 2)});
    if (random.chance(0.3)) world.walls.push_back({{0, -1, 0}, -random.between(1.9, 3)});
    const double rate = random.chance(0.5) ? 60 : 144, dt = 1 / rate;
    const Vector3d feet(0, 0, 0);
    CharacterCamera camera(design, wardenAt(feet));
    camera.setPose({random.between(-1.2, 1.2), random.between(-1.2, 1.2), {}});
    Intent intent;
    View last;
    for (int i = 0; i < 30; ++i) last = camera.step(dt, intent, wardenAt(feet), world, wide);
    double rateBefore = 0;
    for (int i = 0; i < 400; ++i) {
      const bool changes = random.chance(0.02);
      const IntentSample samples[] = {random.chance(0.5) ? IntentSample::swapShoulder(0)
                                                         : IntentSample::switchPerspective(0)};
      intent.samples = changes && random.chance(0.5) ? Span<const IntentSample>(samples) : Span<const IntentSample>();
      if (changes && intent.samples.size() == 0) intent.aim = random.chance(0.5);
      if (random.chance(0.005)) camera.setCondition(Condition::crouched, random.chance(0.5));
      const View view = camera.step(dt, intent, wardenAt(feet), world, wide);
      const double now = turned(last, view);
      ASSERT_LE(now, degrees(2.5) * 60 / rate) << "seed " << seed << ", frame " << i;
      ASSERT_LE(std::abs(now - rateBefore), degrees(0.8)) << "seed " << seed << ", frame " << i;
      if (view.aimKept) {
        ++kept;
        ASSERT_LE(view.aimError, degrees(0.1)) << seed;
      }
      rateBefore = now;
      last = view;
    }
  }
  EXPECT_GT(kept, 100) << "or nothing is shown";
}

/// What cannot be kept to the end is not turned for at all.
TEST(KeptAim, TurnsNothingWhereItsCapOrTheWallWouldGiveItUp) {
  const CompiledDesign design(testing::wardenDesign());
  for (const double ahead : {0.35, 0.45, 0.6}) {
    testing::Walls world;
    world.walls = {{{0, 0, 1}, -ahead}};
    CharacterCamera camera(design, wardenAt({0, 0, 0}));
    View view;
    for (int i = 0; i < 30; ++i) view = camera.step(1 / 60.0, {}, wardenAt({0, 0, 0}), world, wide);
    const View before = view;
    const IntentSample swap[] = {IntentSample::swapShoulder(0)};
    for (int i = 0; i < 90; ++i) {
      view = camera.step(1 / 60.0, i == 0 ? Intent{swap} : Intent(), wardenAt({0, 0, 0}), world, wide);
      ASSERT_LT(turned(before, view), 1e-9) << ahead << ", frame " << i;
      if (i > 3) {
        EXPECT_FALSE(view.aimKept && off(view, before.aimPoint) > degrees(0.1));
      }
    }
  }
}

/// Through a long lens a turn that is small in degrees crosses the picture.
TEST(KeptAim, ItsCapGoesWithTheLens) {
  const CompiledDesign design(testing::wardenDesign());
  testing::Walls world;
  world.walls = {{{0, 0, 1}, -12}};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  Intent aims;
  aims.aim = true;
  View view;
  for (int i = 0; i < 60; ++i) view = camera.step(1 / 60.0, aims, wardenAt({0, 0, 0}), world, wide);
  EXPECT_TRUE(off(view, view.aimPoint) < 1e-9);
  const IntentSample closer[] = {IntentSample::zoom(0, 2)}, swap[] = {IntentSample::swapShoulder(0)};
  for (int i = 0; i < 60; ++i) {
    aims.samples = i % 20 == 0 ? Span<const IntentSample>(closer) : Span<const IntentSample>();
    view = camera.step(1 / 60.0, aims, wardenAt({0, 0, 0}), world, wide);
  }
  ASSERT_LT(view.fieldOfView, degrees(10));
  const View before = view;
  double most = 0;
  for (int i = 0; i < 60; ++i) {
    aims.samples = i == 0 ? Span<const IntentSample>(swap) : Span<const IntentSample>();
    view = camera.step(1 / 60.0, aims, wardenAt({0, 0, 0}), world, wide);
    most = std::max(most, turned(before, view));
  }
  EXPECT_LT(most, degrees(10) * std::tan(view.fieldOfView / 2) / std::tan(degrees(30)));
}

}  // namespace
}  // namespace alpglow
