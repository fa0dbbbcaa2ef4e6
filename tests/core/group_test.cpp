// Several in one picture: as close as they allow, nobody lost in silence.

#include "alpglow/camera/group_camera.hpp"
#include "alpglow/camera/shot_search.hpp"
#include "alpglow/framing/lens.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;

constexpr double wide = 16.0 / 9.0, frame = 1.0 / 60;

/// How far out of the middle a ball reaches, as a share of the half picture; beyond 1 it is cut.
double reachOf(const Ball& ball, const Vector3d& position, const Eigen::Matrix3d& axes, double fieldOfView) {
  const Vector3d p = axes.transpose() * (ball.centre - position);
  const double up = std::tan(fieldOfView / 2), across = up * wide;
  // Farthest along each edge's normal.
  const auto edge = [&](double side, double tangent) {
    const double angle = std::atan2(side, -p.z()) + std::asin(std::min(ball.radius / std::hypot(side, p.z()), 1.0));
    return std::tan(std::min(angle, degrees(89.9))) / tangent;
  };
  if (-p.z() < ball.radius) return 1e9;
  return std::max(edge(std::abs(p.x()), across), edge(std::abs(p.y()), up));
}

TEST(GroupFit, HoldsEverybodyAndNoPlaceNearerDoes) {
  Random random(3);
  for (int i = 0; i < 300; ++i) {
    std::vector<Ball> balls;
    for (int n = random.whole(1, 6); n > 0; --n) balls.push_back({random.point(5), random.between(0, 1)});
    const LookAngles look{random.between(-3, 3), random.between(-1.3, 1.3)};
    const double lens = random.between(0.4, 1.6), margin = random.between(0, 0.5);
    const Span<const Ball> span(balls.data(), balls.size());
    const GroupPlace place = fitGroup(span, look, lens, wide, margin);
    const Eigen::Matrix3d axes = rotationOf(look.yaw, look.pitch);
    const auto worst = [&](const Vector3d& position) {
      double most = 0;
      for (const Ball& ball : balls) most = std::max(most, reachOf(ball, position, axes, lens));
      return most;
    };
    EXPECT_LE(worst(place.position), 1 - margin + 1e-9);
    // Nearer by a centimetre: no place beside it holds them, or somebody would be behind the camera.
    double best = 1e9;
    for (int k = 0; k < 200; ++k) {
      const Vector3d beside = random.between(-1, 1) * axes.col(0) + random.between(-1, 1) * axes.col(1);
      best = std::min(best, worst(place.position - 0.01 * axes.col(2) + (k == 0 ? 0.0 : 0.3) * beside));
    }
    double front = 1e9;
    for (const Ball& ball : balls)
      front = std::min(front, (place.position - ball.centre).dot(axes.col(2)) - ball.radius);
    EXPECT_TRUE(best > 1 - margin || front < 0.1 + 0.0101) << i;
    // The same lens again holds them from there.
    EXPECT_LE(lensFor(span, place.position, look, wide, margin), lens + 1e-9);
  }
}

TEST(GroupFit, TheLensIsAsWideAsTheWidestOfThemNeeds) {
  const Ball balls[] = {{{2, 0, -4}, 0.5}, {{-1, 0.3, -6}, 0.2}};
  const double angle = std::atan2(2.0, 4.0) + std::asin(0.5 / std::hypot(2.0, 4.0));
  EXPECT_NEAR(lensFor(balls, {0, 0, 0}, {}, wide, 0), 2 * std::atan(std::tan(angle) / wide), 1e-12);
  EXPECT_EQ(lensFor(balls, {2, 0, -4}, {}, wide, 0), pi) << "inside of one";
  const Ball behind[] = {{{0, 0, 4}, 0.5}};
  EXPECT_EQ(lensFor(behind, {0, 0, 0}, {}, wide, 0), pi);
  EXPECT_EQ(fitGroup({}, {}, 1, wide, 0.1).position, Vector3d(0, 0, 0));
}

std::vector<GroupMember> spread(std::initializer_list<Vector3d> places) {
  std::vector<GroupMember> members;
  for (const Vector3d& place : places) {
    GroupMember member;
    member.id = static_cast<std::uint32_t>(10 + members.size());
    member.centre = place;
    members.push_back(member);
  }
  return members;
}

View shown(GroupCamera& camera, const std::vector<GroupMember>& members, const Obstacles& world, double dt = frame) {
  return camera.update(dt, {members.data(), members.size()}, world, wide);
}

double worstReach(const View& view, const std::vector<GroupMember>& members, double ofRadius = 1) {
  double most = 0;
  for (const GroupMember& member : members)
    most = std::max(
        most, reachOf({member.centre, ofRadius * member.radius}, view.position, view.rotation(), view.fieldOfView));
  return most;
}

TEST(GroupCamera, HoldsAllOfThemAndLetsThemInAndOutWithoutAJump) {
  GroupCamera camera{GroupSettings()};
  const NoObstacles open;
  std::vector<GroupMember> members = spread({{0, 1.6, 0}, {2, 1.6, -3}});
  View before = shown(camera, members, open);
  EXPECT_TRUE(before.cut);
  EXPECT_LE(worstReach(before, members), 1 - 0.12 + 1e-9);
  double fastest = 0;
  for (int i = 0; i < 400; ++i) {
    if (i == 60) members.push_back(spread({{-6, 1.6, -4}})[0]), members.back().id = 77;
    if (i == 240) members.pop_back();
    const View view = shown(camera, members, open);
    fastest = std::max(fastest, (view.position - before.position).norm() / frame);
    EXPECT_LT(std::abs(view.fieldOfView - before.fieldOfView), degrees(3));
    before = view;
    if (i == 200) {
      EXPECT_LE(worstReach(view, members), 1);
    }
    EXPECT_EQ(view.faults, 0u);
  }
  EXPECT_LT(fastest, 25);
  EXPECT_LE(worstReach(before, members), 1 - 0.12 + 1e-3);
  EXPECT_NEAR(before.fieldOfView, degrees(50), 1e-3);
}

TEST(GroupCamera, SaysWhomItLeavesOutAndWhenOnePictureCannotShowBoth) {
  GroupCamera camera{GroupSettings()};
  const NoObstacles open;
  std::vector<GroupMember> players = spread({{0, 1.6, 0}, {6, 1.6, 0}});
  shown(camera, players, open);
  EXPECT_EQ(camera.report().leftOut, 0u);
  players[1].centre.x() = 60;
  for (int i = 0; i < 120; ++i) shown(camera, players, open);
  EXPECT_EQ(camera.report().leftOut, 2u);
  EXPECT_TRUE(camera.report().splits);
  View view = shown(camera, players, open);
  EXPECT_LE(reachOf({players[0].centre, 0.6}, view.position, view.rotation(), view.fieldOfView), 1);
  players[1].importance = 0.5;
  shown(camera, players, open);
  EXPECT_FALSE(camera.report().splits) << "the other one only follows";
  players[1].centre.x() = 3;
  for (int i = 0; i < 120; ++i) view = shown(camera, players, open);
  EXPECT_EQ(camera.report().leftOut, 0u);
  EXPECT_LE(worstReach(view, players), 1 - 0.12 + 1e-3);
}

/// Whether any of many directions and distances holds all of them with nothing in between.
bool somewhereHoldsAll(const std::vector<GroupMember>& members, const Obstacles& world, const GroupSettings& settings) {
  std::vector<Ball> balls;
  for (const GroupMember& member : members) balls.push_back({member.centre, member.radius});
  for (int k = 0; k < 144; ++k) {
    const LookAngles look{2 * pi * k / 36, degrees(-5) - degrees(20) * (k % 4)};
    const GroupPlace place = fitGroup({balls.data(), balls.size()}, look, settings.wide, wide, settings.margin);
    if (place.distance > settings.farthest) continue;
    const double radius = nearPlaneRadius(settings.nearPlane, settings.wide, wide);
    if (clearFraction(world, members[0].centre, place.position, radius).fraction < 1) continue;
    bool sees = true;
    for (const GroupMember& member : members)
      sees = sees && !world.cast(place.position, member.centre - place.position, Purpose::sight).hit();
    if (sees) return true;
  }
  return false;
}

TEST(GroupCamera, KeepsFiveOpponentsInThePictureAmongPostsAndWalls) {
  int could = 0, held = 0, sees = 0, unsafe = 0;
  for (unsigned seed = 0; seed < 6; ++seed) {
    Random random(seed);
    testing::Walls world;
    world.walls = {{{1, 0, 0}, -9}, {{-1, 0, 0}, -9}, {{0, 0, 1}, -9}, {{0, 0, -1}, -9}, {{0, 1, 0}, 0}};
    for (int i = 0; i < 4; ++i) {
      const double x = random.between(-8, 8), z = random.between(-8, 8);
      world.poles.push_back({x, z, random.between(0.05, 0.3)});
    }
    GroupSettings settings;
    settings.patience = 0.2;
    GroupCamera camera{settings};
    std::vector<GroupMember> members =
        spread({{0, 1.6, 0}, {0, 1.6, 0}, {0, 1.6, 0}, {0, 1.6, 0}, {0, 1.6, 0}, {0, 1.6, 0}});
    double phases[6];
    for (double& phase : phases) phase = random.between(0, 6);
    for (int i = 0; i < 1200; ++i) {
      const double t = i * frame;
      for (std::size_t k = 0; k < members.size(); ++k) {
        const double a = 0.4 * t + phases[k], b = 0.31 * t * (k % 2 == 0 ? 1 : -1) + 2 * phases[k];
        const double far = k == 0 ? 2 : 4;
        members[k].centre = {far * std::cos(a), 1.6, far * std::sin(b)};
        for (const testing::Pole& pole : world.poles) {  // nobody stands in one
          Vector3d away(members[k].centre.x() - pole.x, 0, members[k].centre.z() - pole.z);
          if (away.norm() < pole.radius + 0.3)
            members[k].centre += (pole.radius + 0.3 - away.norm()) * away.normalized();
        }
      }
      const View view = shown(camera, members, world);
      const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, wide);
      unsafe += world.clearance(view.position, 10) < radius - 1e-6;
      if (i < 60 || i % 4 != 0 || !somewhereHoldsAll(members, world, settings)) continue;
      ++could;
      held += worstReach(view, members, 0.5) <= 1;
      sees += camera.report().hidden == 0;
    }
  }
  EXPECT_EQ(unsafe, 0);
  EXPECT_GT(could, 1000);
  EXPECT_GE(held, 0.975 * could) << held << " of " << could;
  EXPECT_GE(sees, 0.85 * could) << sees << " of " << could;
}

TEST(GroupCamera, BadNumbersKeepTheLastViewAndOthersAreLeftOut) {
  GroupCamera camera{GroupSettings()};
  const NoObstacles open;
  std::vector<GroupMember> members = spread({{0, 1.6, 0}, {2, 1.6, -3}});
  const View good = shown(camera, members, open);
  members[1].centre.x() = std::nan("");
  EXPECT_EQ(shown(camera, members, open).faults, 0u);
  members[0].centre.x() = std::nan("");
  const View kept = shown(camera, members, open);
  EXPECT_EQ(kept.faults, Fault::badSubject);
  EXPECT_TRUE(kept.position.allFinite());
  members = spread({{0, 1.6, 0}, {2, 1.6, -3}});
  EXPECT_EQ(shown(camera, members, open, -1).faults, Fault::badTime);
  EXPECT_EQ(camera.update(frame, {}, open, wide).faults, Fault::subjectMissing);
  EXPECT_EQ(camera.update(frame, {members.data(), 2}, open, std::nan("")).faults, Fault::badAspect);
  EXPECT_TRUE(good.cut);
  static_assert(std::is_trivially_copyable_v<GroupCamera>);
}

TEST(GroupCamera, WithAnyNumbersFromTheHostGivesAFiniteView) {
  for (unsigned seed = 0; seed < 200; ++seed) {
    Random random(seed);
    const double odd[] = {0, -1, 1e-12, 1e300, std::nan(""), std::numeric_limits<double>::infinity()};
    const auto maybe = [&](double value) { return random.chance(0.1) ? odd[random.whole(0, 5)] : value; };
    GroupSettings settings;
    for (double* number : {&settings.margin, &settings.nearest, &settings.farthest, &settings.narrow, &settings.wide,
                           &settings.halfLife, &settings.lensHalfLife, &settings.turnHalfLife, &settings.turnRate,
                           &settings.join, &settings.patience, &settings.nearPlane, &settings.farPlane})
      *number = maybe(*number);
    GroupCamera camera{settings, {maybe(0.3), maybe(-0.2)}};
    testing::Walls world;
    world.walls = {{{0, 0, -1}, -3}};
    std::vector<GroupMember> members(20);
    for (int i = 0; i < 60; ++i) {
      for (GroupMember& member : members) {
        member.id = static_cast<std::uint32_t>(random.whole(0, 40));  // some of them twice, and more than there is room
        member.centre = random.point(4);
        member.centre.x() = maybe(member.centre.x());
        member.radius = maybe(0.5);
        member.importance = maybe(1);
      }
      if (i == 30) camera.shift(maybe(1) * Vector3d(100, 0, 0));
      const std::size_t count = static_cast<std::size_t>(random.whole(0, 20));
      const double dt = maybe(frame);
      const View view = camera.update(dt, {members.data(), count}, world, wide);
      ASSERT_TRUE(view.position.allFinite() && view.rotation().allFinite()) << seed;
      ASSERT_TRUE(view.fieldOfView > 0 && view.fieldOfView < pi && view.nearPlane > 0) << seed;
      ASSERT_LT(view.nearPlane, view.farPlane) << seed;
    }
  }
}

TEST(GroupCamera, ANewFirstOneHasRoomHoweverManyAreLeavingAndAnotherOriginChangesNothing) {
  GroupCamera camera{GroupSettings()}, moved = camera;
  const NoObstacles open;
  std::vector<GroupMember> members(16);
  for (std::uint32_t i = 0; i < 16; ++i) members[i].id = i, members[i].centre = {0.2 * i, 1.6, 0};
  const Vector3d offset(5000, 0, -300);
  for (int i = 0; i < 200; ++i) {
    if (i == 60) {
      for (GroupMember& member : members) member.id += 100;  // all of them anew
    }
    if (i == 100) moved.shift(offset);
    std::vector<GroupMember> there = members;
    for (GroupMember& member : there) member.centre += i < 100 ? Vector3d(0, 0, 0) : offset;
    const View a = shown(camera, members, open), b = shown(moved, there, open);
    EXPECT_LT((b.position - a.position - (i < 100 ? Vector3d(0, 0, 0) : offset)).norm(), 1e-8) << i;
    if (i < 199) continue;
    EXPECT_LE(worstReach(a, members), 1);
  }
}

TEST(GroupCamera, GoesTheSameWayAtEveryFrameRate) {
  std::vector<Vector3d> places;
  for (const double fps : {24.0, 120.0, 1000.0}) {
    GroupCamera camera{GroupSettings()};
    const NoObstacles open;
    View view;
    for (int i = 0; i <= std::lround(3 * fps); ++i) {
      const double t = i / fps;
      view = shown(camera, spread({{t, 1.6, 0}, {2 - t, 1.6, -3 - 0.5 * t}}), open, i == 0 ? 0 : 1 / fps);
    }
    places.push_back(view.position);
  }
  EXPECT_LT((places[0] - places[2]).norm(), 0.04);
  EXPECT_LT((places[1] - places[2]).norm(), 0.009) << "of first order";
}

TEST(ShotSearch, ShowsBothSideBySideFromAClearPlace) {
  Random random(7);
  int found = 0, none = 0;
  const ShotSettings settings;
  const double radius = nearPlaneRadius(settings.nearPlane, settings.fieldOfView, wide);
  for (int i = 0; i < 200; ++i) {
    testing::Walls world;
    for (int n = random.whole(0, 30); n > 0; --n) {
      const double x = random.between(-8, 8), z = random.between(-8, 8);
      world.poles.push_back({x, z, random.between(0.1, 1.2)});
    }
    const Ball one{random.point(2), 0.5}, other{random.point(2), 0.5};
    const LookAngles from{random.between(-3, 3), 0};
    const std::optional<Shot> shot = searchShot(one, other, from, world, wide, settings);
    found += shot ? 1 : 0;
    none += shot ? 0 : 1;
    if (!shot) continue;
    View view;
    view.position = shot->position;
    view.yaw = shot->look.yaw;
    view.pitch = shot->look.pitch;
    view.fieldOfView = shot->fieldOfView;
    ASSERT_GE(world.clearance(view.position, 10), radius);
    for (const Ball& ball : {one, other}) {
      ASSERT_LE(reachOf(ball, view.position, rotationOf(view.yaw, view.pitch), view.fieldOfView), 1);
      const Vector3d way = ball.centre - view.position;
      ASSERT_GE(world.cast(view.position, way, Purpose::sight).distance, way.norm() - ball.radius - 1e-9);
      ASSERT_TRUE(view.onScreen(ball.centre));
    }
  }
  EXPECT_GT(found, 100);
  EXPECT_GT(none, 10) << "some are inside of poles";
}

TEST(ShotSearch, PrefersTheNearSideAndSaysWhereThereIsNone) {
  const Ball hero{{-1, 1.6, 0}, 0.5}, rival{{1, 1.6, 0}, 0.5};
  const NoObstacles open;
  const std::optional<Shot> ahead = searchShot(hero, rival, {0.2, 0}, open, wide),
                            behind = searchShot(hero, rival, {3, 0}, open, wide);
  ASSERT_TRUE(ahead && behind);
  EXPECT_LT(std::abs(ahead->look.yaw), 0.3) << "across the line, from this side";
  EXPECT_GT(std::abs(behind->look.yaw), 2.8) << "and from the other";
  testing::Walls narrow;  // they stand in a shaft
  narrow.walls = {{{1, 0, 0}, -1.7}, {{-1, 0, 0}, -1.7}, {{0, 0, 1}, -0.6}, {{0, 0, -1}, -0.6}};
  EXPECT_FALSE(searchShot(hero, rival, {0, 0}, narrow, wide));
  for (const Ball& bad : {Ball{{std::nan(""), 0, 0}, 0.5}, Ball{{0, 1e300, 0}, 0.5}, Ball{{0, 0, 0}, -1}})
    EXPECT_FALSE(searchShot(hero, bad, {0, 0}, open, wide));
  EXPECT_FALSE(searchShot(hero, rival, {0, 0}, open, std::nan("")));
}

}  // namespace
}  // namespace alpglow
