#include "alpglow/space/pull_in.hpp"

#include "support/boxes.hpp"
#include "support/pull_in_requests.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::behind;
using testing::head;
using testing::radius;
using testing::wallBehind;
using testing::Walls;

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

TEST(PullIn, IsAtOnceInTheRoomOfTheMomentAndEasesOutByHalfLife) {
  const PullInSettings settings = plain(0, 0.2);
  PullIn space;
  EXPECT_EQ(space.step(behind(4), {}, NoObstacles(), 0.01, settings).distance, 4);
  const double close = space.step(behind(4), {}, wallBehind(2), 0.01, settings).distance;
  EXPECT_LT(close, 2);
  const double later = space.step(behind(4), {}, NoObstacles(), 0.2, settings).distance;
  EXPECT_NEAR(4 - later, (4 - close) / 2, 1e-9) << "half of the way in a half-life";
}

TEST(PullIn, ZoomingWhileFreeIsNotHeldBack) {
  PullIn space;
  for (const double distance : {2.0, 3.0, 1.5, 5.0}) {
    EXPECT_EQ(space.step(behind(distance), {}, NoObstacles(), 0.01, {}).distance, distance);
  }
}

/// Counts what it is asked, and answers what it is asked together from the last to the first.
struct Counted final : Obstacles {
  explicit Counted(const Obstacles& asked) : world(asked) {}
  Contact sweep(const Vector3d& from, const Vector3d& displacement, double wide) const noexcept override {
    return ++questions, world.sweep(from, displacement, wide);
  }
  Contact cast(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept override {
    return ++questions, world.cast(from, displacement, purpose);
  }
  double clearance(const Vector3d& point, double range) const noexcept override {
    return ++questions, world.clearance(point, range);
  }
  void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept override {
    mostTogether = std::max(mostTogether, sweeps.size());
    for (std::size_t i = sweeps.size(); i-- > 0;)
      contacts[i] = sweep(sweeps[i].from, sweeps[i].displacement, sweeps[i].radius);
  }
  bool nothingNear() const noexcept override { return empty; }
  const Obstacles& world;
  bool empty = false;
  mutable int questions = 0;
  mutable std::size_t mostTogether = 0;
};

TEST(PullIn, DoesNotAskAgainWhatIsKnownOfTheMoment) {
  testing::Random random(5);
  int fewer = 0;
  for (int i = 0; i < 300; ++i) {
    Walls walls = wallBehind(random.between(0.1, 4));
    walls.poles.push_back({random.between(-1, 1), random.between(0.5, 3), 0.05});
    const Counted world(walls);
    PullIn space;
    PullInRequest request = behind(3, random.between(-0.6, 0.6));
    const KnownRoom known = space.foresee(request, {}, world, 0.016, {});
    if (random.chance(0.5)) request.orbit.yaw += 0.01;
    if (random.chance(0.3)) request.head.x() += 0.01;
    PullIn again = space;
    const auto asked = [&](PullIn& by, const KnownRoom& what) {
      const int before = world.questions;
      const PullInPose pose = by.place(request, world, {}, what);
      return std::make_pair(pose, world.questions - before);
    };
    const auto [pose, questions] = asked(space, known);
    const auto [anew, all] = asked(again, {});
    EXPECT_EQ(pose.camera, anew.camera);
    EXPECT_EQ(pose.nearPlane, anew.nearPlane);
    EXPECT_EQ(pose.obstacle, anew.obstacle);
    EXPECT_EQ(pose.clearDistance, anew.clearDistance);
    const bool headKnown = request.head == head, lineKnown = headKnown && request.orbit.yaw == 0 && !pose.headBlocked;
    EXPECT_EQ(all - questions, (headKnown ? 1 : 0) + (lineKnown ? 1 : 0)) << i;
    fewer += questions < all ? 1 : 0;
  }
  EXPECT_GT(fewer, 100);
}

TEST(PullIn, LooksAheadSixtyTimesASecondAtAnyFrameRate) {
  const auto asked = [](double rate) {
    const NoObstacles nothing;
    const Counted world(nothing);
    PullIn space;
    PullInRequest request = behind(3, 0.5);
    for (int i = 0; i < static_cast<int>(rate); ++i) {
      request.orbit.yaw += 1 / rate;
      space.step(request, {}, world, 1 / rate, {});
    }
    return world.questions;
  };
  const int at60 = asked(60);
  EXPECT_GT(at60, 60 * 10);
  EXPECT_GT(asked(30), at60 / 2 - 60);
  for (const double rate : {144.0, 240.0, 1000.0}) {
    const int perFrame = 4;  // the room near the head, the line, and two looks at what is imminent
    EXPECT_NEAR(asked(rate), at60 + perFrame * (rate - 60), 0.05 * at60 + 10) << rate;
  }
}

TEST(PullIn, LooksAheadInOneQuestion) {
  Walls walls = wallBehind(4);
  walls.poles.push_back({-1, 1, 0.1});
  const Counted together(walls);
  PullIn space, alone;
  PullInRequest request = behind(3, 0.5);
  for (int i = 0; i < 60; ++i) {
    request.orbit.yaw += 0.05;
    const PullInPose pose = space.step(request, {}, together, 1 / 60.0, {});
    EXPECT_EQ(pose.camera, alone.step(request, {}, walls, 1 / 60.0, {}).camera);
  }
  EXPECT_GE(together.mostTogether, 6u);
}

TEST(PullIn, WhereNothingIsNearItLooksAtNothingAheadAndTheRestIsAsEver) {
  const NoObstacles nothing;
  Counted unknown(nothing), empty(nothing);
  empty.empty = true;
  const Walls walls = wallBehind(1);
  PullIn space, asking;
  PullInRequest request = behind(3, 0.5);
  for (int i = 0; i < 240; ++i) {
    request.orbit.yaw += 0.02;
    // It comes from a wall, so that it goes out at first.
    const Obstacles &to = i < 5 ? static_cast<const Obstacles&>(walls) : empty, &of = i < 5 ? to : unknown;
    EXPECT_EQ(space.step(request, {}, to, 1 / 60.0, {}).camera, asking.step(request, {}, of, 1 / 60.0, {}).camera);
    EXPECT_EQ(space.limiting(), asking.limiting());
  }
  EXPECT_LT(empty.questions, 235 * 6);
  EXPECT_GT(unknown.questions, 235 * 10);
}

TEST(PullIn, AsksNothingOfWaysThatAreNone) {
  const Walls walls = wallBehind(1);
  const Sweep still{head, {0, 0, 1e-9}, 0.1}, nowhere{head, {0, 0, std::nan("")}, 0.1}, back{head, {0, 0, 4}, 0.1};
  std::vector<Sweep> sweeps{still, back, nowhere};
  for (int i = 0; i < 10; ++i) sweeps.push_back(back);
  std::vector<ClearFraction> fractions(sweeps.size());
  clearFractions(walls, sweeps, fractions.data());
  for (std::size_t i = 0; i < sweeps.size(); ++i) {
    const ClearFraction each = clearFraction(walls, head, head + sweeps[i].displacement, 0.1);
    EXPECT_EQ(fractions[i].fraction, each.fraction) << i;
    EXPECT_EQ(fractions[i].obstacle, each.obstacle) << i;
  }
  EXPECT_LT(fractions.back().fraction, 1);
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

TEST(PullIn, WhoAimsSwingsAsideRatherThanComeInFarther) {
  PullInRequest aiming = behind(3, 0.6);
  aiming.aims = true;
  Walls beside = wallBehind(1.5);  // and a pole that the line to the ideal place misses, but not the one along the axis
  beside.poles.push_back({0.35, 0.6, 0.05});
  PullIn aims, free;
  PullInSettings still;
  still.shoulderSpeed = 0;
  for (int i = 0; i < 30; ++i) {
    const PullInPose pose = aims.step(aiming, {}, beside, 0.016, still);
    EXPECT_NEAR(pose.distance, free.step(behind(3, 0.6), {}, beside, 0.016, still).distance, 1e-9) << "none is lost";
    EXPECT_FALSE(beside.sweep(head, pose.camera - head, radius).hit());
    EXPECT_LT(pose.pivot.x(), 0.5);
    EXPECT_NEAR((pose.camera - pose.pivot).normalized().z(), 1, 1e-12) << "and looks the same way";
  }
}

/// Walks to the right, a wall ahead; whether what stands beside the way comes in for anything.
ObstacleId foreseenOnTheWay(const Walls& walls, double speed) {
  PullIn space;
  PullInMotion motion;
  motion.gait.velocity = speed * Vector3d::UnitX();
  motion.gait.onGround = true;
  ObstacleId foreseen = noObstacle;
  for (int i = 0; i < 10; ++i) {
    const PullInPose pose = space.step(behind(3), motion, walls, 1 / 60.0, {});
    if (pose.foreseen != noObstacle) foreseen = pose.foreseen;
  }
  return foreseen;
}

TEST(PullIn, AWalkerIsTakenToStopBeforeAWallByItsOwnWidth) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.6});
  walls.poles.push_back({0.62, 1.2, 0.05});
  EXPECT_EQ(foreseenOnTheWay(walls, 3), noObstacle) << "its head gets as far as 0.35 m";
  walls.poles[0].x = 0.54;
  EXPECT_NE(foreseenOnTheWay(walls, 3), noObstacle) << "and this is in the way from there";
}

/// Walks sideways at 2 m/s toward where a wall comes between head and camera. Returns how fast it comes in, m/s.
std::vector<double> speedsIn(const PullInSettings& settings, double frame, double& kept) {
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
  std::vector<double> speeds;
  double before = 3;
  kept = 0;
  for (double x = -3; x < 1; x += 2 * frame) {
    PullInMotion motion;
    motion.gait.velocity = {2, 0, 0};
    const PullInPose pose = space.step(behind(3, 0, Vector3d(x, 1.7, 0)), motion, door, frame, settings);
    EXPECT_LE(pose.camera.z(), x > -radius ? 1.2 - radius : 3);
    speeds.push_back((before - pose.distance) / frame);
    kept += pose.distance;
    before = pose.distance;
  }
  kept /= static_cast<double>(speeds.size());
  return speeds;
}

double fastestOf(const std::vector<double>& speeds) { return *std::max_element(speeds.begin(), speeds.end()); }

TEST(PullIn, ForeseesWhereOneWalks) {
  double kept = 0, without = 0;
  PullInSettings blind;
  blind.foresight = 0;
  EXPECT_GT(fastestOf(speedsIn(blind, 1 / 60.0, without)), 100) << "1.9 m in a frame";
  for (const double rate : {30.0, 60.0, 144.0, 240.0}) {
    const std::vector<double> speeds = speedsIn({}, 1 / rate, kept);
    EXPECT_LT(fastestOf(speeds), 13) << rate;
    EXPECT_GT(kept, without - 0.35) << "and does not come in too early";
    // Without surges: up once and down once, but for what is not felt.
    double climbed = 0;
    for (std::size_t i = 1; i < speeds.size(); ++i) climbed += std::max(speeds[i] - speeds[i - 1], 0.0);
    EXPECT_LT(climbed, 1.8 * fastestOf(speeds)) << rate;
  }
}

TEST(PullIn, GlidesNoFasterThanItsFastest) {
  PullInSettings settings;
  settings.speed = 2;
  settings.fastest = 3;
  settings.foresight = 2;  // time enough
  double kept = 0;
  EXPECT_NEAR(fastestOf(speedsIn(settings, 1 / 60.0, kept)), 3, 1e-9);
}

/// Stands, and swaps the shoulder within 0.4 s. Returns the fastest way in, m/s.
double fastestWhileSwapping(const Obstacles& world, const PullInSettings& settings) {
  PullIn space;
  double before = 3, fastest = 0;
  for (double time = -0.2; time < 1; time += 1 / 60.0) {
    const double shoulder = -0.6 + 1.2 * std::clamp(time / 0.4, 0.0, 1.0);
    const PullInPose pose = space.step(behind(3, shoulder), {}, world, 1 / 60.0, settings);
    fastest = std::max(fastest, (before - pose.distance) * 60);
    before = pose.distance;
  }
  return fastest;
}

/// The most that is lost within a sixtieth of a second while the look turns past a thin post, told by a mouse that
/// speaks 125 times a second.
double mostLostPastAPost(double rate, double postAt) {
  testing::Boxes post;
  const double angle = degrees(postAt);
  post.add({1.4 * std::sin(angle), 1.5, 1.4 * std::cos(angle)}, {0.06, 1.5, 0.06}, false);
  PullIn space;
  std::vector<double> times, distances;
  double most = 0;
  for (double time = 0; time < 1.6; time += 1 / rate) {
    PullInRequest request = behind(2.9, 0.55);
    request.orbit.yaw = degrees(80) * 0.008 * std::floor(std::clamp(time - 0.2, 0.0, 1.0) / 0.008);
    times.push_back(time);
    distances.push_back(space.step(request, {}, post, 1 / rate, {}).distance);
    for (std::size_t k = 0; k < times.size(); ++k) {
      if (time - times[k] < 1.0 / 60 + 1e-9) most = std::max(most, distances[k] - distances.back());
    }
  }
  return most;
}

TEST(PullIn, AThinPostIsForeseenAtHighFrameRatesAsAtLowOnes) {
  double worst = 0;
  for (double at = 30; at < 60; at += 1.5) {
    for (const double rate : {144.0, 240.0, 480.0, 1000.0}) worst = std::max(worst, mostLostPastAPost(rate, at));
  }
  EXPECT_LT(worst, 0.25) << "no pop";
}

TEST(PullIn, ForeseesAShoulderThatIsSwapped) {
  PullInSettings settings;
  settings.shoulderSpeed = 0;
  Walls pole;  // beside the way to the camera over the other shoulder
  pole.poles.push_back({0.62, 2.4, 0.05});
  EXPECT_LT(fastestWhileSwapping(pole, settings), 14);
  settings.foresight = 0;
  EXPECT_GT(fastestWhileSwapping(pole, settings), 30);
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
  const PullInSettings settings = plain(0, 0.2);
  for (int i = 1; i < 600 && space.pulledIn(); ++i) {
    const PullInPose pose = space.step(behind(3), {}, Walls(), 1 / 60.0, settings);
    EXPECT_EQ(space.pulledIn(), 3 - pose.distance > 1e-3);
    out = i / 60.0;
  }
  // Half-lives until 2 m have become 1 mm.
  EXPECT_NEAR(out, settings.halfLife * std::log2(2.15 / 1e-3), 0.05);
}

}  // namespace
}  // namespace alpglow
