#pragma once
// Whether the faces that a hull lists are exactly those of its points: given with `setPolyhedralFeatures`, and not
// scaled since. What Bullet finds by itself is rounded.

#include <BulletCollision/CollisionShapes/btConvexHullShape.h>
#include <BulletCollision/CollisionShapes/btConvexPolyhedron.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <cstdint>
#include <cstring>

namespace alpglow::bullet {

/// That takes a product for each face and point, so it is found out once for what a hull consists of, and known by a
/// digest of that: a hull that was changed is another one. Many threads may ask.
class ExactHulls {
 public:
  bool areExact(const btConvexHullShape& hull, const btConvexPolyhedron& faces) const {
    const std::uint64_t digest = digestOf(hull, faces);
    std::atomic<std::uint64_t>& place = known_[digest / 4 % known_.size()];
    const std::uint64_t known = place.load(std::memory_order_relaxed);
    if ((known & ~exactly) == digest) return (known & exactly) != 0;
    const bool exact = find(hull, faces);
    place.store(exact ? digest | exactly : digest, std::memory_order_relaxed);
    return exact;
  }

 private:
  static constexpr std::uint64_t exactly = 1, something = 2;

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

  static bool find(const btConvexHullShape& hull, const btConvexPolyhedron& faces) {
    constexpr double exact = 1e-9;
    const auto isExact = [&hull](const btFace& face) {
      const btVector3 normal(face.m_plane[0], face.m_plane[1], face.m_plane[2]);
      double highest = -1;
      int touching = 0;
      for (int i = 0; i < hull.getNumPoints(); ++i) {
        const btVector3 point = hull.getUnscaledPoints()[i] * hull.getLocalScalingNV();
        const auto height = static_cast<double>(normal.dot(point) + face.m_plane[3]);
        highest = std::max(highest, height);
        touching += std::abs(height) <= exact ? 1 : 0;
      }
      return highest <= exact && touching >= 3 && std::abs(normal.length2() - 1) <= exact;
    };
    for (int i = 0; i < faces.m_faces.size(); ++i) {
      if (!isExact(faces.m_faces[i])) return false;
    }
    return true;
  }

  mutable std::array<std::atomic<std::uint64_t>, 256> known_ = {};
};

}  // namespace alpglow::bullet
