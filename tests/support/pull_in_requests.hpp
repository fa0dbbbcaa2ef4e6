#pragma once
// A head, and a camera that would like to be behind it.

#include "alpglow/space/pull_in.hpp"
#include "support/walls.hpp"

namespace alpglow::testing {

constexpr double radius = 0.15;
inline const Eigen::Vector3d head(0, 1.7, 0);

/// Looks along −z; the pivot to the right of the head.
inline PullInRequest behind(double distance, double shoulder = 0, const Eigen::Vector3d& at = head) {
  PullInRequest request;
  request.head = request.anchor = at;
  request.distance = distance;
  request.shoulder = shoulder;
  request.radius = radius;
  return request;
}

/// A wall across the way back, `z` metres behind the head.
inline Walls wallBehind(double z) {
  Walls walls;
  walls.walls.push_back({-Eigen::Vector3d::UnitZ(), -z});
  return walls;
}

}  // namespace alpglow::testing
