#pragma once
// The triangles of a mesh of Bullet's that its tree reports, many at once. Bullet itself asks the mesh for its arrays
// again for each triangle; here they are locked part by part, while this lives.

#include "alpglow/base/span.hpp"
#include "alpglow/space/sphere_triangle.hpp"

#include <BulletCollision/BroadphaseCollision/btQuantizedBvh.h>
#include <BulletCollision/CollisionShapes/btStridingMeshInterface.h>

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>

namespace alpglow::bullet {

/// `take` gets some triangles each time, as a span that it may change. The last come with `finish`.
template <class Take>
class MeshReader final : public btNodeOverlapCallback {
 public:
  MeshReader(const btStridingMeshInterface& mesh, Take& take) : mesh_(mesh), scale_(mesh.getScaling()), take_(take) {}
  ~MeshReader() override { unlock(); }
  MeshReader(const MeshReader&) = delete;
  MeshReader& operator=(const MeshReader&) = delete;

  void processNode(int part, int triangle) override {
    if (count_ == most || part != part_) finish();
    if (part != part_) lock(part);
    which_[count_++] = triangle;
  }
  /// First the numbers of all their corners, then the corners, so that none waits for the memory of the one before.
  void finish() {
    switch (indexType_) {
      case PHY_SHORT: readNumbers<std::uint16_t>(); break;
      case PHY_UCHAR: readNumbers<std::uint8_t>(); break;
      default: readNumbers<std::uint32_t>();
    }
    vertexType_ == PHY_FLOAT ? readCorners<float>() : readCorners<double>();
    take_(Span<Triangle>(triangles_.data(), count_));
    count_ = 0;
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
  template <class Index>
  void readNumbers() {
    for (std::size_t i = 0; i < count_; ++i) {
      const auto* numbers = reinterpret_cast<const Index*>(indices_ + std::ptrdiff_t{which_[i]} * indexStride_);
      std::copy(numbers, numbers + 3, numbers_.begin() + 3 * i);
    }
  }
  template <class Scalar>
  void readCorners() {
    const auto corner = [&](std::uint32_t number) {
      const auto* at = reinterpret_cast<const Scalar*>(vertices_ + std::ptrdiff_t{number} * vertexStride_);
      const auto scaled = [&](int axis) { return static_cast<double>(static_cast<btScalar>(at[axis]) * scale_[axis]); };
      return Eigen::Vector3d(scaled(0), scaled(1), scaled(2));
    };
    for (std::size_t i = 0; i < count_; ++i)
      triangles_[i] = {corner(numbers_[3 * i]), corner(numbers_[3 * i + 1]), corner(numbers_[3 * i + 2])};
  }

  static constexpr int none = -1;
  static constexpr std::size_t most = 32;
  const btStridingMeshInterface& mesh_;
  const btVector3 scale_;
  Take& take_;
  int part_ = none;
  const unsigned char *vertices_ = nullptr, *indices_ = nullptr;
  int vertexStride_ = 0, indexStride_ = 0;
  PHY_ScalarType vertexType_ = PHY_DOUBLE, indexType_ = PHY_INTEGER;
  std::size_t count_ = 0;
  std::array<int, most> which_;
  std::array<std::uint32_t, 3 * most> numbers_;
  std::array<Triangle, most> triangles_;
};

}  // namespace alpglow::bullet
