#include "alpglow/camera/character_camera.hpp"
#include "alpglow/follow/head_bob.hpp"

#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using testing::Random;

constexpr double wide = 16.0 / 9.0;

HeadMotionSettings lively() {
  HeadMotionSettings settings;
  settings.bob.vertical = 0.05;
  settings.bob.lateral = 0.03;
  settings.dip.depthPerSpeed = 0.03;
  return settings;
}

/// A walk at speeds that change at random ticks, sometimes in the air.
struct RandomWalk {
  static constexpr double tick = 1.0 / 60;
  std::vector<double> speeds;
  std::vector<bool> grounds;

  explicit RandomWalk(unsigned seed) {
    Random random(seed);
    double speed = 0;
    bool ground = true;
    for (int i = 0; i < 600; ++i) {
      if (random.chance(0.04)) speed = random.chance(0.4) ? 0 : random.between(0.3, 5);
      if (random.chance(0.02)) ground = !ground;
      speeds.push_back(speed);
      grounds.push_back(ground);
    }
  }

  /// Goes on from one moment to another, piece by piece.
  void advance(HeadMotion& motion, double from, double to, const HeadMotionSettings& settings) const {
    while (from < to - 1e-12) {
      const auto at = static_cast<std::size_t>(std::floor(from / tick + 1e-9));
      const double until = std::min(to, static_cast<double>(at + 1) * tick);
      // Ground is left and reached at the end of a tick.
      const bool ground = until >= static_cast<double>(at + 1) * tick - 1e-9 ? grounds[at] : at == 0 || grounds[at - 1];
      motion.step({speeds[at] * (until - from), until - from, ground, 3.0}, settings);
      from = until;
    }
  }
};

TEST(HeadBob, TakesTheSamePathAtAnyFrameRate) {
  const HeadMotionSettings settings = lively();
  for (unsigned seed = 0; seed < 40; ++seed) {
    const RandomWalk walk(seed);
    HeadMotion slow, fast;
    for (int frame = 0; frame < 299; ++frame) {
      walk.advance(slow, frame / 30.0, (frame + 1) / 30.0, settings);
      for (int k = 0; k < 8; ++k) walk.advance(fast, (8 * frame + k) / 240.0, (8 * frame + k + 1) / 240.0, settings);
      ASSERT_LT((slow.offset(settings) - fast.offset(settings)).norm(), 1e-4) << "walk " << seed << " frame " << frame;
    }
  }
}

TEST(HeadBob, FinishesItsStepInTimeAndIsThenExactlyStill) {
  const BobSettings settings = lively().bob;
  Random random(30);
  for (int run = 0; run < 500; ++run) {
    HeadBob bob;
    const double speed = random.between(0.3, 6);
    for (double left = random.between(0.3, 3); left > 0; left -= 0.01) bob.step(speed * 0.01, 0.01, true, settings);
    const Vector2d atStop = bob.offset(settings);
    bob.step(0, 1e-5, true, settings);
    ASSERT_LT((bob.offset(settings) - atStop).norm(), 1e-4) << "no snap at the moment of stopping";
    bob.step(0, settings.finishTime, true, settings);
    ASSERT_EQ(bob.offset(settings).norm(), 0);
    ASSERT_TRUE(bob.still());
  }
}

TEST(HeadBob, SwaysOnceAndDipsTwiceAStride) {
  BobSettings settings = lively().bob;
  settings.blendHalfLife = 0;
  HeadBob bob;
  const double stride = settings.stride + settings.strideGrowth * settings.fullSpeed;
  int sways = 0, dips = 0;
  double x = 0, y = 0, yBefore = 0;
  for (int i = 0; i < 10000; ++i) {
    bob.step(9.99 * stride / 10000, 9.99 * stride / 10000 / settings.fullSpeed, true, settings);
    const Vector2d now = bob.offset(settings);
    if (x <= 0 && now.x() > 0) ++sways;
    if (yBefore >= y && now.y() > y) ++dips;
    yBefore = y, x = now.x(), y = now.y();
    ASSERT_LE(now.y(), 0);
    ASSERT_GE(now.y(), -settings.vertical - 1e-12);
  }
  EXPECT_EQ(sways, 10);
  EXPECT_EQ(dips, 20);
}

TEST(LandingDip, DipsByTheFallAndComesBackWithoutOvershoot) {
  HeadMotionSettings settings;
  settings.dip = {0.04, 1, 0.15};
  HeadMotion motion;
  motion.step({0, 0.5, false, 5}, settings);
  motion.step({0, 0.001, true, 0}, settings);
  double lowest = 0;
  for (int i = 0; i < 3000; ++i) {
    motion.step({0, 0.001, true, 0}, settings);
    ASSERT_LE(motion.offset(settings).y(), 1e-15);
    lowest = std::min(lowest, motion.offset(settings).y());
  }
  EXPECT_NEAR(lowest, -0.04 * 5, 1e-4);
  EXPECT_NEAR(motion.offset(settings).y(), 0, 1e-9);
}

CameraDesign eyesDesign() {
  CameraDesign design;
  Framing& framing = design.framings[0].framing;
  framing.distance = framing.distanceRange.nearest = framing.distanceRange.farthest = 0;
  framing.shoulder = framing.anchorRise = 0;
  framing.follow.halfLife = framing.follow.verticalHalfLife = framing.eyeHalfLife = 0;
  framing.pitch = {degrees(-90), degrees(90)};
  design.framings[0].framing.defaultPitch = 0;
  return design;
}

Subject walkerAt(double x, double height = 1.7) {
  Subject subject;
  subject.feet = {x, 0, 0};
  subject.head = {x, height, 0};
  return subject;
}

/// The largest angle between the crosshair and the point of the wall that it would be on without the bob, in degrees.
double drift(double wallAhead, double cap) {
  CameraDesign design = eyesDesign();
  design.motion = lively();
  design.steady.cap = cap;
  const CompiledDesign compiled(design);
  testing::Walls walls;
  walls.walls.push_back({Vector3d::UnitZ(), -wallAhead});
  CharacterCamera camera(compiled, walkerAt(0));
  double largest = 0, bobbed = 0;
  for (int i = 0; i < 600; ++i) {
    const Subject subject = walkerAt(4 * i / 60.0);
    const View view = camera.update(1.0 / 60, subject, walls, wide);
    const Vector3d aim = subject.head + Vector3d(0, 0, -wallAhead) - view.position;
    largest = std::max(largest, std::acos(std::min(view.forward().dot(aim.normalized()), 1.0)));
    bobbed = std::max(bobbed, std::hypot(view.bobRight, view.bobUp));
    EXPECT_EQ(view.heading, 0) << "steadying never feeds back";
  }
  EXPECT_GT(bobbed, 0.045);
  return toDegrees(largest);
}

TEST(Steadying, KeepsTheAimPointOfAWallUnderTheCrosshair) {
  for (const double wall : {0.5, 3.0, 30.0}) {
    EXPECT_LT(drift(wall, degrees(15)), 0.02) << wall;
    EXPECT_GT(drift(wall, 0), 0.05) << "without it, at " << wall;
  }
}

TEST(Steadying, TurnsNoOtherWayRoundWhereTheFocusPassesThePole) {
  SteadySettings settings;
  settings.cap = degrees(30);
  double before = 0;
  for (double x = -0.2; x <= 0.2; x += 1e-4) {
    const double yaw = steadied({0, degrees(80)}, {x, 0, -0.3}, 1, settings).yaw;
    if (x > -0.2) {
      ASSERT_LT(std::abs(yaw - before), 0.01) << x;
    }
    before = yaw;
  }
}

TEST(Steadying, TurnsByItsCapAtMostAndLetsGoAtThePoles) {
  SteadySettings settings;
  settings.cap = degrees(2);
  const LookAngles turn = steadied({0.3, 0.2}, {0.1, 0.1, 0}, 0.5, settings);
  EXPECT_LE(std::hypot(turn.yaw * std::cos(0.2), turn.pitch), degrees(2) + 1e-12);
  const LookAngles up = steadied({0.3, degrees(90)}, {0.03, 0.02, 0}, 3, settings);
  EXPECT_EQ(up.yaw, 0);
  EXPECT_EQ(up.pitch, 0);
}

TEST(Steadying, ANearPostDoesNotJerkTheView) {
  SteadySettings settings;
  Focus focus;
  focus.step(20, 0.01, settings);
  const LookAngles before = steadied({}, {0.03, 0.03, 0}, focus.distance(), settings);
  focus.step(0.6, 0.005, settings);
  const LookAngles after = steadied({}, {0.03, 0.03, 0}, focus.distance(), settings);
  EXPECT_LT(toDegrees(std::hypot(after.yaw - before.yaw, after.pitch - before.pitch)), 0.15);
}

TEST(Comfort, AtZeroTheViewIsTheOneWithoutMotion) {
  CameraDesign moving = eyesDesign();
  moving.motion = lively();
  moving.motion.breath.amplitude = 0.01;
  Preferences calm;
  calm.comfort = {0, 0, 0, 0, 0, 0};
  const CompiledDesign still(eyesDesign()), calmed(moving, calm), lively(moving);
  CharacterCamera a(still, walkerAt(0)), b(calmed, walkerAt(0)), c(lively, walkerAt(0));
  double moved = 0;
  for (int i = 0; i < 300; ++i) {
    Subject subject = walkerAt(i < 150 ? 0.05 * i : 7.5);
    subject.onGround = i % 90 > 10;
    const View plain = a.update(0.016, subject, NoObstacles(), wide),
               other = b.update(0.016, subject, NoObstacles(), wide);
    ASSERT_EQ(plain.position, other.position);
    ASSERT_EQ(plain.yaw, other.yaw);
    ASSERT_EQ(plain.pitch, other.pitch);
    moved = std::max(moved, (c.update(0.016, subject, NoObstacles(), wide).position - plain.position).norm());
  }
  EXPECT_GT(moved, 0.02) << "the test can fail";
}

TEST(EyeHeight, FollowsCrouchingByHalfLifeHoweverTimeIsCut) {
  CameraDesign design = eyesDesign();
  design.framings[0].framing.eyeHalfLife = 0.1;
  const CompiledDesign compiled(design);
  CharacterCamera camera(compiled, walkerAt(0));
  camera.update(0.01, walkerAt(0), NoObstacles(), wide);
  camera.update(0, walkerAt(0, 1.0), NoObstacles(), wide);
  CharacterCamera split = camera;
  EXPECT_NEAR(camera.update(0.1, walkerAt(0, 1.0), NoObstacles(), wide).position.y(), 1.35, 1e-12) << "half of 0.7 m";
  View view;
  for (int i = 0; i < 20; ++i) view = split.update(0.005, walkerAt(0, 1.0), NoObstacles(), wide);
  EXPECT_NEAR(view.position.y(), 1.35, 1e-12);
}

class GlanceTest : public ::testing::Test {
 protected:
  View frame(std::initializer_list<IntentSample> samples, bool held, Rate turn = {}) {
    const std::vector<IntentSample> list(samples);
    Intent intent(list, turn);
    intent.glance = held;
    return camera_.step(0.01, intent, walkerAt(0), NoObstacles(), wide);
  }
  const CompiledDesign design_{eyesDesign()};
  CharacterCamera camera_{design_, walkerAt(0)};
};

TEST_F(GlanceTest, KeepsItsLimitsAndTheHeadingUnderRandomInput) {
  Random random(31);
  frame({IntentSample::look(0, {200, -100})}, false);
  const double heading = camera_.heading();
  const GlanceSettings limits;
  for (int i = 0; i < 20000; ++i) {
    const View view = frame({IntentSample::look(0, {random.between(-900, 900), random.between(-900, 900)})}, true,
                            {random.between(-1, 1), random.between(-1, 1)});
    ASSERT_LE(std::abs(view.fromBody), limits.side + 1e-9);
    ASSERT_LE(view.pitch, limits.up + 1e-9);
    ASSERT_GE(view.pitch, -limits.down - 1e-9);
    ASSERT_EQ(view.heading, heading);
    ASSERT_EQ(view.roll, 0);
  }
}

TEST_F(GlanceTest, MovesAwayFromALimitAtOnce) {
  frame({IntentSample::look(0, {1e5, 0})}, true);
  const double at = camera_.view().yaw;
  EXPECT_NEAR(at, -GlanceSettings().side, 1e-9);
  EXPECT_NEAR(frame({IntentSample::look(0, {-1, 0})}, true).yaw - at, LookSettings().yawPerCount, 1e-12);
}

TEST_F(GlanceTest, ReturnsByHalfLifeAndIsTakenOverSmoothly) {
  frame({IntentSample::look(0, {1000, -300})}, true);
  const double out = camera_.view().glanceYaw;
  View view;
  for (int i = 0; i < 12; ++i) view = frame({}, false);
  EXPECT_NEAR(view.glanceYaw, out / 2, 1e-9) << "0.12 s is the half-life";
  const View again = frame({}, true);
  EXPECT_EQ(again.glanceYaw, view.glanceYaw) << "pressing again goes on from here";
  for (int i = 0; i < 400; ++i) view = frame({}, false);
  EXPECT_EQ(view.glanceYaw, 0);
  EXPECT_EQ(view.yaw, camera_.heading());
  EXPECT_EQ(camera_.heading(), 0) << "exactly what it was";
}

TEST_F(GlanceTest, ReturnsAtOnceIfTheHalfLifeIsZero) {
  CameraDesign design = eyesDesign();
  design.glance.returnHalfLife = 0;
  const CompiledDesign cut(design);
  camera_ = CharacterCamera(cut, walkerAt(0));
  frame({IntentSample::look(0, {1000, 0})}, true);
  EXPECT_EQ(frame({}, false).yaw, 0);
}

TEST(HeadBob, AStepThatIsFinishedGoesOnAllTheWay) {
  BobSettings settings{0.06, 0.05};
  HeadBob bob;
  bob.step(2.13, 1, true, settings);
  double largest = 0, moved = 0;
  Eigen::Vector2d before = bob.offset(settings);
  for (int i = 0; i < 1000 && !bob.still(); ++i) {
    bob.step(0, 1e-3, true, settings);
    largest = std::max(largest, (bob.offset(settings) - before).norm());
    moved += (bob.offset(settings) - before).norm();
    before = bob.offset(settings);
  }
  EXPECT_GT(moved, 0.005);
  EXPECT_LT(largest, moved / 50) << "no jump at the end";
}

}  // namespace
}  // namespace alpglow
