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

Subject standingAt(const Vector3d& feet) {
  Subject subject;
  subject.feet = feet;
  subject.head = feet + Vector3d(0, 1.7, 0);
  return subject;
}

CompiledDesign resting(double above, double below, FollowKind kind = FollowKind::exponential) {
  CameraDesign design;
  design.framings[0].framing.follow.kind = kind;
  design.framings[0].framing.follow.rest.above = above;
  design.framings[0].framing.follow.rest.below = below;
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
  design.framings[0].framing.follow.rest.above = 2;
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

const Vector3d up(0, 1, 0);

RestZoneSettings circle(double radius) {
  RestZoneSettings settings;
  settings.radius = radius;
  return settings;
}

/// What is followed, after a zone went along a straight way in so many pieces.
Vector3d follows(RestZone& zone, const Vector3d& way, int pieces, const RestZoneSettings& settings, bool onGround) {
  Vector3d went = Vector3d::Zero();
  for (int i = 0; i < pieces; ++i)
    zone.step(way / pieces, up, onGround, 0.1 / pieces, settings, [&](const Vector3d& by, double) { went += by; });
  return went;
}

TEST(RestZone, IsTowedAlongTheGroundHoweverAWayIsCut) {
  testing::Random random(5);
  RestZoneSettings settings = circle(0.6);
  settings.above = 0.3;
  settings.below = 0.2;
  RestZone once, often;
  for (int i = 0; i < 2000; ++i) {
    const double x = random.between(-1, 1), y = random.between(-0.4, 0.4), z = random.between(-1, 1);
    const Vector3d way(x, y, z), went = follows(once, way, 1, settings, false);
    EXPECT_LT((went - follows(often, way, 7, settings, false)).norm(), 1e-12);
    ASSERT_LT((once.offset(up) - often.offset(up)).norm(), 1e-12);
    ASSERT_LE(once.aside().norm(), 0.6 + 1e-12);
    ASSERT_EQ(once.aside().y(), 0);
    ASSERT_TRUE(once.rise() >= -0.3 && once.rise() <= 0.2);
  }
}

TEST(RestZone, PullsLikeARope) {
  RestZone zone;
  follows(zone, {0.6, 0, 0}, 1, circle(0.6), true);
  EXPECT_LT((zone.aside() - Vector3d(-0.6, 0, 0)).norm(), 1e-12);
  follows(zone, {0, 0, -1.5}, 1, circle(0.6), true);
  // θ from 90°: tan(θ/2) = e^(−way/length).
  const double half = std::exp(-1.5 / 0.6), angle = 2 * std::atan(half);
  EXPECT_LT((zone.aside() - 0.6 * Vector3d(-std::sin(angle), 0, std::cos(angle))).norm(), 1e-12);
  const Vector3d speed = zone.velocity({0, 0, -2}, up, true, circle(0.6));
  EXPECT_NEAR(speed.norm(), 2 * std::cos(angle), 1e-12) << "only along the rope";
  EXPECT_EQ(zone.velocity({0, 0, 2}, up, true, circle(0.6)), Vector3d(0, 0, 0)) << "slack";
}

TEST(RestZone, LeavesTheCameraWhereItIsWhileTheSubjectPacesWithinIt) {
  CameraDesign design;
  design.framings[0].framing.follow.rest.radius = 0.5;
  design.framings[0].framing.follow.rest.screen = 0.1;
  const CompiledDesign compiled(design);
  const testing::Walls air;
  const auto at = [](double time) { return standingAt({0.45 * std::sin(3 * time), 0, 0.2 * std::sin(5 * time)}); };
  CharacterCamera camera(compiled, at(0));
  const Vector3d start = camera.step(1.0 / 60, {}, at(0), air, wide).position;
  for (int i = 1; i < 600; ++i) {
    const View view = camera.step(1.0 / 60, {}, at(i / 60.0), air, wide);
    ASSERT_LT((view.position - start).norm(), 1e-9) << i;
    ASSERT_NEAR(view.restAside, at(i / 60.0).feet.norm(), 1e-9);
  }
}

TEST(RestZone, IsAsWideInThePictureAsItIsSaidToBe) {
  CameraDesign design;
  design.framings[0].framing.follow.rest.screen = 0.4;
  design.framings[0].framing.defaultPitch = 0;
  const CompiledDesign compiled(design);
  const testing::Walls air;
  CharacterCamera camera(compiled, standingAt({0, 0, 0}));
  View view = camera.step(1.0 / 60, {}, standingAt({0, 0, 0}), air, wide);
  const double before = view.onScreen(view.head)->x();
  for (int i = 0; i < 420; ++i)
    view = camera.step(1.0 / 60, {}, standingAt({std::min(0.01 * i, 3.0), 0, 0}), air, wide);
  EXPECT_NEAR((view.onScreen(view.head)->x() - before) * view.aspect, 0.4, 1e-3);
}

/// Walks in a bend, then stands; filmed at this rate, whole seconds long.
std::vector<View> filmBend(const CompiledDesign& design, int rate, double seconds) {
  const testing::Walls air;
  const auto at = [](double time) {
    const double angle = 1.1 * std::min(time, 2.0);
    return standingAt({2 * std::sin(angle), 0, -2 * (1 - std::cos(angle))});
  };
  CharacterCamera camera(design, at(0));
  std::vector<View> views;
  for (int i = 1; i <= std::lround(seconds * rate); ++i) {
    views.push_back(camera.step(1.0 / rate, {}, at(static_cast<double>(i) / rate), air, wide));
  }
  return views;
}

TEST(RestZone, GoesTheSameWayAtEveryFrameRateToSecondOrder) {
  CameraDesign design;
  design.framings[0].framing.follow.rest.radius = 0.7;
  const CompiledDesign compiled(design);
  const Vector3d truth = filmBend(compiled, 4000, 2).back().position;
  const auto off = [&](int rate) { return (filmBend(compiled, rate, 2).back().position - truth).norm(); };
  EXPECT_LT(off(24), 2e-3);
  EXPECT_LT(off(1000), 3e-6);
  EXPECT_LT(off(48), 0.3 * off(24));
}

TEST(RestZone, MakesUpForItBesideWhoStands) {
  CameraDesign design;
  design.framings[0].framing.follow.rest.radius = 0.7;
  CameraDesign waits = design;
  waits.framings[0].framing.follow.rest.after = 1;
  waits.framings[0].framing.follow.rest.catchUp = 0.5;
  const CompiledDesign stays(design), comes(waits);
  for (const int rate : {24, 60, 144}) {
    const std::vector<View> left = filmBend(stays, rate, 5), made = filmBend(comes, rate, 5);
    double last = 0.7;
    for (std::size_t i = 0; i < made.size(); ++i) {
      const double time = static_cast<double>(i + 1) / rate, apart = (made[i].position - left[i].position).norm();
      if (time <= 3) {
        ASSERT_LT(apart, 1e-9) << time;
      }
      if (time >= 3.5) {
        ASSERT_NEAR(apart, 0.7, 1e-6) << time;
      }
      if (i > 0 && time > 3.01) {
        ASSERT_LT((made[i].position - made[i - 1].position).norm(), 3.0 / rate) << time;
      }
      last = made[i].restAside;
    }
    EXPECT_EQ(last, 0);
  }
  const Vector3d a = filmBend(comes, 60, 3.25).back().position, b = filmBend(comes, 1000, 3.25).back().position;
  EXPECT_LT((a - b).norm(), 1e-3) << "half of the way";
}

/// While framings come and go, of which one has no zone, and another one has been due for long.
TEST(RestZone, OfTheGroundGoesWithoutAJumpFromFramingToFraming) {
  CameraDesign design;
  design.framings[0].framing.follow.rest.radius = 1;
  NamedFraming waits = design.framings[0];
  waits.name = waits.when = "waits";
  waits.framing.follow.rest.after = 0.5;
  design.framings.push_back({"aim", {}, "aiming", Perspective::third});
  design.framings.push_back(waits);
  const CompiledDesign compiled(design);
  const testing::Walls air;
  CharacterCamera camera(compiled, standingAt({0, 0, 0}));
  View last = camera.step(1.0 / 60, {}, standingAt({0, 0, 0}), air, wide);
  for (int i = 1; i < 400; ++i) {
    if (i <= 200 && i % 50 == 0) camera.setCondition(Condition::aiming, i % 100 == 50);
    if (i == 320) camera.setCondition(compiled.flag("waits"), true);
    const View view = camera.step(1.0 / 60, {}, standingAt({0.9 * std::sin(std::min(i, 220) / 40.0), 0, 0}), air, wide);
    ASSERT_LT((view.position - last.position).norm(), i < 240 ? 0.15 : 0.08) << i;
    if (i == 319) {
      EXPECT_GT(view.restAside, 0.2) << "and has been for 1.6 s";
    }
    last = view;
  }
  EXPECT_EQ(last.restAside, 0);
}

/// Faster than what counts as a teleport in one frame, by a speed of its own.
TEST(RestZone, IsLeftBehindByWhoIsGoneInAFrame) {
  FrameFollowSettings settings;
  settings.feet.rest.radius = 0.5;
  FrameFollow follow;
  follow.cut(standingAt({0, 0, 0}));
  follow.step(standingAt({0.4, 0, 0}), 0.1, settings);
  EXPECT_EQ(follow.restAside(), 0.4);
  follow.step(standingAt({40, 0, 0}), 0.1, settings);
  EXPECT_EQ(follow.restAside(), 0);
  EXPECT_LT((follow.target() - Vector3d(40, 0, 0)).norm(), 1e-12);
}

/// Towed along the edge of the widest zone that there is it never comes beyond, not even by rounding: what it is then
/// could not be saved.
TEST(RestZone, TheWidestIsNeverLeftByRounding) {
  testing::Random random(11);
  RestZoneSettings settings;
  settings.radius = 1e6;
  RestZone zone;
  double farthest = 0;
  for (int i = 0; i < 20000; ++i) {
    const double way = random.between(-3, 3), length = random.chance(0.3) ? 1e4 : random.between(0, 200);
    zone.step(length * Vector3d(std::sin(way), 0, std::cos(way)), Vector3d::UnitY(), true, 0.01, settings,
              [](const Vector3d&, double) {});
    farthest = std::max(farthest, zone.aside().norm());
  }
  EXPECT_LE(farthest, 1e3);
  EXPECT_GT(farthest, 999.99);
}

}  // namespace
}  // namespace alpglow
