// The aim point kept: it stays under the crosshair while framings change, shoulders swap and the subject walks.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/view/hand_aim.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/seeds.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::FarSphere;
using testing::Random;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

double degreesOff(const View& view, const Vector3d& point) {
  const Vector3d displacement = point - view.position;
  return toDegrees(std::atan2(view.forward().cross(displacement).norm(), view.forward().dot(displacement)));
}

CameraDesign randomFramings(Random& random) {
  CameraDesign plan = wardenDesign();
  for (NamedFraming& named : plan.framings) {
    Framing& f = named.framing;
    f.defaultPitch = degrees(random.between(-50, 50));
    f.transition = random.between(0.2, 0.8);
    f.keeps = Keeps::aim;
    f.shoulderSwap = random.between(0.2, 0.6);
    f.pitch = {degrees(random.between(-85, -55)), degrees(random.between(55, 85))};
    if (named.perspective == Perspective::first) continue;
    f.shoulder = random.between(-0.7, 0.7);
    f.anchorRise = random.between(-0.3, 0.4);
    f.tilt = degrees(random.between(-6, 6));
    f.follow.halfLife = f.follow.verticalHalfLife = 0;  // so that the point walks along as the subject does
    f.distanceRange = {0.5, 6};
    f.distance = random.between(0.8, 6);
  }
  return plan;
}

struct Drift {
  double worst = 0;           // degrees, while it is kept
  int kept = 0, frames = 0;   // with something to keep
  double most = 0, rate = 0;  // largest turn of a run, degrees; radians per second
};

/// Walks, and changes what is shown three times; what the crosshair was on before is the point, and walks along.
void changeFramings(const CompiledDesign& design, Random& random, double away, Drift& drift) {
  constexpr double dt = 1 / 240.0;
  const double vx = random.between(-2, 2), vz = random.between(-2, 2), x = random.between(-1, 1);
  const Vector3d velocity(vx, 0, vz), start(x, 0, 0);
  const FarSphere world(away, start + velocity * 60 * dt + Vector3d(0, 1.68, 0));
  CharacterCamera camera(design, wardenAt(start, random.between(-pi, pi), velocity));
  const auto at = [&](int i) { return wardenAt(start + velocity * i * dt, 0, velocity); };
  View view = camera.update(0.0, at(0), world, wide), before;
  const double yaw = view.yaw;
  bool aims = false, lost = false;
  Vector3d point(0, 0, 0);
  for (int i = 1; i < 520; ++i) {
    std::vector<IntentSample> samples;
    const bool was = aims;
    before = view;
    if (i == 60 || i == 90 || i == 300) {
      const int what = random.whole(0, 2);
      if (what == 0) aims = !aims;
      samples.push_back(what == 0   ? IntentSample::aim(0, aims)
                        : what == 1 ? IntentSample::swapShoulder(0)
                                    : IntentSample::switchPerspective(0));
    }
    if (view.aimError == 0 && !view.aimKept) point = view.aimPoint, lost = view.aimObstacle == noObstacle;
    Intent intent{samples};
    intent.aim = was;
    view = camera.step(dt, intent, at(i), world, wide);
    point += velocity * dt;
    drift.frames += view.aimKept || view.aimError != 0 ? 1 : 0;
    lost |= !view.aimKept && view.aimError != 0;                   // and with the next change it is another point
    lost |= i == 300 && (before.aimKept || before.aimError != 0);  // ends or goes on, who knows
    lost |= i == 90 && !before.aimKept;  // begins under way, and the point goes on as that did
    drift.kept += view.aimKept ? 1 : 0;
    if (view.aimKept && !lost) drift.worst = std::max(drift.worst, degreesOff(view, point));
    drift.most = std::max(drift.most, std::abs(shortestTurn(yaw, view.yaw)) / degrees(1));
    drift.rate = std::max(drift.rate, std::abs(shortestTurn(before.yaw, view.yaw)) / dt);
  }
}

TEST(AimPoint, StaysUnderTheCrosshairThroughEveryTransition) {
  Random random(110);
  Drift farPlane, nearPlane;
  for (int run = 0; run < 700; ++run) {
    const CompiledDesign design(randomFramings(random));
    const double away = std::exp(random.between(0, std::log(300)));
    changeFramings(design, random, away, away > 12 ? farPlane : nearPlane);
  }
  EXPECT_LT(farPlane.worst, 0.001);
  EXPECT_LT(nearPlane.worst, 0.001);
  EXPECT_GT(farPlane.kept, 0.99 * farPlane.frames);
  // Closer than some metres, the largest turn is not enough. Three changes turn by three times that at most, none of
  // them faster than the cap in the shortest transition (15/8 of its mean) and what the player does.
  EXPECT_GT(nearPlane.frames - nearPlane.kept, 200);
  EXPECT_GT(nearPlane.kept, 200);
  EXPECT_LT(std::max(nearPlane.most, farPlane.most), 30);
}

TEST(AimPoint, StaysWhileTheCameraRisesFromAStoop) {
  CameraDesign plan = wardenDesign();
  for (NamedFraming& named : plan.framings) named.framing.defaultPitch = degrees(-15);
  plan.framings[0].framing.keeps = Keeps::look;
  const CompiledDesign upright(plan);
  plan.pullIn.stoop = degrees(8);
  const CompiledDesign stoops(plan);
  testing::Walls hut;  // a low ceiling, the floor, and a wall ahead
  hut.walls = {{{0, -1, 0}, -2.15}, {{0, 1, 0}, 0}, {{0, 0, 1}, -12}};
  CharacterCamera camera(stoops, wardenAt({0, 0, 0})), other(upright, wardenAt({0, 0, 0}));
  View view, straight;
  for (int i = 0; i < 180; ++i) {
    view = camera.step(1 / 60.0, {}, wardenAt({0, 0, 0}), hut, wide);
    straight = other.step(1 / 60.0, {}, wardenAt({0, 0, 0}), hut, wide);
  }
  EXPECT_NEAR(view.stooped, degrees(8), degrees(0.1));
  EXPECT_EQ(view.pitch, straight.pitch) << "the look does not stoop";
  EXPECT_GT(view.distance, straight.distance + 0.3);
  Intent aims;
  aims.aim = true;
  const Vector3d point = view.aimPoint;
  int kept = 0;
  for (int i = 0; i < 60; ++i) {
    view = camera.step(1 / 60.0, aims, wardenAt({0, 0, 0}), hut, wide);
    if (!view.aimKept) continue;
    ++kept;
    EXPECT_LT(degreesOff(view, point), 0.1) << i << ", stooped " << toDegrees(view.stooped);
  }
  EXPECT_GT(kept, 10);
  EXPECT_LT(view.stooped, 1e-5);
}

TEST(AimPoint, StaysWithinATenthOfADegreeWhereClearSpaceMovesTheShoulder) {
  Random random(111);
  double worst = 0;
  int moved = 0;
  for (int run = 0; run < 200; ++run) {
    const CompiledDesign design(randomFramings(random));
    testing::Walls world;  // a corridor along z, and what one aims at, ahead
    world.walls = {{{1, 0, 0}, -random.between(0.35, 0.9)},
                   {{-1, 0, 0}, -random.between(0.35, 0.9)},
                   {{0, 0, 1}, -random.between(3, 40)}};
    const Vector3d velocity(0, 0, random.between(-2, 1));
    const auto at = [&](int i) { return wardenAt(velocity * i / 60, 0, velocity); };
    CharacterCamera camera(design, at(0));
    View view;
    for (int i = 0; i < 20; ++i) view = camera.update(i > 0 ? 1 / 60.0 : 0, at(i), world, wide);
    Intent intent;
    intent.aim = random.chance(0.5);
    const IntentSample samples[] = {random.chance(0.5) ? IntentSample::swapShoulder(0)
                                                       : IntentSample::switchPerspective(0)};
    Vector3d point = view.aimPoint;
    for (int i = 20; i < 80; ++i) {
      point += velocity / 60;
      intent.samples = i == 20 ? Span<const IntentSample>(samples) : Span<const IntentSample>();
      view = camera.step(1 / 60.0, intent, at(i), world, wide);
      if (!view.aimKept) continue;
      worst = std::max(worst, degreesOff(view, point));
      if (view.pulledIn) ++moved;
    }
  }
  EXPECT_GT(moved, 1000);
  EXPECT_LT(worst, 0.1);
}

TEST(AimPoint, IsNeverBehindTheCharacter) {
  const CompiledDesign design(wardenDesign());
  testing::Walls world;
  world.walls = {{{0, 0, 1}, -12}};
  world.poles = {{0.35, 2, 0.05}};  // between camera and shoulder, thin
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const View view = camera.update(0.0, wardenAt({0, 0, 0}), world, wide);
  EXPECT_NEAR((view.aimOrigin() - view.pivot).norm(), 0, 1e-9);
  EXPECT_EQ(view.aimObstacle, 0u);
  EXPECT_NEAR(view.aimPoint.z(), -12, 1e-9);
  EXPECT_LT((view.position + view.aimDistance * view.forward() - view.aimPoint).norm(), 1e-9);
}

TEST(AimPoint, OfTheHandIsElsewhereOrBehindSomething) {
  View view;
  view.position = {0.4, 1.8, 3};
  view.aimPoint = {0.4, 1.8, -20};
  view.aimObstacle = 5;
  const Vector3d hand(0, 1.3, 0);
  testing::Walls world;
  const HandAim open = handAim(view, hand, world);
  EXPECT_FALSE(open.obstructed);
  EXPECT_EQ(open.obstacle, 5u);
  EXPECT_NEAR(open.difference, std::atan(std::hypot(0.4, 0.5) / 20), 1e-12);
  EXPECT_LT((hand + open.direction * (view.aimPoint - hand).norm() - view.aimPoint).norm(), 1e-12);
  world.walls = {{{0, 0, 1}, -20}};
  EXPECT_FALSE(handAim(view, hand, world).obstructed) << "what the crosshair is on is in nobody's way";
  world.poles = {{0.05, -2.5, 0.1}};  // before the hand, beside the crosshair's ray
  const HandAim behind = handAim(view, hand, world);
  EXPECT_TRUE(behind.obstructed);
  EXPECT_EQ(behind.obstacle, 1u);
  EXPECT_NEAR(std::hypot(behind.point.x() - 0.05, behind.point.z() + 2.5), 0.1, 1e-9);
}

TEST(AimPoint, IsWhatTheCrosshairIsOnAfterAFlickInTheSameFrame) {
  const CompiledDesign design(wardenDesign());
  const Subject subject = wardenAt({0, 0, 0});
  testing::Walls world;
  world.walls = {{{0, 0, 1}, -40}, {{-1, 0, 0}, -5}};  // far ahead, near to the right
  CharacterCamera camera(design, subject), twin(design, subject);
  camera.update(0.0, subject, world, wide);
  twin.update(0.0, subject, world, wide);
  const double count = std::abs(turnOf({1, 0}, design.design().look).yaw);
  const IntentSample flick[] = {IntentSample::look(0, {degrees(80) / count, 0}), IntentSample::aim(0, true)};
  const View turned = twin.step(0.0, Intent{{flick, 1}}, subject, world, wide);
  ASSERT_LT(turned.aimDistance, 12);
  View view = camera.step(0.01, Intent{flick}, subject, world, wide);
  Intent aiming;
  aiming.aim = true;
  for (int i = 0; i < 28; ++i, view = camera.step(0.01, aiming, subject, world, wide)) {
    ASSERT_TRUE(view.aimKept) << i;
    EXPECT_LT(degreesOff(view, turned.aimPoint), 0.001);
  }
}

TEST(AimPoint, ThePlayersLookTurnsTheKeptPoint) {
  const CompiledDesign design(wardenDesign());
  const FarSphere world(20);
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera still(design, subject), turned(design, subject);
  View a = still.update(0.0, subject, world, wide), b = turned.update(0.0, subject, world, wide);
  Intent aiming;
  aiming.aim = true;
  for (int i = 0; i < 60; ++i) {
    a = still.step(0.01, aiming, subject, world, wide);
    const IntentSample samples[] = {IntentSample::look(0, {10, 0})};
    Intent intent = aiming;
    intent.samples = samples;
    b = turned.step(0.01, intent, subject, world, wide);
  }
  EXPECT_LT(shortestTurn(a.yaw, b.yaw), -degrees(10)) << "to the right, slower as the lens narrows";
  EXPECT_GT(shortestTurn(a.yaw, b.yaw), -degrees(30)) << "60 frames of half a degree without the lens";
}

/// Somebody who walks, sprints, crouches, aims, swaps shoulders and switches perspective, with no hand on the mouse.
struct Idle {
  Idle(const CameraDesign& plan, const Vector3d& walks, double around)
      : design(plan), velocity(walks), world(around), camera(design, wardenAt({0, 0, 0}, 0.4, walks)) {
    view = camera.update(0.0, wardenAt({0, 0, 0}, 0.4, velocity), world, wide);
  }

  const View& step(Span<const IntentSample> samples = {}) {
    constexpr double dt = 1 / 120.0;
    Intent intent{samples};
    intent.aim = aims;
    feet += velocity * dt;
    for (const IntentSample& sample : samples)
      if (sample.kind == IntentSample::Kind::aim) aims = sample.x > 0;
    return view = camera.step(dt, intent, wardenAt(feet, 0.4, velocity), world, wide);
  }
  void doSomething(Random& random) {
    const double time = random.between(0, 1 / 120.0);
    IntentSample sample = IntentSample::aim(time, !aims);
    switch (random.whole(0, 5)) {
      case 0: camera.setCondition(Condition::sprinting, random.chance(0.5)); return;
      case 1: camera.setCondition(Condition::crouched, random.chance(0.5)); return;
      case 2: sample = IntentSample::swapShoulder(time); break;
      case 3: sample = IntentSample::switchPerspective(time); break;
      default: break;
    }
    step({&sample, 1});
  }
  void comeBack() {
    camera.setCondition(Condition::sprinting | Condition::crouched, false);
    camera.choose(Perspective::third);
    camera.setShoulder(Shoulder::designed);
    if (aims) {
      const IntentSample lower = IntentSample::aim(0, false);
      step({&lower, 1});
    }
  }

  CompiledDesign design;
  Vector3d velocity, feet = {0, 0, 0};
  FarSphere world;
  CharacterCamera camera;
  View view;
  bool aims = false;
};

CameraDesign keeping(Keeps keeps) {
  CameraDesign plan = wardenDesign();
  for (NamedFraming& named : plan.framings) named.framing.keeps = keeps;
  return plan;
}

class HandsOff : public testing::Shards {};
ALPGLOW_SHARDS(HandsOff);

TEST_P(HandsOff, WhereTheLookIsKeptNoChangeEverTurnsIt) {
  for (const unsigned seed : seedsOf(100)) {
    Random random(seed);
    Idle idle(keeping(Keeps::look), random.point(2), random.between(5, 60));
    const View start = idle.view;
    for (int i = 0; i < 600; ++i) {
      if (random.chance(0.05)) idle.doSomething(random);
      idle.step();
      ASSERT_EQ(idle.view.yaw, start.yaw) << seed;
      ASSERT_EQ(idle.view.pitch, start.pitch);
      ASSERT_EQ(idle.view.heading, start.heading);
      ASSERT_FALSE(idle.view.aimKept);
    }
  }
}

TEST_P(HandsOff, WhereTheAimIsKeptTheLookReturnsWithTheFraming) {
  double turned = 0;
  for (const unsigned seed : seedsOf(200)) {
    Random random(seed);
    Idle idle(keeping(Keeps::aim), {0, 0, 0}, random.between(15, 60));
    const View start = idle.view;
    for (int round = 0; round < 3; ++round) {
      for (int i = random.whole(2, 60); i > 0; --i) {
        if (random.chance(0.2)) idle.doSomething(random);
        idle.step();
        turned = std::max(turned, std::abs(shortestTurn(start.yaw, idle.view.yaw)));
        ASSERT_LT(degreesOff(idle.view, start.aimPoint), 1e-6) << seed << " " << round;
      }
      idle.comeBack();
      for (int i = 0; i < 200; ++i) idle.step();
      ASSERT_NEAR(shortestTurn(start.yaw, idle.view.yaw), 0, 1e-9) << seed;
      ASSERT_NEAR(start.pitch, idle.view.pitch, 1e-9) << seed;
    }
  }
  EXPECT_GT(turned, degrees(1));
}

TEST_P(HandsOff, WalkingLeavesAtMostTheParallaxBetweenTheTwoDistances) {
  for (const unsigned seed : seedsOf(200)) {
    Random random(seed);
    CameraDesign plan = keeping(Keeps::aim);
    for (NamedFraming& named : plan.framings) named.framing.follow.halfLife = 0.05;
    Idle idle(plan, random.point(3), random.between(15, 60));
    for (int i = random.whole(1, 60); i > 0; --i) idle.step();
    const View before = idle.view;
    const double farther = (before.aimPoint - before.pivot).norm();
    const IntentSample raise = IntentSample::aim(0, true), lower = IntentSample::aim(0, false);
    idle.step({&raise, 1});
    for (int i = random.whole(40, 150); i > 0; --i) idle.step();
    const double nearer = (idle.view.aimPoint - idle.view.pivot).norm();
    idle.step({&lower, 1});
    for (int i = 0; i < 100; ++i) idle.step();
    // From the shoulder of one framing to that of the other, 0.2 m aside; the distances are known to a frame of
    // walking.
    const double parallax = 0.2 * std::abs(1 / farther - 1 / nearer);
    const double turn = std::hypot(shortestTurn(before.yaw, idle.view.yaw), before.pitch - idle.view.pitch);
    ASSERT_LE(turn, 1.02 * parallax + 0.2 * 5 / 120 / (nearer * nearer)) << seed << " " << farther << " " << nearer;
  }
}

/// The framing's limit closes in while the player looks beyond it: it takes the look along, off the point.
TEST(AimPoint, IsNotCalledKeptWhileALimitTurnsTheLook) {
  const CompiledDesign design(wardenDesign());
  const FarSphere world(30, {0, 1.68, 0});
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const IntentSample down[] = {IntentSample::look(0, {0, 1e5})}, aims[] = {IntentSample::aim(0, true)};
  camera.step(0.0, Intent{down}, wardenAt({0, 0, 0}), world, wide);
  View view = camera.step(1 / 60.0, {}, wardenAt({0, 0, 0}), world, wide);
  ASSERT_LT(view.pitch, degrees(-70));
  const Vector3d point = view.aimPoint;
  for (int i = 0; i < 60; ++i) {
    view = camera.step(1 / 60.0, i == 0 ? Intent{aims} : Intent(), wardenAt({0, 0, 0}), world, wide);
    if (view.aimKept) {
      EXPECT_LT(degreesOff(view, point), 0.1) << "frame " << i;
    }
  }
  EXPECT_NEAR(view.pitch, degrees(-60), 1e-9);
  EXPECT_GT(degreesOff(view, point), 5) << "the limit did turn it away";
}

}  // namespace
}  // namespace alpglow
