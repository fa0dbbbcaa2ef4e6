#pragma once
// A moving sphere against anything convex of which the distance is known.
//
//   const Touch touch = sweepConvex([&](const Vector3d& p) { return nearestTo(shape, p); }, from, direction, length,
//                                   radius);
//
// The distance along a straight way is a convex function of the way, so Newton's step from the left ends at the first
// moment at which it is the radius, or before. The step goes to where the sphere touches the plane that separates it
// from the shape: it stays valid where `nearest` gives less than the distance, with a normal of which the whole shape
// lies behind.

#include "alpglow/space/shapes.hpp"

namespace alpglow {

/// Nothing touches before `start`, which the caller knows. At most 1e-9 m early, where the way meets the shape steeply.
template <class NearestOf>
Touch sweepConvex(const NearestOf& nearest, const Eigen::Vector3d& from, const Eigen::Vector3d& direction,
                  double length, double radius, double start = 0) {
  constexpr double contactBand = 1e-6, arrived = 1e-9;
  constexpr int mostSteps = 100;
  double way = start;
  for (int i = 0; i < mostSteps; ++i) {
    const Nearest now = nearest(from + way * direction);
    const double gap = now.distance - radius, closing = -now.normal.dot(direction);
    const bool inside = now.distance == 0;
    if (way == 0 && gap <= contactBand) return inside || closing > 0 ? Touch{0, now.normal} : Touch{length};
    // A ray that has arrived has no distance to be told a normal from: that is seen from a little before.
    if (gap <= arrived) return {way, inside ? nearest(from + (way - contactBand) * direction).normal : now.normal};
    if (!(closing > 0)) return {length};
    way += gap / closing;
    if (!(way < length)) return {length};
  }
  return {way, nearest(from + way * direction).normal};
}

}  // namespace alpglow
