#include "level_triangles.hpp"

#include "alpglow/embree/embree_triangles.hpp"

namespace alpglow::stage {

LevelTriangles::LevelTriangles(const io::Level& level, bool fast) {
  // Open and solid surfaces apart, at rest and on each platform.
  const auto add = [&](int platform, bool convex) {
    std::vector<Triangle> triangles;
    std::vector<Thing> things;
    for (std::size_t i = 0; i < level.objects.size(); ++i) {
      const io::LevelObject& object = level.objects[i];
      if (object.platform != platform || object.convex != convex) continue;
      Thing thing;
      thing.id = static_cast<ObstacleId>(i);
      thing.stops = stopsOf(object);
      for (const auto& t : object.mesh.triangles) {
        const auto corner = [&](std::size_t k) { return object.mesh.vertices[static_cast<std::size_t>(t[k])]; };
        triangles.push_back({corner(0), corner(1), corner(2)});
        things.push_back(thing);
      }
    }
    const auto sides = convex ? TriangleMesh::Sides::solid : TriangleMesh::Sides::open;
    const auto part = [&](auto mesh) {
      const Bounds bounds = mesh->bounds();
      meshes_.push_back(std::move(mesh));
      return world_.add(*meshes_.back(), bounds);
    };
    if (fast && platform < 0) return part(std::make_unique<embree::EmbreeTriangles>(triangles, things, sides));
    return part(std::make_unique<TriangleMesh>(triangles, things, sides));
  };
  add(-1, true);
  add(-1, false);
  for (std::size_t platform = 0; platform < level.platforms.size(); ++platform) {
    const std::size_t solid = add(static_cast<int>(platform), true);
    add(static_cast<int>(platform), false);
    if (platform == 0) firstPlatform_ = solid;
  }
}

void LevelTriangles::place(std::size_t platform, const Eigen::Affine3d& transform, const RigidMotion& motion) {
  for (const std::size_t part : {firstPlatform_ + 2 * platform, firstPlatform_ + 2 * platform + 1})
    world_.place(part, transform, motion);
}

}  // namespace alpglow::stage
