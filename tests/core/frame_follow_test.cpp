// Following on moving ground, under another up, at another scale, with a lead; and an orbit that trails.

#include "alpglow/base/half_life.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/follow/history.hpp"
#include "alpglow/view/view_transition.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::pixelOf;
using testing::Random;
using testing::wardenAt;
using testing::wide;

const NoObstacles open;

/// A cabin that swings along a curve and turns.
ReferenceFrame cabinAt(double time, bool turns = true) {
  ReferenceFrame cabin;
  cabin.id = 7;
  cabin.origin = {20 * std::sin(0.4 * time), 3 + std::sin(0.3 * time), -12 * std::cos(0.4 * time)};
  if (turns) cabin.rotation = Rotation(Eigen::AngleAxisd(wrapAngle(0.7 * time), Vector3d::UnitY()));
  cabin.velocity = {8 * std::cos(0.4 * time), 0.3 * std::cos(0.3 * time), 4.8 * std::sin(0.4 * time)};
  return cabin;
}

/// The same walk, on firm ground or on a frame.
Subject walkAt(double time, const ReferenceFrame& frame) {
  const Vector3d feet(std::sin(time), 0.1 * std::sin(3 * time), 0.7 * std::cos(1.3 * time));
  Subject warden;
  warden.frame = frame;
  warden.feet = frame.toWorld(feet);
  warden.head = frame.toWorld(feet + Vector3d(0, 1.68 - 0.3 * std::sin(time), 0));
  warden.velocity = frame.velocity;
  return warden;
}

/// q and −q are one rotation: a host that makes quaternions from matrices changes the sign wherever it likes. And a
/// host that multiplies floats drifts away from length 1.
TEST(Platform, SignAndDriftOfAQuaternionDoNotMatter) {
  Random random(82);
  for (const double toldRate : {0.0, 0.7}) {
    CameraDesign design;
    design.platform.turnsWithPlatform = true;
    const CompiledDesign compiled(design);
    Subject still = wardenAt({0, 0, 0});
    CharacterCamera one(compiled, still), signs(compiled, still);
    History kept, keptWithSigns;
    double worst = 0, apart = 0;
    for (int i = 0; i < 900; ++i) {
      const double time = i / 60.0;
      ReferenceFrame cabin = cabinAt(time);
      cabin.yawRate = toldRate;
      Subject here = walkAt(time, cabin);
      if (i < 30) here.frame = ReferenceFrame();  // and then it steps on
      Subject there = here;
      if (random.chance(0.5)) there.frame.rotation.coeffs() *= -1;
      there.frame.rotation.coeffs() *= 1 + random.between(-9e-4, 9e-4);
      there.frame.up *= 1 + random.between(-9e-4, 9e-4);
      const View a = one.step(1 / 60.0, {}, here, open, wide), b = signs.step(1 / 60.0, {}, there, open, wide);
      worst = std::max({worst, (a.position - b.position).norm(), std::abs(shortestTurn(a.yaw, b.yaw))});
      EXPECT_EQ(b.faults, 0u);
      kept.add(time, here);
      keptWithSigns.add(time, there);
      const Subject drawn = kept.at(time - 0.01), drawnWithSigns = keptWithSigns.at(time - 0.01);
      apart = std::max({apart, (drawn.feet - drawnWithSigns.feet).norm(),
                        std::abs(shortestTurn(drawn.heading, drawnWithSigns.heading)),
                        (drawn.velocity - drawnWithSigns.velocity).norm(),
                        std::abs(drawn.frame.yawRate - drawnWithSigns.frame.yawRate)});
    }
    EXPECT_LT(worst, 1e-9) << toldRate;
    EXPECT_LT(apart, 1e-9) << toldRate;
  }
}

TEST(SubjectProblem, NamesTheFieldItsValueAndWhatIsAllowed) {
  const auto problem = [](auto&& change) {
    Subject subject = wardenAt({1, 2, 3});
    change(subject);
    EXPECT_EQ(subject.legal(), problemOf(subject).empty());
    return problemOf(subject);
  };
  EXPECT_EQ(problem([](Subject&) {}), "");
  EXPECT_EQ(problem([](Subject& s) { s.head.y() = std::nan(""); }), "head is (1, nan, 3): allowed is -1e9 to 1e9 each");
  EXPECT_EQ(problem([](Subject& s) { s.frame.rotation.coeffs() *= 1.5; }),
            "frame.rotation has length 1.5: allowed is 0.999 to 1.001");
  EXPECT_EQ(problem([](Subject& s) { s.frame.up *= 0; }), "frame.up has length 0: allowed is 0.999 to 1.001");
  EXPECT_EQ(problem([](Subject& s) { s.frame.scale = 0; }), "frame.scale is 0: allowed is 0.001 to 1000");
  EXPECT_EQ(problem([](Subject& s) { s.frame.yawRate = 2e4; }), "frame.yawRate is 20000 rad/s: allowed is -1e4 to 1e4");
  EXPECT_EQ(problem([](Subject& s) { s.heading = 1e300; }), "heading is 1e+300: allowed is -1e9 to 1e9");
}

TEST(Platform, ShowsTheSameScreenPositionsAsFirmGround) {
  for (const bool damped : {false, true}) {
    CameraDesign design;
    design.framings[0].framing.follow.kind = damped ? FollowKind::criticallyDamped : FollowKind::exponential;
    design.lead.time = 0.2;
    const CompiledDesign compiled(design);
    CharacterCamera firm(compiled, walkAt(0, {})), riding(compiled, walkAt(0, cabinAt(0)));
    double worst = 0, time = 0;
    Random random(81);
    for (int i = 0; i < 2000; ++i) {
      const double dt = i == 0 ? 0 : random.between(0.002, 0.03);
      time += dt;
      const Subject still = walkAt(time, {}), moving = walkAt(time, cabinAt(time));
      const IntentSample samples[] = {IntentSample::look(0, {random.between(-9, 9), random.between(-4, 4)})};
      const View a = firm.step(dt, Intent{samples}, still, open, wide);
      const View b = riding.step(dt, Intent{samples}, moving, open, wide);
      worst = std::max(worst, (pixelOf(a, still.head) - pixelOf(b, moving.head)).norm());
      worst = std::max(worst, (pixelOf(a, still.feet) - pixelOf(b, moving.feet)).norm());
    }
    EXPECT_LT(worst, 0.1) << "pixels at 1080p";
  }
}

TEST(Platform, ItsYawIsInheritedOnlyIfTheDesignSaysSo) {
  CameraDesign design;
  design.platform.turnsWithPlatform = false;
  const CompiledDesign stays(design), turns{CameraDesign()};
  CharacterCamera a(stays, walkAt(0, cabinAt(0))), b(turns, walkAt(0, cabinAt(0)));
  for (int i = 0; i <= 60; ++i) {
    const Subject warden = walkAt(i / 60.0, cabinAt(i / 60.0));
    EXPECT_EQ(a.update(i > 0 ? 1 / 60.0 : 0, warden, open, wide).yaw, 0);
    b.update(i > 0 ? 1 / 60.0 : 0, warden, open, wide);
  }
  EXPECT_NEAR(b.heading(), 0.7, 1e-9) << "and the heading turns along";
}

TEST(Platform, GettingOnAndOffKeepsTheSpeedOfTheCameraContinuous) {
  // Runs along a train, boards it, and jumps off again; the train also turns.
  CameraDesign plain;
  plain.framings[0].framing.follow.halfLife = 0.12;
  plain.framings[0].framing.follow.leash = 1.5;
  const CompiledDesign design(plain);
  constexpr double dt = 1e-3, speed = 5;
  CharacterCamera camera(design, wardenAt({0, 0, 0}, 0, {speed, 0, 0}));
  Vector3d before = Vector3d::Zero(), velocity = Vector3d::Zero();
  double fastestChange = 0, worstYawChange = 0, yawBefore = 0, yawRate = 0;
  int changes = 0;
  for (int i = 0; i < 6000; ++i) {
    const double time = i * dt;
    Subject warden = wardenAt({speed * time, 0, 0}, 0, {speed, 0, 0});
    if (time > 2 && time < 4) {
      warden.frame.id = 3;
      warden.frame.origin = warden.feet;
      warden.frame.velocity = {speed, 0, 0};
      warden.frame.rotation = Rotation(Eigen::AngleAxisd(0.5 * (time - 2), Vector3d::UnitY()));
    }
    const View view = camera.update(i > 0 ? dt : 0, warden, open, wide);
    const Vector3d now = (view.pivot - before) / dt;
    const double rate = shortestTurn(yawBefore, view.yaw) / dt;
    if (i > 2) fastestChange = std::max(fastestChange, (now - velocity).norm());
    if (i > 2) worstYawChange = std::max(worstYawChange, std::abs(rate - yawRate));
    if (view.events & Event::platformChanged) ++changes;
    before = view.pivot, velocity = now, yawBefore = view.yaw, yawRate = rate;
  }
  EXPECT_EQ(changes, 2);
  EXPECT_LT(fastestChange, 0.06) << "m/s from one millisecond to the next";
  EXPECT_LT(toDegrees(worstYawChange), 0.2) << "degrees per second";
  EXPECT_NEAR(toDegrees(yawBefore), toDegrees(0.5 * 2), 3) << "what it turned while riding";
}

TEST(OtherUp, TheCameraIsUprightWhereverUpIs) {
  // Once around a small planet; and the heading is carried along the way, so walking on goes on.
  const CompiledDesign design{CameraDesign()};
  const auto at = [](double angle) {
    Subject warden;
    const Rotation turn(Eigen::AngleAxisd(-angle, Vector3d::UnitX()));
    warden.frame.up = turn * Vector3d::UnitY();
    warden.feet = 20 * warden.frame.up;
    warden.head = 21.68 * warden.frame.up;
    warden.velocity = turn * Vector3d(0, 0, -4);
    return warden;
  };
  CharacterCamera camera(design, at(0));
  for (int i = 0; i <= 1200; ++i) {
    const Subject warden = at(2 * pi * i / 1200);
    const View view = camera.update(i > 0 ? 1 / 60.0 : 0, warden, open, wide);
    ASSERT_NEAR(view.rotation().col(0).dot(warden.frame.up), 0, 1e-6) << "the horizon is level";
    ASSERT_NEAR(view.forward().dot(warden.frame.up), std::sin(degrees(-10)), 1e-6);
    ASSERT_GT(view.forward().dot(warden.velocity), 3.9 * std::cos(degrees(10))) << "still from behind";
    ASSERT_EQ(view.yaw, 0);
  }
}

TEST(OtherUp, AFlipOfGravityTurnsTheViewOverSmoothly) {
  const CompiledDesign design{CameraDesign()};
  Subject warden = wardenAt({0, 0, 0});
  CharacterCamera camera(design, warden);
  View before = camera.update(0.0, warden, open, wide);
  warden.frame.up = Vector3d(0, -1, 0);
  warden.head = warden.feet - Vector3d(0, 1.68, 0);
  double fastest = 0;
  for (int i = 0; i < 1200; ++i) {
    const View view = camera.update(1e-3, warden, open, wide);
    fastest = std::max(fastest, view.orientation().angularDistance(before.orientation()) / 1e-3);
    before = view;
  }
  EXPECT_LT(fastest, 1.1 * (15.0 / 8) * pi / 0.6) << "half a turn in 0.6 s";
  EXPECT_NEAR(before.rotation().col(1).y(), -std::cos(degrees(10)), 1e-6);
}

TEST(Scale, ASmallSubjectIsFilmedTheSameWay) {
  const CompiledDesign design{CameraDesign()};
  Subject large = wardenAt({0, 0, 0}), small = large;
  small.frame.scale = 0.1;
  small.head = small.feet + 0.1 * (large.head - large.feet);
  CharacterCamera a(design, large), b(design, small);
  const View whole = a.update(0.0, large, open, wide), tenth = b.update(0.0, small, open, wide);
  EXPECT_LT((0.1 * whole.position - tenth.position).norm(), 1e-12);
  EXPECT_NEAR(tenth.nearPlane, 0.1 * whole.nearPlane, 1e-15);
}

TEST(Lead, TendsToItsTimeAheadAndNoFarther) {
  CameraDesign design;
  design.lead.time = 0.3;
  design.lead.longest = 0.8;
  design.framings[0].framing.follow.halfLife = 0;
  design.framings[0].framing.shoulder = 0;
  const CompiledDesign compiled(design);
  for (const double speed : {2.0, 10.0}) {
    CharacterCamera camera(compiled, wardenAt({0, 0, 0}));
    View view;
    for (int i = 0; i <= 400; ++i) {
      const Subject warden = wardenAt({0, 0, -speed * i / 60}, 0, {0, 0, -speed});
      view = camera.update(i > 0 ? 1 / 60.0 : 0, warden, open, wide);
    }
    EXPECT_NEAR(view.head.z() - view.pivot.z(), speed == 2 ? 0.6 : 0.8, 1e-3);
  }
}

/// What a change to another follow in the middle of a stop does to the camera's speed, m/s in a sixtieth of a second.
double speedStepAtChangeTo(double halfLife) {
  CameraDesign made;
  Framing& slow = made.framings[0].framing;
  slow.follow.kind = FollowKind::criticallyDamped;
  slow.follow.halfLife = 0.5;
  slow.follow.leash = 2;
  made.framings.push_back(made.framings[0]);
  made.framings[1].name = "close";
  made.framings[1].when = "aiming";
  made.framings[1].framing.follow.halfLife = halfLife;
  made.framings[1].framing.transition = 0.3;
  const CompiledDesign design(made);
  constexpr double dt = 1 / 60.0;
  Vector3d feet(0, 0, 0);
  CharacterCamera camera(design, wardenAt(feet));
  double most = 0;
  Vector3d before[2] = {Vector3d::Zero(), Vector3d::Zero()};
  for (int i = 0; i < 240; ++i) {
    const Vector3d velocity(i < 120 ? 5 : 0, 0, 0);
    feet += velocity * dt;
    if (i == 123) camera.setCondition(Condition::aiming, true);
    const Vector3d at = camera.step(i > 0 ? dt : 0, {}, wardenAt(feet, 0, velocity), open, wide).pivot;
    if (i > 123) most = std::max(most, (at - 2 * before[0] + before[1]).norm() / dt);
    before[1] = before[0], before[0] = at;
  }
  return most;
}

TEST(DampedFollow, EnteringAMuchFasterOneDoesNotSnap) {
  for (const double halfLife : {0.2, 0.05, 0.01}) EXPECT_LT(speedStepAtChangeTo(halfLife), 2) << halfLife;
}

/// The largest step of the camera's vertical speed from one millisecond to the next, while it falls and lands on its
/// leash.
double speedStepOfLanding(FollowKind kind) {
  CameraDesign made;
  FollowSettings& follow = made.framings[0].framing.follow;
  follow.kind = kind;
  follow.verticalLeash = 0.3;
  const CompiledDesign design(made);
  constexpr double dt = 1e-3, fall = 8;
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  double most = 0, before[2] = {};
  for (int i = 0; i < 2000; ++i) {
    const bool falls = i < 1000;
    const double height = -fall * dt * std::min(i, 1000);
    Subject warden = wardenAt({0, height, 0}, 0, {0, falls ? -fall : 0, 0});
    warden.onGround = !falls;
    const double at = camera.step(i > 0 ? dt : 0, {}, warden, open, wide).pivot.y();
    if (i > 900) most = std::max(most, std::abs(at - 2 * before[0] + before[1]) / dt);
    before[1] = before[0], before[0] = at;
  }
  return most;
}

TEST(DampedFollow, KeepsItsSpeedThroughALandingOnTheLeash) {
  EXPECT_LT(speedStepOfLanding(FollowKind::criticallyDamped), 0.3);
  EXPECT_GT(speedStepOfLanding(FollowKind::exponential), 2) << "has no speed of its own";
}

TEST(Lag, TheOrbitTrailsTheShortWayRoundAndTheHeadingDoesNotWait) {
  CameraDesign design;
  design.framings[0].framing.orbitHalfLife = 0.1;
  const CompiledDesign compiled(design);
  CharacterCamera camera(compiled, wardenAt({0, 0, 0}, degrees(170)));
  camera.update(0.0, wardenAt({0, 0, 0}), open, wide);
  const IntentSample samples[] = {IntentSample::look(0, {-400, 0})};
  camera.look(0.0, Intent{samples});
  EXPECT_NEAR(toDegrees(camera.heading()), -170, 1e-9) << "at once";
  const View half = camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide);
  EXPECT_NEAR(toDegrees(shortestTurn(half.yaw, pi)), 0, 1e-9) << "half of the way after a half-life, through the back";
  EXPECT_NEAR(toDegrees(half.heading), -170, 1e-9);
}

TEST(Tilt, TheCameraOrbitsLowerThanItLooks) {
  CameraDesign design;
  design.framings[0].framing.tilt = degrees(12);
  const CompiledDesign compiled(design);
  CharacterCamera camera(compiled, wardenAt({0, 0, 0}));
  const View view = camera.update(0.0, wardenAt({0, 0, 0}), open, wide);
  EXPECT_NEAR(toDegrees(view.pitch), -10, 1e-12);
  EXPECT_NEAR((view.position - view.pivot).y(), 3 * std::sin(degrees(22)), 1e-9);
}

}  // namespace
}  // namespace alpglow
