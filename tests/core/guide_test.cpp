// The game turns the look, and the player keeps a share.

#include "alpglow/base/half_life.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wide;

CameraDesign guided() {
  CameraDesign design;
  design.guide = {degrees(60), 0.2, 0.4};
  design.look.turnHalfLife = 0;
  design.swingBack.rate = degrees(120);
  design.swingBack.holdoff = 1;
  return design;
}

/// A warden who stands and is guided; the stick is held all the while.
struct Standing {
  explicit Standing(double framesPerSecond, Rate held = {}) : dt(1 / framesPerSecond), stick(held) {}
  void run(double seconds) {
    const IntentSample held[] = {IntentSample::turn(0, stick)};
    for (int i = 0; i < std::lround(seconds / dt); ++i)
      view = camera.step(dt, Intent{held}, wardenAt({0, 0, 0}), open, wide);
  }
  const CompiledDesign design{guided()};
  const NoObstacles open;
  CharacterCamera camera{design, wardenAt({0, 0, 0})};
  double dt;
  Rate stick;
  View view;
};

TEST(Guide, TurnsToADirectionNoFasterThanItsRateAtEveryFrameRate) {
  double yaws[3] = {};
  for (const double fps : {24.0, 120.0, 1000.0}) {
    Standing warden(fps);
    GuideGoal goal;
    goal.yaw = degrees(100), goal.pitch = degrees(-30);
    warden.camera.guide(goal);
    double fastest = 0, last = 0;
    for (int i = 1; i <= 8; ++i) {
      warden.run(0.25);
      fastest = std::max(fastest, (warden.view.yaw - last) / 0.25);
      last = warden.view.yaw;
      double& yaw = yaws[i == 2 ? 0 : i == 4 ? 1 : 2];
      if (fps == 24) yaw = last;
      if (i != 2 && i != 4 && i != 8) continue;
      EXPECT_NEAR(last, yaw, fps == 24 ? 1 : 1e-9) << fps << " fps, " << 0.25 * i;
    }
    EXPECT_NEAR(fastest, degrees(60), 1e-9);
    warden.run(5);
    EXPECT_NEAR(warden.view.yaw, degrees(100), 1e-6);
    EXPECT_NEAR(warden.view.pitch, degrees(-30), 1e-6);
    EXPECT_EQ(warden.view.handShare, 0);
  }
}

TEST(Guide, LeavesAShareToThePlayerWhichPullsAgainstIt) {
  // A stick that comes to 20°/s after the share holds the look that times h/ln 2 from the goal.
  for (const double fps : {24.0, 144.0, 1000.0}) {
    Standing warden(fps, {-0.5, 0});
    const double rate = 0.5 * warden.design.design().look.yawRate;
    warden.camera.guide(GuideGoal::along(0, degrees(20) / rate));
    warden.run(6);
    EXPECT_NEAR(warden.view.yaw, degrees(20) * 0.2 / std::log(2.0), 1e-6) << fps;
    EXPECT_NEAR(warden.view.handShare, degrees(20) / rate, 1e-12);
  }
}

TEST(Guide, GivesTheHandBackGentlyAndSwingingBackWaits) {
  Standing warden(60);
  warden.camera.guide(GuideGoal::along(degrees(40)));
  warden.run(4);
  const IntentSample moved[] = {IntentSample::look(0, {-100, 0})};
  warden.camera.step(warden.dt, Intent{moved}, wardenAt({0, 0, 0}), warden.open, wide);
  warden.run(0.1);
  EXPECT_NEAR(warden.view.yaw, degrees(40), 1e-3) << "nothing of the hand counts";
  EXPECT_GT(warden.view.holdoff, 0.9);
  warden.camera.endGuide();
  EXPECT_FALSE(warden.camera.guided());
  warden.run(0.2);
  EXPECT_NEAR(warden.view.handShare, 0.5, 0.05);
  warden.run(0.3);
  EXPECT_EQ(warden.view.handShare, 1);
  EXPECT_NEAR(warden.view.yaw, degrees(40), 1e-3) << "and it stays where it is";
}

TEST(Guide, BringsAPointUnderTheCrosshairAlsoWhileTheSubjectWalksAndTheOriginMoves) {
  Standing warden(60);
  Vector3d tower(6, 9, -14), feet(0, 0, 0);
  for (int i = 0; i < 400; ++i) {
    feet.z() -= 1.5 / 60;
    if (i == 200) {
      const Vector3d offset(1000, -3, 20);
      warden.camera.shift(offset);
      tower += offset, feet += offset;
    } else {
      warden.camera.guide(GuideGoal::toward(tower));
    }
    warden.view = warden.camera.step(1.0 / 60, {}, wardenAt(feet, 0, {0, 0, -1.5}), warden.open, wide);
  }
  const Vector3d way = tower - warden.view.position;
  EXPECT_LT(way.cross(warden.view.forward()).norm() / way.norm(), 0.03) << "it runs behind by its half-life";
  for (int i = 0; i < 300; ++i) {
    warden.camera.guide(GuideGoal::toward(tower));
    warden.view = warden.camera.step(1.0 / 60, {}, wardenAt(feet), warden.open, wide);
  }
  const Vector3d now = tower - warden.view.position;
  EXPECT_LT(now.cross(warden.view.forward()).norm(), 1e-4);
}

TEST(Guide, LeavesOutBadNumbersAndWaitsWhileSomethingIsLocked) {
  Standing warden(60);
  for (const GuideGoal& bad :
       {GuideGoal::along(std::nan("")), GuideGoal::toward({0, std::nan(""), 0}), GuideGoal::along(1, std::nan(""))}) {
    warden.camera.guide(bad);
    EXPECT_FALSE(warden.camera.guided());
    warden.run(warden.dt);
    EXPECT_EQ(warden.view.faults, Fault::badGuide);
  }
  Target lantern;
  lantern.position = {-5, 1.7, 0};
  warden.camera.lockOn(lantern);
  warden.camera.guide(GuideGoal::along(degrees(-90)));
  warden.run(3);
  EXPECT_NEAR(warden.view.yaw, degrees(90), 0.2);
  EXPECT_EQ(warden.view.handShare, 1);
  warden.camera.endLock();
  warden.run(5);
  EXPECT_NEAR(warden.view.yaw, degrees(-90), 1e-3);
}

/// Stands with a wall to the right of the camera's way for some time, then without.
struct BesideAWall {
  explicit BesideAWall(FreeShoulderSettings settings = {0.4, 0.5, 2, false}) {
    CameraDesign plain = guided();
    plain.framings[0].framing.shoulder = 0.5;
    plain.framings[0].framing.shoulderSwap = 0.3;
    plain.freeShoulder = settings;
    design = CompiledDesign(plain);
    camera = CharacterCamera(design, wardenAt({0, 0, 0}));
  }
  /// The number of swaps.
  int run(double seconds, Rate = {}) {
    int swaps = 0;
    for (int i = 0; i < std::lround(60 * seconds); ++i) {
      view = camera.step(1.0 / 60, {}, wardenAt({0, 0, 0}), world, wide);
      swaps += (view.events & Event::shoulderSwapped) != 0;
    }
    return swaps;
  }
  double side() const { return (view.pivot - view.head).x(); }

  CompiledDesign design{CameraDesign()};
  testing::Walls world;
  CharacterCamera camera{design, wardenAt({0, 0, 0})};
  View view;
};

const testing::Wall onTheRight{{-1, 0, 0}, -0.35}, onTheLeft{{1, 0, 0}, -0.35};

TEST(FreeShoulder, GoesOverOnceTheOtherSideHasBeenFreeForLongEnough) {
  BesideAWall warden;
  EXPECT_EQ(warden.run(1), 0) << "nothing is in the way";
  warden.world.walls = {onTheRight};
  EXPECT_EQ(warden.run(0.35), 0);
  EXPECT_EQ(warden.run(0.5), 1);
  warden.run(1);
  EXPECT_LT(warden.side(), -0.3);
  EXPECT_NEAR(warden.view.distance, warden.view.freeDistance, 0.05);
  warden.world.walls = {onTheLeft};
  EXPECT_EQ(warden.run(0.5), 0) << "not so soon after";
  EXPECT_EQ(warden.run(2), 1);
}

TEST(FreeShoulder, StaysBehindWhatPassesBetweenWallsAndWhileAiming) {
  BesideAWall warden;
  warden.run(1);
  warden.world.walls = {onTheRight};
  EXPECT_EQ(warden.run(0.3), 0);
  warden.world.walls = {};
  EXPECT_EQ(warden.run(1), 0) << "it passed";
  warden.world.walls = {onTheRight, onTheLeft};
  EXPECT_EQ(warden.run(5), 0) << "neither is better";
  warden.world.walls = {onTheRight};
  Intent aims;
  aims.aim = true;
  warden.camera.step(1.0 / 60, aims, wardenAt({0, 0, 0}), warden.world, wide);
  EXPECT_EQ(warden.run(3), 0) << "who aims decides";
  aims.aim = false;
  warden.camera.step(1.0 / 60, aims, wardenAt({0, 0, 0}), warden.world, wide);
  EXPECT_EQ(warden.run(2), 1);
  BesideAWall ready({0.4, 0.5, 2, true});
  ready.world.walls = {onTheRight};
  aims.aim = true;
  ready.camera.step(1.0 / 60, aims, wardenAt({0, 0, 0}), ready.world, wide);
  EXPECT_EQ(ready.run(3), 1);
}

TEST(FreeShoulder, LeavesThePlayersChoiceForAWhile) {
  BesideAWall warden;
  warden.camera.setShoulder(Shoulder::other);
  warden.world.walls = {onTheLeft};
  EXPECT_EQ(warden.run(1.9), 0);
  EXPECT_EQ(warden.run(1), 1);
}

constexpr IdleDriftSettings slowly{degrees(6), 1.1, 0.5};

TEST(IdleDrift, TurnsAtItsRateOnceNobodyHasDoneAnythingAndTheSameAtEveryFrameRate) {
  const double lambda = rateConstant(slowly.halfLife), drifts = 3 - slowly.after;
  const double turned = slowly.rate * (drifts - (1 - std::exp(-lambda * drifts)) / lambda);
  const double walked = slowly.rate * (1 - std::exp(-lambda * drifts)) * (1 - std::exp(-lambda)) / lambda;
  for (const double fps : {24.0, 60.0, 144.0, 1000.0}) {
    IdleDrift drift;
    const auto run = [&](double seconds, bool stands) {
      double yaw = 0;
      for (int i = 0; i < std::lround(seconds * fps); ++i) yaw += drift.step(1 / fps, stands, slowly);
      return yaw;
    };
    EXPECT_EQ(run(1, true), 0);
    EXPECT_NEAR(run(2, true), turned, 1e-12) << fps;
    EXPECT_NEAR(run(1, false), walked, 1e-12) << "comes to rest by half-life";
    drift.stop();
    EXPECT_EQ(run(1, true), 0) << "and waits anew";
  }
}

TEST(IdleDrift, TurnsAnOrbitThatNobodyHoldsAndNoEyesAndNoAim) {
  CameraDesign plain;
  plain.idleDrift = slowly;
  NamedFraming eyes = plain.framings[0];
  eyes.name = "eyes";
  eyes.perspective = Perspective::first;
  plain.framings.push_back(eyes);
  const CompiledDesign design(plain);
  const NoObstacles open;
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  View view;
  const auto run = [&](double seconds, const Intent& intent = {}, const Vector3d& walks = {0, 0, 0}) {
    for (int i = 0; i < std::lround(60 * seconds); ++i)
      view = camera.step(1.0 / 60, intent, wardenAt({0, 0, 0}, 0, walks), open, wide);
    return view.yaw;
  };
  EXPECT_GT(run(4), degrees(10));
  EXPECT_NEAR(view.driftRate, slowly.rate, degrees(0.2));
  EXPECT_NEAR(view.yawRate, view.driftRate, 1e-12) << "for who takes over";
  EXPECT_EQ(view.heading, view.yaw) << "it is the orbit that goes round";
  const double before = view.yaw;
  const IntentSample moved[] = {IntentSample::look(0, {1, 0})};
  const double held = run(1.0 / 60, Intent{moved});
  EXPECT_LT(held, before) << "the hand alone";
  EXPECT_EQ(view.driftRate, 0);
  EXPECT_EQ(run(1), held);
  run(3);
  EXPECT_GT(view.driftRate, 0);
  run(6, {}, {1, 0, 0});
  EXPECT_LT(view.driftRate, degrees(0.01)) << "who walks has it rest";
  Intent aims;
  aims.aim = true;
  EXPECT_EQ(run(4, aims), run(2, aims));
  aims.aim = false;
  camera.step(1.0 / 60, aims, wardenAt({0, 0, 0}), open, wide);
  camera.choose(Perspective::first);
  EXPECT_EQ(run(4), run(2));
}

}  // namespace
}  // namespace alpglow
