#pragma once
// Whether the faces that a hull lists are exactly those of its points, and all of them: given with
// `setPolyhedralFeatures`, and not scaled since. What Bullet finds by itself is rounded.

#include <BulletCollision/CollisionShapes/btConvexHullShape.h>
#include <BulletCollision/CollisionShapes/btConvexPolyhedron.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <cstdint>
#include <cstring>

namespace alpglow::bullet {

/// That takes much more than a question, so it is found out once for what a hull consists of, and known by a
/// digest of that: a hull that was changed is another one. Many threads may ask.
class ExactHulls {
 public:
  static constexpr int mostFaces = 64;  // that are looked at

  bool areExact(const btConvexHullShape& hull, const btConvexPolyhedron& faces) const {
    if (faces.m_faces.size() < 4 || faces.m_faces.size() > mostFaces) return false;
    const std::uint64_t digest = digestOf(hull, faces);
    std::array<std::atomic<std::uint64_t>, 4>& places = known_[digest / 4 % known_.size()];
    for (const std::atomic<std::uint64_t>& place : places) {
      const std::uint64_t known = place.load(std::memory_order_relaxed);
      if ((known & ~exactly) == digest) return (known & exactly) != 0;
    }
    const bool exact = find(hull, faces);
    std::uint64_t next = exact ? digest | exactly : digest;  // and what has been known the longest is forgotten
    for (std::atomic<std::uint64_t>& place : places) next = place.exchange(next, std::memory_order_relaxed);
    return exact;
  }

 private:
  static constexpr std::uint64_t exactly = 1, something = 2;
  static constexpr double inPlane = 1e-9, sameCorner = 1e-6;  // metres
  static constexpr double sameNormal = 1e-18;                 // the square of the way between

  /// With `something`, and without `exactly`.
  static std::uint64_t digestOf(const btConvexHullShape& hull, const btConvexPolyhedron& faces) {
    std::uint64_t lanes[4] = {1, 2, 3, 4};
    const auto mix = [](std::uint64_t& lane, std::uint64_t bits) {
      lane = (lane ^ bits) * 0x9e3779b97f4a7c15u;
      lane ^= lane >> 29;
    };
    const auto add = [&](std::size_t lane, btScalar value) {
      const auto number = static_cast<double>(value);
      std::uint64_t bits;
      std::memcpy(&bits, &number, sizeof bits);
      mix(lanes[lane], bits);
    };
    const auto addPoint = [&](const btVector3& point) { add(0, point.x()), add(1, point.y()), add(2, point.z()); };
    for (int i = 0; i < hull.getNumPoints(); ++i) addPoint(hull.getUnscaledPoints()[i]);
    addPoint(hull.getLocalScalingNV());
    for (int i = 0; i < faces.m_faces.size(); ++i) {
      for (std::size_t k = 0; k < 4; ++k) add(k, faces.m_faces[i].m_plane[k]);
    }
    add(3, static_cast<btScalar>(hull.getNumPoints()));
    for (std::size_t i = 1; i < 4; ++i) mix(lanes[0], lanes[i]);
    return (lanes[0] | something) & ~exactly;
  }

  struct Side {
    btVector3 normal;
    btScalar beyond;  // the origin is so far beyond it
    double height(const btVector3& point) const { return static_cast<double>(normal.dot(point) + beyond); }
    bool isAs(const Side& other) const { return static_cast<double>((normal - other.normal).length2()) <= sameNormal; }
  };
  /// As many as fit; of one that is full nothing is known.
  struct Corners {
    std::array<btVector3, 2 * mostFaces> at;
    int count = 0;
    bool full() const { return count == static_cast<int>(at.size()); }
    void add(const btVector3& corner) {
      if (!full()) at[static_cast<std::size_t>(count++)] = corner;
    }
    const btVector3& operator[](int i) const { return at[static_cast<std::size_t>(i)]; }
    template <class Check>
    bool any(const Check& check) const {
      return std::any_of(at.begin(), at.begin() + count, check);
    }
  };

  static bool find(const btConvexHullShape& hull, const btConvexPolyhedron& faces) {
    std::array<Side, mostFaces> sides;
    auto last = sides.begin();
    Corners points;
    for (int i = 0; i < faces.m_faces.size(); ++i) {
      const btScalar* plane = faces.m_faces[i].m_plane;
      const Side side{{plane[0], plane[1], plane[2]}, plane[3]};
      if (!touches(hull, side, points)) return false;
      if (std::none_of(sides.begin(), last, [&side](const Side& other) { return other.isAs(side); })) *last++ = side;
    }
    btVector3 low, high;
    hull.getAabb(btTransform::getIdentity(), low, high);
    for (auto side = sides.begin(); side != last; ++side) {
      Corners left = squareAround((low + high) / 2, *side, 2 * (high - low).length() + 1);
      for (auto other = sides.begin(); other != last && !left.full(); ++other) {
        if (other != side) cut(left, *other);
      }
      touches(hull, *side, points);
      if (left.full() || left.any([&points](const btVector3& corner) { return !isOf(points, corner); })) return false;
    }
    return true;
  }

  /// No point is beyond it, and three or more lie in it.
  static bool touches(const btConvexHullShape& hull, const Side& side, Corners& touching) {
    const btVector3 scale = hull.getLocalScalingNV();
    int count = 0;
    touching.count = 0;
    for (int i = 0; i < hull.getNumPoints(); ++i) {
      const btVector3 point = hull.getUnscaledPoints()[i] * scale;
      const double height = side.height(point);
      if (!(height <= inPlane)) return false;  // nor is it none
      if (height < -inPlane) continue;
      ++count;
      if (!touching.any([&point](const btVector3& known) { return known == point; })) touching.add(point);
    }
    return count >= 3 && !touching.full() && std::abs(static_cast<double>(side.normal.length2()) - 1) <= inPlane;
  }

  // What all others leave of the plane of a face ends with the hull. Where a face is missing they leave more: of its
  // neighbours, too.
  static Corners squareAround(const btVector3& middle, const Side& side, btScalar far) {
    btVector3 right, up;
    btPlaneSpace1(side.normal, right, up);
    const btVector3 foot = middle - (side.normal.dot(middle) + side.beyond) * side.normal;
    Corners square;
    square.add(foot + far * (right + up)), square.add(foot + far * (right - up));
    square.add(foot - far * (right + up)), square.add(foot - far * (right - up));
    return square;
  }
  static void cut(Corners& corners, const Side& side) {
    if (!corners.any([&side](const btVector3& corner) { return side.height(corner) > inPlane; })) return;
    Corners rest;
    for (int i = 0; i < corners.count; ++i) {
      const btVector3 &from = corners[i], &to = corners[(i + 1) % corners.count];
      const double before = side.height(from) - inPlane, after = side.height(to) - inPlane;
      if (before <= 0) rest.add(from);
      if (before * after < 0) rest.add(from + static_cast<btScalar>(before / (before - after)) * (to - from));
    }
    std::copy_n(rest.at.begin(), rest.count, corners.at.begin());
    corners.count = rest.count;
  }
  /// One of the points, or between two: where two faces are all but one, a corner is anywhere along an edge.
  static bool isOf(const Corners& points, const btVector3& corner) {
    const auto isAt = [&corner](const btVector3& place) {
      return static_cast<double>((place - corner).length()) <= sameCorner;
    };
    return points.any(isAt) || points.any([&](const btVector3& from) {
      return points.any([&](const btVector3& to) {
        const btVector3 way = to - from;
        const btScalar along = (corner - from).dot(way), whole = way.length2();
        return along > 0 && along < whole && isAt(from + along / whole * way);
      });
    });
  }

  mutable std::array<std::array<std::atomic<std::uint64_t>, 4>, 256> known_ = {};
};

}  // namespace alpglow::bullet
