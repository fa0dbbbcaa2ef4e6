#pragma once
// Distances of solids in extended precision, with none of the code that is tested: polygons and projections, and for
// ellipsoids a root that is bracketed. And what has to hold of every sweep.

#include "alpglow/space/neighbourhood.hpp"
#include "support/brute_force.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

namespace alpglow::testing {

using Real = long double;
using Vector3r = Eigen::Matrix<Real, 3, 1>;
/// Of a point; 0 inside.
using Distance = std::function<Real(const Eigen::Vector3d&)>;

inline Real realDistanceToSegment(Real px, Real py, Real ax, Real ay, Real bx, Real by) {
  const Real ex = bx - ax, ey = by - ay, square = ex * ex + ey * ey;
  const Real t = square > 0 ? std::clamp<Real>(((px - ax) * ex + (py - ay) * ey) / square, 0, 1) : 0;
  return std::hypot(px - ax - t * ex, py - ay - t * ey);
}

/// Turned by `axes` (columns), around `centre`.
inline Distance boxDistance(const Eigen::Vector3d& centre, const Eigen::Matrix3d& axes, const Eigen::Vector3d& half) {
  return [=](const Eigen::Vector3d& p) {
    const Vector3r local = axes.cast<Real>().transpose() * (p - centre).cast<Real>();
    Real square = 0;
    for (int i = 0; i < 3; ++i) {
      const Real beyond = std::abs(local[i]) - static_cast<Real>(half[i]);
      if (beyond > 0) square += beyond * beyond;
    }
    return std::sqrt(square);
  };
}

inline Distance capsuleDistance(const Eigen::Vector3d& a, const Eigen::Vector3d& b, double radius) {
  return [=](const Eigen::Vector3d& p) {
    const Vector3r edge = (b - a).cast<Real>(), from = (p - a).cast<Real>();
    const Real square = edge.squaredNorm(), t = square > 0 ? std::clamp<Real>(from.dot(edge) / square, 0, 1) : 0;
    return std::max<Real>((from - t * edge).norm() - static_cast<Real>(radius), 0);
  };
}

/// A cylinder, a cone or what is between, in the half plane through its axis; grown by `margin`.
inline Distance frustumDistance(const Eigen::Vector3d& base, const Eigen::Vector3d& axis, double height, double radius,
                                double topRadius, double margin = 0) {
  return [=](const Eigen::Vector3d& p) {
    const Vector3r offset = (p - base).cast<Real>(), up = axis.cast<Real>();
    const Real y = up.dot(offset), x = (offset - y * up).norm();
    const Real h = static_cast<Real>(height), r = static_cast<Real>(radius), top = static_cast<Real>(topRadius);
    const bool inside = y >= 0 && y <= h && (h > 0 ? x * h <= r * (h - y) + top * y : x <= std::max(r, top));
    if (inside) return Real(0);
    const Real nearest = std::min({realDistanceToSegment(x, y, 0, 0, r, 0), realDistanceToSegment(x, y, r, 0, top, h),
                                   realDistanceToSegment(x, y, 0, h, top, h)});
    return std::max<Real>(nearest - static_cast<Real>(margin), 0);
  };
}

/// A solid of triangles that are counter-clockwise seen from outside, and convex; grown by `margin`.
inline Distance convexMeshDistance(const std::vector<Corners>& triangles, double margin = 0) {
  BruteForce force;
  force.triangles = triangles;
  return [=](const Eigen::Vector3d& p) {
    const bool inside = std::all_of(triangles.begin(), triangles.end(), [&](const Corners& t) {
      return (t[1] - t[0]).cross(t[2] - t[0]).dot(p - t[0]) <= 0;
    });
    return inside ? Real(0) : std::max<Real>(static_cast<Real>(force.distance(p) - margin), 0);
  };
}

/// Half axes along x, y and z; the nearest point is where the normal through it meets the point.
inline Distance ellipsoidDistance(const Eigen::Vector3d& half) {
  return [half](const Eigen::Vector3d& point) {
    const Vector3r h = half.cast<Real>(), p = point.cast<Real>();
    const Vector3r square = h.cwiseProduct(h);
    const auto off = [&](Real t) {
      return h.cwiseProduct(p).cwiseQuotient((square.array() + t).matrix()).squaredNorm() - 1;
    };
    if (off(0) <= 0) return Real(0);
    Real low = 0, high = h.maxCoeff() * p.norm();
    for (int i = 0; i < 200; ++i) (off((low + high) / 2) > 0 ? low : high) = (low + high) / 2;
    const Vector3r nearest = square.cwiseProduct(p).cwiseQuotient((square.array() + high).matrix());
    return (p - nearest).norm();
  };
}

/// The first thing, solid and convex or not, that a sphere meets on its way; `distance` of it alone.
struct SweptOnce {
  Eigen::Vector3d from, direction;
  double length, radius;
  double contact;  // `length` for none
};

/// Never late, never early, never through. Where distance is convex along the way the least of it is found, elsewhere
/// it is sampled. Returns by how much the end misses the radius.
inline double expectTouches(const SweptOnce& swept, const Distance& distance, double tolerance, bool convex = true) {
  const auto at = [&](double way) {
    return static_cast<double>(distance(swept.from + way * swept.direction)) - swept.radius;
  };
  const bool hit = swept.contact < swept.length;
  double least = 1e300;
  for (int i = 0; i <= 24; ++i) least = std::min(least, at(swept.contact * i / 24));
  if (convex) {
    double low = 0, high = swept.contact;
    for (int i = 0; i < 60; ++i) {
      const double a = low + (high - low) / 3, b = high - (high - low) / 3;
      (at(a) < at(b) ? high : low) = at(a) < at(b) ? b : a;
    }
    least = std::min(least, at(low));
  }
  EXPECT_GE(least, -tolerance) << "late, or through, from " << swept.from.transpose() << " along "
                               << swept.direction.transpose() << ", radius " << swept.radius;
  if (!hit) return 0;
  EXPECT_LE(at(swept.contact), tolerance) << "early, from " << swept.from.transpose() << " along "
                                          << swept.direction.transpose() << ", radius " << swept.radius;
  return std::abs(at(swept.contact));
}

inline Eigen::Matrix3d randomTurn(Random& random) {
  const double angle = random.between(-3.1, 3.1);
  return Eigen::AngleAxisd(angle, random.point(1).normalized()).toRotationMatrix();
}

/// A random solid with flat sides: a box that was sheared, turned, mirrored or flattened; its triangles point outward.
inline std::vector<Corners> crookedBox(Random& random, Eigen::Matrix3d& transform) {
  transform = Eigen::Matrix3d::Identity() * random.between(0.2, 1.5);
  for (int i = 0; i < 9; ++i) transform(i / 3, i % 3) += random.between(-0.4, 0.4);
  if (random.chance(0.5)) transform.col(0) *= -1;
  if (random.chance(0.15)) transform.col(2) *= 1e-6;  // a plate
  std::vector<Corners> triangles;
  for (int axis = 0; axis < 3; ++axis) {
    for (const double side : {-1.0, 1.0}) {
      const auto corner = [&](double u, double v) {
        Eigen::Vector3d local;
        local[axis] = side, local[(axis + 1) % 3] = u, local[(axis + 2) % 3] = side * v;
        return Eigen::Vector3d(transform * local);
      };
      for (Corners t : {Corners{corner(-1, -1), corner(1, -1), corner(1, 1)},
                        Corners{corner(-1, -1), corner(1, 1), corner(-1, 1)}}) {
        if (transform.determinant() < 0) std::swap(t[1], t[2]);
        triangles.push_back(t);
      }
    }
  }
  return triangles;
}

/// What was found of one kind of shape.
struct Tally {
  double worst = 0;
  int hits = 0;
};

/// Sweeps, rays and clearances of one shape within three metres, asked directly and of a neighbourhood; exact to so
/// many times what they are in double. Directly and listed they are the same, or to a micrometre where shapes are
/// coarse.
inline void attack(const Surroundings& world, const Distance& distance, bool convex, Random& random, Tally& tally,
                   double coarse = 1) {
  const Neighbourhood near(world, 512, 24);
  const double same = coarse > 1 ? 1e-6 : 1e-9;
  static_cast<const Obstacles&>(near).gather(Bounds::around(Eigen::Vector3d::Zero(), 10));
  for (int i = 0; i < 50; ++i) {
    const Eigen::Vector3d from = random.point(3), direction = random.point(1).normalized();
    const double room = static_cast<double>(distance(from)), radius = random.between(0.01, 0.4);
    const double length = random.between(0.2, 6);
    ASSERT_NEAR(world.clearance(from, 20), room, 1e-7 * coarse);
    ASSERT_NEAR(near.clearance(from, 3), std::min(room, 3.0), 1e-7 * coarse);
    if (room < radius + 2e-6 * coarse) continue;
    const Contact contact = world.sweep(from, length * direction, radius);
    const Contact ray = world.cast(from, length * direction, Purpose::aim);
    ASSERT_NEAR(near.sweep(from, length * direction, radius).distance, contact.distance, same);
    ASSERT_NEAR(near.cast(from, length * direction, Purpose::aim).distance, ray.distance, same);
    const auto end = [length](const Contact& c) { return c.hit() ? c.distance : length; };
    const SweptOnce swept{from, direction, length, radius, end(contact)};
    tally.worst = std::max(tally.worst, expectTouches(swept, distance, 1e-6 * coarse, convex));
    expectTouches({from, direction, length, 0, end(ray)}, distance, 2e-6 * coarse, convex);
    if (!contact.hit()) continue;
    ++tally.hits;
    ASSERT_NEAR(contact.normal.norm(), 1, 1e-6 * coarse);
    // Away from the nearest point of the shape: a step along it gains as much distance.
    const Eigen::Vector3d place = from + contact.distance * direction + 1e-4 * contact.normal;
    if (!convex) continue;
    ASSERT_NEAR(static_cast<double>(distance(place)), radius + 1e-4, 2e-6 * coarse);
  }
}

}  // namespace alpglow::testing
