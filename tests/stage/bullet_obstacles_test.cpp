#include "alpglow/bullet/bullet_obstacles.hpp"

#include "alpglow/stage/stage.hpp"
#include "support/random_level.hpp"

#include <btBulletCollisionCommon.h>
#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;

TEST(BulletObstacles, ASweepEndsWhereBruteForceSaysTheSphereTouches) {
  int hits = 0;
  for (unsigned seed = 0; seed < 20; ++seed) {
    const stage::Stage stage(testing::randomLevel(seed));
    const testing::LevelByForce all(stage.level());
    Random random(seed);
    for (int i = 0; i < 200; ++i) {
      const Vector3d from(random.between(-8, 8), random.between(0.3, 2.5), random.between(-8, 8));
      const double radius = random.between(0.05, 0.3);
      const double room = stage.obstacles().clearance(from, 3);
      if (room < radius + 1e-5) continue;
      EXPECT_NEAR(room, std::min(all.distance(from), 3.0), 1e-9);
      const Vector3d displacement = random.point(4);
      const Contact contact = stage.obstacles().sweep(from, displacement, radius);
      for (double share = 0.05; share <= 1; share += 0.05) {
        ASSERT_GE(all.distance(from + displacement.normalized() * contact.distance * share), radius - 2e-6);
      }
      if (!contact.hit()) continue;
      ++hits;
      ASSERT_NEAR(all.distance(from + displacement.normalized() * contact.distance), radius, 2e-6);
      EXPECT_FALSE(stage.nameOf(contact.obstacle).empty());
    }
  }
  EXPECT_GT(hits, 500);
}

TEST(BulletObstacles, KnowsInsideFromOutside) {
  io::Level level;
  level.objects.push_back({"block", "stone", {}, io::boxMesh({0, 0, 0}, {2, 2, 2}, 0.3), true});
  const stage::Stage stage(level);
  EXPECT_EQ(stage.obstacles().clearance({0, 1, 0}, 5), 0);
  EXPECT_NEAR(stage.obstacles().clearance({0, 3.5, 0}, 5), 1.5, 1e-12);
  EXPECT_NEAR(stage.obstacles().cast({0, 3.5, 0}, {0, -4, 0}, Purpose::aim).distance, 1.5, 1e-12);
}

TEST(BulletObstacles, SweepsTriangleMeshesExactlyAndWalkersStandOnThem) {
  io::Level level = testing::randomLevel(5);
  for (io::LevelObject& object : level.objects) object.convex = false;  // as a glTF file gives them
  const stage::Stage stage(level);
  const testing::LevelByForce all(level);
  Random random(5);
  int hits = 0;
  for (int i = 0; i < 500; ++i) {
    const Vector3d from(random.between(-8, 8), random.between(0.3, 2.5), random.between(-8, 8)),
        displacement = random.point(4);
    if (all.distance(from) < 0.2 + 1e-5) continue;
    const Contact contact = stage.obstacles().sweep(from, displacement, 0.2);
    if (!contact.hit()) continue;
    ++hits;
    ASSERT_NEAR(all.distance(from + displacement.normalized() * contact.distance), 0.2, 2e-6);
  }
  EXPECT_GT(hits, 100);
  stage::Walker walker(stage);
  for (int i = 0; i < 60; ++i) walker.tick({0, 0, 0}, false);
  EXPECT_NEAR(walker.feet().y(), 0, 0.02);
}

TEST(BulletObstacles, PassesByWhatMayBeSeenThrough) {
  io::Level level;
  level.objects.push_back({"window", "stone", {"see-through"}, io::boxMesh({0, 0, -2}, {4, 4, 0.1}, 0), true});
  level.objects.push_back({"wall", "stone", {}, io::boxMesh({0, 0, -4}, {4, 4, 0.1}, 0), true});
  const stage::Stage stage(level);
  const Contact contact = stage.obstacles().sweep({0, 1, 0}, {0, 0, -6}, 0.2);
  EXPECT_EQ(stage.nameOf(contact.obstacle), "wall");
}

TEST(BulletObstacles, TakesShapesWithoutFacesThroughBulletsOwnSweep) {
  btDefaultCollisionConfiguration configuration;
  btCollisionDispatcher dispatcher(&configuration);
  btDbvtBroadphase broadphase;
  btCollisionWorld world(&dispatcher, &broadphase, &configuration);
  btSphereShape ball(1);
  btCollisionObject boulder;
  boulder.setCollisionShape(&ball);
  boulder.getWorldTransform().setOrigin({0, 0, -5});
  world.addCollisionObject(&boulder);
  const bullet::BulletObstacles obstacles(world);
  const Contact contact = obstacles.sweep({0, 0, 0}, {0, 0, -10}, 0.5);
  EXPECT_TRUE(contact.hit()) << "an object without a number is an obstacle all the same";
  EXPECT_NEAR(contact.distance, 3.5, 2e-3);
  EXPECT_NEAR(obstacles.clearance({0, 0, 0}, 10), 4, 1e-6);
  world.removeCollisionObject(&boulder);
}

}  // namespace
}  // namespace alpglow
