#pragma once
// Targets to lock on to, and their ranking. The host owns them.
//
//   const int best = bestTarget(view, targets, settings);           // nearest to the crosshair, −1 for none
//   if (flicked) next = nextTarget(view, targets, locked, flick, settings);

#include "alpglow/base/span.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/view/view.hpp"

#include <Eigen/Core>

#include <cstdint>

namespace alpglow {

struct Target {
  /// The host's own number.
  std::uint32_t id = 0;
  /// The point to look at, any offset included, metres; and metres per second.
  Eigen::Vector3d position = Eigen::Vector3d::Zero();
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
  /// What is this close to the point is the target itself and does not hide it, metres.
  double radius = 0.5;
};

struct RankingSettings {
  /// Farther away from the subject's eyes, metres, or from the crosshair, radians, it is no candidate.
  double range = 30;
  double angle = degrees(50);
  /// What the whole range counts against the whole angle.
  double distanceWeight = 0.5;
};

/// What speaks against a target, from 0 on: angle from the crosshair over the largest angle, plus the weighted distance
/// over the range; infinite for none.
double targetCost(const View& view, const Target& target, const RankingSettings& settings);

/// The place of the cheapest target, or −1.
int bestTarget(const View& view, Span<const Target> targets, const RankingSettings& settings);

/// The nearest target on the screen in this direction (x right, y up) from the one with the id `from`, within 60° to
/// either side of the direction; or −1. The angle from the crosshair may be larger than that of a first choice.
int nextTarget(const View& view, Span<const Target> targets, std::uint32_t from, Rate direction,
               const RankingSettings& settings);

}  // namespace alpglow
