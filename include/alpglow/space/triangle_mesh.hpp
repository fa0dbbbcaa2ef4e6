#pragma once
// Triangles in memory, with a tree of their own: a world without a physics engine.
//
//   const TriangleMesh level(triangles, {7});               // one id for all
//   View view = camera.update(dt, subject, level, aspect);
//
// Built once; many threads may ask. Where parts of a level move, put several into an `Assembly`.

#include "alpglow/space/boxes_of_four.hpp"
#include "alpglow/space/surroundings.hpp"

#include <cstdint>
#include <vector>

namespace alpglow {

class TriangleMesh final : public Surroundings {
 public:
  enum class Sides {
    open,   // a surface: nothing is inside
    solid,  // closed, its triangles counter-clockwise seen from outside: what it encloses is inside
  };

  /// `things` holds one for all triangles or one for each. Triangles with a coordinate that is not finite are left out.
  TriangleMesh(Span<const Triangle> triangles, Span<const Thing> things, Sides sides = Sides::open);
  TriangleMesh(Span<const Triangle> triangles, const Thing& thing, Sides sides = Sides::open)
      : TriangleMesh(triangles, Span<const Thing>(&thing, 1), sides) {}

  std::size_t size() const { return triangles_.size(); }
  Bounds bounds() const { return bounds_; }
  /// In an order of its own; what is known of it beside.
  const Triangle& triangle(std::size_t i) const { return triangles_[i]; }
  const Thing& thing(std::size_t i) const { return things_[things_.size() == 1 ? 0 : i]; }

  void list(const Bounds& bounds, Found& found) const noexcept override { listNear(bounds, found); }
  /// Of what moves only a list says how.
  std::size_t mostWorthListing() const noexcept override {
    constexpr std::size_t worthIt = 64;
    return anyMoves_ ? Surroundings::mostWorthListing() : worthIt;
  }
  bool isInside(const Eigen::Vector3d& point) const noexcept override { return encloses(point); }
  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    return first(from, displacement, radius, Purpose::camera);
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return first(from, displacement, 0, purpose);
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override { return room(point, range); }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return first(from, displacement, radius, Purpose::large);
  }
  bool anyLarge() const noexcept override { return anyLarge_; }

 private:
  /// Up to four children: their bounds, from the middle of the mesh, and what they are: another node, or
  /// −1 − 8 · (first triangle) − (their number).
  struct alignas(64) Node {
    BoxesOfFour boxes;
    std::int32_t child[4] = {-1, -1, -1, -1};
  };
  static constexpr std::size_t mostInLeaf = 3;

  void listNear(const Bounds& bounds, Found& found) const noexcept;
  bool encloses(const Eigen::Vector3d& point) const noexcept;
  Contact first(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                std::uint32_t purpose) const noexcept;
  double room(const Eigen::Vector3d& point, double range) const noexcept;
  struct Range {
    std::size_t begin, end;
  };
  std::int32_t build(Range range, int depth, std::vector<std::uint32_t>& order, const Bounds* each);
  template <class Ask, class Each>
  void walk(const double& limit, Ask&& ask, Each&& each) const;

  std::vector<Triangle> triangles_;
  std::vector<BoxOfOne> boxes_;  // of the triangles
  std::vector<Thing> things_;
  std::vector<Node> nodes_;
  std::int32_t root_ = -1;
  Eigen::Vector3d middle_ = Eigen::Vector3d::Zero();
  Bounds bounds_;
  Sides sides_;
  bool anyLarge_ = false, anyMoves_ = false;
};

}  // namespace alpglow
