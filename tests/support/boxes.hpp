#pragma once
// A world of boxes, large ones among them.
//
//   Boxes world;
//   world.add({0, 1.5, 3}, {2, 1.5, 0.5});

#include "alpglow/space/surroundings.hpp"

#include <algorithm>
#include <vector>

namespace alpglow::testing {

/// Boxes, of which those that are large are looked past.
struct Boxes final : Surroundings {
  struct One {
    Box box;
    bool large;
  };
  std::vector<One> all;

  void add(const Eigen::Vector3d& middle, const Eigen::Vector3d& half, bool large = false) {
    Box box;
    box.centre = middle;
    box.half = half;
    all.push_back({box, large});
  }
  void list(const Bounds& bounds, Found& found) const noexcept override {
    for (std::size_t i = 0; i < all.size(); ++i) {
      if (!bounds.touches(boundsOf(all[i].box))) continue;
      const std::uint32_t stops = all[i].large ? Purpose::large | Purpose::aim : std::uint32_t{Purpose::all};
      found.add(all[i].box, {static_cast<ObstacleId>(i), stops});
    }
  }
  double clearanceOf(bool large, const Eigen::Vector3d& point) const {
    double nearest = 1e9;
    for (const One& one : all) {
      if (one.large == large) nearest = std::min(nearest, nearestTo(one.box, point).distance);
    }
    return nearest;
  }
};

}  // namespace alpglow::testing
