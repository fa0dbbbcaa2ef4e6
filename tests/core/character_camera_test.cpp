#include "alpglow/camera/character_camera.hpp"

#include "support/random.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <cstring>
#include <limits>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;

constexpr double wide = 16.0 / 9.0;
constexpr double nan = std::numeric_limits<double>::quiet_NaN();
constexpr double infinity = std::numeric_limits<double>::infinity();

Subject wardenAt(const Vector3d& feet, double heading = 0) {
  Subject warden;
  warden.feet = feet;
  warden.head = feet + Vector3d(0, 1.68, 0);
  warden.heading = heading;
  return warden;
}

class Camera : public ::testing::Test {
 protected:
  const CompiledDesign design_{CameraDesign()};
  CharacterCamera camera_{design_, wardenAt({3, 0, 4}, degrees(70))};
  NoObstacles open_;
};

bool finite(const View& v) {
  return v.velocity.allFinite() && v.aimPoint.allFinite() && v.level.coeffs().allFinite() &&
         std::isfinite(v.aimError + v.aimDistance + v.lockError + v.swungBack + v.holdoff + v.lookScale + v.yawRate) &&
         v.position.allFinite() && v.pivot.allFinite() && v.head.allFinite() &&
         std::isfinite(v.yaw + v.pitch + v.roll + v.heading) &&
         std::isfinite(v.fieldOfView + v.aspect + v.nearPlane + v.farPlane + v.distance + v.freeDistance + v.opacity) &&
         v.worldToView().allFinite() && v.projection().allFinite();
}

TEST_F(Camera, StartsBehindTheSubjectWithACut) {
  const View view = camera_.update(0.016, wardenAt({3, 0, 4}, degrees(70)), open_, wide);
  EXPECT_TRUE(view.cut);
  EXPECT_NEAR(toDegrees(view.yaw), 70, 1e-12);
  EXPECT_NEAR(toDegrees(view.pitch), -10, 1e-12);
  EXPECT_NEAR((view.position - view.pivot).norm(), 3.0, 1e-12) << "no glide in from the origin";
  EXPECT_FALSE(camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide).cut);
}

TEST_F(Camera, SetPoseCutsAndStaysWithinLimits) {
  camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  camera_.setPose({degrees(-350), degrees(200), 2});
  const View view = camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  EXPECT_TRUE(view.cut);
  EXPECT_NEAR(toDegrees(view.yaw), 10, 1e-9);
  EXPECT_NEAR(toDegrees(view.pitch), 80, 1e-9);
  EXPECT_NEAR(view.distance, 2, 1e-12);
}

TEST_F(Camera, CutsATeleportAndChasesAFastRun) {
  camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  const View jumped = camera_.update(0.016, wardenAt({203, 0, 4}), open_, wide);
  EXPECT_TRUE(jumped.cut);
  EXPECT_TRUE(jumped.events & Event::teleport);
  EXPECT_NEAR((jumped.pivot - jumped.head).norm(), std::hypot(0.1, 0.35), 1e-9) << "at once at the new place";

  Subject fast = wardenAt({213, 0, 4});
  fast.velocity = {40, 0, 0};
  EXPECT_FALSE(camera_.update(0.25, fast, open_, wide).cut) << "10 m in a hitch of 0.25 s at 40 m/s is no teleport";
}

TEST_F(Camera, FollowsPositionAndNeverRotation) {
  const View before = camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  const View after = camera_.update(0.016, wardenAt({3, 0, 4}, degrees(-120)), open_, wide);
  EXPECT_EQ(before.yaw, after.yaw);
  EXPECT_EQ(before.position, after.position);
}

TEST_F(Camera, BadInputLeavesTheLastGoodViewAndSaysSo) {
  const View good = camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  const auto expectKept = [&](const View& view, std::uint32_t fault) {
    EXPECT_EQ(view.position, good.position);
    EXPECT_EQ(view.yaw, good.yaw);
    EXPECT_EQ(view.faults, fault);
    EXPECT_FALSE(view.cut);
  };
  expectKept(camera_.update(-0.1, wardenAt({5, 0, 4}), open_, wide), Fault::badTime);
  expectKept(camera_.update(nan, wardenAt({5, 0, 4}), open_, wide), Fault::badTime);
  expectKept(camera_.update(0.016, wardenAt({nan, 0, 4}), open_, wide), Fault::badSubject);
  expectKept(camera_.update(0.016, wardenAt({1e300, 0, 4}), open_, wide), Fault::badSubject);
  expectKept(camera_.update(0.016, wardenAt({5, 0, 4}), open_, 0), Fault::badAspect);
  expectKept(camera_.updateWithoutSubject(0.016), Fault::subjectMissing);
  const View again = camera_.update(0.0, wardenAt({3, 0, 4}), open_, wide);
  EXPECT_EQ(again.position, good.position);
  EXPECT_EQ(again.faults, 0u);
}

TEST_F(Camera, LeavesOutASampleThatIsNotFinite) {
  camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  const LookAngles before = camera_.lookAngles();
  const IntentSample samples[] = {IntentSample::look(0, {nan, 1}), IntentSample::look(0, {10, 0})};
  const View view = camera_.step(0.016, Intent{samples}, wardenAt({3, 0, 4}), open_, wide);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::badIntent});
  EXPECT_NEAR(shortestTurn(before.yaw, view.yaw), -10 * LookSettings().yawPerCount, 1e-12);
}

TEST_F(Camera, NeverReturnsANonFiniteNumberWhateverComesIn) {
  Random random(12);
  const double odd[] = {0, -1, nan, infinity, -infinity, 1e300, -1e300, 1e-300, 0.016, 1, 1e8};
  const auto any = [&] { return odd[random.whole(0, 10)]; };
  testing::Walls walls;
  walls.walls.push_back({Vector3d::UnitY(), -0.01});
  CameraDesign plan = testing::wardenDesign();
  plan.framings[5].framing.sway = degrees(0.5);
  plan.framings[1].framing.tilt = degrees(8);
  plan.motion.bob = {0.05, 0.03};
  const CompiledDesign design(plan);
  CharacterCamera camera(design, wardenAt({3, 0, 4}));
  for (int i = 0; i < 20000; ++i) {
    Subject subject = wardenAt(random.chance(0.3) ? Vector3d(any(), any(), any()) : random.point(5));
    if (random.chance(0.1)) subject.head = {any(), any(), any()};
    if (random.chance(0.1)) subject.velocity = {any(), any(), any()};
    const IntentSample samples[] = {IntentSample::look(any(), {any(), any()}),
                                    IntentSample::turn(any(), {any(), any()}),
                                    IntentSample::zoom(any(), any()),
                                    IntentSample::swapShoulder(any()),
                                    IntentSample::swingBack(any()),
                                    IntentSample::aim(any(), random.chance(0.5)),
                                    IntentSample::switchPerspective(any())};
    if (random.chance(0.2))
      camera.lockOn({1, random.chance(0.5) ? random.point(9) : Vector3d(any(), any(), any()),
                     Vector3d(any(), any(), any()), any()});
    if (random.chance(0.05)) camera.endLock();
    if (random.chance(0.1)) camera.setCondition(static_cast<std::uint32_t>(random.whole(0, 7)), random.chance(0.5));
    if (random.chance(0.05)) camera.tick(any(), subject);
    if (random.chance(0.05)) camera.changeSubject(subject);
    if (random.chance(0.2)) {
      subject.frame.id = static_cast<std::uint32_t>(random.whole(0, 2));
      subject.frame.origin = random.chance(0.8) ? random.point(9) : Vector3d(any(), any(), any());
      subject.frame.velocity = random.chance(0.8) ? random.point(9) : Vector3d(any(), any(), any());
      subject.frame.yawRate = any();
      subject.frame.scale = random.chance(0.8) ? random.between(0.1, 10) : any();
      subject.frame.rotation = Rotation(Eigen::AngleAxisd(random.between(-3, 3), Vector3d::UnitY()));
      if (random.chance(0.1)) subject.frame.up = random.point(1).normalized();
    }
    if (random.chance(0.05)) camera.setPose({any(), any(), any()});
    if (random.chance(0.05)) camera.shift({any(), 0, any()});
    const View view =
        camera.step({any(), any()}, Intent(samples, {any(), any()}), subject, walls, random.chance(0.5) ? any() : wide);
    ASSERT_TRUE(finite(view)) << "frame " << i;
    ASSERT_GE(view.pitch, degrees(-80) - 1e-12);
    ASSERT_LE(view.pitch, degrees(80) + 1e-12);
    ASSERT_EQ(view.roll, 0);
    ASSERT_GE(view.opacity, 0);
  }
}

TEST_F(Camera, ACopyIsASnapshotAndSavedStateKnowsItsDesign) {
  camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  const CharacterCamera snapshot = camera_;
  const CharacterCamera::Saved saved = camera_.save();
  const IntentSample samples[] = {IntentSample::look(0, {500, 100}), IntentSample::zoom(0, 3)};
  const View first = camera_.step(0.1, Intent{samples}, wardenAt({4, 0, 4}), open_, wide);
  camera_ = snapshot;
  const View second = camera_.step(0.1, Intent{samples}, wardenAt({4, 0, 4}), open_, wide);
  EXPECT_EQ(first.position, second.position);
  ASSERT_TRUE(camera_.restore(saved));
  EXPECT_EQ(camera_.step(0.1, Intent{samples}, wardenAt({4, 0, 4}), open_, wide).position, first.position);

  CameraDesign other;
  other.framings[0].framing.shoulder = 0.2;
  const CompiledDesign otherDesign(other);
  CharacterCamera stranger(otherDesign, wardenAt({0, 0, 0}));
  EXPECT_FALSE(stranger.restore(saved));
  CharacterCamera::Saved newer = saved;
  newer.version += 1;
  EXPECT_FALSE(camera_.restore(newer));
}

/// Walks two straight lines with a steady turn of the mouse between 0 and 2 s, and returns the last view.
View walked(const CompiledDesign& design, const std::vector<double>& frames) {
  CharacterCamera camera(design, wardenAt(Vector3d::Zero()));
  camera.update(0, wardenAt(Vector3d::Zero()), NoObstacles(), wide);
  double now = 0;
  View view;
  for (const double dt : frames) {
    const double start = now;
    now += dt;
    const auto at = [](double t) { return wardenAt(t < 1 ? Vector3d(4 * t, t, 0) : Vector3d(4, 1, -3 * (t - 1))); };
    camera.look(dt, Intent({}, {0.4, 0.2}));
    if (start < 1 && now > 1) camera.tick(1 - start, at(1));
    view = camera.update(dt, at(now), NoObstacles(), wide);
  }
  return view;
}

TEST(CharacterCameraTime, TakesTheSamePathAtAnyFrameRate) {
  CameraDesign plain;
  plain.framings[0].framing.follow.leash = 0.5;
  const CompiledDesign design(plain);
  Random random(13);
  const View once = walked(design, {2.0});
  for (const int fps : {24, 30, 60, 144, 240, 1000}) {
    const View view = walked(design, std::vector<double>(static_cast<std::size_t>(2 * fps), 1.0 / fps));
    EXPECT_LT((view.position - once.position).norm(), 1e-9) << fps;
    EXPECT_NEAR(view.yaw, once.yaw, 1e-9) << fps;
  }
  EXPECT_LT((walked(design, random.cut(2.0, 333)).position - once.position).norm(), 1e-9);
}

TEST(CharacterCameraShoulder, IsSwappedSmoothlyAtItsMomentAndChangesItsMind) {
  const CompiledDesign design{CameraDesign()};
  const double designed = design.design().framings[0].framing.shoulder,
               time = design.design().framings[0].framing.shoulderSwap;
  CharacterCamera once(design, wardenAt({0, 0, 0}));
  once.update(0.01, wardenAt({0, 0, 0}), NoObstacles(), wide);
  CharacterCamera often = once;
  const auto side = [](const View& view) { return view.pivot.x(); };  // at yaw 0 the right is +x
  const IntentSample swap[] = {IntentSample::swapShoulder(0.05)};
  const View whole = once.step(0.05 + time / 2, Intent{swap}, wardenAt({0, 0, 0}), NoObstacles(), wide);
  EXPECT_NEAR(side(whole), 0, 1e-9) << "in the middle at half time";
  View view = often.step(0.05, Intent{swap}, wardenAt({0, 0, 0}), NoObstacles(), wide);
  double before = side(view), fastest = 0;
  for (int i = 0; i < 20; ++i) {
    view = often.step(time / 40, {}, wardenAt({0, 0, 0}), NoObstacles(), wide);
    fastest = std::max(fastest, std::abs(side(view) - before) / (time / 40));
    before = side(view);
  }
  EXPECT_NEAR(side(view), side(whole), 1e-9) << "however time is cut";
  EXPECT_LT(fastest, 1.9 * 2 * designed / time) << "a minimum-jerk way peaks at 15/8 of its mean speed";
  const IntentSample back[] = {IntentSample::swapShoulder(0)};
  view = often.step(1e-6, Intent{back}, wardenAt({0, 0, 0}), NoObstacles(), wide);
  EXPECT_NEAR(side(view), before, 1e-5) << "no jump when it changes its mind";
  view = often.step(2, {}, wardenAt({0, 0, 0}), NoObstacles(), wide);
  EXPECT_NEAR(side(view), designed, 1e-12);
  view = once.step(2, {}, wardenAt({0, 0, 0}), NoObstacles(), wide);
  EXPECT_NEAR(side(view), -designed, 1e-12);
}

TEST(CharacterCameraTime, InAPauseTheWorldRestsAndTheLookGoesOn) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.update(0.1, wardenAt({0, 0, 0}), NoObstacles(), wide);
  const View running = camera.update(0.1, wardenAt({0.5, 0, 0}), NoObstacles(), wide);
  const View paused = camera.step({0.5, 0.0}, Intent({}, {0.5, 0}), wardenAt({0.5, 0, 0}), NoObstacles(), wide);
  EXPECT_NE(paused.yaw, running.yaw);
  EXPECT_NEAR((paused.pivot - running.pivot).norm(),
              2 * 0.35 * std::sin(0.5 * std::abs(shortestTurn(paused.yaw, running.yaw))), 1e-9)
      << "only the shoulder turns";
}

TEST(CharacterCameraPlace, AThousandKilometresOutNothingShakes) {
  const CompiledDesign design{CameraDesign()};
  const Vector3d farPlane(1e6, 0, -2e6);
  CharacterCamera here(design, wardenAt({0, 0, 0})), there(design, wardenAt(farPlane));
  Random random(14);
  Vector3d feet = Vector3d::Zero();
  for (int i = 0; i < 500; ++i) {
    feet += Vector3d(random.between(-0.1, 0.1), 0, random.between(-0.1, 0.1));
    const Vector3d a = here.update(0.016, wardenAt(feet), NoObstacles(), wide).position;
    const Vector3d b = there.update(0.016, wardenAt(feet + farPlane), NoObstacles(), wide).position;
    ASSERT_LT((a + farPlane - b).norm(), 1e-8);
  }
}

TEST(CharacterCameraPlace, ShiftingTheOriginChangesNothingElse) {
  const CompiledDesign design{CameraDesign()};
  const Vector3d offset(-512, 3, 1024);
  CharacterCamera plain(design, wardenAt({0, 0, 0})), shifted(design, wardenAt({0, 0, 0}));
  plain.update(0.1, wardenAt({0, 0, 0}), NoObstacles(), wide);
  shifted.update(0.1, wardenAt({0, 0, 0}), NoObstacles(), wide);
  shifted.shift(offset);
  EXPECT_LT((shifted.view().position - plain.view().position - offset).norm(), 1e-12);
  const View a = plain.update(0.1, wardenAt({1, 0, 0}), NoObstacles(), wide);
  const View b = shifted.update(0.1, wardenAt(Vector3d(1, 0, 0) + offset), NoObstacles(), wide);
  EXPECT_LT((b.position - a.position - offset).norm(), 1e-9);
  EXPECT_FALSE(b.cut);
}

TEST(CharacterCameraWalls, FadesTheSubjectWhenPulledInToItsHead) {
  CameraDesign plain;
  plain.framings[0].framing.shoulder = 0;
  plain.framings[0].framing.anchorRise = 0;
  const CompiledDesign design(plain);
  testing::Walls walls;
  walls.walls.push_back({-Vector3d::UnitZ(), -0.58});
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  const View close = camera.update(0.016, wardenAt({0, 0, 0}), walls, wide);
  EXPECT_EQ(close.opacity, 0);
  EXPECT_EQ(close.freeDistance, 3);
  EXPECT_TRUE(close.events & Event::pullInBegan);
  View view;
  for (int i = 0; i < 600; ++i) view = camera.update(0.016, wardenAt({0, 0, -10}), walls, wide);
  EXPECT_EQ(view.opacity, 1);
  EXPECT_FALSE(view.pulledIn);
}

}  // namespace
}  // namespace alpglow
