#pragma once
// A subject for core tests, and a camera run over it frame by frame.

#include "alpglow/camera/character_camera.hpp"

#include <Eigen/Geometry>

namespace alpglow::testing {

inline constexpr double wide = 16.0 / 9.0;

inline Subject wardenAt(const Eigen::Vector3d& feet, double heading = 0,
                        const Eigen::Vector3d& velocity = Eigen::Vector3d::Zero()) {
  Subject warden;
  warden.feet = feet;
  warden.head = feet + Eigen::Vector3d(0, 1.68, 0);
  warden.heading = heading;
  warden.velocity = velocity;
  return warden;
}

/// The last view of a camera over a warden that stands at the origin, at 100 frames a second.
inline View standing(CharacterCamera& camera, double seconds, const Intent& intent = {},
                     const Obstacles& world = NoObstacles()) {
  View view;
  const Subject still = wardenAt({0, 0, 0});
  for (double left = seconds; left > 1e-9; left -= 0.01) view = camera.step(0.01, intent, still, world, wide);
  return view;
}

/// Where a point is in a picture of 1920 × 1080, pixels from the middle; behind the camera far outside.
inline Eigen::Vector2d pixelOf(const View& view, const Eigen::Vector3d& point) {
  const Eigen::Vector3d seen = view.rotation().transpose() * (point - view.position);
  if (seen.z() >= 0) return {1e6, 1e6};
  return Eigen::Vector2d(seen.x(), seen.y()) / -seen.z() * (540 / std::tan(view.fieldOfView / 2));
}

}  // namespace alpglow::testing
