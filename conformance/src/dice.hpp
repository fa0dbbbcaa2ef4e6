#pragma once
// Random numbers that are the same everywhere.

#include "alpglow/space/bounds.hpp"

#include <cmath>
#include <cstdint>
#include <random>

namespace alpglow::conformance {

class Dice {
 public:
  explicit Dice(std::uint32_t seed) : engine_(seed) {}
  double between(double low, double high) { return low + (high - low) * static_cast<double>(engine_()) / 4294967296.0; }
  /// As often between 1 and 2 as between 10 and 20.
  double spread(double low, double high) { return low * std::pow(high / low, between(0, 1)); }
  Eigen::Vector3d within(const Bounds& b) {
    return {between(b.low.x(), b.high.x()), between(b.low.y(), b.high.y()), between(b.low.z(), b.high.z())};
  }
  Eigen::Vector3d direction() {
    for (;;) {
      const Eigen::Vector3d v(between(-1, 1), between(-1, 1), between(-1, 1));
      if (v.squaredNorm() > 0.01 && v.squaredNorm() < 1) return v.normalized();
    }
  }
  std::size_t oneOf(std::size_t count) { return static_cast<std::size_t>(engine_() % count); }

 private:
  std::mt19937 engine_;
};

}  // namespace alpglow::conformance
