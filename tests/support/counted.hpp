#pragma once
// A world that counts what it is asked.

#include "alpglow/space/obstacles.hpp"

#include <algorithm>

namespace alpglow::testing {

/// Counts what it is asked, and answers what it is asked together from the last to the first.
struct Counted final : Obstacles {
  explicit Counted(const Obstacles& asked) : world(asked) {}
  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double wide) const noexcept override {
    return ++questions, world.sweep(from, displacement, wide);
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return ++questions, world.cast(from, displacement, purpose);
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    return ++questions, world.clearance(point, range);
  }
  void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept override {
    mostTogether = std::max(mostTogether, sweeps.size());
    for (std::size_t i = sweeps.size(); i-- > 0;)
      contacts[i] = sweep(sweeps[i].from, sweeps[i].displacement, sweeps[i].radius);
  }
  bool nothingNear() const noexcept override { return empty; }
  const Obstacles& world;
  bool empty = false;
  mutable int questions = 0;
  mutable std::size_t mostTogether = 0;
};

}  // namespace alpglow::testing
