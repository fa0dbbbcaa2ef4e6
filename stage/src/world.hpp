#pragma once
// The level as Bullet sees it.

#include "alpglow/bullet/bullet_obstacles.hpp"
#include "alpglow/stage/stage.hpp"

#include <btBulletCollisionCommon.h>

#include <memory>
#include <vector>

namespace alpglow::stage {

struct Stage::World {
  explicit World(const io::Level& level);
  ~World();

  /// Whether the character is stopped by the object.
  bool solid(const btCollisionObject& object) const;

  btDefaultCollisionConfiguration configuration;
  btCollisionDispatcher dispatcher;
  btDbvtBroadphase broadphase;
  btCollisionWorld world;
  std::vector<std::unique_ptr<btTriangleMesh>> meshes;
  std::vector<std::unique_ptr<btCollisionShape>> shapes;
  std::vector<std::unique_ptr<btCollisionObject>> objects;
  std::vector<bool> walkThrough, seeThrough;
  bullet::BulletObstacles obstacles;

 private:
  std::unique_ptr<btCollisionShape> shapeOf(const io::LevelObject& object);
};

}  // namespace alpglow::stage
