#include "alpglow/space/surroundings.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double shortestWay = 1e-8;  // metres
constexpr double firstPiece = 4;      // metres
constexpr double firstRange = 0.5;    // metres
constexpr double beside = 1e-3;       // metres that a list reaches farther than the question

}  // namespace

Contact Surroundings::first(const Vector3d& from, const Vector3d& displacement, double radius,
                            std::uint32_t purpose) const noexcept {
  const double length = displacement.norm();
  Contact first{length, noObstacle};
  if (!(length > shortestWay) || !from.allFinite() || !std::isfinite(length)) return first;
  const Vector3d direction = displacement / length;
  auto touch = [&](const auto& shape, const Thing& thing) {
    if ((thing.stops & purpose) == 0) return;
    const Touch touched = alpglow::sweep(shape, from, direction, first.distance, radius);
    if (touched.distance < first.distance) first = {touched.distance, thing.id, touched.normal};
  };
  ForEachFound<decltype(touch)> found(touch);
  // The bounds of a whole long way would hold half the world.
  double start = 0, end = firstPiece;
  while (start < first.distance) {
    const Bounds piece = Bounds::around(from + start * direction).with(from + std::min(end, length) * direction);
    list(piece.grown(radius + beside), found);
    start = end;
    end = 2 * end + firstPiece;
  }
  if (!found.complete()) first.distance = std::numeric_limits<double>::quiet_NaN();
  return first;
}

double Surroundings::room(const Vector3d& point, double range) const noexcept {
  double nearest = range;
  if (!point.allFinite() || !std::isfinite(range)) return nearest;
  auto measure = [&](const auto& shape, const Thing& thing) {
    if ((thing.stops & Purpose::camera) != 0) nearest = std::min(nearest, nearestTo(shape, point).distance);
  };
  ForEachFound<decltype(measure)> found(measure);
  // Most of what is asked for with a long range is near.
  for (double reach = std::min(firstRange, range);; reach = std::min(4 * reach, range)) {
    list(Bounds::around(point, reach), found);
    if (nearest <= reach || reach >= range) break;
  }
  if (!found.complete()) return std::numeric_limits<double>::quiet_NaN();
  return isInside(point) ? 0 : nearest;
}

}  // namespace alpglow
