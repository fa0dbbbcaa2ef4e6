#pragma once
// The level as triangles in memory, without a physics engine: what stands still as one mesh, what each platform carries
// as another. What stands still can go by Embree's trees.

#include "alpglow/io/level.hpp"
#include "alpglow/space/assembly.hpp"

#include <memory>
#include <vector>

namespace alpglow::stage {

/// What an object stops: the eye looks through a window, and the crosshair is on it; it looks past what is large; what
/// is soft hides targets and stops nothing.
inline std::uint32_t stopsOf(const io::LevelObject& object) {
  if (object.labelled("soft")) return std::uint32_t{Purpose::soft} | Purpose::sight;
  if (object.labelled("large")) return Purpose::large | (Purpose::all & ~std::uint32_t{Purpose::camera});
  return object.labelled("see-through") ? std::uint32_t{Purpose::aim} : std::uint32_t{Purpose::all};
}

class LevelTriangles {
 public:
  LevelTriangles(const io::Level& level, bool fast);
  const Assembly& world() const { return world_; }
  /// From where a platform was at time 0 to where it is.
  void place(std::size_t platform, const Eigen::Affine3d& transform, const RigidMotion& motion);

 private:
  std::vector<std::unique_ptr<Surroundings>> meshes_;
  Assembly world_;
  std::size_t firstPlatform_ = 0;
};

}  // namespace alpglow::stage
