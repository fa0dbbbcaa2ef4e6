// The parts of the character's camera, each alone: this program does not link the camera (a test looks).

#include "alpglow/camera/active_framing.hpp"
#include "alpglow/camera/aim_keeper.hpp"
#include "alpglow/camera/assists.hpp"
#include "alpglow/camera/placement.hpp"
#include "alpglow/camera/report.hpp"
#include "alpglow/camera/subject_tracker.hpp"
#include "alpglow/camera/view_angles.hpp"

#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <type_traits>

namespace alpglow {
namespace {

using Eigen::Vector3d;

template <class... Parts>
constexpr bool copiedByteByByte = (std::is_trivially_copyable_v<Parts> && ...);
static_assert(
    copiedByteByByte<ActiveFraming, SubjectTracker, ViewAngles, Assists, AimKeeper, Placement, Report, ShownFraming>);

CameraDesign twoFramings() {
  CameraDesign design;
  design.framings[0].framing.distance = 3;
  NamedFraming scope = design.framings[0];
  scope.name = "scope";
  scope.when = "aiming";
  scope.framing.distance = 1.5;
  scope.framing.anchorRise = 0.3;
  scope.framing.transition = 0.4;
  NamedFraming eyes = design.framings[0];
  eyes.name = "eyes";
  eyes.perspective = Perspective::first;
  eyes.framing.distanceRange = {0, 0};
  eyes.framing.distance = 0;
  design.framings.push_back(scope);
  design.framings.push_back(eyes);
  return design;
}

/// Swinging back, say, takes the distance out again in every piece of time.
TEST(ActiveFramingAlone, AZoomThatIsHeldAtTheEndHasFewPiecesWhateverPullsTheDistanceAway) {
  CameraDesign plain = twoFramings();
  plain.framings[0].framing.distanceRange = {1, 1.5};
  plain.framings[0].framing.distance = 1.2;
  plain.zoomIntoEyes = true;
  plain.zoom.notchesPerSecond = 4;
  const CompiledDesign design(plain);
  for (const double pull : {0.0, 1e-6, 0.01, 0.3, 3.0}) {
    for (const double rate : {1.0, -1.0}) {
      ActiveFraming framing(design);
      int pieces = 0, steps = 0;
      for (double left = 2; left > 0 && pieces < 1000; ++pieces) {
        const double piece = std::min(left, framing.untilZoomSteps(rate, design));
        steps += framing.zoomAtRate(piece, rate, design) != 0 ? 1 : 0;
        framing.addLogDistance(rate * pull * piece, design);
        left -= piece;
      }
      EXPECT_LT(pieces, 100) << "pulled by " << pull << " a second, zoom " << rate;
      if (rate > 0 && pull < 0.5) {
        EXPECT_GT(steps, 0) << "the zoom is stronger, and leads into the eyes";
      }
    }
  }
}

TEST(ActiveFramingAlone, BlendsWithLeastJerkIntoTheFramingThatApplies) {
  const CompiledDesign design(twoFramings());
  ActiveFraming framing(design);
  EXPECT_FALSE(framing.changeDue(design));
  framing.setCondition(Condition::aiming, true);
  ASSERT_TRUE(framing.changeDue(design));
  const FramingChange change = framing.change(design, {}, 0);
  EXPECT_EQ(change.from, 0u);
  EXPECT_EQ(change.to, 1u);
  EXPECT_EQ(change.seconds, 0.4);
  EXPECT_FALSE(framing.changeDue(design));
  EXPECT_NEAR(framing.shown(design, {}).pose.anchorRise, 0.1, 1e-12) << "from where it is";
  framing.advance(0.2);
  EXPECT_NEAR(framing.shown(design, {}).pose.anchorRise, 0.2, 1e-12) << "half of the way in half of the time";
  EXPECT_NEAR(framing.shown(design, {}).pose.distance, 0.5 * (std::sqrt((1 + 3 / 0.5) * (1 + 1.5 / 0.5)) - 1), 1e-12)
      << "and in ln(1 + d/0.5)";
  framing.advance(0.2);
  EXPECT_EQ(framing.shown(design, {}).pose.distance, 1.5);
  EXPECT_FALSE(framing.blending());
}

TEST(SubjectTrackerAlone, GoesAlongOnceHoweverOftenItCatchesUp) {
  const FrameFollowSettings settings =
      ActiveFraming(CompiledDesign(CameraDesign())).followSettings(CompiledDesign(CameraDesign()));
  Subject warden;
  warden.velocity = {2, 0, 0};
  const auto at = [&](double t) {
    Subject now = warden;
    now.feet.x() = now.head.x() = 2 * t;
    return now;
  };
  SubjectTracker once(warden), often(warden);
  once.restart(warden), often.restart(warden);
  once.follow(at(0.3), 0.3, settings, {});
  for (int i = 0; i < 3; ++i) {
    often.lookAhead(0.05);
    ASSERT_TRUE(often.behind());
    often.catchUp(settings, {});
    EXPECT_FALSE(often.behind());
  }
  often.follow(at(0.3), 0.3, settings, {});
  EXPECT_LT((once.followed().point() - often.followed().point()).norm(), 1e-12);
  EXPECT_NEAR(once.movement().speed, 2, 1e-12);
  EXPECT_NEAR(once.movement().yaw, degrees(-90), 1e-12);
}

TEST(ViewAnglesAlone, AGlanceLeavesTheHeading) {
  const CameraDesign design;
  const PitchLimits limits;
  ViewAngles angles({0.3, 0});
  const LookConditions free{design, limits, 0, 0.3, false};
  angles.holdGlance(true);
  angles.displace({-200, 0}, free);
  EXPECT_EQ(angles.heading(), 0.3);
  EXPECT_NEAR(angles.orbit({}, limits).yaw, 0.3 + degrees(10), 1e-12);
  angles.holdGlance(false);
  angles.displace({-200, 0}, {design, limits, 0, 0.3, true});
  EXPECT_EQ(angles.heading(), 0.3) << "locked: the look is not the player's";
  angles.displace({-200, 0}, free);
  EXPECT_NEAR(angles.heading(), 0.3 + degrees(10), 1e-12);
  EXPECT_NEAR(angles.orbit({0, degrees(200)}, limits).pitch, limits.high, 1e-12) << "no nudge leaves the limits";
}

TEST(AssistsAlone, SwingBackWhereNothingIsLocked) {
  SwingBackSettings settings;
  Assists assists;
  assists.lockOn({7, {0, 0, -5}, {0, 0, 0}, 0.1});
  EXPECT_FALSE(assists.lockOn({7, {0, 0, -4}, {0, 0, 0}, 0.1})) << "the same one, elsewhere";
  assists.beginSwingBack({1, 0, 0}, settings);
  EXPECT_FALSE(assists.swingingBack());
  EXPECT_TRUE(assists.endLock());
  EXPECT_FALSE(assists.endLock());
  assists.beginSwingBack({1, 0, 0}, settings);
  double turned = 0;
  for (int i = 0; i < 100; ++i) turned += assists.swingBack(0.01, {{}, 1 + turned, {}}, settings).yaw;
  EXPECT_NEAR(turned, -1, 1e-9);
  EXPECT_NEAR(assists.takeSwungBack(), -1, 1e-9);
  EXPECT_EQ(assists.takeSwungBack(), 0);
}

TEST(AimKeeperAlone, TurnsByTheParallaxOfAMovedShoulder) {
  AimKeeper aim;
  PullInPose pose;
  pose.pivot = {0.4, 1.7, 0};
  pose.camera = {0.4, 1.7, 3};
  pose.distance = 3;
  testing::Walls wall;
  wall.walls.push_back({Vector3d::UnitZ(), -10});
  const Crosshair before = aim.crosshair(pose, Rotation::Identity(), {}, wall);
  EXPECT_LT((before.point - Vector3d(0.4, 1.7, -10)).norm(), 1e-9);
  const AimFrame right{Rotation::Identity(), {0, 1.7, 0}, {0.4, 0, 3}},
      left{Rotation::Identity(), {0, 1.7, 0}, {-0.4, 0, 3}};
  FramingParameters swapped{};
  swapped[indexOf(FramingParameter::shoulder)] = 0.4;
  swapped[indexOf(FramingParameter::distance)] = std::log1p(3 / 0.5);
  aim.begin(PoseCourse(FramingBlend(), swapped), right, {}, degrees(30));
  aim.look(wall);
  EXPECT_NEAR(aim.before().distance, 3, 1e-12);
  const LookAngles turn = aim.step(right, left, {});
  // From s to the right of the anchor to −s: yaw(w) + asin(s/r) at either side.
  const double r = std::hypot(0.4, 10), expected = std::atan2(-0.4, 10) + std::asin(-0.4 / r);
  EXPECT_NEAR(turn.yaw, expected, 1e-12);
  EXPECT_NEAR(turn.pitch, 0, 1e-12);
}

}  // namespace
}  // namespace alpglow
