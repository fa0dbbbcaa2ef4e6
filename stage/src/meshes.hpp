#pragma once
// Many objects in one buffer, of which only what may be in the picture is drawn.

#include "offscreen.hpp"

#include <Eigen/Geometry>

#include <vector>

namespace alpglow::stage {

/// Meshes of which those that are out of a picture are left out.
class Meshes {
 public:
  explicit Meshes(const std::vector<std::vector<Vertex>>& objects) : buffer_(joined(objects)) {
    GLint first = 0;
    for (const std::vector<Vertex>& object : objects) {
      Eigen::AlignedBox3f bounds;
      for (const Vertex& corner : object) bounds.extend(corner.position);
      objects_.push_back({first, static_cast<GLsizei>(object.size()), bounds});
      first += objects_.back().count;
    }
  }

  void draw() const { buffer_.draw(); }
  void draw(const Eigen::Matrix4f& toClip) {
    firsts_.clear();
    counts_.clear();
    for (const Object& object : objects_) {
      if (outside(object.bounds, toClip)) continue;
      firsts_.push_back(object.first);
      counts_.push_back(object.count);
    }
    buffer_.draw(firsts_, counts_);
  }

 private:
  struct Object {
    GLint first;
    GLsizei count;
    Eigen::AlignedBox3f bounds;
  };
  static std::vector<Vertex> joined(const std::vector<std::vector<Vertex>>& objects) {
    std::vector<Vertex> all;
    for (const std::vector<Vertex>& object : objects) all.insert(all.end(), object.begin(), object.end());
    return all;
  }
  /// All corners are beyond one and the same plane.
  static bool outside(const Eigen::AlignedBox3f& bounds, const Eigen::Matrix4f& toClip) {
    for (int side = 0; side < 5; ++side) {
      const int axis = side / 2;
      const Eigen::RowVector4f plane =
          side == 4 ? Eigen::RowVector4f(toClip.row(3))
                    : Eigen::RowVector4f(toClip.row(3) + (side % 2 == 0 ? 1.0f : -1.0f) * toClip.row(axis));
      Eigen::Vector3f farthest;
      for (int i = 0; i < 3; ++i) farthest[i] = plane[i] > 0 ? bounds.max()[i] : bounds.min()[i];
      if (plane.head<3>().dot(farthest) + plane[3] < 0) return true;
    }
    return false;
  }

  VertexBuffer buffer_;
  std::vector<Object> objects_;
  std::vector<GLint> firsts_;
  std::vector<GLsizei> counts_;
};

}  // namespace alpglow::stage
