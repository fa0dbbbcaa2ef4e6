#include "alpglow/space/shapes.hpp"

#include "alpglow/space/convex_sweep.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Matrix3d;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();

Nearest from(const Vector3d& difference) {
  const double distance = difference.norm();
  return distance > 0 ? Nearest{distance, difference / distance} : Nearest();
}

/// Of a segment, the point that is nearest to another.
template <class Vector>
Vector nearestOnSegment(const Vector& a, const Vector& b, const Vector& point) {
  const Vector edge = b - a;
  const double square = edge.squaredNorm();
  return square > 0 ? Vector(a + edge * std::clamp((point - a).dot(edge) / square, 0.0, 1.0)) : a;
}

constexpr double behind = 1e-11;   // a plane, metres that rounding takes
constexpr double touching = 1e-6;  // metres: what is no farther is for the general way to tell

/// The stretch of a way that is behind every plane of a convex solid: from `enter` on, until it leaves.
class Stretch {
 public:
  Stretch(double length) : leave_(length) {}
  /// One more plane: so high above it does the way start, and so fast does it rise.
  void cut(double height, double rise) {
    if (rise < 0) enter_ = std::max(enter_, -height / rise);
    if (rise > 0) leave_ = std::min(leave_, -height / rise);
    if (rise == 0 && height > 0) leave_ = -1;
  }
  bool empty() const { return enter_ > leave_; }
  double enter() const { return enter_; }

 private:
  double enter_ = 0, leave_;
};

/// The active planes of a nearest point, and how hard each of them presses.
struct ActivePlanes {
  Vector3d normals[3];
  double offsets[3], press[3];
  int count = 0;

  /// The shares of the normals in another one; the rest of it is at right angles to all.
  Vector3d shares(const Vector3d& normal) const {
    const Vector3d* n = normals;
    if (count == 0) return Vector3d::Zero();
    if (count == 1) return {n[0].dot(normal), 0, 0};
    if (count == 2) {
      const double between = n[0].dot(n[1]), a = n[0].dot(normal), b = n[1].dot(normal);
      return Vector3d(a - between * b, b - between * a, 0) / (1 - between * between);
    }
    const Vector3d yz = n[1].cross(n[2]), zx = n[2].cross(n[0]), xy = n[0].cross(n[1]);
    return Vector3d(yz.dot(normal), zx.dot(normal), xy.dot(normal)) / yz.dot(n[0]);
  }
  void add(const Plane& plane, double pressing) {
    normals[count] = plane.normal, offsets[count] = plane.offset, press[count++] = pressing;
  }
  void remove(int i) {
    --count;
    normals[i] = normals[count], offsets[i] = offsets[count], press[i] = press[count];
  }
  /// The plane between the origin and all that is behind these: a bound that rounding cannot break.
  Nearest nearest() const {
    Vector3d sum = Vector3d::Zero();
    double above = 0;
    for (int i = 0; i < count; ++i) {
      sum += press[i] * normals[i];
      above -= press[i] * offsets[i];
    }
    const double size = sum.norm();
    return size > 0 && above > 0 ? Nearest{above / size, sum / size} : Nearest();
  }
};

/// Presses the point `x` behind one more plane; false if no point is behind all of them.
bool pressBehind(const Plane& plane, Vector3d& x, ActivePlanes& active) {
  constexpr double dependent = 1e-14;
  double pressing = 0;
  for (int i = 0; i < 8; ++i) {
    const double violation = plane.normal.dot(x) - plane.offset;
    const Vector3d shares = active.shares(plane.normal);
    Vector3d way = plane.normal;
    for (int k = 0; k < active.count; ++k) way -= shares[k] * active.normals[k];
    const double square = active.count < 3 ? way.squaredNorm() : 0;
    const double full = square > dependent ? std::max(violation, 0.0) / square : infinity;
    int loosened = -1;
    double until = full;
    for (int k = 0; k < active.count; ++k) {
      if (shares[k] > 0 && active.press[k] / shares[k] < until) until = active.press[k] / shares[k], loosened = k;
    }
    if (std::isinf(until)) return false;
    if (square > dependent) x -= until * way;
    for (int k = 0; k < active.count; ++k) active.press[k] = std::max(active.press[k] - until * shares[k], 0.0);
    pressing += until;
    if (loosened < 0) {
      active.add(plane, pressing);
      return true;
    }
    active.remove(loosened);
  }
  return true;
}

/// The plane that a point is farthest beyond, if it is beyond any.
const Plane* farthestBeyond(const Hull& hull, const Vector3d& point) {
  const Plane* beyond = nullptr;
  double most = behind;
  for (const Plane& plane : hull.planes) {
    const double above = plane.normal.dot(point) - plane.offset;
    if (above > most) most = above, beyond = &plane;
  }
  return beyond;
}

/// The sphere comes through `a` last, beyond `b`. Where it touches the line that these have in common, or that it
/// misses the line; false if that is open. It is known if the touched point is one of the hull and all of the hull is
/// behind the plane between. With h and g the heights over the planes and c the cosine between their normals the line
/// is √((h² + g² − 2·c·h·g)/(1 − c²)) away.
bool touchesEdge(const Hull& hull, const Plane& a, const Plane& b, const Vector3d& from, const Vector3d& direction,
                 double length, double radius, Touch& touch) {
  constexpr double dull = 1e-4;
  const double c = a.normal.dot(b.normal), sine = 1 - c * c;
  if (sine < dull || radius <= 0) return false;
  const double h = a.normal.dot(from) - a.offset, g = b.normal.dot(from) - b.offset;
  const double u = a.normal.dot(direction), v = b.normal.dot(direction);
  const double square = u * u + v * v - 2 * c * u * v, middle = h * u + g * v - c * (h * v + g * u);
  const double under = middle * middle - square * (h * h + g * g - 2 * c * h * g - radius * radius * sine);
  if (square < dull) return false;
  if (under < 0) return true;  // past the edge, and so past all that is behind both planes
  const double way = (-middle - std::sqrt(under)) / square;
  const double high = h + way * u, other = g + way * v;
  const double ofA = high - c * other, ofB = other - c * high;
  if (way < 0 || ofA < 0 || ofB < 0) return false;
  const Vector3d normal = (ofA * a.normal + ofB * b.normal) / (sine * radius);
  if (farthestBeyond(hull, from + way * direction - radius * normal) != nullptr) return false;
  if (way < length) touch = {way, normal.normalized()};
  return true;
}

Triangle seenFrom(const Triangle& t, const Vector3d& point) { return {t.a - point, t.b - point, t.c - point}; }

}  // namespace

Nearest nearestTo(const Triangle& triangle, const Vector3d& point) {
  return from(-closestPoint(seenFrom(triangle, point)));
}

Nearest nearestTo(const Capsule& capsule, const Vector3d& point) {
  Nearest nearest = from(point - nearestOnSegment(capsule.a, capsule.b, point));
  nearest.distance -= capsule.radius;
  return nearest.distance > 0 ? nearest : Nearest();
}

Nearest nearestTo(const Box& box, const Vector3d& point) {
  const Vector3d local = box.axes.transpose() * (point - box.centre);
  return from(box.axes * (local - local.cwiseMax(-box.half).cwiseMin(box.half)));
}

/// In the half plane through the axis and the point: across the axis, and along it.
Nearest nearestTo(const Cylinder& cylinder, const Vector3d& point) {
  const Vector3d offset = point - cylinder.base;
  const double along = cylinder.axis.dot(offset);
  const Vector3d across = offset - along * cylinder.axis;
  const double far = across.norm();
  const Vector2d p(far, along), foot(cylinder.radius, 0), rim(cylinder.topRadius, cylinder.height);
  const double side = (rim.x() - foot.x()) * along - (rim.y() - foot.y()) * (far - foot.x());
  const bool between = along >= 0 && along <= cylinder.height;
  if (between && (cylinder.height > 0 ? side >= 0 : far <= std::max(foot.x(), rim.x()))) return {};
  const Vector2d axis[] = {{0, 0}, {0, cylinder.height}};
  Vector2d best = nearestOnSegment(foot, rim, p);
  for (const Vector2d& other : {nearestOnSegment(axis[0], foot, p), nearestOnSegment(axis[1], rim, p)}) {
    if ((p - other).squaredNorm() < (p - best).squaredNorm()) best = other;
  }
  const Vector2d difference = p - best;
  const Vector3d outward = far > 0 ? Vector3d(across / far) : Vector3d(0, 0, 0);
  return from(difference.x() * outward + difference.y() * cylinder.axis);
}

Nearest nearestTo(const HalfSpace& space, const Vector3d& point) {
  const double height = space.normal.dot(point) - space.offset;
  return height > 0 ? Nearest{height, space.normal} : Nearest();
}

/// Relative to the point, so that rounding is as small as what is near. Where planes contradict each other, as those of
/// a thin plate do after rounding, what is known so far counts: it is not farther than that.
Nearest nearestTo(const Hull& hull, const Vector3d& point) {
  Vector3d x = Vector3d::Zero();
  ActivePlanes active;
  for (std::size_t i = 0; i < 4 * hull.planes.size() + 16; ++i) {
    Plane worst{Vector3d::Zero(), 0};
    double violation = behind;
    for (const Plane& plane : hull.planes) {
      const double offset = plane.offset - plane.normal.dot(point), above = plane.normal.dot(x) - offset;
      if (above > violation) violation = above, worst = {plane.normal, offset};
    }
    if (violation == behind || !pressBehind(worst, x, active)) break;
  }
  return active.nearest();
}

Touch sweep(const Triangle& triangle, const Vector3d& from, const AxesAlong& axes, double length, double radius) {
  const Vector3d& direction = axes.direction;
  const Triangle local = seenFrom(triangle, from);
  Touch touch{radius > 0 ? sphereTriangleContact(local, axes, length, radius)
                         : rayTriangleContact(local, direction, length)};
  if (touch.distance >= length) return {length};
  const Vector3d end = from + touch.distance * direction;
  if (radius > 0) touch.normal = nearestTo(triangle, end).normal;
  if (touch.normal.squaredNorm() == 0) {
    const Vector3d face = (triangle.b - triangle.a).cross(triangle.c - triangle.a).normalized();
    touch.normal = face.dot(direction) > 0 ? Vector3d(-face) : face;
  }
  return touch;
}

Touch sweep(const Capsule& capsule, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  return sweepConvex([&capsule](const Vector3d& p) { return nearestTo(capsule, p); }, from, direction, length, radius);
}

Touch sweep(const Box& box, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  const Vector3d start = box.axes.transpose() * (from - box.centre), way = box.axes.transpose() * direction;
  Stretch stretch(length);
  for (int axis = 0; axis < 3; ++axis) {
    stretch.cut(start[axis] - box.half[axis] - radius, way[axis]);
    stretch.cut(-start[axis] - box.half[axis] - radius, -way[axis]);
  }
  if (stretch.empty()) return {length};
  const Box local{Vector3d::Zero(), Matrix3d::Identity(), box.half};
  Touch touch = sweepConvex([&local](const Vector3d& p) { return nearestTo(local, p); }, start, way, length, radius,
                            stretch.enter());
  touch.normal = box.axes * touch.normal;
  return touch;
}

Touch sweep(const Cylinder& cylinder, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  return sweepConvex([&cylinder](const Vector3d& p) { return nearestTo(cylinder, p); }, from, direction, length,
                     radius);
}

Touch sweep(const HalfSpace& space, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  return sweepConvex([&space](const Vector3d& p) { return nearestTo(space, p); }, from, direction, length, radius);
}

Touch sweep(const Hull& hull, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  Stretch stretch(length);
  const Plane* last = nullptr;  // of those that it comes through
  for (const Plane& plane : hull.planes) {
    const double before = stretch.enter();
    stretch.cut(plane.normal.dot(from) - plane.offset - radius, plane.normal.dot(direction));
    if (stretch.enter() > before) last = &plane;
  }
  if (stretch.empty()) return {length};
  if (last != nullptr && last->normal.dot(from) - last->offset > radius + touching) {
    // Where it touches that plane within the face, it has touched no edge before.
    const Vector3d touched = from + stretch.enter() * direction - radius * last->normal;
    const Plane* beyond = farthestBeyond(hull, touched);
    if (beyond == nullptr) return {stretch.enter(), last->normal};
    Touch edge{length};
    if (beyond != last && touchesEdge(hull, *last, *beyond, from, direction, length, radius, edge)) return edge;
  }
  return sweepConvex([&hull](const Vector3d& p) { return nearestTo(hull, p); }, from, direction, length, radius,
                     stretch.enter());
}

Bounds boundsOf(const Capsule& c) { return Bounds::around(c.a).with(c.b).grown(c.radius); }

Bounds boundsOf(const Box& box) {
  const Vector3d reach = box.axes.cwiseAbs() * box.half;
  return {box.centre - reach, box.centre + reach};
}

Bounds boundsOf(const Cylinder& c) {
  const Vector3d top = c.base + c.height * c.axis;
  const Vector3d spread = (Vector3d::Ones() - c.axis.cwiseAbs2()).cwiseMax(0).cwiseSqrt();
  return Bounds{c.base - c.radius * spread, c.base + c.radius * spread}.with(
      Bounds{top - c.topRadius * spread, top + c.topRadius * spread});
}

Bounds boundsOf(const HalfSpace& space) {
  Bounds bounds = Bounds::everything();
  for (int axis = 0; axis < 3; ++axis) {
    if (space.normal[axis] == 1) bounds.high[axis] = space.offset;
    if (space.normal[axis] == -1) bounds.low[axis] = -space.offset;
  }
  return bounds;
}

bool isInside(const HeightField& field, const Vector3d& point) {
  bool inside = false;
  if (!field.solid) return inside;
  const Bounds here = Bounds::around(point);
  forEachTriangle(field, here, [&](const Triangle& t) {
    const Vector3d up = (t.b - t.a).cross(t.c - t.a);
    const auto left = [&point](const Vector3d& a, const Vector3d& b) {
      return (b.z() - a.z()) * (point.x() - a.x()) - (b.x() - a.x()) * (point.z() - a.z()) >= 0;
    };
    const bool over = left(t.a, t.b) && left(t.b, t.c) && left(t.c, t.a);
    inside = inside || (over && up.dot(point - t.a) <= 0);
  });
  return inside;
}

}  // namespace alpglow
