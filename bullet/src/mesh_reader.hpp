#pragma once
// The triangles of a mesh of Bullet's by part and index. Its arrays are locked while this lives, part by part, and not
// anew for each triangle, as Bullet itself does it.

#include "alpglow/space/sphere_triangle.hpp"

#include <BulletCollision/CollisionShapes/btStridingMeshInterface.h>

#include <cstddef>
#include <cstdint>

namespace alpglow::bullet {

class MeshReader {
 public:
  explicit MeshReader(const btStridingMeshInterface& mesh) : mesh_(mesh), scale_(mesh.getScaling()) {}
  ~MeshReader() { unlock(); }
  MeshReader(const MeshReader&) = delete;
  MeshReader& operator=(const MeshReader&) = delete;

  Triangle operator()(int part, int triangle) {
    if (part != part_) lock(part);
    const unsigned char* const indices = indices_ + static_cast<std::ptrdiff_t>(triangle) * indexStride_;
    return vertexType_ == PHY_FLOAT ? read<float>(indices) : read<double>(indices);
  }

 private:
  void lock(int part) {
    unlock();
    part_ = part;
    int vertexCount, triangleCount;
    mesh_.getLockedReadOnlyVertexIndexBase(&vertices_, vertexCount, vertexType_, vertexStride_, &indices_, indexStride_,
                                           triangleCount, indexType_, part);
  }
  void unlock() const {
    if (part_ != none) mesh_.unLockReadOnlyVertexBase(part_);
  }
  std::uint32_t indexAt(const unsigned char* indices, int i) const {
    if (indexType_ == PHY_SHORT) return reinterpret_cast<const std::uint16_t*>(indices)[i];
    if (indexType_ == PHY_UCHAR) return indices[i];
    return reinterpret_cast<const std::uint32_t*>(indices)[i];
  }
  template <class Scalar>
  Triangle read(const unsigned char* indices) const {
    const auto corner = [&](int i) {
      const auto* at = reinterpret_cast<const Scalar*>(vertices_ + std::ptrdiff_t{indexAt(indices, i)} * vertexStride_);
      const auto scaled = [&](int axis) { return static_cast<double>(static_cast<btScalar>(at[axis]) * scale_[axis]); };
      return Eigen::Vector3d(scaled(0), scaled(1), scaled(2));
    };
    return {corner(0), corner(1), corner(2)};
  }

  static constexpr int none = -1;
  const btStridingMeshInterface& mesh_;
  const btVector3 scale_;
  int part_ = none;
  const unsigned char *vertices_ = nullptr, *indices_ = nullptr;
  int vertexStride_ = 0, indexStride_ = 0;
  PHY_ScalarType vertexType_ = PHY_DOUBLE, indexType_ = PHY_INTEGER;
};

}  // namespace alpglow::bullet
