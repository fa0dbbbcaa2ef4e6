// What clear space sees coming.

#include "support/boxes.hpp"
#include "support/counted.hpp"
#include "support/pull_in_requests.hpp"
#include "support/walls.hpp"

#include "alpglow/space/pull_in.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::behind;
using testing::Counted;
using testing::radius;
using testing::wallBehind;
using testing::Walls;

TEST(Foresight, LooksAheadSixtyTimesASecondAtAnyFrameRate) {
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
  EXPECT_GT(at60, 60 * 8);
  EXPECT_GT(asked(30), at60 / 2 - 60);
  for (const double rate : {144.0, 240.0, 1000.0}) {
    const int perFrame = 2;  // the room near the head, and the line
    EXPECT_NEAR(asked(rate), at60 + perFrame * (rate - 60), 0.05 * at60 + 10) << rate;
  }
}

TEST(Foresight, WhereNothingIsNearItLooksAtNothingAheadAndTheRestIsAsEver) {
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

/// Walks to the right, a wall ahead; whether what stands beside the way comes in for anything.
ObstacleId foreseenOnTheWay(const Walls& walls, double speed) {
  PullIn space;
  PullInMotion motion;
  motion.velocity = speed * Vector3d::UnitX();
  motion.onGround = true;
  ObstacleId foreseen = noObstacle;
  for (int i = 0; i < 10; ++i) {
    const PullInPose pose = space.step(behind(3), motion, walls, 1 / 60.0, {});
    if (pose.foreseen != noObstacle) foreseen = pose.foreseen;
  }
  return foreseen;
}

TEST(Foresight, AWalkerIsTakenToStopBeforeAWallByItsOwnWidth) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.6});
  walls.poles.push_back({0.62, 1.2, 0.05});
  EXPECT_EQ(foreseenOnTheWay(walls, 3), noObstacle) << "its head gets as far as 0.35 m";
  walls.poles[0].x = 0.54;
  EXPECT_NE(foreseenOnTheWay(walls, 3), noObstacle) << "and this is in the way from there";
}

TEST(Foresight, WhoWalksIntoAWallGoesAlongIt) {
  Walls walls;
  walls.walls.push_back({-Vector3d::UnitX(), -0.75});
  walls.poles.push_back({0.85, 1.2, 0.05});
  EXPECT_EQ(foreseenOnTheWay(walls, 3), noObstacle) << "it gets no farther than 0.5 m";
  walls.walls[0] = {Vector3d(-1, 0, 1).normalized(), -0.6};
  EXPECT_NE(foreseenOnTheWay(walls, 3), noObstacle) << "and from there to the right and back";
}

TEST(Foresight, AChangeOfFramingIsKnownBeforeItBegins) {
  Walls walls;
  walls.poles.push_back({0.3, 0.9, 0.05});
  const AskedAhead asked[] = {{0.1, 3}, {0.4, 3}, {0.7, 3}};
  for (const bool known : {false, true}) {
    PullIn space;
    PullInMotion motion;
    motion.askedEvery = 0.1;
    if (known) motion.asked = asked;
    space.step(behind(3, 0.1), motion, walls, 1 / 60.0, {});
    const PullInPose pose = space.step(behind(3, 0.1), motion, walls, 1 / 60.0, {});
    EXPECT_EQ(pose.foreseen != noObstacle, known);
  }
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
    motion.velocity = {2, 0, 0};
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

TEST(Foresight, ForeseesWhereOneWalks) {
  double kept = 0, without = 0;
  PullInSettings blind;
  blind.horizon = 0;
  EXPECT_GT(fastestOf(speedsIn(blind, 1 / 60.0, without)), 100) << "1.9 m in a frame";
  for (const double rate : {30.0, 60.0, 144.0, 240.0}) {
    const std::vector<double> speeds = speedsIn({}, 1 / rate, kept);
    EXPECT_LT(fastestOf(speeds), 13) << rate;
    EXPECT_GT(kept, without - 0.35) << "and does not come in too early";
    // Without surges: up once and down once, but for what is not felt.
    double climbed = 0;
    for (std::size_t i = 1; i < speeds.size(); ++i) climbed += std::max(speeds[i] - speeds[i - 1], 0.0);
    EXPECT_LT(climbed, 2.4 * fastestOf(speeds)) << rate;
  }
}

TEST(Foresight, GlidesNoFasterThanItsFastest) {
  PullInSettings settings;
  settings.speed = 2;
  settings.fastest = 3;
  settings.horizon = 1;
  double kept = 0;
  EXPECT_NEAR(fastestOf(speedsIn(settings, 1 / 60.0, kept)), 3, 1e-9);
}

TEST(Foresight, GlidesFasterWhileTheLookTurnsFast) {
  const auto fastestIn = [](double turned, const PullInSettings& settings) {
    Walls post;
    post.poles.push_back({0, 1.2, 0.02});
    PullIn space;
    std::vector<double> speeds{0};
    PullInRequest request = behind(3);
    request.orbit.yaw = -1.5;
    for (double before = 3; request.orbit.yaw < 0.5;) {
      request.orbit.yaw += degrees(turned) / 60;
      const PullInPose pose = space.step(request, {}, post, 1 / 60.0, settings);
      if (pose.obstacle == noObstacle) speeds.push_back((before - pose.distance) * 60);
      before = pose.distance;
    }
    return fastestOf(speeds);
  };
  PullInSettings settings;
  settings.speed = 2;
  settings.fastest = 3;
  settings.fastestInFlicks = 5;
  EXPECT_NEAR(fastestIn(160, settings), 3, 1e-9);
  EXPECT_NEAR(fastestIn(220, settings), 5, 1e-9);
}

TEST(Foresight, WallsThatAreBesideAnywayDoNotPullIn) {
  Walls corridor;
  corridor.walls.push_back({Vector3d::UnitX(), -0.18});
  corridor.walls.push_back({-Vector3d::UnitX(), -0.18});
  PullIn space;
  PullInRequest request = behind(3);
  double least = 3;
  for (; request.orbit.yaw < 0.005; request.orbit.yaw += 0.01 / 60)
    least = std::min(least, space.step(request, {}, corridor, 1 / 60.0, {}).distance);
  EXPECT_GT(least, 2.9) << "though a sphere that is wider would graze them";
}

/// Stands, and swaps the shoulder within 0.4 s. Returns the fastest way in, m/s.
double fastestWhileSwapping(const Obstacles& world, const PullInSettings& settings) {
  PullIn space;
  double before = 3, fastest = 0;
  for (double time = -0.2; time < 1; time += 1 / 60.0) {
    const auto shoulderAt = [](double at) { return -0.6 + 1.2 * std::clamp(at / 0.4, 0.0, 1.0); };
    PullInMotion motion;
    std::array<AskedAhead, 6> asked;
    for (std::size_t i = 0; i < asked.size(); ++i) asked[i] = {shoulderAt(time + 0.1 * static_cast<double>(i + 1)), 3};
    if (time >= 0) motion.asked = asked, motion.askedEvery = 0.1;
    const PullInPose pose = space.step(behind(3, shoulderAt(time)), motion, world, 1 / 60.0, settings);
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

TEST(Foresight, AThinPostIsForeseenAtHighFrameRatesAsAtLowOnes) {
  constexpr double glide =
      9.8 / 60;  // metres: a look acts at once at 60 frames a second, and from its moment on above that
  double low = 0, high = 0;
  for (double at = 30; at < 60; at += 1.5) {
    low = std::max(low, mostLostPastAPost(60, at));
    for (const double rate : {144.0, 240.0, 480.0, 1000.0}) high = std::max(high, mostLostPastAPost(rate, at));
  }
  EXPECT_LT(low, 0.25) << "no pop";
  EXPECT_LT(high, low + 2 * glide);
}

TEST(Foresight, ForeseesAShoulderThatIsSwapped) {
  PullInSettings settings;
  settings.shoulderSpeed = 0;
  Walls pole;  // beside the way to the camera over the other shoulder
  pole.poles.push_back({0.62, 2.4, 0.05});
  EXPECT_LT(fastestWhileSwapping(pole, settings), 14);
  settings.horizon = 0;
  EXPECT_GT(fastestWhileSwapping(pole, settings), 30);
}

/// Sixty times a second of its own clock it sees the same: the request is interpolated between frames.
TEST(Foresight, SeesTheSamePostsAtAnyFrameRate) {
  const auto distancesAt = [](double rate) {
    Walls post;
    post.poles.push_back({0.4, 1.2, 0.05});
    PullIn space;
    std::vector<double> distances;
    for (int i = 0; i <= static_cast<int>(rate); ++i) {
      PullInRequest request = behind(3, 0.3);
      request.orbit.yaw = 1.2 * (i / rate - 0.5);
      const double distance = space.step(request, {}, post, i == 0 ? 0 : 1 / rate, {}).distance;
      if (i % static_cast<int>(rate / 60) == 0) distances.push_back(distance);
    }
    return distances;
  };
  const std::vector<double> at60 = distancesAt(60), at240 = distancesAt(240);
  int off = 0;
  for (std::size_t i = 0; i < at60.size(); ++i) off += std::abs(at60[i] - at240[i]) > 0.17 ? 1 : 0;
  EXPECT_EQ(off, 0) << "no more than a look's glide";
}

}  // namespace
}  // namespace alpglow
