#include "alpglow/camera/character_camera.hpp"

#include "support/camera_run.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <limits>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wide;

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

class Camera : public ::testing::Test {
 protected:
  const CompiledDesign design_{CameraDesign()};
  CharacterCamera camera_{design_, wardenAt({3, 0, 4}, degrees(70))};
  NoObstacles open_;
};

TEST_F(Camera, StartsBehindTheSubjectWithACut) {
  const View view = camera_.update(0.016, wardenAt({3, 0, 4}, degrees(70)), open_, wide);
  EXPECT_TRUE(view.cut);
  EXPECT_NEAR(toDegrees(view.yaw), 70, 1e-12);
  EXPECT_NEAR(toDegrees(view.pitch), -10, 1e-12);
  EXPECT_NEAR((view.position - view.pivot).norm(), 3.0, 1e-12) << "no glide in from the origin";
  EXPECT_FALSE(camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide).cut);
}

TEST_F(Camera, CutsATeleportAndChasesAFastRun) {
  camera_.update(0.016, wardenAt({3, 0, 4}), open_, wide);
  const View jumped = camera_.update(0.016, wardenAt({203, 0, 4}), open_, wide);
  EXPECT_TRUE(jumped.cut);
  EXPECT_TRUE(jumped.events & Event::teleport);
  EXPECT_NEAR((jumped.pivot - jumped.head).norm(), std::hypot(Framing().anchorRise, Framing().shoulder), 1e-9)
      << "at once at the new place";

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
  for (std::size_t i = 0; i < sizeof saved.fields / 8 * 8; i += 61) {
    CharacterCamera::Saved damaged = saved;
    damaged.fields[i] = static_cast<unsigned char>(damaged.fields[i] ^ 1);
    EXPECT_FALSE(camera_.restore(damaged)) << "byte " << i;
  }
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
              2 * Framing().shoulder * std::sin(0.5 * std::abs(shortestTurn(paused.yaw, running.yaw))), 1e-9)
      << "only the shoulder turns";
}

TEST(CharacterCameraWalls, FadesTheSubjectWhenPulledInToItsHead) {
  CameraDesign plain;
  plain.framings[0].framing.shoulder = 0;
  plain.framings[0].framing.anchorRise = 0;
  const CompiledDesign design(plain);
  testing::Walls walls;
  walls.walls.push_back({-Vector3d::UnitZ(), -0.33});
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
