#pragma once
// A static level of triangles whose sweeps and rays go by Embree's trees; the contacts are the core's own, in double.
//
//   const EmbreeTriangles level(triangles, {7});
//   View view = camera.update(dt, subject, level, aspect);
//
// Built once; many threads may ask. What is near, what is inside, short ways and wide spheres are for the
// `TriangleMesh` that it holds, which is all of it where Embree cannot be had.

#include "alpglow/space/triangle_mesh.hpp"

#include <memory>

namespace alpglow::embree {

class EmbreeTriangles final : public Surroundings {
 public:
  /// Spheres up to this radius go by Embree, metres, on ways longer than this: up to there its trees save nothing.
  static constexpr double widest = 0.16, shortWay = 4;

  /// As for a `TriangleMesh`.
  EmbreeTriangles(Span<const Triangle> triangles, Span<const Thing> things,
                  TriangleMesh::Sides sides = TriangleMesh::Sides::open);
  EmbreeTriangles(Span<const Triangle> triangles, const Thing& thing,
                  TriangleMesh::Sides sides = TriangleMesh::Sides::open)
      : EmbreeTriangles(triangles, Span<const Thing>(&thing, 1), sides) {}
  ~EmbreeTriangles() override;

  Bounds bounds() const { return mesh_.bounds(); }
  /// Embree answers; if not, the mesh does.
  bool accelerated() const { return trees_ != nullptr; }

  void list(const Bounds& bounds, Found& found) const noexcept override { mesh_.list(bounds, found); }
  std::size_t mostWorthListing() const noexcept override { return mesh_.mostWorthListing(); }
  bool isInside(const Eigen::Vector3d& point) const noexcept override { return mesh_.isInside(point); }
  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override;
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override;
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    return mesh_.clearance(point, range);
  }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return mesh_.sweepLarge(from, displacement, radius);
  }
  bool anyLarge() const noexcept override { return mesh_.anyLarge(); }

 private:
  struct Trees;

  TriangleMesh mesh_;
  std::unique_ptr<Trees> trees_;
};

}  // namespace alpglow::embree
