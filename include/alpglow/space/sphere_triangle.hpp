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

namespace alpglow {

/// Corners relative to the start of the query, metres. Degenerate triangles count as the segment or point they are.
struct Triangle {
  Eigen::Vector3d a, b, c;
};

/// The point of the triangle that is nearest to the origin.
Eigen::Vector3d closestPoint(const Triangle& triangle);

/// Way of a sphere that starts at the origin along `direction` (unit length) until it touches, or `length` if it does
/// not.
double sphereTriangleContact(const Triangle& triangle, const Eigen::Vector3d& direction, double length, double radius);

/// Way of a ray from the origin along `direction` (unit length) until it meets either side, or `length` if it does not.
double rayTriangleContact(const Triangle& triangle, const Eigen::Vector3d& direction, double length);

}  // namespace alpglow
