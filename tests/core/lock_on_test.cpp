// Lock on: both in the screen where that is possible, and never a spin.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;
using testing::standing;
using testing::wardenAt;
using testing::wide;

const NoObstacles open;

/// Whether a point lies inside the middle part of the screen.
bool inside(const View& view, const Vector3d& point, double part) {
  const Vector3d seen = view.rotation().transpose() * (point - view.position);
  const double half = part * std::tan(view.fieldOfView / 2);
  return seen.z() < 0 && std::abs(seen.y()) <= -seen.z() * half && std::abs(seen.x()) <= -seen.z() * half * view.aspect;
}

/// Tries poses all around, at all distances and pitches: whether any holds both, with a little to spare. The framing
/// has no lag here, so the camera is a plain function of the pose.
bool anyPoseHolds(const CameraDesign& design, const Subject& subject, const Vector3d& target) {
  const Framing& framing = design.framings[0].framing;
  const double part = design.lock.screenFraction * 0.97;
  View view;
  view.fieldOfView = framing.lens.lens().verticalFieldOfView();
  for (int d = 0; d <= 6; ++d) {
    const double distance =
        framing.distanceRange.nearest + (framing.distanceRange.farthest - framing.distanceRange.nearest) * d / 6;
    for (int p = 0; p <= 60; ++p) {
      view.pitch = framing.pitch.low + (framing.pitch.high - framing.pitch.low) * p / 60;
      for (int y = 0; y < 120; ++y) {
        view.yaw = wrapAngle(2 * pi * y / 120);
        const Vector3d pivot = subject.head + framing.anchorRise * Vector3d::UnitY() +
                               framing.shoulder * Vector3d(rotationOf(view.yaw, 0).col(0));
        view.position = pivot + distance * rotationOf(view.yaw, view.pitch - framing.tilt).col(2);
        if (inside(view, subject.head, part) && inside(view, target, part)) return true;
      }
    }
  }
  return false;
}

CameraDesign plainLock(Random& random) {
  CameraDesign design;
  Framing& framing = design.framings[0].framing;
  framing.follow.halfLife = framing.follow.verticalHalfLife = framing.eyeHalfLife = 0;
  framing.shoulder = random.between(-0.7, 0.7) * (random.chance(0.4) ? 2 : 1);
  framing.distance = random.between(1.2, 4);
  framing.distanceRange = {1.2, random.between(4, 8)};
  framing.pitch = {degrees(random.between(-80, -40)), degrees(random.between(30, 80))};
  framing.tilt = random.chance(0.3) ? degrees(random.between(-8, 8)) : 0;
  design.lock.range = 100;
  design.lock.screenFraction = random.between(0.5, 0.9);
  return design;
}

TEST(LockOn, HoldsAStillTargetAndTheSubjectWhereverAnyPoseDoes) {
  Random random(90);
  int possible = 0, raised = 0;
  for (int run = 0; run < 250; ++run) {
    const CameraDesign plain = plainLock(random);
    const CompiledDesign design(plain);
    const Subject subject = wardenAt(random.point(3), random.between(-pi, pi));
    Target target;
    Vector3d direction = random.point(1).normalized();
    if (run % 2 == 0) direction = Vector3d(direction.x(), 2.5 * direction.y(), direction.z()).normalized();
    target.position = subject.head + direction * random.between(0.9, 25);
    CharacterCamera camera(design, subject);
    camera.update(0.0, subject, open, wide);
    camera.lockOn(target);
    View view;
    // Half a turn at the cap, and ten half-lives of turn and zoom. Near the vertical through the pivot yaw is slower.
    const double across = std::hypot(target.position.x() - subject.head.x(), target.position.z() - subject.head.z());
    if (across < 0.9) continue;
    const double time = pi / plain.lock.cap + 10 * (plain.lock.halfLife + plain.lock.zoomHalfLife);
    for (double t = 0; t < time + 1; t += 1 / 60.0) view = camera.step(1 / 60.0, {}, subject, open, wide);
    ASSERT_EQ(view.lock, target.id);
    ASSERT_LT(toDegrees(view.lockError), 0.01);
    if (!anyPoseHolds(plain, subject, target.position)) continue;
    ++possible;
    if (view.freeDistance > plain.framings[0].framing.distance + 0.01) ++raised;
    ASSERT_TRUE(inside(view, target.position, plain.lock.screenFraction + 1e-3)) << "run " << run;
    ASSERT_TRUE(inside(view, subject.head, plain.lock.screenFraction + 1e-3)) << "run " << run;
  }
  EXPECT_GT(possible, 120);
  EXPECT_GT(raised, 5);
}

/// A target that moves along an arc around, over or through the subject.
struct Flight {
  Vector3d start, velocity;
  double turn;
  Vector3d at(double t) const {
    const Eigen::AngleAxisd around(turn * t, Vector3d::UnitY());
    return around * Vector3d(start + velocity * t);
  }
};

TEST(LockOn, NeverTurnsFasterThanItsCapAndHoldsMovingTargets) {
  Random random(91);
  int held = 0, checked = 0;
  for (int run = 0; run < 150; ++run) {
    const CameraDesign plain = plainLock(random);
    const CompiledDesign design(plain);
    const Subject subject = wardenAt({0, 0, 0});
    Flight flight{random.point(6), random.point(2), random.between(-1.5, 1.5)};
    if (run % 5 == 0)
      flight = {subject.head + Vector3d(random.between(-4, 4), 0, -4), {0, 0, 2}, 0};     // past or through
    if (run % 7 == 0) flight = {subject.head - 3 * flight.velocity, flight.velocity, 0};  // through the head
    if (run % 11 == 0) flight = {Vector3d(0, 8, 0.001), {0, -1, 0}, 1};                   // from overhead
    CharacterCamera camera(design, subject);
    View before = camera.update(0.0, subject, open, wide);
    const double settle = pi / plain.lock.cap + 10 * (plain.lock.halfLife + plain.lock.zoomHalfLife);
    double calm = 0, goalYaw = 0, goalPitch = 0;
    constexpr double dt = 1 / 60.0;
    for (int i = 0; i < 360; ++i) {
      const double t = i * dt;
      Target target;
      target.position = flight.at(t);
      target.velocity = (flight.at(t + 1e-5) - flight.at(t)) / 1e-5;
      camera.lockOn(target);
      const View view = camera.step(dt, {}, subject, open, wide);
      ASSERT_TRUE(view.position.allFinite() && std::isfinite(view.yaw + view.pitch + view.fieldOfView));
      ASSERT_LE(std::abs(shortestTurn(before.yaw, view.yaw)), plain.lock.cap * dt + 1e-9) << "run " << run;
      ASSERT_LE(std::abs(view.pitch - before.pitch), plain.lock.cap * dt + 1e-9);
      ASSERT_EQ(view.roll, 0);
      before = view;
      // How fast one would have to turn: the directions to the target, and what limits them.
      const Vector3d direction = flight.at(t + dt) - subject.head;
      const double yaw = std::atan2(-direction.x(), -direction.z()),
                   pitch = std::atan2(direction.y(), std::hypot(direction.x(), direction.z()));
      const double needed = std::max(std::abs(shortestTurn(goalYaw, yaw)), std::abs(pitch - goalPitch)) / dt;
      goalYaw = yaw, goalPitch = pitch;
      const bool farFromVertical = std::hypot(direction.x(), direction.z()) > 1.4;
      calm = needed < 0.8 * plain.lock.cap && farFromVertical ? calm + dt : 0;
      if (calm < settle || i % 6 != 0) continue;
      const Vector3d seen = flight.at(t + dt);
      if (!anyPoseHolds(plain, subject, seen)) continue;
      ++checked;
      const double slack = 0.03;  // the goal of the next frame is a straight line ahead
      if (inside(view, seen, plain.lock.screenFraction + slack) &&
          inside(view, subject.head, plain.lock.screenFraction + slack))
        ++held;
    }
  }
  EXPECT_GT(checked, 500);
  EXPECT_EQ(held, checked);
}

TEST(LockOn, LooksLeanTheViewAndAFlickAsksForTheNextTarget) {
  const CompiledDesign design{CameraDesign()};
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  camera.update(0.0, subject, open, wide);
  const Target targets[] = {{1, {0, 2, -10}, Vector3d::Zero(), 0.5},
                            {2, {4, 2, -10}, Vector3d::Zero(), 0.5},
                            {3, {-3, 2, -9}, Vector3d::Zero(), 0.5}};
  camera.lockOn(targets[0]);
  View view;
  for (int i = 0; i < 60; ++i) view = camera.step(1 / 60.0, {}, subject, open, wide);
  const double yaw = view.yaw;
  const IntentSample nudge[] = {IntentSample::look(0, {60, 0})};
  view = camera.step(0.0, Intent{nudge}, subject, open, wide);
  EXPECT_NEAR(toDegrees(yaw - view.yaw), 3, 0.01);
  EXPECT_FALSE(view.events & Event::targetFlick);
  EXPECT_EQ(camera.heading(), yaw) << "only the view nudges";
  for (int i = 0; i < 120; ++i) view = camera.step(1 / 60.0, {}, subject, open, wide);
  EXPECT_NEAR(view.yaw, yaw, 1e-3) << "and comes back";
  const IntentSample flick[] = {IntentSample::look(0, {200, 10}), IntentSample::look(0.01, {200, 0})};
  view = camera.step(1 / 60.0, Intent{flick}, subject, open, wide);
  EXPECT_TRUE(view.events & Event::targetFlick);
  EXPECT_LE(std::abs(shortestTurn(yaw, view.yaw)), degrees(8) + 1e-9) << "the nudge has a limit";
  const int next = nextTarget(view, targets, view.lock, view.flick, RankingSettings());
  ASSERT_EQ(next, 1) << "to the right";
  camera.lockOn(targets[next]);
  view = camera.step(1 / 60.0, {}, subject, open, wide);
  EXPECT_TRUE(view.events & Event::lockBegan);
  EXPECT_FALSE(view.events & Event::targetFlick) << "once a flick";
  EXPECT_EQ(nextTarget(view, targets, 2, {0, 1}, RankingSettings()), -1) << "nothing above";
  EXPECT_EQ(bestTarget(view, targets, RankingSettings()), 0) << "nearest to the crosshair before turning";
}

/// Also past one close by, whose direction turns fast, and which is close to the pivot's vertical.
TEST(LockOn, TurnsTheSameWayAtEveryFrameRatePastATargetCloseBy) {
  for (const double aside : {0.2, 0.5, 1.0, 2.0}) {
    const CompiledDesign design{CameraDesign()};
    const auto run = [&](int framesASecond) {
      const Vector3d velocity(0, 0, -3);
      const auto at = [&](double time) { return wardenAt(Vector3d(0, 0, 4) + time * velocity, 0, velocity); };
      CharacterCamera camera(design, at(0));
      std::vector<View> views;
      for (int i = 0; i <= 3 * framesASecond; ++i) {
        camera.lockOn({1, {aside, 1, 0}, {0, 0, 0}, 0.3});
        const double dt = i == 0 ? 0 : 1.0 / framesASecond;
        const View view = camera.step(dt, {}, at(static_cast<double>(i) / framesASecond), open, wide);
        if (i % (framesASecond / 24) == 0) views.push_back(view);
      }
      return views;
    };
    const std::vector<View> fine = run(2400);
    for (const int rate : {24, 48, 240}) {
      const std::vector<View> coarse = run(rate);
      double turned = 0, moved = 0;
      for (std::size_t i = 0; i < fine.size(); ++i) {
        turned = std::max(turned, std::abs(shortestTurn(fine[i].yaw, coarse[i].yaw)));
        moved = std::max(moved, (fine[i].position - coarse[i].position).norm());
      }
      EXPECT_LT(turned, degrees(0.5)) << aside << " m at " << rate;
      EXPECT_LT(moved, 0.025) << aside << " m at " << rate;
    }
  }
}

TEST(LockOn, EndsWithoutAJumpWhenTheTargetIsLost) {
  CameraDesign plain;
  plain.lock.widest = degrees(75);
  const CompiledDesign design(plain);
  const Subject subject = wardenAt({0, 0, 0});
  enum class Loss { range, hidden, gone, bad };
  for (const Loss loss : {Loss::range, Loss::hidden, Loss::gone, Loss::bad}) {
    CharacterCamera camera(design, subject);
    camera.update(0.0, subject, open, wide);
    Target target{5, {1, 9, -6}, Vector3d::Zero(), 0.2};
    testing::Walls wall;
    wall.walls.push_back({Vector3d(0, 0, 1), -4});
    View before;
    bool ended = false;
    double endedAt = 0;
    for (int i = 0; i < 400; ++i) {
      const bool late = i >= 120;
      if (loss == Loss::range && late) target.position = {1, 9, -60};
      if (loss == Loss::bad && late) target.position = {NAN, 0, 0};
      if (loss == Loss::gone && i == 120) camera.endLock();
      if (i == 0 || (!ended && !(loss == Loss::gone && late))) camera.lockOn(target);
      const bool hide = loss == Loss::hidden && late;
      const View view =
          hide ? camera.step(1 / 60.0, {}, subject, wall, wide) : camera.step(1 / 60.0, {}, subject, open, wide);
      if (i > 1) {
        ASSERT_LT((view.position - before.position).norm(), 0.35);
        ASSERT_LE(std::abs(shortestTurn(before.yaw, view.yaw)), plain.lock.cap / 60 + 1e-9);
        ASSERT_LT(std::abs(view.fieldOfView - before.fieldOfView), degrees(2));
      }
      if ((view.events & (Event::lockLost | Event::lockEnded)) && !ended) ended = true, endedAt = i / 60.0;
      before = view;
    }
    if (loss == Loss::bad) {
      EXPECT_FALSE(ended) << "a bad number leaves the last good target";
      EXPECT_TRUE(before.faults & Fault::badTarget);
    } else {
      EXPECT_TRUE(ended);
      EXPECT_NEAR(endedAt, loss == Loss::hidden ? 2 + plain.lock.hiddenFor : 2, 0.05);
      EXPECT_NEAR(before.freeDistance, 3, 0.01) << "the distance has come back";
      EXPECT_NEAR(toDegrees(before.fieldOfView), 60, 0.1);
    }
  }
}

const Subject still = wardenAt({0, 0, 0});

TEST(LockOn, ATargetIsHiddenForAsLongAsItIsHiddenAtOnce) {
  CameraDesign plain;
  plain.lock.hiddenFor = 1;
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  testing::Walls wall, behind;
  wall.walls.push_back({{0, 0, 1}, -4});
  behind.walls.push_back({{0, 0, 1}, -9.7});  // through the target, which is large
  camera.lockOn({1, {0, 1.5, -10}, Vector3d::Zero(), 0.5});
  for (int i = 0; i < 3; ++i) {
    standing(camera, 0.7, {}, wall);
    standing(camera, 0.1);
    EXPECT_TRUE(camera.locked()) << i;
  }
  standing(camera, 2, {}, behind);
  EXPECT_TRUE(camera.locked());
}

TEST(Targets, OutOfRangeOrWhereTheCameraIsCostEverything) {
  View view;
  view.position = view.head = {0, 2, 0};
  RankingSettings settings;
  const auto cost = [&](const Vector3d& at) { return targetCost(view, {1, at, {0, 0, 0}, 0.5}, settings); };
  EXPECT_LT(cost({0, 2, -settings.range + 0.01}), 1e9);
  EXPECT_GT(cost({0, 2, -settings.range - 0.01}), 1e9);
  EXPECT_GT(cost(view.position), 1e9);
}

TEST(LockOn, ComfortCapsWhatTurnsByItself) {
  Preferences calm;
  calm.comfort.autoTurnCap = degrees(30);
  const CompiledDesign design(CameraDesign(), calm);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.update(0.0, wardenAt({0, 0, 0}), open, wide);
  camera.lockOn({1, {10, 1.5, 0}, Vector3d::Zero(), 0.5});
  double before = camera.heading();
  for (int i = 0; i < 60; ++i) {
    camera.step(0.01, {}, wardenAt({0, 0, 0}), open, wide);
    ASSERT_LE(std::abs(shortestTurn(before, camera.heading())), degrees(0.3) + 1e-12);
    before = camera.heading();
  }
  EXPECT_LT(before, -0.1) << "but it does turn";
}

TEST(LockOn, APauseKeepsTheLockAndRestsTheSway) {
  CameraDesign plain = testing::wardenDesign();
  plain.framings[0].framing.sway = degrees(1);
  plain.lock.hiddenFor = 0.5;
  const CompiledDesign design(plain);
  testing::Walls wall;
  wall.walls.push_back({{0, 0, 1}, -4});  // hides the target
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.lockOn({1, {0, 1.5, -10}, Vector3d::Zero(), 0.5});
  View view = camera.step(0.1, {}, wardenAt({0, 0, 0}), wall, wide);
  const double sway = view.swayPitch;
  for (int i = 0; i < 100; ++i) view = camera.step({0.1, 0.0}, {}, wardenAt({0, 0, 0}), wall, wide);
  EXPECT_TRUE(camera.locked()) << "hidden for ten seconds of the player's clock only";
  EXPECT_EQ(view.swayPitch, sway);
  for (int i = 0; i < 10; ++i) view = camera.step(0.1, {}, wardenAt({0, 0, 0}), wall, wide);
  EXPECT_FALSE(camera.locked());
  EXPECT_NE(view.swayPitch, sway);
}

TEST(LockOn, OnlyTheDirectionOfAFlickCounts) {
  View view;
  view.fieldOfView = degrees(60);
  const Target targets[] = {{1, {0, 0, -10}, Vector3d::Zero(), 0}, {2, {2, 1.9, -10}, Vector3d::Zero(), 0}};
  for (const double strength : {0.01, 1.0, 30.0}) {
    for (const double angle : {-25.0, 25.0, 65.0, 115.0}) {
      const double direction = degrees(angle);
      const Rate flick{strength * std::cos(direction), strength * std::sin(direction)};
      const bool toward = std::abs(angle - 43.5) < 60;
      EXPECT_EQ(nextTarget(view, targets, 1, flick, {}), toward ? 1 : -1) << strength << ", " << angle;
    }
  }
}

TEST(LockOn, AFlickGoesToNoTargetOutOfRange) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const View view = camera.update(0.0, wardenAt({0, 0, 0}), open, wide);
  const Target targets[] = {{1, {0, 2, -10}, Vector3d::Zero(), 0.5}, {2, {20, 2, -90}, Vector3d::Zero(), 0.5}};
  EXPECT_EQ(nextTarget(view, targets, 1, {1, 0}, RankingSettings()), -1);
  RankingSettings far;
  far.range = 200;
  EXPECT_EQ(nextTarget(view, targets, 1, {1, 0}, far), 1);
}

}  // namespace
}  // namespace alpglow
