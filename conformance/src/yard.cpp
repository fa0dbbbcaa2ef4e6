#include "alpglow/conformance/suite.hpp"

#include "alpglow/base/angles.hpp"

#include <cmath>

namespace alpglow::conformance {

std::vector<Box> yard() {
  const auto turned = [](double degreesLeft) {
    const double angle = degrees(degreesLeft);
    Eigen::Matrix3d axes;
    axes << std::cos(angle), 0, std::sin(angle), 0, 1, 0, -std::sin(angle), 0, std::cos(angle);
    return axes;
  };
  return {
      {{0, -0.5, 0}, turned(0), {10, 0.5, 10}},      // the ground
      {{3, 1.5, -2}, turned(20), {0.05, 1.5, 2.5}},  // a thin wall
      {{-4, 1, 3}, turned(-35), {1.2, 1, 0.8}},      // a hut
      {{-2, 2.6, -4}, turned(0), {2, 0.1, 1.5}},     // a roof
      {{1, 1.5, 4}, turned(45), {0.06, 1.5, 0.06}},  // a post
      {{-6, 0.4, -5}, turned(10), {1, 0.4, 1.7}},    // a trough
      {{5.5, 2, 5}, turned(-10), {0.8, 2, 0.8}},     // a tower
  };
}

void Yard::list(const Bounds& bounds, Found& found) const noexcept {
  for (std::size_t i = 0; i < boxes_.size(); ++i) {
    if (boundsOf(boxes_[i]).touches(bounds)) found.add(boxes_[i], {static_cast<ObstacleId>(i)});
  }
}

}  // namespace alpglow::conformance
