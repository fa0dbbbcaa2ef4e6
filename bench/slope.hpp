#pragma once
// A level for measurements.

#include "alpglow/bullet/bullet_obstacles.hpp"
#include "alpglow/embree/embree_triangles.hpp"
#include "alpglow/space/sphere_triangle.hpp"
#include "alpglow/space/triangle_mesh.hpp"

#include <btBulletCollisionCommon.h>

#include <cmath>
#include <memory>
#include <vector>

namespace alpglow::bench {

/// A slope of triangles with boulders, in memory, in Embree and in Bullet.
struct Slope {
  std::vector<Triangle> triangles;
  std::unique_ptr<TriangleMesh> mesh;
  std::unique_ptr<embree::EmbreeTriangles> embree;
  btTriangleMesh bulletMesh;
  std::unique_ptr<btBvhTriangleMeshShape> shape;
  btCollisionObject object;
  btDefaultCollisionConfiguration configuration;
  btCollisionDispatcher dispatcher{&configuration};
  btDbvtBroadphase broadphase;
  btCollisionWorld world{&dispatcher, &broadphase, &configuration};
  std::unique_ptr<bullet::BulletObstacles> bullet;

  static double ground(double u, double w) {
    const double boulder = 1.6 * std::pow(std::max(std::sin(1.3 * u) * std::sin(1.1 * w + 0.4 * u), 0.0), 3);
    return boulder - 0.1 * w;
  }
  /// 2 · `cells`² triangles.
  explicit Slope(int cells) {
    const auto corner = [cells](int x, int z) {
      const double u = 0.4 * (x - cells / 2), w = 0.4 * (z - cells / 2);
      return Eigen::Vector3d(u, ground(u, w), w);
    };
    for (int z = 0; z < cells; ++z) {
      for (int x = 0; x < cells; ++x) {
        triangles.push_back({corner(x, z), corner(x + 1, z + 1), corner(x + 1, z)});
        triangles.push_back({corner(x, z), corner(x, z + 1), corner(x + 1, z + 1)});
      }
    }
    mesh = std::make_unique<TriangleMesh>(triangles, Thing{1});
    embree = std::make_unique<embree::EmbreeTriangles>(triangles, Thing{1});
    const auto of = [](const Eigen::Vector3d& v) { return btVector3(v.x(), v.y(), v.z()); };
    for (const Triangle& t : triangles) bulletMesh.addTriangle(of(t.a), of(t.b), of(t.c));
    shape = std::make_unique<btBvhTriangleMeshShape>(&bulletMesh, true);
    object.setCollisionShape(shape.get());
    world.addCollisionObject(&object);
    bullet = std::make_unique<bullet::BulletObstacles>(world);
  }
  ~Slope() { world.removeCollisionObject(&object); }
  /// 1.7 m over the ground, and as random places go.
  static Eigen::Vector3d head(int i) {
    const double u = 40 * std::sin(0.37 * i), w = 40 * std::sin(0.51 * i + 1);
    return {u, ground(u, w) + 1.7, w};
  }
};
/// Of 125,000 triangles.
inline const Slope& slope() {
  static const Slope slope(250);
  return slope;
}

}  // namespace alpglow::bench
