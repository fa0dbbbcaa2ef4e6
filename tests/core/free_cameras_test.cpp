#include "alpglow/camera/flying_camera.hpp"
#include "alpglow/camera/inspection.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "support/camera_run.hpp"

#include "alpglow/base/half_life.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wide;

FlightSettings flight(FlightFrame frame) {
  FlightSettings settings;
  settings.ahead = settings.up = frame;
  settings.topSpeed = 8;
  settings.brakeHalfLife = 0.2;
  return settings;
}

TEST(FlyingCamera, ReachesItsTopSpeedAlsoOnDiagonalsAndBrakesInTheStatedWay) {
  FlyingCamera camera(flight(FlightFrame::view), {0, 0, 0}, {});
  camera.step(10, {}, {1, 1}, 1, false);
  EXPECT_NEAR(camera.velocity().norm(), 8, 1e-9);
  const Vector3d from = camera.position();
  camera.step(10, {}, {}, 0, false);
  EXPECT_NEAR((camera.position() - from).norm(), 8 * 0.2 / ln2, 1e-9);
  EXPECT_NEAR(camera.velocity().norm(), 0, 1e-9);
  camera.step(10, {}, {0, 1}, 0, true);
  EXPECT_NEAR(camera.velocity().norm(), 8 * FlightSettings().fastFactor, 1e-9);
}

TEST(FlyingCamera, AcceleratesAndBrakesEvenlyInTheStatedWay) {
  FlightSettings settings = flight(FlightFrame::view);
  settings.acceleration = 4;
  settings.braking = 16;
  FlyingCamera camera(settings, {0, 0, 0}, {});
  camera.step(1.5, {}, {0, 1}, 0, false);
  EXPECT_NEAR(camera.velocity().z(), -6, 1e-12);
  EXPECT_NEAR(camera.position().z(), -4 * 1.5 * 1.5 / 2, 1e-12);
  camera.step(1, {}, {0, 1}, 0, false);  // half a second more to the top speed, and half at it
  EXPECT_NEAR(camera.position().z(), -8 * 2 / 2.0 - 8 * 0.5, 1e-12);
  const Vector3d from = camera.position();
  camera.step(10, {}, {}, 0, false);
  EXPECT_NEAR((camera.position() - from).norm(), 8 * 8 / (2 * 16.0), 1e-12);
  EXPECT_EQ(camera.velocity().norm(), 0);
  FlyingCamera parts(settings, {0, 0, 0}, {}), whole(settings, {0, 0, 0}, {});
  testing::Random random(8);
  for (int i = 0; i < 200; ++i) {
    const Rate move{random.between(-1, 1), random.between(-1, 1)};
    const double seconds = random.between(0, 0.5), first = random.between(0, seconds);
    whole.step(seconds, {}, move, 0, false);
    parts.step(first, {}, move, 0, false);
    parts.step(seconds - first, {}, move, 0, false);
    ASSERT_LT((parts.position() - whole.position()).norm(), 1e-9);
  }
}

TEST(FlyingCamera, LookingStraightDownItFliesOnInTheGroundPlaneAtFullSpeed) {
  FlyingCamera camera(flight(FlightFrame::world), {0, 5, 0}, {degrees(90), degrees(-90)});
  camera.step(10, {}, {0, 1}, 0, false);
  EXPECT_NEAR(camera.velocity().x(), -8, 1e-9);
  EXPECT_NEAR(camera.position().y(), 5, 1e-12);
  FlyingCamera diving(flight(FlightFrame::view), {0, 5, 0}, {0, degrees(-90)});
  diving.step(10, {}, {0, 1}, 0, false);
  EXPECT_NEAR(diving.velocity().y(), -8, 1e-9);
  EXPECT_TRUE(diving.view(1.5).worldToView().allFinite());
}

TEST(FlyingCamera, RisesAlongTheWorldsUpOrThePictures) {
  FlightSettings settings = flight(FlightFrame::view);
  FlyingCamera tilted(settings, {0, 0, 0}, {0, degrees(-90)});
  tilted.step(10, {}, {}, 1, false);
  EXPECT_NEAR(tilted.velocity().z(), -8, 1e-9) << "looking down, the screen's up is ahead";
  settings.up = FlightFrame::world;
  FlyingCamera upright(settings, {0, 0, 0}, {0, degrees(-90)});
  upright.step(10, {}, {}, 1, false);
  EXPECT_NEAR(upright.velocity().y(), 8, 1e-9);
}

TEST(FlyingCamera, TakesTheSamePathAtEveryFrameRate) {
  testing::Random random(40);
  // The pointer moves at common moments; between them the way is straight.
  const auto flown = [](const std::vector<double>& parts) {
    FlyingCamera camera(flight(FlightFrame::view), {1, 2, 3}, {0.4, -0.2});
    for (int leg = 0; leg < 4; ++leg) {
      const IntentSample moved[] = {IntentSample::look(0, {300.0 * leg, 100.0})};
      camera.step(1e-12, Intent{moved}, {}, 0, false);
      for (const double part : parts) camera.step(part, {}, {leg == 2 ? 0.0 : 0.6, 0.8}, 0.3, leg == 1);
    }
    return camera.position();
  };
  const Vector3d once = flown({0.5});
  for (const int fps : {24, 60, 1000}) {
    EXPECT_LT((flown(std::vector<double>(static_cast<std::size_t>(fps / 2), 0.5 / (fps / 2))) - once).norm(), 1e-9);
  }
  EXPECT_LT((flown(random.cut(0.5, 77)) - once).norm(), 1e-9);
}

TEST(FlyingCamera, ResetsToItsStoredPoseWithACut) {
  FlyingCamera camera(flight(FlightFrame::view), {1, 2, 3}, {0.4, -0.2});
  EXPECT_TRUE(camera.view(1.5).cut);
  const IntentSample moved[] = {IntentSample::look(0, {300, 100})};
  camera.step(1, Intent{moved}, {0, 1}, 0, false);
  EXPECT_FALSE(camera.view(1.5).cut);
  camera.reset();
  const View view = camera.view(1.5);
  EXPECT_EQ(view.position, Vector3d(1, 2, 3));
  EXPECT_NEAR(view.yaw, 0.4, 1e-12);
  EXPECT_TRUE(view.cut);
}

TEST(Inspection, TurningTheThingOrTheCameraGivesTheSamePicture) {
  const Vector3d centre(4, 1, -2), corner(0.1, 0.25, 0.15);
  Inspection camera({}, InspectionTurns::camera), thing({}, InspectionTurns::thing);
  const IntentSample moved[] = {IntentSample::look(0, {350, -200}), IntentSample::zoom(0, 2)};
  for (Inspection* inspection : {&camera, &thing}) inspection->step(0.5, Intent{moved});
  const auto seen = [&](Inspection& inspection) {
    const Vector3d world = centre + inspection.thing() * corner;
    const Eigen::Vector4d view =
        inspection.view(centre, 1.5).worldToView() * Eigen::Vector4d(world.x(), world.y(), world.z(), 1);
    return Vector3d(view.head<3>());
  };
  EXPECT_LT((seen(camera) - seen(thing)).norm(), 1e-12);
}

TEST(Inspection, AThirdAxisRollsTheThingOnTheScreen) {
  InspectionSettings settings;
  settings.rollRate = degrees(90);
  Inspection camera(settings, InspectionTurns::camera), thing(settings, InspectionTurns::thing);
  for (Inspection* inspection : {&camera, &thing}) {
    inspection->step(1, {}, 0.5);
    inspection->step(0.1, {}, std::nan(""));
  }
  EXPECT_NEAR(camera.roll(), degrees(45), 1e-12);
  const Vector3d point(0.2, 0.3, 0.1);
  const auto seen = [&](Inspection& inspection) {
    return Vector3d(
        (inspection.view({0, 0, 0}, 1.5).worldToView() * Vector3d(inspection.thing() * point).homogeneous()).head<3>());
  };
  EXPECT_LT((seen(camera) - seen(thing)).norm(), 1e-12);
  const Vector3d up = Vector3d(thing.thing() * Vector3d::UnitY());
  EXPECT_GT(up.x(), 0.7) << "clockwise";
  for (int i = 0; i < 5; ++i) camera.step(1, {}, 1);
  EXPECT_NEAR(camera.roll(), wrapAngle(degrees(45 + 450)), 1e-12);
}

TEST(Inspection, ZoomsByNotches) {
  const InspectionSettings settings;
  Inspection inspection(settings, InspectionTurns::camera);
  const double before = inspection.view({0, 0, 0}, 1.5).position.norm();
  const IntentSample closer[] = {IntentSample::zoom(0, 1)};
  inspection.step(5, Intent{closer});
  EXPECT_NEAR(inspection.view({0, 0, 0}, 1.5).position.norm(), before / settings.zoom.factorPerNotch, 1e-6);
}

TEST(FlyingCamera, IsDeafToBadNumbers) {
  FlyingCamera camera(FlightSettings(), {1, 2, 3}, {0, 0});
  const double nan = std::numeric_limits<double>::quiet_NaN();
  for (const double bad : {nan, -1.0, std::numeric_limits<double>::infinity()})
    camera.step(bad, Intent(), {0, 1}, 0, true);
  camera.step(0.1, Intent(), {0, 1}, nan, true);
  EXPECT_EQ(camera.view(1.5).position, Vector3d(1, 2, 3));
}

TEST(Inspection, TheHandCarriesTheNearSideWithIt) {
  Inspection inspection({}, InspectionTurns::thing);
  const IntentSample right[] = {IntentSample::look(0, {100, 0})};
  inspection.step(0.1, Intent{right});
  EXPECT_GT((inspection.thing() * Vector3d(0, 0, 0.5)).x(), 0) << "toward the right";
  const IntentSample down[] = {IntentSample::look(0, {0, 100})};
  inspection.step(0.1, Intent{down});
  EXPECT_LT((inspection.thing() * Vector3d(0, 0, 0.5)).y(), 0);
}

/// As in a minimised window, or with a thing that the host has lost.
TEST(CamerasWithoutASubject, KeepTheLastGoodViewWhateverTheyAreTold) {
  const double nan = std::numeric_limits<double>::quiet_NaN(), infinite = std::numeric_limits<double>::infinity();
  FlyingCamera flying(FlightSettings(), {1, 2, 3}, {0.5, -0.2});
  Inspection inspection({}, InspectionTurns::camera);
  StandingSettings gate;
  gate.stand.point = {4, 3, -2};
  gate.look = {{0, 1.5, 0}, PointAxes::world};
  StandingCamera standing(gate);
  ReferenceFrame good, lost;
  lost.origin.x() = nan;
  const View flown = flying.view(1.5), inspected = inspection.view({1, 1, 1}, 1.5),
             stood = standing.view(nullptr, &good, 1.5);
  const auto kept = [](const View& view, const View& before, std::uint32_t fault) {
    EXPECT_EQ(view.faults, fault);
    EXPECT_EQ(view.position, before.position);
    EXPECT_EQ(view.yaw, before.yaw);
    EXPECT_EQ(view.pitch, before.pitch);
    EXPECT_EQ(view.aspect, before.aspect);
    EXPECT_FALSE(view.cut);
    EXPECT_TRUE(view.projection().allFinite());
  };
  for (const double aspect : {0.0, nan, infinite, -1.0, 1e-9}) {
    kept(flying.view(aspect), flown, Fault::badAspect);
    kept(inspection.view({1, 1, 1}, aspect), inspected, Fault::badAspect);
    kept(standing.view(nullptr, &good, aspect), stood, Fault::badAspect);
  }
  kept(inspection.view({nan, 0, 0}, 1.5), inspected, Fault::badSubject);
  kept(inspection.view({0, 1e300, 0}, 1.5), inspected, Fault::badSubject);
  kept(standing.view(nullptr, &lost, 1.5), stood, Fault::badSubject);
  kept(standing.view(&lost, &good, 1.5), stood, Fault::badSubject);
  StandingCamera fresh(gate);
  EXPECT_TRUE(fresh.view(&lost, nullptr, nan).projection().allFinite()) << "before any good one";
  FlyingCamera first(FlightSettings(), {1, 2, 3}, {0, 0});
  EXPECT_FALSE(first.view(0).cut);
  EXPECT_TRUE(first.view(1.5).cut) << "the cut waits for a good frame";
}

TEST(StandingCamera, AStandingCameraTellsHowItMovesAndTurns) {
  StandingSettings settings;
  settings.look.point = {0, 1, 0};
  settings.roll = 0.2;
  const auto at = [&](double t) {
    ReferenceFrame cabin, warden;
    cabin.velocity = {1, 0.5, -2}, warden.velocity = {-3, 1, 0.7};
    cabin.origin = Vector3d(0, 4, 0) + t * cabin.velocity;
    warden.origin = Vector3d(3, 0, -8) + t * warden.velocity;
    return StandingCamera(settings).view(&cabin, &warden, wide);
  };
  constexpr double dt = 1e-5;
  const View view = at(0), later = at(dt), before = at(-dt);
  EXPECT_NEAR(view.yawRate, shortestTurn(before.yaw, later.yaw) / (2 * dt), 1e-6);
  EXPECT_NEAR(view.pitchRate, (later.pitch - before.pitch) / (2 * dt), 1e-6);
  EXPECT_LT((view.velocity - (later.position - before.position) / (2 * dt)).norm(), 1e-6);
  EXPECT_EQ(view.roll, 0.2);
}

}  // namespace
}  // namespace alpglow
