// The same camera whoever answers: Bullet or triangles, listed once a frame or asked each time, far from the origin,
// and from several threads at once.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/space/assembly.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"

#include <gtest/gtest.h>

#include <thread>

namespace alpglow::stage {
namespace {

using Eigen::Vector3d;

double farthestApart(const io::Trace& a, const io::Trace& b, const Vector3d& offset = Vector3d::Zero()) {
  EXPECT_EQ(a.size(), b.size());
  double farthest = 0;
  for (std::size_t i = 0; i < a.size(); ++i) {
    farthest = std::max(farthest, (a[i].camera + offset - b[i].camera).norm());
    farthest = std::max(farthest, 1e-3 * (a[i].aim + offset - b[i].aim).norm());  // of what may be 500 m away
  }
  return farthest;
}

/// A take of the demo's, and the level it plays in.
struct Played {
  const char *take, *level = "refuge";
  bool swings = false;  // something does near by, and who is asked directly does not know
};
void PrintTo(const Played& played, std::ostream* out) { *out << played.take; }

class Worlds : public ::testing::TestWithParam<Played> {};

TEST_P(Worlds, GiveTheSameTrace) {
  const std::string demo = ALPGLOW_DEMO "/", level = demo + GetParam().level + ".level.toml";
  const CompiledDesign design(io::readDesign(demo + "warden.camera.toml"));
  const io::Take take = io::readTake(demo + GetParam().take + ".take");
  const Stage bullet(io::readLevel(level));
  const io::Trace trace = rehearse(design, bullet, take, {});
  for (const WorldKind kind : {WorldKind::triangles, WorldKind::embree}) {
    const Stage other(io::readLevel(level), kind);
    EXPECT_LT(farthestApart(trace, rehearse(design, other, take, {})), 1e-6);
  }
  if (GetParam().swings) return;
  RehearsalOptions direct;
  direct.obstacles = &bullet.obstacles();
  EXPECT_LT(farthestApart(trace, rehearse(design, bullet, take, direct)), 1e-6);
}

INSTANTIATE_TEST_SUITE_P(Demo, Worlds,
                         ::testing::Values(Played{"doorway"}, Played{"corridor"}, Played{"cabin"}, Played{"scope"},
                                           Played{"stairs"}, Played{"crouch"}, Played{"switch"}, Played{"round"},
                                           Played{"cliff"}, Played{"hall", "shed"}, Played{"swing", "shed", true},
                                           Played{"cart", "shed"}));

TEST(Worlds, AThousandKilometresOutEverythingIsTheSame) {
  const CompiledDesign design{CameraDesign()};
  const Vector3d offset(1e6, 0, -7e5);
  for (unsigned seed = 0; seed < 6; ++seed) {
    io::Level level = testing::movingLevel(seed), far = level;
    far.spawn.position += offset;
    for (io::LevelObject& object : far.objects) {
      for (Vector3d& vertex : object.mesh.vertices) vertex += offset;
    }
    for (io::MovingPlatform& platform : far.platforms) {
      for (Vector3d& point : platform.path) point += offset;
    }
    const Stage here(level, WorldKind::triangles);
    const testing::LevelByForce force(far);
    for (const WorldKind kind : {WorldKind::bullet, WorldKind::triangles}) {
      const Stage there(far, kind);
      const Neighbourhood near(there.obstacles());
      testing::Random random(seed);
      int hits = 0;
      for (int i = 0; i < 200; ++i) {
        const Vector3d from(random.between(-8, 8), random.between(0.3, 2.5), random.between(-8, 8)),
            to = random.point(4);
        static_cast<const Obstacles&>(near).gather(Bounds::around(from + offset, 5));
        const Contact a = here.obstacles().sweep(from, to, 0.15), b = there.obstacles().sweep(from + offset, to, 0.15);
        if (here.obstacles().clearance(from, 1) < 0.16) continue;
        ASSERT_NEAR(a.distance, b.distance, 1e-5) << "seed " << seed;
        ASSERT_NEAR(near.sweep(from + offset, to, 0.15).distance, b.distance, 1e-7);
        ASSERT_NEAR(force.distance(from + offset), there.obstacles().clearance(from + offset, 50), 1e-6);
        hits += a.hit() ? 1 : 0;
      }
      EXPECT_GT(hits, 30);
    }
  }
}

template <class Ask>
void expectTheSameFromTwoThreads(Ask&& ask) {
  std::vector<double> alone, first, second;
  ask(alone);
  std::thread one([&] { ask(first); }), two([&] { ask(second); });
  one.join();
  two.join();
  EXPECT_EQ(first, alone);
  EXPECT_EQ(second, alone);
}

TEST(Worlds, SeveralThreadsAskAtOnce) {
  for (const WorldKind kind : {WorldKind::bullet, WorldKind::triangles}) {
    const Stage stage(testing::randomLevel(3), kind);
    const auto play = [&stage](std::vector<double>& answers) {
      const Neighbourhood near(stage.obstacles());
      testing::Random random(1);
      for (int i = 0; i < 2000; ++i) {
        const Vector3d from = random.point(6) + Vector3d(0, 6, 0), way = random.point(3);
        if (i % 10 == 0) static_cast<const Obstacles&>(near).gather(Bounds::around(from, 5));
        answers.push_back(near.sweep(from, way, 0.15).distance);
        answers.push_back(near.cast(from, 20 * way, Purpose::aim).distance);
        answers.push_back(stage.obstacles().clearance(from, 2));
      }
    };
    expectTheSameFromTwoThreads(play);
  }
}

TEST(Neighbourhood, IsAskedBySeveralThreadsOnceItIsGathered) {
  const Stage stage(testing::randomLevel(3));
  const Neighbourhood near(stage.obstacles());
  static_cast<const Obstacles&>(near).gather(Bounds::around({0, 2, 0}, 9));
  const auto ask = [&near](std::vector<double>& answers) {
    testing::Random random(2);
    for (int i = 0; i < 20000; ++i) answers.push_back(near.sweep(random.point(3), random.point(4), 0.15).distance);
  };
  expectTheSameFromTwoThreads(ask);
}

TEST(Neighbourhood, FallsBackWhereItHasNoRoomAndSaysSo) {
  const Stage stage(testing::randomLevel(4));
  const Neighbourhood small(stage.obstacles(), 3), large(stage.obstacles());
  const Obstacles& questions = small;
  questions.gather(Bounds::around({0, 1, 0}, 8));
  static_cast<const Obstacles&>(large).gather(Bounds::around({0, 1, 0}, 8));
  EXPECT_FALSE(small.complete());
  EXPECT_TRUE(large.complete());
  EXPECT_GT(large.size(), 10u);
  testing::Random random(4);
  for (int i = 0; i < 100; ++i) {
    const Vector3d way = random.point(5);
    EXPECT_NEAR(small.sweep({0, 1.7, 0}, way, 0.1).distance, large.sweep({0, 1.7, 0}, way, 0.1).distance, 1e-7);
  }
}

/// Balls without order, listed in full.
class Balls final : public Surroundings {
 public:
  explicit Balls(std::size_t count) {
    testing::Random random(static_cast<unsigned>(count));
    for (std::size_t i = 0; i < count; ++i) {
      const Vector3d centre = random.point(6);
      balls_.push_back({centre, centre, random.between(0.01, 0.2)});
    }
  }
  void list(const Bounds&, Found& found) const noexcept override {
    for (std::size_t i = 0; i < balls_.size(); ++i) found.add(balls_[i], Thing{static_cast<ObstacleId>(i)});
  }

 private:
  std::vector<Capsule> balls_;
};

TEST(Neighbourhood, KnowsThatNothingIsNearOnlyFromAWholeList) {
  const Balls balls(5), none(0);
  const Neighbourhood near(balls), empty(none), tiny(balls, 2);
  const Obstacles* const of[]{&near, &empty, &tiny};
  for (const Obstacles* each : of) EXPECT_FALSE(each->nothingNear());
  for (const Obstacles* each : of) each->gather(Bounds::around({0, 0, 0}, 1e3));
  EXPECT_FALSE(near.nothingNear());
  EXPECT_TRUE(empty.nothingNear());
  EXPECT_FALSE(tiny.nothingNear());
  static_cast<const Obstacles&>(near).gather(Bounds::around({0, 0, 1e6}, 1));
  EXPECT_TRUE(near.nothingNear());
  for (const Obstacles* each : of) each->gather(Bounds());
  EXPECT_FALSE(near.nothingNear() || empty.nothingNear());
}

TEST(Neighbourhood, AnswersAsItsWorldHoweverMuchIsNear) {
  for (const std::size_t count : {0u, 1u, 4u, 5u, 12u, 13u, 16u, 17u, 48u, 49u, 63u, 65u, 200u, 777u, 2048u}) {
    const Balls balls(count);
    const Neighbourhood near(balls);
    testing::Random random(7);
    for (const double reach : {9.0, 1e30, 1e150}) {
      static_cast<const Obstacles&>(near).gather(Bounds::around({0, 0, 0}, reach));
      ASSERT_EQ(near.size(), count);
      for (int i = 0; i < 40; ++i) {
        const Vector3d from = random.point(5), way = i % 8 == 0 ? Vector3d::UnitX() * reach / 2 : random.point(1.5);
        const Contact listed = near.sweep(from, way, 0.15), asked = balls.sweep(from, way, 0.15);
        ASSERT_EQ(listed.distance, asked.distance) << count << " within " << reach;
        ASSERT_EQ(listed.obstacle, asked.obstacle);
        ASSERT_NEAR(near.cast(from, way, Purpose::aim).distance, balls.cast(from, way, Purpose::aim).distance,
                    1e-12 * way.norm());
        ASSERT_EQ(near.clearance(from, 2), balls.clearance(from, 2));
        ASSERT_EQ(near.clearance(from, reach / 3), balls.clearance(from, reach / 3));
      }
    }
  }
}

TEST(Worlds, KnowInsideFromOutside) {
  io::Level level;
  level.objects.push_back({"block", "stone", {}, io::boxMesh({0, 0, 0}, {2, 2, 2}, 0.3), true});
  for (const WorldKind kind : {WorldKind::bullet, WorldKind::triangles}) {
    const Stage stage(level, kind);
    EXPECT_EQ(stage.obstacles().clearance({0, 1, 0}, 5), 0);
    EXPECT_NEAR(stage.obstacles().clearance({0, 3.5, 0}, 5), 1.5, 1e-9);
    EXPECT_EQ(stage.nameOf(stage.obstacles().cast({0, 3.5, 0}, {0, -4, 0}, Purpose::aim).obstacle), "block");
  }
}

TEST(Worlds, OneWalksOnMeshesThatAreNotConvex) {
  io::Level level = testing::randomLevel(5);
  for (io::LevelObject& object : level.objects) object.convex = false;  // as a glTF file gives them
  const Stage stage(level);
  Walker walker(stage);
  for (int i = 0; i < 60; ++i) walker.tick({0, 0, 0}, false);
  EXPECT_NEAR(walker.feet().y(), 0, 0.02);
}

/// Counts what it is asked besides for lists.
class Counted final : public Surroundings {
 public:
  explicit Counted(const Surroundings& world) : world_(world) {}
  void list(const Bounds& bounds, Found& found) const noexcept override { world_.list(bounds, found); }
  bool isInside(const Vector3d& point) const noexcept override { return world_.isInside(point); }
  Contact sweep(const Vector3d& from, const Vector3d& way, double radius) const noexcept override {
    ++asked;
    return world_.sweep(from, way, radius);
  }
  double clearance(const Vector3d& point, double range) const noexcept override {
    ++asked;
    return world_.clearance(point, range);
  }

  mutable std::size_t asked = 0;

 private:
  const Surroundings& world_;
};

TEST(Neighbourhood, AFrameListsWhatItWillAskFor) {
  const std::string demo = ALPGLOW_DEMO "/";
  const Stage stage(io::readLevel(demo + "refuge.level.toml"));
  for (const char* name : {"doorway", "mind", "crouch", "stairs"}) {
    const Counted world(stage.obstacles());
    const Neighbourhood near(world);
    RehearsalOptions listed;
    listed.obstacles = &near;
    const CompiledDesign design(io::readDesign(demo + "trail.camera.toml"));
    const std::size_t frames = rehearse(design, stage, io::readTake(demo + name + ".take"), listed).size();
    EXPECT_LT(world.asked, frames / 20) << name << ": of thousands of questions";
  }
}

/// A host that could not finish its list.
class CutShort final : public Surroundings {
 public:
  void list(const Bounds&, Found& found) const noexcept override { found.incomplete(); }
};

TEST(Neighbourhood, AListThatWasCutShortIsAFaultAndAnObstacle) {
  const CutShort host;
  const Neighbourhood near(host);
  const CompiledDesign design{CameraDesign()};
  Subject subject;
  subject.head = {0, 1.7, 0};
  CharacterCamera camera(design, subject);
  Assembly assembly;
  assembly.add(host);
  for (const Obstacles* world : {static_cast<const Obstacles*>(&near), static_cast<const Obstacles*>(&host),
                                 static_cast<const Obstacles*>(&assembly)}) {
    EXPECT_TRUE(std::isnan(world->cast({0, 0, 0}, {0, 0, 1}, Purpose::aim).distance));
    const View view = camera.step(0.01, {}, subject, *world, 1.5);
    EXPECT_TRUE(view.faults & Fault::badObstacles);
    EXPECT_LT((view.position - subject.head).norm(), 1e-9);
  }
  EXPECT_FALSE(camera.step(0.01, {}, subject, NoObstacles(), 1.5).faults & Fault::badObstacles);
}

TEST(Neighbourhood, WhatWasListedIsNotRememberedAfterTheFrame) {
  testing::Random random(1);
  Stage stage(testing::movingLevel(9));
  const Neighbourhood near(stage.obstacles());
  const CompiledDesign design{CameraDesign()};
  Subject subject;
  subject.feet = {0, 0, 0};
  subject.head = {0, 1.7, 0};
  CharacterCamera camera(design, subject);
  for (int i = 0; i < 100; ++i) {
    stage.moveTo(0.11 * i);
    camera.step(0.11, {}, subject, near, 1.5);
    stage.moveTo(0.11 * i + 0.05);
    const Vector3d way = random.point(4);
    ASSERT_EQ(near.sweep(subject.head, way, 0.1).distance, stage.obstacles().sweep(subject.head, way, 0.1).distance);
  }
}

TEST(Purposes, TheCrosshairIsOnWhatTheCameraSeesThrough) {
  io::Level level;
  level.objects.push_back({"window", "stone", {"see-through"}, io::boxMesh({0, 0, -2}, {4, 4, 0.1}, 0), true});
  for (const WorldKind kind : {WorldKind::bullet, WorldKind::triangles}) {
    const Stage stage(level, kind);
    EXPECT_FALSE(stage.obstacles().sweep({0, 1, 0}, {0, 0, -6}, 0.2).hit());
    EXPECT_FALSE(stage.obstacles().cast({0, 1, 0}, {0, 0, -6}, Purpose::sight).hit());
    EXPECT_NEAR(stage.obstacles().cast({0, 1, 0}, {0, 0, -6}, Purpose::aim).distance, 1.95, 1e-9);
    EXPECT_EQ(stage.obstacles().clearance({0, 1, -2}, 1), 1) << "inside the pane, as far as the camera is concerned";
  }
}

}  // namespace
}  // namespace alpglow::stage
