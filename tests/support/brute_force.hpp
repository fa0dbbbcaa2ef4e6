#pragma once
// Distances and cuts by going through every triangle, with none of the code that the sweeps use: signed volumes and
// projections instead of roots and regions.

#include <Eigen/Core>
#include <Eigen/Geometry>

#include <algorithm>
#include <array>
#include <vector>

namespace alpglow::testing {

using Corners = std::array<Eigen::Vector3d, 3>;

inline double distanceToSegment(const Eigen::Vector3d& p, const Eigen::Vector3d& a, const Eigen::Vector3d& b) {
  const Eigen::Vector3d edge = b - a;
  const double square = edge.squaredNorm();
  const double t = square > 0 ? std::clamp((p - a).dot(edge) / square, 0.0, 1.0) : 0.0;
  return (p - a - t * edge).norm();
}

/// Above the face the height counts, beside it the nearest edge.
inline double distanceToTriangle(const Eigen::Vector3d& p, const Corners& t) {
  const Eigen::Vector3d normal = (t[1] - t[0]).cross(t[2] - t[0]).normalized();
  bool above = !normal.isZero();  // all but a line: its edges
  double edges = 1e300;
  for (std::size_t i = 0; i < 3; ++i) {
    const Eigen::Vector3d &a = t[i], &b = t[(i + 1) % 3];
    above = above && normal.dot((b - a).cross(p - a)) >= 0;
    edges = std::min(edges, distanceToSegment(p, a, b));
  }
  return above ? std::min(std::abs(normal.dot(p - t[0])), edges) : edges;
}

inline double volume(const Eigen::Vector3d& a, const Eigen::Vector3d& b, const Eigen::Vector3d& c,
                     const Eigen::Vector3d& d) {
  return (b - a).cross(c - a).dot(d - a);
}

inline bool cuts(const Eigen::Vector3d& from, const Eigen::Vector3d& to, const Corners& t) {
  if (volume(t[0], t[1], t[2], from) * volume(t[0], t[1], t[2], to) > 0) return false;
  const double ab = volume(from, to, t[0], t[1]), bc = volume(from, to, t[1], t[2]), ca = volume(from, to, t[2], t[0]);
  return (ab > 0 && bc > 0 && ca > 0) || (ab < 0 && bc < 0 && ca < 0);
}

class BruteForce {
 public:
  std::vector<Corners> triangles;

  double distance(const Eigen::Vector3d& p) const {
    double nearest = 1e300;
    for (const Corners& t : triangles) {
      // A triangle whose box is farther than the nearest so far cannot be nearer.
      const Eigen::Vector3d low = t[0].cwiseMin(t[1]).cwiseMin(t[2]), high = t[0].cwiseMax(t[1]).cwiseMax(t[2]);
      if ((low - p).cwiseMax(p - high).cwiseMax(0.0).norm() < nearest)
        nearest = std::min(nearest, distanceToTriangle(p, t));
    }
    return nearest;
  }
  bool cut(const Eigen::Vector3d& from, const Eigen::Vector3d& to) const {
    return std::any_of(triangles.begin(), triangles.end(), [&](const Corners& t) { return cuts(from, to, t); });
  }
};

}  // namespace alpglow::testing
