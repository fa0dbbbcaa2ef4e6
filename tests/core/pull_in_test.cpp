#include "alpglow/space/pull_in.hpp"

#include "alpglow/space/guarded_obstacles.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Walls;

constexpr double radius = 0.15;
const Vector3d head(0, 1.7, 0);

/// Looks along −z; the pivot to the right of the head.
PullInRequest behind(double distance, double shoulder = 0, const Vector3d& at = head) {
  PullInRequest request;
  request.head = request.anchor = at;
  request.distance = distance;
  request.shoulder = shoulder;
  request.radius = radius;
  return request;
}

/// A wall across the way back, `z` metres behind the head.
Walls wallBehind(double z) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitZ(), -z});
  return walls;
}

TEST(PullIn, StopsAMillimetreBeforeTheSphereTouches) {
  PullIn space;
  const PullInPose pose = space.step(behind(4), {}, wallBehind(2), 0.016, {});
  EXPECT_NEAR(pose.distance, 2 - radius - 0.001, 1e-9);
  EXPECT_EQ(pose.obstacle, 0u);
  EXPECT_TRUE(space.pulledIn());
}

/// Nothing but a delay and a half-life.
PullInSettings plain(double delay, double halfLife) {
  PullInSettings settings;
  settings.delay = delay;
  settings.halfLife = halfLife;
  settings.outSpeed = 1e6;
  return settings;
}

TEST(PullIn, IsAtOnceInTheRoomOfTheMomentAndEasesOutAfterTheDelayByHalfLife) {
  const PullInSettings settings = plain(0.3, 0.2);
  PullIn space;
  EXPECT_EQ(space.step(behind(4), {}, NoObstacles(), 0.01, settings).distance, 4);
  const double close = space.step(behind(4), {}, wallBehind(2), 0.01, settings).distance;
  EXPECT_LT(close, 2);
  EXPECT_NEAR(space.step(behind(4), {}, NoObstacles(), 0.3, settings).distance, close, 1e-9)
      << "it waits for the delay";
  const double later = space.step(behind(4), {}, NoObstacles(), 0.2, settings).distance;
  EXPECT_NEAR(4 - later, (4 - close) / 2, 1e-9) << "half of the way in a half-life";
}

TEST(PullIn, ZoomingWhileFreeIsNotHeldBack) {
  PullIn space;
  for (const double distance : {2.0, 3.0, 1.5, 5.0}) {
    EXPECT_EQ(space.step(behind(distance), {}, NoObstacles(), 0.01, {}).distance, distance);
  }
}

TEST(PullIn, ComesInAlongTheLineToTheHead) {
  // The pivot is 0.8 m to the right of the head; the pole stands between head and camera, beside the axis.
  Walls walls;
  walls.poles.push_back({0.25, 1.2, 0.05});
  EXPECT_FALSE(walls.sweep(head + Vector3d(0.8, 0, 0), Vector3d(0, 0, 3), radius).hit());
  PullInSettings keepsShoulder;
  keepsShoulder.shoulderSpeed = 0;
  PullIn space;
  const PullInPose pose = space.step(behind(3, 0.8), {}, walls, 0.016, keepsShoulder);
  EXPECT_FALSE(walls.sweep(head, pose.camera - head, radius).hit());
  EXPECT_LT(pose.distance, 1.5);
  const Vector3d direct(0.8, 0, 3);
  EXPECT_NEAR((pose.camera - head).normalized().dot(direct.normalized()), 1, 1e-12)
      << "the head keeps its place in the picture";
  EXPECT_NEAR(pose.shoulder / 0.8, pose.distance / 3, 1e-12) << "the shoulder comes along";
}

TEST(PullIn, WhoAimsComesInAlongTheAxis) {
  PullInRequest request = behind(3, 0.6);
  request.aims = true;
  PullIn space;
  PullInPose pose;
  for (int i = 0; i < 30; ++i) pose = space.step(request, {}, wallBehind(1.5), 0.016, {});
  EXPECT_NEAR(pose.pivot.x(), 0.6, 1e-12) << "the crosshair stays where it is";
  EXPECT_NEAR(pose.camera.x(), 0.6, 1e-12);
  EXPECT_LT(pose.distance, 1.4);
  Walls pole;  // between the head and that camera
  pole.poles.push_back({0.3, 0.6, 0.05});
  pose = space.step(request, {}, pole, 0.016, {});
  EXPECT_FALSE(pole.sweep(head, pose.camera - head, radius).hit());
}

/// Walks sideways at 2 m/s toward where a wall comes between head and camera. Returns the fastest way in, m/s.
double fastestIn(const PullInSettings& settings, double frame, double& kept) {
  class Door final : public Obstacles {
   public:
    Contact sweep(const Vector3d& from, const Vector3d& displacement, double r) const noexcept override {
      // A wall at z = 1.2 for x > 0: where the sphere's centre comes to it, grown by the radius.
      const double length = displacement.norm(), depth = (1.2 - r - from.z()) / displacement.z();
      const bool meets = displacement.z() > 0 && depth >= 0 && depth < 1 && from.x() + depth * displacement.x() > -r;
      return meets ? Contact{depth * length, 1} : Contact{length, noObstacle};
    }
    Contact cast(const Vector3d&, const Vector3d& displacement, Purpose::Bit) const noexcept override {
      return {displacement.norm(), noObstacle};
    }
    double clearance(const Vector3d&, double range) const noexcept override { return range; }
  } const door;
  PullIn space;
  double before = 3, fastest = 0;
  kept = 0;
  int frames = 0;
  for (double x = -3; x < 1; x += 2 * frame, ++frames) {
    const PullInPose pose =
        space.step(behind(3, 0, Vector3d(x, 1.7, 0)), {Vector3d(2, 0, 0), 0}, door, frame, settings);
    EXPECT_LE(pose.camera.z(), x > -radius ? 1.2 - radius : 3);
    fastest = std::max(fastest, (before - pose.distance) / frame);
    kept += pose.distance;
    before = pose.distance;
  }
  kept /= frames;
  return fastest;
}

TEST(PullIn, ForeseesWhereOneWalks) {
  double kept = 0, without = 0;
  PullInSettings blind;
  blind.foresight = 0;
  EXPECT_GT(fastestIn(blind, 1 / 60.0, without), 100) << "1.9 m in a frame";
  EXPECT_LT(fastestIn({}, 1 / 60.0, kept), 8);
  EXPECT_LT(fastestIn({}, 1 / 240.0, kept), 8);
  EXPECT_GT(kept, without - 0.35) << "and does not come in too early";
}

TEST(PullIn, GivesUpTheShoulderWhereThatKeepsTheDistance) {
  // A wall close on the right that the camera's place is behind, with the shoulder.
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.3});
  PullIn space;
  double before = 0.5;
  PullInPose pose;
  for (int i = 0; i < 120; ++i) {
    pose = space.step(behind(3, 0.5), {}, walls, 1 / 60.0, {});
    const double left = 0.5 - space.givenUp();
    EXPECT_LE(before - left, 1.5 / 60 + 1e-9) << "gently";
    before = left;
  }
  EXPECT_GT(pose.distance, 2.8);
  EXPECT_LT(pose.shoulder, 0.15);
  for (int i = 0; i < 300; ++i) pose = space.step(behind(3, 0.5), {}, NoObstacles(), 1 / 60.0, {});
  EXPECT_NEAR(pose.shoulder, 0.5, 1e-6);
  EXPECT_FALSE(space.limiting());
}

TEST(PullIn, KeepsItsMarginWhereThereIsRoom) {
  PullInSettings settings;
  settings.margin = 0.1;
  PullIn space;
  EXPECT_NEAR(space.step(behind(3), {}, wallBehind(2), 0.016, settings).distance, 2 - radius - 0.1 - 0.001, 1e-9);
  PullIn close;
  const PullInPose pose = close.step(behind(3), {}, wallBehind(0.2), 0.016, settings);
  EXPECT_EQ(pose.nearPlane, 0.1) << "the margin is given up before the near plane comes closer";
}

TEST(PullIn, ShrinksNearAndSphereTogetherWhenTheHeadHasLessRoom) {
  PullIn space;
  const Walls walls = wallBehind(0.1);
  const PullInPose pose = space.step(behind(3), {}, walls, 0.016, {});
  EXPECT_LT(pose.nearPlane, 0.1);
  EXPECT_FALSE(pose.headBlocked);
  EXPECT_GE(walls.clearance(pose.camera, 1), radius * pose.nearPlane / 0.1 - 1e-12);
}

TEST(PullIn, AHeadInsideAWallKeepsTheCameraAtTheHeadAndSaysSo) {
  PullIn space;
  const PullInPose pose = space.step(behind(3), {}, wallBehind(-1), 0.016, {});
  EXPECT_TRUE(pose.headBlocked);
  EXPECT_EQ(pose.camera, head);
  EXPECT_GT(pose.nearPlane, 0);
}

TEST(PullIn, AHeadThatTremblesAtAWallKeepsTheCameraStill) {
  PullIn space;
  Walls besideHead;
  besideHead.walls.push_back({Vector3d::UnitX(), 0});
  double farthest = 0;
  for (int i = 0; i < 240; ++i) {
    const Vector3d trembling(i % 3 == 0 ? 0.0 : 0.002, 1.7, 0);
    const PullInPose pose = space.step(behind(3, 0, trembling), {}, besideHead, 1 / 60.0, {});
    if (i > 0) farthest = std::max(farthest, (pose.camera - trembling).norm());
    EXPECT_EQ(pose.headBlocked, i % 3 == 0);
  }
  EXPECT_EQ(farthest, 0);
}

TEST(PullIn, AHeadThatComesFreeLetsTheCameraOutGently) {
  PullIn space;
  Walls inside, open;
  inside.walls.push_back({Vector3d::UnitX(), 0.5});
  for (int i = 0; i < 20; ++i) space.step(behind(3), {}, open, 1 / 60.0, {});
  EXPECT_TRUE(space.step(behind(3), {}, inside, 1 / 60.0, {}).headBlocked);
  double before = 0, most = 0;
  for (int i = 0; i < 300; ++i) {
    const double distance = space.step(behind(3), {}, open, 1 / 60.0, {}).distance;
    most = std::max(most, distance - before);
    before = distance;
  }
  EXPECT_LT(most, PullInSettings().outSpeed / 60 + 1e-9);
  EXPECT_NEAR(before, 3, 1e-4);
}

TEST(PullIn, EndsAtAMillimetre) {
  PullIn space;
  space.step(behind(3), {}, wallBehind(1), 1 / 60.0, {});
  double out = 0;
  const PullInSettings settings = plain(0.25, 0.2);
  for (int i = 1; i < 600 && space.pulledIn(); ++i) {
    const PullInPose pose = space.step(behind(3), {}, Walls(), 1 / 60.0, settings);
    EXPECT_EQ(space.pulledIn(), 3 - pose.distance > 1e-3);
    out = i / 60.0;
  }
  // The delay, and half-lives until 2 m have become 1 mm.
  EXPECT_NEAR(out, settings.delay + settings.halfLife * std::log2(2.15 / 1e-3), 0.05);
}

TEST(UrgentLimit, EasingOutDoesNotDependOnHowTimeIsCut) {
  testing::Random random(11);
  const PullInSettings settings;
  for (int run = 0; run < 100; ++run) {
    UrgentLimit whole;
    whole.step(3, 1, {}, 0.01, settings);
    UrgentLimit split = whole;
    const double total = random.between(0.1, 2);
    const double once = whole.step(3, UrgentLimit::unlimited, {}, total, settings);
    double often = 0;
    for (const double part : random.cut(total, 40)) often = split.step(3, UrgentLimit::unlimited, {}, part, settings);
    EXPECT_NEAR(once, often, 1e-9);
  }
}

TEST(UrgentLimit, IsAsFastAsTheTimeThatIsLeftAsksAndNoFaster) {
  // 1.5 m too long in 0.3 s: 5 m/s, a little above what is calm. At 4 m/s nothing happens before 0.375 s.
  const PullInSettings settings;
  for (const double notice : {0.5, 0.3, 0.2}) {
    UrgentLimit limit;
    double length = 3, fastest = 0;
    for (double left = notice; left > 0; left -= 0.004) {
      const RoomAhead ahead[] = {{left, 1.5}};
      const double next = limit.step(3, UrgentLimit::unlimited, ahead, 0.004, settings);
      fastest = std::max(fastest, (length - next) / 0.004);
      length = next;
    }
    EXPECT_NEAR(length, 1.5, 0.15) << notice;
    EXPECT_LT(fastest, std::max(1.9 * settings.speed, 1.9 * 1.5 / notice)) << notice;
  }
  UrgentLimit never;
  const RoomAhead far[] = {{0.5, 1.5}};
  for (int i = 0; i < 100; ++i)
    EXPECT_EQ(never.step(3, UrgentLimit::unlimited, far, 0.004, settings), 3) << "3 m/s will do";
}

TEST(UrgentLimit, GoesOutOnlyToWhatItCanKeep) {
  const PullInSettings settings;
  UrgentLimit limit;
  limit.step(3, 1, {}, 0.01, settings);
  const RoomAhead ahead[] = {{0.3, 1.6}, {0.5, 0.8}};
  double length = 0;
  for (int i = 0; i < 300; ++i) length = limit.step(3, UrgentLimit::unlimited, ahead, 0.01, settings);
  EXPECT_NEAR(length, 1.6, 1e-6)
      << "0.8 m can be reached calmly in 0.5 s from 2.8 m, but 0.3 s from now there is room for 1.6";
}

TEST(UrgentLimit, WhoPumpsWaitsLonger) {
  const PullInSettings settings;
  UrgentLimit limit;
  std::vector<double> waits;
  for (int times = 0; times < 5; ++times) {
    limit.step(3, 1, {}, 0.01, settings);
    waits.push_back(limit.wait(settings));
    while (limit.step(3, UrgentLimit::unlimited, {}, 0.01, settings) < 1.5) {
    }
  }
  EXPECT_NEAR(waits[0], settings.delay, 1e-9);
  for (std::size_t i = 1; i < waits.size(); ++i) EXPECT_GE(waits[i], waits[i - 1]);
  EXPECT_GT(waits[2], settings.delay + 0.5);
  EXPECT_LE(waits.back(), settings.delay + settings.longestBackOff);
}

/// Answers what it is told to.
class Oracle final : public Obstacles {
 public:
  Contact answer;
  double clear = 0;
  Contact sweep(const Vector3d&, const Vector3d&, double) const noexcept override { return answer; }
  Contact cast(const Vector3d&, const Vector3d&, Purpose::Bit) const noexcept override { return answer; }
  double clearance(const Vector3d&, double) const noexcept override { return clear; }
};

TEST(GuardedObstacles, TakesGoodAnswersAsTheyAre) {
  Oracle world;
  const GuardedObstacles checked(world);
  for (const Contact& good : {Contact{1.5, 7}, Contact{0, 0}, Contact{2, noObstacle}, Contact{2, 3}}) {
    world.answer = good;
    const Contact swept = checked.sweep({0, 0, 0}, {0, 2, 0}, 0.1),
                  cast = checked.cast({0, 0, 0}, {0, 2, 0}, Purpose::aim);
    EXPECT_EQ(swept.distance, good.distance);
    EXPECT_EQ(cast.obstacle, good.obstacle);
  }
  world.answer = {2.00001, noObstacle};  // as single precision rounds
  EXPECT_EQ(checked.cast({0, 0, 0}, {0, 2, 0}, Purpose::aim).distance, 2);
  world.clear = 9;
  EXPECT_EQ(checked.clearance({0, 0, 0}, 0.4), 0.4);
  EXPECT_FALSE(checked.bad());
}

TEST(GuardedObstacles, CountsABadAnswerAsAnObstacleRightThere) {
  const double nan = std::nan("");
  for (const Contact& bad : {Contact{nan, 1}, Contact{-0.1, 1}, Contact{2.1, 1}, Contact{1e308, noObstacle}}) {
    Oracle world;
    world.answer = bad;
    const GuardedObstacles checked(world);
    const Contact contact = checked.sweep({0, 0, 0}, {0, 2, 0}, 0.1);
    EXPECT_EQ(contact.distance, 0);
    EXPECT_TRUE(contact.hit());
    EXPECT_TRUE(checked.bad());
  }
  Oracle world;
  world.answer = {0.7, noObstacle};  // without an id, or a fraction of the way
  world.clear = nan;
  const GuardedObstacles checked(world);
  const Contact contact = checked.cast({0, 0, 0}, {0, 2, 0}, Purpose::aim);
  EXPECT_EQ(contact.distance, 0.7);
  EXPECT_EQ(contact.obstacle, unnamedObstacle);
  EXPECT_EQ(checked.clearance({0, 0, 0}, 0.4), 0);
}

TEST(GuardedObstacles, ACameraAmongNonsenseSaysSoAndForgetsItAtOnce) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0})), sane = camera;
  const NoObstacles open;
  Oracle world;
  world.answer = {std::nan(""), noObstacle};
  world.clear = 1;
  const View during = camera.update(0.016, testing::wardenAt({0, 0, 0}), world, testing::wide);
  EXPECT_EQ(during.faults, std::uint32_t{Fault::badObstacles});
  EXPECT_NEAR((during.position - during.head).norm(), 0, 1e-9);
  View after, never;
  for (int i = 0; i < 600; ++i) {
    after = camera.update(0.016, testing::wardenAt({0, 0, 0}), open, testing::wide);
    never = sane.update(0.016, testing::wardenAt({0, 0, 0}), open, testing::wide);
    ASSERT_EQ(after.faults, 0u);
    ASSERT_EQ(after.yaw, never.yaw);
  }
  EXPECT_LT((after.position - never.position).norm(), 1e-4);
}

TEST(Interpolable, IsWhatHasNoObstacleInBetween) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0}));
  const Walls open;
  EXPECT_FALSE(camera.update(0.0, testing::wardenAt({0, 0, 0}), open, testing::wide).interpolable) << "the first view";
  EXPECT_TRUE(camera.update(0.016, testing::wardenAt({0.02, 0, 0}), open, testing::wide).interpolable);
  Walls pole;  // comes between head and camera: the camera has to go through it
  const View before = camera.view();
  const Vector3d middle = (before.head + before.position) / 2;
  pole.poles = {{middle.x(), middle.z(), 0.1}};
  const View pulled = camera.update(0.016, testing::wardenAt({0.02, 0, 0}), pole, testing::wide);
  EXPECT_TRUE(pulled.pulledIn);
  EXPECT_FALSE(pulled.cut);
  EXPECT_FALSE(pulled.interpolable);
  for (int i = 0; i < 60; ++i)
    EXPECT_TRUE(camera.update(0.016, testing::wardenAt({0.02, 0, 0}), pole, testing::wide).interpolable) << i;
}

}  // namespace
}  // namespace alpglow
