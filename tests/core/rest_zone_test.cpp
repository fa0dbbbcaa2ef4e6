// What is followed rests while the subject is in the air.

#include "alpglow/camera/character_camera.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;

constexpr double gravity = 9.81, wide = 16.0 / 9.0;

/// Jumps off at 0.5 s, as high as this, while it runs; lands at this height.
struct Jump {
  double height = 1.4, landsAt = 0;
  double speed() const { return std::sqrt(2 * gravity * height); }
  double begins() const { return 0.5; }
  double lands() const { return begins() + (speed() + std::sqrt(speed() * speed() - 2 * gravity * landsAt)) / gravity; }
  Subject at(double time) const {
    Subject subject;
    const double t = time - begins();
    const bool flies = t > 0 && time < lands();
    const double y = t <= 0 ? 0 : flies ? speed() * t - gravity * t * t / 2 : landsAt;
    subject.feet = {0, y, -3 * time};
    subject.head = subject.feet + Vector3d(0, 1.7, 0);
    subject.velocity = {0, flies ? speed() - gravity * t : 0, -3};
    subject.onGround = !flies;
    return subject;
  }
};

CompiledDesign resting(double above, double below, FollowKind kind = FollowKind::exponential) {
  CameraDesign design;
  design.framings[0].framing.follow.kind = kind;
  design.framings[0].framing.follow.restAbove = above;
  design.framings[0].framing.follow.restBelow = below;
  return CompiledDesign(design);
}

std::vector<View> film(const CompiledDesign& design, const Jump& jump, double rate, double seconds) {
  const testing::Walls air;
  CharacterCamera camera(design, jump.at(0));
  std::vector<View> views;
  for (int i = 1; i <= std::lround(seconds * rate); ++i)
    views.push_back(camera.step(1 / rate, {}, jump.at(i / rate), air, wide));
  return views;
}

TEST(RestZone, LeavesTheCameraLevelThroughAJump) {
  for (const FollowKind kind : {FollowKind::exponential, FollowKind::criticallyDamped}) {
    const std::vector<View> views = film(resting(2, 0.5, kind), Jump(), 60, 3);
    for (const View& view : views) ASSERT_NEAR(view.position.y(), views.front().position.y(), 1e-9);
  }
  const std::vector<View> without = film(resting(0, 0), Jump(), 60, 3);
  double highest = 0;
  for (const View& view : without) highest = std::max(highest, view.position.y() - without.front().position.y());
  EXPECT_GT(highest, 0.9);
}

TEST(RestZone, IsTakenAlongByItsEdge) {
  const std::vector<View> high = film(resting(0.5, 0.5), Jump(), 240, 3);
  double highest = 0;
  for (const View& view : high) highest = std::max(highest, view.position.y() - high.front().position.y());
  EXPECT_GT(highest, 0.7) << "1.4 m up, 0.5 m of them at rest, less the lag";
  EXPECT_LT(highest, 0.9 + 1e-6);
  Jump fall;
  fall.landsAt = -12;
  const std::vector<View> deep = film(resting(2, 0.5), fall, 240, 4);
  const double start = deep.front().position.y();
  for (std::size_t i = 0; i < deep.size(); ++i) {
    const double time = static_cast<double>(i + 1) / 240, feet = fall.at(time).feet.y();
    ASSERT_GE(deep[i].position.y() - start, std::min(feet, 0.0) - 1e-9);
    ASSERT_LE(deep[i].position.y() - start, std::max(feet, -12.0) + 0.5 + 0.6 + 1.5)
        << time << ": zone, leash, and what goes by the jump";
    if (i > 0) {
      ASSERT_LT(std::abs(deep[i].position.y() - deep[i - 1].position.y()), 18.0 / 240) << time;
    }
  }
  EXPECT_NEAR(deep.back().position.y() - start, -12, 1e-3);
}

TEST(RestZone, MakesUpForALedgeWithinItsTimeAndNeverOvershoots) {
  Jump up;
  up.landsAt = 1;
  const CompiledDesign design = resting(2, 0.5);
  const std::vector<View> views = film(design, up, 120, 3);
  double last = views.front().position.y();
  for (std::size_t i = 0; i < views.size(); ++i) {
    const double time = static_cast<double>(i + 1) / 120, y = views[i].position.y();
    if (time < up.lands()) {
      ASSERT_NEAR(y, views.front().position.y(), 1e-9);
    }
    ASSERT_GE(y, last - 1e-9);
    if (time > up.lands() + 0.4 + 1.0 / 120) {
      ASSERT_NEAR(y, views.front().position.y() + 1, 1e-9);
    }
    last = y;
  }
}

TEST(RestZone, DoesNotDependOnFramesBetweenTicks) {
  testing::Random random(2);
  const CompiledDesign design = resting(0.7, 0.4);
  for (int run = 0; run < 20; ++run) {
    Jump jump;
    jump.height = random.between(0.2, 3);
    jump.landsAt = random.between(-5, 0.1);
    const auto film = [&](int pieces) {
      const testing::Walls air;
      CharacterCamera camera(design, jump.at(0));
      View view;
      for (int tick = 0; tick < 180; ++tick) {
        const Subject from = jump.at(tick / 60.0), to = jump.at((tick + 1) / 60.0);
        for (int piece = 1; piece <= pieces; ++piece) {
          const double share = static_cast<double>(piece) / pieces;
          Subject drawn = to;
          drawn.feet = from.feet + share * (to.feet - from.feet);
          drawn.head = drawn.feet + Vector3d(0, 1.7, 0);
          drawn.onGround = piece == pieces ? to.onGround : from.onGround && to.onGround;
          view = camera.step(1.0 / 60 / pieces, {}, drawn, air, wide);
        }
      }
      return view;
    };
    EXPECT_LT((film(1).position - film(7).position).norm(), 1e-9) << run;
  }
}

TEST(RestZone, GoesOnWhereTheFramingHasNone) {
  CameraDesign design;
  design.framings[0].framing.follow.restAbove = 2;
  design.framings.push_back({"aim", {}, "aiming", Perspective::third});
  const CompiledDesign compiled(design);
  const testing::Walls air;
  const Jump jump;
  CharacterCamera camera(compiled, jump.at(0));
  double last = 0;
  for (int i = 1; i <= 180; ++i) {
    if (i == 50) camera.setCondition(Condition::aiming, true);
    const View view = camera.step(1.0 / 60, {}, jump.at(i / 60.0), air, wide);
    if (i > 1) {
      ASSERT_LT(std::abs(view.position.y() - last), 0.12) << i;
    }
    last = view.position.y();
  }
  EXPECT_NEAR(last, camera.view().head.y() + 0.1 + 3 * std::sin(degrees(10)), 1e-3);
}

}  // namespace
}  // namespace alpglow
