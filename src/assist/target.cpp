#include "alpglow/assist/target.hpp"

#include <cmath>
#include <limits>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();

/// Angles to the right and up from the crosshair.
Eigen::Vector2d onPicture(const View& view, const Target& target) {
  const Vector3d seen = view.rotation().transpose() * (target.position - view.position);
  return {std::atan2(seen.x(), -seen.z()), std::atan2(seen.y(), std::hypot(seen.x(), seen.z()))};
}

template <class Cost>
int cheapest(Span<const Target> targets, Cost&& cost) {
  int best = -1;
  double least = infinity;
  int index = 0;
  for (const Target& target : targets) {
    const double c = cost(target);
    if (c < least) least = c, best = index;
    ++index;
  }
  return best;
}

}  // namespace

double targetCost(const View& view, const Target& target, const RankingSettings& settings) {
  const double distance = (target.position - view.head).norm();
  const Vector3d toTarget = target.position - view.position;
  const double length = toTarget.norm();
  if (!(distance <= settings.range) || !(length > 0)) return infinity;
  const double angle = std::atan2(view.forward().cross(toTarget).norm(), view.forward().dot(toTarget));
  if (!(angle <= settings.angle)) return infinity;
  return angle / settings.angle + settings.distanceWeight * distance / settings.range;
}

int bestTarget(const View& view, Span<const Target> targets, const RankingSettings& settings) {
  return cheapest(targets, [&](const Target& target) { return targetCost(view, target, settings); });
}

int nextTarget(const View& view, Span<const Target> targets, std::uint32_t from, Rate direction,
               const RankingSettings& settings) {
  const double length = std::hypot(direction.x, direction.y);
  if (!(length > 0) || !std::isfinite(length)) return -1;
  const Eigen::Vector2d unit(direction.x / length, direction.y / length);
  Eigen::Vector2d start = Eigen::Vector2d::Zero();
  for (const Target& target : targets) {
    if (target.id == from) start = onPicture(view, target);
  }
  return cheapest(targets, [&](const Target& target) {
    const double distance = (target.position - view.head).norm();
    if (target.id == from || !(distance <= settings.range)) return infinity;
    const Eigen::Vector2d step = onPicture(view, target) - start;
    if (!(step.dot(unit) > 0.5 * step.norm())) return infinity;
    return step.norm() / settings.angle + settings.distanceWeight * distance / settings.range;
  });
}

}  // namespace alpglow
