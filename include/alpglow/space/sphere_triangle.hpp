#pragma once
// Exact first contact of a moving sphere with a triangle, in double.
//
// Any engine that can list the triangles near a box gets sweeps that never come late from this: give it the corners
// relative to the sweep's start. The swept sphere touches the triangle where its centre enters the triangle grown by
// the radius: two offset faces, three edge cylinders and three corner spheres; the earliest entering root counts. A
// sphere that touches at its start (within 1 µm) is blocked at 0 if it moves toward the closest point and free
// otherwise; distance to a convex set is convex along a line, so that rule is exact.
//
//   double first = length;
//   for (const Triangle& t : nearby) first = std::min(first, sphereTriangleContact(t, direction, first, radius));

#include <Eigen/Core>

#include <cmath>

namespace alpglow {

/// Corners relative to the start of the query, metres. Degenerate triangles count as the segment or point they are.
struct Triangle {
  Eigen::Vector3d a, b, c;
};

/// A direction (unit length), and two more that are square to it and to each other.
// Tom Duff et al.: Building an Orthonormal Basis, Revisited (2017).
struct AxesAlong {
  explicit AxesAlong(const Eigen::Vector3d& along) : direction(along) {
    const double x = along.x(), y = along.y(), z = along.z();
    const double sign = std::copysign(1.0, z), p = -1 / (sign + z), q = x * y * p;
    right = {1 + sign * x * x * p, sign * q, -sign * x};
    up = {q, sign + y * y * p, -y};
  }
  operator const Eigen::Vector3d&() const { return direction; }

  Eigen::Vector3d direction, right, up;
};

/// The point of the triangle that is nearest to the origin.
Eigen::Vector3d closestPoint(const Triangle& triangle);

/// Way of a sphere that starts at the origin until it touches, or `length` if it does not.
double sphereTriangleContact(const Triangle& triangle, const AxesAlong& axes, double length, double radius);
inline double sphereTriangleContact(const Triangle& triangle, const Eigen::Vector3d& direction, double length,
                                    double radius) {
  return sphereTriangleContact(triangle, AxesAlong(direction), length, radius);
}

/// Way of a ray from the origin along `direction` (unit length) until it meets either side, or `length` if it does not.
double rayTriangleContact(const Triangle& triangle, const Eigen::Vector3d& direction, double length);

}  // namespace alpglow
