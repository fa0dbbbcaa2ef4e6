#pragma once
// The level as Bullet sees it.

#include "level_triangles.hpp"

#include "alpglow/bullet/bullet_obstacles.hpp"
#include "alpglow/stage/stage.hpp"

#include <btBulletCollisionCommon.h>

#include <memory>
#include <vector>

namespace alpglow::stage {

struct Stage::World {
  World(const io::Level& level, WorldKind kind);
  ~World();

  /// Whether the character is stopped by the object.
  bool solid(const btCollisionObject& object) const;

  btDefaultCollisionConfiguration configuration;
  btCollisionDispatcher dispatcher;
  // Without pairs of what touches: their number grows with the square of the objects', and nothing asks for them.
  btNullPairCache pairs;
  btDbvtBroadphase broadphase{&pairs};
  mutable btCollisionWorld world;  // its questions about contacts are not const
  std::vector<std::unique_ptr<btTriangleMesh>> meshes;
  std::vector<std::unique_ptr<btCollisionShape>> shapes;
  std::vector<std::unique_ptr<btCollisionObject>> objects;
  std::vector<bool> walkThrough;
  std::vector<std::uint32_t> stops;
  bullet::BulletObstacles bullet;
  std::unique_ptr<LevelTriangles> triangles;  // if they answer

 private:
  std::unique_ptr<btCollisionShape> shapeOf(const io::LevelObject& object);
};

}  // namespace alpglow::stage
