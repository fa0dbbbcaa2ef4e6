#pragma once
// What stands between an eye and a body, so that the host can fade it: foliage and grilles that let the camera pass and
// stop sight, but also walls that a camera stands behind.
//
//   const auto body = bodyPoints(subject, view.position);
//   const Hiding hiding = whatHides(view.position, body, world);
//   for (const ObstacleId thing : hiding.all()) fade(thing);
//   if (hiding.visible < 0.3) outline(subject);

#include "alpglow/base/span.hpp"
#include "alpglow/follow/subject.hpp"
#include "alpglow/space/obstacles.hpp"

#include <Eigen/Core>

#include <array>
#include <cstddef>

namespace alpglow {

/// Head, shoulders, hips and feet of a body that is turned to the eye, metres; a little inside of it, so that the
/// ground hides no feet. Shoulders are 0.4 m apart, of its scale.
std::array<Eigen::Vector3d, 7> bodyPoints(const Subject& subject, const Eigen::Vector3d& eye);

struct Hiding {
  static constexpr std::size_t most = 16;
  /// Each thing once, the nearest of the first point first; more than `most` are left out.
  std::array<ObstacleId, most> things{};
  std::size_t count = 0;
  bool complete = true;
  /// The share of the points that nothing hides, 0 … 1; 1 of no points.
  double visible = 1;

  Span<const ObstacleId> all() const { return {things.data(), count}; }
};

/// Everything on the straight ways from an eye to points, at most 64 questions for each; the last centimetre before a
/// point does not count. A point that is not finite counts as hidden.
Hiding whatHides(const Eigen::Vector3d& eye, Span<const Eigen::Vector3d> points, const Obstacles& world,
                 Purpose::Bit purpose = Purpose::sight);

}  // namespace alpglow
