#include "alpglow/space/sphere_triangle.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

constexpr double contactBand = 1e-6;
constexpr double slack = 1e-6;
constexpr double flat = 1e-14;  // the square of the sine of an angle that is no angle

/// `normal` is the product of two edges, of this length squared; `height` and `speed` are those over the plane, as
/// `normal` counts them.
double faceContact(const Triangle& triangle, const Vector3d& normal, double square, double height, double speed,
                   const Vector3d& direction, double length, double radius) {
  if (square == 0 || speed == 0 || height * speed > 0) return length;
  const double area = std::sqrt(square);
  const double t = (std::abs(height) - radius * area) / std::abs(speed);
  if (t < 0 || t >= length) return length;
  const Vector3d touch = direction * t - normal * (std::copysign(radius, height) / area);
  const double wa = (triangle.b - touch).cross(triangle.c - touch).dot(normal);
  const double wb = (triangle.c - touch).cross(triangle.a - touch).dot(normal);
  const double outside = -slack * square;
  const bool inside = (wa >= outside) & (wb >= outside) & (square - wa - wb >= outside);
  return inside ? t : length;
}

/// The point of an edge that is nearest to the origin.
Vector3d nearestOfEdge(const Vector3d& from, const Vector3d& to) {
  const Vector3d edge = to - from;
  const double square = edge.squaredNorm();
  return square > 0 ? Vector3d(from + edge * std::clamp(-from.dot(edge) / square, 0.0, 1.0)) : from;
}

/// Seen along its way a sphere is a disc, so it touches only what the disc reaches of a triangle. Without branches:
/// which edges those are is open each time.
class SeenAlong {
 public:
  SeenAlong(const Triangle& triangle, const Vector3d& ab, const Vector3d& ac, const AxesAlong& axes, double radius) {
    const auto project = [&](const Vector3d& v) { return Vector2d(axes.right.dot(v), axes.up.dot(v)); };
    const double square = radius * radius;
    const Vector2d toB = project(ab), toC = project(ac);
    at_[0] = project(triangle.a), at_[1] = project(triangle.b), at_[2] = project(triangle.c);
    to_[0] = toB, to_[1] = toC - toB, to_[2] = -toC;
    for (std::size_t i = 0; i < 3; ++i) corner_[i] = at_[i].squaredNorm() <= square;
    for (std::size_t i = 0; i < 3; ++i) {
      side_[i] = at_[i].x() * to_[i].y() - at_[i].y() * to_[i].x();
      along_[i] = -at_[i].dot(to_[i]), whole_[i] = to_[i].squaredNorm();
      const bool beside = (along_[i] > 0) & (along_[i] < whole_[i]) & (side_[i] * side_[i] <= square * whole_[i]);
      edge_[i] = corner_[i] | corner_[(i + 1) % 3] | beside;
    }
    const bool inside =
        ((side_[0] >= 0) & (side_[1] >= 0) & (side_[2] >= 0)) | ((side_[0] <= 0) & (side_[1] <= 0) & (side_[2] <= 0));
    any_ = inside | edge_[0] | edge_[1] | edge_[2];
  }
  bool any() const { return any_; }

  /// Where the sphere touches edges and corners, which are so deep: the circle that the disc and the corner's or the
  /// edge's line leave of it is so far before them.
  double rim(const double (&deep)[3], double length, double radius) const {
    const double square = radius * radius;
    double first = length;
    for (std::size_t i = 0; i < 3; ++i) {
      if (!edge_[i]) continue;
      if (corner_[i]) {
        const double before = square - at_[i].squaredNorm(), t = deep[i] - std::sqrt(std::max(before, 0.0));
        if (before >= 0 && t >= 0) first = std::min(first, t);
      }
      const double rest = square * whole_[i] - side_[i] * side_[i];
      if (!(rest >= 0 && whole_[i] > 0)) continue;
      const double rise = deep[(i + 1) % 3] - deep[i], edgeSquared = whole_[i] + rise * rise;
      const double share = along_[i] / whole_[i], before = std::sqrt(rest * edgeSquared) / whole_[i];
      const double t = deep[i] + share * rise - before, touched = share - before * rise / edgeSquared;
      if (t >= 0 && t < first && touched >= -slack && touched <= 1 + slack) first = t;
    }
    return first;
  }

 private:
  Vector2d at_[3], to_[3];
  double side_[3], along_[3], whole_[3];
  bool any_, edge_[3], corner_[3];
};

}  // namespace

// Christer Ericson's case analysis by Voronoi regions (Real-Time Collision Detection, 5.1.5), for the origin.
Vector3d closestPoint(const Triangle& triangle) {
  const auto& [a, b, c] = triangle;
  const Vector3d ab = b - a, ac = c - a;
  const double d1 = -ab.dot(a), d2 = -ac.dot(a);
  if (d1 <= 0 && d2 <= 0) return a;
  const double d3 = -ab.dot(b), d4 = -ac.dot(b);
  if (d3 >= 0 && d4 <= d3) return b;
  const double vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0 && d1 > d3) return a + ab * (d1 / (d1 - d3));
  const double d5 = -ab.dot(c), d6 = -ac.dot(c);
  if (d6 >= 0 && d5 <= d6) return c;
  const double vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0 && d2 > d6) return a + ac * (d2 / (d2 - d6));
  const double va = d3 * d6 - d5 * d4;
  const double toC = d4 - d3, toB = d5 - d6;
  if (va <= 0 && toC >= 0 && toB >= 0 && toC + toB > 0) return b + (c - b) * (toC / (toC + toB));
  const double sum = va + vb + vc;  // the square of twice the area
  if (sum > flat * ab.squaredNorm() * ac.squaredNorm()) return a + ab * (vb / sum) + ac * (vc / sum);
  // All but a line: where in it is lost in rounding, but it is no wider than its sides.
  Vector3d nearest = nearestOfEdge(a, b);
  for (const Vector3d& other : {nearestOfEdge(b, c), nearestOfEdge(c, a)}) {
    if (other.squaredNorm() < nearest.squaredNorm()) nearest = other;
  }
  return nearest;
}

double sphereTriangleContact(const Triangle& triangle, const AxesAlong& axes, double length, double radius) {
  const Vector3d& direction = axes.direction;
  const Vector3d ab = triangle.b - triangle.a, ac = triangle.c - triangle.a, normal = ab.cross(ac);
  const double height = -normal.dot(triangle.a), speed = normal.dot(direction), square = normal.squaredNorm();
  // How near the plane one may come without touching, with something to spare for rounding: of one that is one.
  const double reach = radius + 2 * contactBand;
  const bool isPlane = square > flat * ab.squaredNorm() * ac.squaredNorm();
  const bool startsApart = isPlane && height * height > reach * reach * square;
  if (startsApart) {
    const double end = height + length * speed, nearest = height > 0 ? std::min(height, end) : -std::max(height, end);
    if (nearest > 0 && nearest * nearest > reach * reach * square) return length;
  } else {
    const Vector3d nearest = closestPoint(triangle);
    if (nearest.squaredNorm() <= (radius + contactBand) * (radius + contactBand))
      return nearest.dot(direction) > 0 ? 0.0 : length;
  }
  const SeenAlong seen(triangle, ab, ac, axes, reach);
  if (!seen.any()) return length;
  const double face = faceContact(triangle, normal, square, height, speed, direction, length, radius);
  // A sphere that touches the plane inside the triangle first has touched no edge before.
  if (startsApart && face < length) return face;
  const double deep[]{direction.dot(triangle.a), direction.dot(triangle.b), direction.dot(triangle.c)};
  return seen.rim(deep, face, radius);
}

double rayTriangleContact(const Triangle& triangle, const Vector3d& direction, double length) {
  const Vector3d ab = triangle.b - triangle.a, ac = triangle.c - triangle.a;
  const Vector3d p = direction.cross(ac);
  const double determinant = ab.dot(p);
  if (determinant == 0) return length;
  const Vector3d start = -triangle.a;
  const double u = start.dot(p) / determinant;
  const Vector3d q = start.cross(ab);
  const double v = direction.dot(q) / determinant;
  if (u < 0 || v < 0 || u + v > 1) return length;
  const double t = ac.dot(q) / determinant;
  return t >= 0 && t < length ? t : length;
}

}  // namespace alpglow
