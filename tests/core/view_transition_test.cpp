#include "alpglow/view/view_transition.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;
using testing::wardenAt;
using testing::wide;

View anyView(Random& random) {
  View view;
  view.position = random.point(10);
  view.yaw = random.between(-pi, pi);
  view.pitch = random.between(-1.5, 1.5);
  view.fieldOfView = random.between(0.3, 1.8);
  return view;
}

/// Moves on in a straight line.
View moving(View view, const Vector3d& velocity, double time) {
  view.position += velocity * time;
  view.velocity = velocity;
  return view;
}

TEST(ViewTransition, ThousandsOfChangesOfMindKeepPlaceAndSpeedContinuous) {
  Random random(100);
  constexpr double dt = 1e-3;
  ViewTransition change;
  View live = anyView(random);
  View before = change.step(0, live);
  Vector3d velocity = Vector3d::Zero();
  double yawRate = 0, lensRate = 0;
  int interrupted = 0;
  for (int run = 0; run < 3000; ++run) {
    const Vector3d drift = random.chance(0.5) ? random.point(3) : Vector3d::Zero();
    live = anyView(random);
    live.position -= drift * dt;
    if (!change.done()) ++interrupted;
    change.begin(random.between(0.3, 1.2));
    const int steps = random.whole(1, 400);
    for (int i = 0; i < steps; ++i) {
      const View goal = moving(live, drift, (i + 1) * dt), view = change.step(dt, goal);
      const Vector3d off = view.position - goal.position, freeOff = view.freePosition - goal.freePosition;
      ASSERT_LT((off - freeOff).norm(), 1e-12) << "where nothing is in the way it is where it would be";
      const Vector3d now = (view.position - before.position) / dt;
      const double yaw = shortestTurn(before.yaw, view.yaw) / dt, lens = (view.fieldOfView - before.fieldOfView) / dt;
      if (run > 0) {
        // 20 m in 0.3 s reach 125 m/s, and may have to brake within a tenth of that time.
        ASSERT_LT((now - velocity).norm(), 5) << "m/s in a millisecond, run " << run;
        ASSERT_LT(std::abs(yaw - yawRate), 1);
        ASSERT_LT(std::abs(lens - lensRate), 3);
      }
      ASSERT_EQ(view.roll, 0) << "two level views roll in between neither";
      ASSERT_GT(view.fieldOfView, 0.2);
      velocity = now, yawRate = yaw, lensRate = lens, before = view;
    }
    const View last = change.step(2, moving(live, drift, (steps + 2000) * dt));
    ASSERT_TRUE(change.done());
    ASSERT_LT((last.position - moving(live, drift, (steps + 2000) * dt).position).norm(), 1e-9);
    if (run % 3 != 0) {  // two out of three interrupt the one before
      change.begin(1);
      live = anyView(random);
      for (int i = 0; i < 300; ++i) before = change.step(dt, live);
      velocity = change.step(0, live).velocity;
      const View a = change.step(dt, live), b = change.step(dt, live);
      velocity = (b.position - a.position) / dt;
      yawRate = shortestTurn(a.yaw, b.yaw) / dt;
      lensRate = (b.fieldOfView - a.fieldOfView) / dt;
      before = b;
    } else {
      velocity = drift, yawRate = lensRate = 0, before = last;
    }
  }
  EXPECT_GT(interrupted, 1900);
}

TEST(ViewTransition, TakesOverFromACutSceneAndItsRollDecays) {
  View scene;
  scene.position = {4, 3, 2};
  scene.velocity = {2, 0, 0};
  scene.roll = degrees(15);
  scene.fieldOfView = degrees(25);
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const NoObstacles open;
  ViewTransition change;
  change.begin(scene, 1);
  View before = scene;
  for (int i = 0; i < 1100; ++i) {
    const View view = change.step(1e-3, camera.update(1e-3, wardenAt({0, 0, 0}), open, wide));
    ASSERT_LE(view.roll, before.roll + 1e-12);
    ASSERT_GE(view.roll, 0);
    ASSERT_FALSE(view.cut);
    ASSERT_LT((view.position - before.position).norm(), 0.02);
    if (i == 0) {
      EXPECT_NEAR((view.position - scene.position).x() / 1e-3, 2, 0.05) << "with its velocity";
    }
    before = view;
  }
  EXPECT_EQ(before.roll, 0);
  EXPECT_TRUE(change.done());
}

TEST(ViewTransition, KeepsClearOfWallsIfAsked) {
  testing::Walls wall;
  wall.walls.push_back({Vector3d(0, 0, 1), -1});
  View behind, live;
  behind.position = {0, 1, -4};
  live.position = {0, 1, 3};
  for (const bool asked : {false, true}) {
    ViewTransition change;
    change.step(0, behind);
    change.begin(1);
    double least = 10;
    for (int i = 0; i < 80; ++i)
      least = std::min(least, change.step(1 / 60.0, live, asked ? &wall : nullptr).position.z());
    EXPECT_EQ(least > -1, asked);
  }
}

TEST(ViewTransition, AChangeOfSubjectGoesThereAndACutOfTheLiveViewCuts) {
  const CompiledDesign design{CameraDesign()};
  const NoObstacles open;
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  ViewTransition change;
  change.step(1 / 60.0, camera.update(1 / 60.0, wardenAt({0, 0, 0}), open, wide));
  camera.changeSubject(wardenAt({12, 0, 0}));
  change.begin(1);
  View before;
  for (int i = 0; i < 90; ++i) {
    const View view = change.step(1 / 60.0, camera.update(1 / 60.0, wardenAt({12, 0, 0}), open, wide));
    ASSERT_FALSE(view.cut) << i;
    if (i > 0) {
      ASSERT_LT((view.position - before.position).norm(), 0.5);
    }
    before = view;
  }
  EXPECT_NEAR(before.position.x(), 12 + Framing().shoulder, 1e-6);
  change.begin(1);
  change.step(1 / 60.0, camera.update(1 / 60.0, wardenAt({12, 0, 0}), open, wide));
  Subject farPlane = wardenAt({300, 0, 0});
  const View cut = change.step(1 / 60.0, camera.update(1 / 60.0, farPlane, open, wide));
  EXPECT_TRUE(cut.cut);
  EXPECT_NEAR(cut.position.x(), 300 + Framing().shoulder, 1e-6);
}

TEST(StandingCamera, LooksFromAThingAtAThing) {
  ReferenceFrame cabin;
  cabin.origin = {10, 5, 0};
  cabin.rotation = Rotation(Eigen::AngleAxisd(pi / 2, Vector3d::UnitY()));
  StandingSettings settings;
  settings.stand = {{0, 0, -2}, PointAxes::thing};  // ahead of the cabin, which faces −x
  settings.look = {{0, 1, 0}, PointAxes::world};
  ReferenceFrame warden;
  warden.origin = {8, 4, -20};
  StandingCamera camera(settings);
  View view = camera.view(&cabin, &warden, wide);
  EXPECT_LT((view.position - Vector3d(8, 5, 0)).norm(), 1e-12);
  EXPECT_LT((view.forward() - Vector3d(0, 0, -1)).norm(), 1e-12);
  camera.trim(degrees(10), degrees(-5));
  view = camera.view(&cabin, &warden, wide);
  EXPECT_NEAR(toDegrees(view.yaw), 10, 1e-9);
  EXPECT_NEAR(toDegrees(view.pitch), -5, 1e-9);
  EXPECT_EQ(view.faults, 0u);
}

TEST(StandingCamera, DefinesAndReportsWhatIsDegenerate) {
  StandingSettings settings;
  settings.stand.point = {0, 2, 0};
  settings.look.point = {-1, 2, 0};
  StandingCamera camera(settings);
  ReferenceFrame thing;
  settings.look.point = Vector3d::Zero();
  StandingCamera follows(settings);
  thing.origin = {-5, 2, 0};
  EXPECT_NEAR(toDegrees(follows.view(nullptr, &thing, wide).yaw), 90, 1e-9);
  thing.origin = {0, 2, 0};
  View view = follows.view(nullptr, &thing, wide);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::samePoint});
  EXPECT_NEAR(toDegrees(view.yaw), 90, 1e-9) << "keeps its direction";
  thing.origin = {0, 9, 0};
  view = follows.view(nullptr, &thing, wide);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::noYaw});
  EXPECT_NEAR(toDegrees(view.pitch), 90, 1e-9);
  EXPECT_NEAR(toDegrees(view.yaw), 90, 1e-9);
  thing.origin = {NAN, 0, 0};
  view = follows.view(nullptr, &thing, wide);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::badSubject});
  EXPECT_TRUE(view.worldToView().allFinite());
  testing::Walls wall;
  wall.walls.push_back({Vector3d(0, 1, 0), 1.97});
  view = camera.view(nullptr, nullptr, wide, &wall);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::inBody});
  EXPECT_LT(nearPlaneRadius(view.nearPlane, view.fieldOfView, wide), 0.03 + 1e-9) << "near shrinks to what is left";
}

TEST(ViewTransition, ShowsBothDepthsAndKeepsTheLensMoving) {
  View close, far;
  close.nearPlane = 0.05, close.farPlane = 100, close.fieldOfView = degrees(40);
  far.nearPlane = 0.3, far.farPlane = 900, far.fieldOfView = degrees(80);
  for (const auto& [from, to] : {std::pair(close, far), std::pair(far, close)}) {
    ViewTransition change;
    change.begin(from, 1);
    View view = change.step(0.5, to);
    EXPECT_EQ(view.nearPlane, 0.05);
    EXPECT_EQ(view.farPlane, 900);
    const double before = view.fieldOfView, middle = change.step(1e-4, to).fieldOfView;
    change.begin(1);
    EXPECT_NEAR(change.step(1e-4, to).fieldOfView - middle, middle - before, 1e-3 * std::abs(middle - before));
  }
}

}  // namespace
}  // namespace alpglow
