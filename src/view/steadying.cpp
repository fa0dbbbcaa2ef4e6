#include "alpglow/view/steadying.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double nearestFocus = 0.1;

}  // namespace

void Focus::step(double distance, double seconds, const SteadySettings& settings) {
  const double goal = 1 / std::clamp(distance, nearestFocus, settings.farFocus);
  inverse_ = inverse_ < 0 ? goal : approach(inverse_, goal, settings.focusHalfLife, seconds);
}

LookAngles steadied(const LookAngles& look, const Eigen::Vector3d& offset, double focus,
                    const SteadySettings& settings) {
  if (settings.cap <= 0 || offset.squaredNorm() == 0) return {};
  const Eigen::Vector3d ahead = -rotationOf(look.yaw, look.pitch).col(2);
  const Eigen::Vector3d toFocus = (focus * ahead - offset).normalized();
  const double level = std::cos(look.pitch);
  // Near the poles a small turn of the view is a large one of the yaw: let go between 80° and 87°.
  const double share = std::clamp((level - 0.05) / 0.12, 0.0, 1.0);
  LookAngles turn{shortestTurn(look.yaw, std::atan2(-toFocus.x(), -toFocus.z())),
                  std::asin(std::clamp(toFocus.y(), -1.0, 1.0)) - look.pitch};
  // Beyond the pole, behind, there is no shorter way round: from beside on, less and less.
  if (std::abs(turn.yaw) > pi / 2) turn.yaw = std::copysign(pi - std::abs(turn.yaw), turn.yaw);
  const double size = std::hypot(turn.yaw * level, turn.pitch);
  const double scale = share * (size > settings.cap ? settings.cap / size : 1.0);
  return {turn.yaw * scale, turn.pitch * scale};
}

}  // namespace alpglow
