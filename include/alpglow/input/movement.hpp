#pragma once
// From what the player asks for to a direction on the ground, for this frame's heading.
//
// The heading alone counts, never the pitch: looking up or straight down changes neither direction nor speed.
//
//   const Vector3d direction = groundDirection(camera.heading(), controls.move());   // length 1 or shorter
//   velocity = direction * walkSpeed;

#include "alpglow/input/intent.hpp"

#include <Eigen/Core>

#include <algorithm>
#include <cmath>

namespace alpglow {

/// The same direction with a length of at most 1; zero if it is not finite.
inline Rate limitedToOne(Rate rate) {
  const double length = std::hypot(rate.x, rate.y);
  if (!std::isfinite(length)) return {};
  return length > 1 ? Rate{rate.x / length, rate.y / length} : rate;
}

/// x to the right and y ahead of the heading (radians), in the ground plane; length 1 or shorter, always finite.
inline Eigen::Vector3d groundDirection(double heading, Rate move) {
  const Rate limited = limitedToOne(move);
  const double c = std::cos(heading), s = std::sin(heading);
  return {limited.x * c - limited.y * s, 0, -limited.x * s - limited.y * c};
}

}  // namespace alpglow
