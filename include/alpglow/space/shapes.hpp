#pragma once
// Shapes of the world, and three exact questions about each: how near is it, where does a moving sphere touch it first,
// where does a ray meet it. In double; give coordinates relative to something nearby where the world is large.
//
// The distance to a convex shape is a convex function along a straight way, so Newton's method from the start never
// overshoots the first moment at which it is the radius: a contact can be early by rounding, and never late. On a flat
// face it is exact at once. A sphere that touches at its start (within 1 µm) is blocked at 0 if it moves toward the
// nearest point and free otherwise, which is exact for the same reason. One that starts with its centre inside a solid
// is blocked.
//
//   const Box crate{{0, 0.5, -4}, rotation, {0.5, 0.5, 0.5}};
//   const Touch touch = sweep(crate, head, direction, length, radius);      // touch.distance == length: nothing
//   const Nearest nearest = nearestTo(crate, head);

#include "alpglow/base/span.hpp"
#include "alpglow/space/bounds.hpp"
#include "alpglow/space/sphere_triangle.hpp"

#include <Eigen/Core>

namespace alpglow {

/// The way to a shape.
struct Nearest {
  /// Metres; 0 inside and on the surface.
  double distance = 0;
  /// Unit vector from the nearest point to the point that is asked about; zero at distance 0.
  Eigen::Vector3d normal = Eigen::Vector3d::Zero();
};

/// Where a way ends.
struct Touch {
  /// Metres along the way; the whole length if there is no contact.
  double distance = 0;
  /// Unit vector from the shape to the sphere's centre; zero without a contact, and inside a solid.
  Eigen::Vector3d normal = Eigen::Vector3d::Zero();
};

/// A sphere is a capsule whose ends are one point. Sizes are in metres and ≥ 0; at 0 a shape is the face, the line or
/// the point that is left of it.
struct Capsule {
  Eigen::Vector3d a, b;
  double radius = 0;
};

struct Box {
  Eigen::Vector3d centre;
  /// Unit vectors along its edges, at right angles, as columns.
  Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
  /// Half of each edge.
  Eigen::Vector3d half;
};

/// Upright between two discs: a cylinder, a cone (top radius 0) or what is between.
struct Cylinder {
  Eigen::Vector3d base;
  /// Unit vector from the base to the top.
  Eigen::Vector3d axis = Eigen::Vector3d::UnitY();
  double height = 0;
  double radius = 0, topRadius = 0;
};

/// What lies behind a plane: normal·x ≤ offset, the normal of unit length.
struct Plane {
  Eigen::Vector3d normal;
  double offset = 0;
};
/// A half-space is solid: below it is inside.
using HalfSpace = Plane;

/// What lies behind all of its planes. The bounds may be larger than it is; without any it
/// is asked every time.
struct Hull {
  Span<const Plane> planes;
  Bounds bounds;
};

/// Anything convex of which its owner can tell how far it reaches: `reach` gives the point that is farthest along a
/// direction (of any length), in the shape's own space. What `self` points to must live as long as the shape is asked.
struct Convex {
  const void* self = nullptr;
  Eigen::Vector3d (*reach)(const void* self, const Eigen::Vector3d& direction) = nullptr;
  /// From its own space: turned, scaled, mirrored and sheared as one likes.
  Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
  Eigen::Vector3d origin = Eigen::Vector3d::Zero();
  /// Grown by so many metres on all sides, after that.
  double rounding = 0;
  Bounds bounds;
};

/// Heights over a grid on the ground: `columns` × `rows` values, column by column along x, each row `spacing` further
/// along z. Two triangles a cell, cut from (0, 0) to (1, 1). Where a height is not a number there is a hole.
struct HeightField {
  Eigen::Vector3d origin;
  double spacing = 1;
  int columns = 0, rows = 0;
  Span<const float> heights;
  /// What lies below is inside, without end.
  bool solid = true;
};

Nearest nearestTo(const Triangle& triangle, const Eigen::Vector3d& point);
Nearest nearestTo(const Capsule& capsule, const Eigen::Vector3d& point);
Nearest nearestTo(const Box& box, const Eigen::Vector3d& point);
Nearest nearestTo(const Cylinder& cylinder, const Eigen::Vector3d& point);
Nearest nearestTo(const HalfSpace& space, const Eigen::Vector3d& point);
/// By the dual active-set method of Goldfarb and Idnani (1983): exact in finitely many steps where the planes are
/// not all but parallel; never farther than it is.
Nearest nearestTo(const Hull& hull, const Eigen::Vector3d& point);
/// By the method of Gilbert, Johnson and Keerthi (1988), as the distance of the plane that it finds between the point
/// and the shape: never more than it is, and less by 1e-9 of it at most where the shape has corners.
Nearest nearestTo(const Convex& convex, const Eigen::Vector3d& point);

/// A sphere of this radius (metres, ≥ 0; 0 is a ray) goes `length` along `direction` (a unit vector) from here.
Touch sweep(const Triangle& triangle, const Eigen::Vector3d& from, const AxesAlong& axes, double length, double radius);
inline Touch sweep(const Triangle& triangle, const Eigen::Vector3d& from, const Eigen::Vector3d& direction,
                   double length, double radius) {
  return sweep(triangle, from, AxesAlong(direction), length, radius);
}
Touch sweep(const Capsule& capsule, const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length,
            double radius);
Touch sweep(const Box& box, const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length,
            double radius);
Touch sweep(const Cylinder& cylinder, const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length,
            double radius);
Touch sweep(const HalfSpace& space, const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length,
            double radius);
Touch sweep(const Hull& hull, const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length,
            double radius);
Touch sweep(const Convex& convex, const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length,
            double radius);

inline Bounds boundsOf(const Triangle& t) { return {t.a.cwiseMin(t.b).cwiseMin(t.c), t.a.cwiseMax(t.b).cwiseMax(t.c)}; }
Bounds boundsOf(const Capsule& capsule);
Bounds boundsOf(const Box& box);
Bounds boundsOf(const Cylinder& cylinder);
/// Without end: a half-space has bounds only where it stands along an axis, and is near everything otherwise.
Bounds boundsOf(const HalfSpace& space);
/// Everything where none were given.
inline Bounds boundsOf(const Hull& hull) { return hull.bounds.empty() ? Bounds::everything() : hull.bounds; }
inline Bounds boundsOf(const Convex& convex) { return convex.bounds.empty() ? Bounds::everything() : convex.bounds; }

/// The triangles of a height field whose cells the bounds touch, seen from above: `visit(Triangle)`.
template <class Visit>
void forEachTriangle(const HeightField& field, const Bounds& bounds, Visit&& visit);
/// Whether the point lies below a solid field.
bool isInside(const HeightField& field, const Eigen::Vector3d& point);

}  // namespace alpglow

#include "alpglow/space/height_field.hpp"
