#include "alpglow/space/surroundings.hpp"

#include "alpglow/space/first_contact.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double firstPiece = 4;    // metres
constexpr double firstRange = 0.5;  // metres
constexpr double beside = 1e-3;     // metres that a list reaches farther than the question

}  // namespace

Contact Surroundings::first(const Vector3d& from, const Vector3d& displacement, double radius,
                            std::uint32_t purpose) const noexcept {
  FirstContact first(from, displacement, radius, purpose);
  if (!first.moves()) return first.contact();
  ForEachFound<FirstContact> found(first);
  // The bounds of a whole long way would hold half the world.
  const double length = first.distance();
  double start = 0, end = firstPiece;
  while (start < first.distance()) {
    const Bounds piece =
        Bounds::around(from + start * first.direction()).with(from + std::min(end, length) * first.direction());
    list(piece.grown(radius + beside), found);
    start = end;
    end = 2 * end + firstPiece;
  }
  return found.complete() ? first.contact() : noAnswer();
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
  if (!found.complete()) return noAnswer().distance;
  return isInside(point) ? 0 : nearest;
}

}  // namespace alpglow
