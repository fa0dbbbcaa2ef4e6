#pragma once
// Regions of a level in which conditions hold: an indoor framing from the door on, a wide one on the cliff.
//
//   Regions regions;
//   const std::uint32_t holds = regions.step(subject.feet, level);    // level: Span<const Region>
//   camera.setCondition(every & ~holds, false);                       // every: those that any region could set
//   camera.setCondition(holds, true);
//
// A subject that is in stays in until it is some way out, so that standing on the threshold flickers nothing.

#include "alpglow/base/span.hpp"
#include "alpglow/base/state.hpp"

#include <Eigen/Core>

#include <cmath>
#include <cstddef>
#include <cstdint>

namespace alpglow {

/// A box that stands on its base, turned about its vertical; or an upright cylinder in it, as wide as `size.x`.
struct Region {
  /// What holds within: bits, as `CompiledDesign::flag` gives them.
  std::uint32_t conditions = 0;
  /// The middle of the base, and width, height and depth, metres.
  Eigen::Vector3d base = Eigen::Vector3d::Zero(), size = Eigen::Vector3d::Ones();
  /// Radians.
  double yaw = 0;
  bool round = false;
  /// How far out one is out, metres.
  double leave = 0.3;

  /// Whether a point is in it, or no farther out than this, metres.
  bool holds(const Eigen::Vector3d& point, double beyond = 0) const {
    const Eigen::Vector3d away = point - base;
    const double c = std::cos(yaw), s = std::sin(yaw);
    const double x = c * away.x() - s * away.z(), z = s * away.x() + c * away.z();
    if (!(away.y() >= -beyond && away.y() <= size.y() + beyond)) return false;
    if (round) return std::hypot(x, z) <= size.x() / 2 + beyond;
    return std::abs(x) <= size.x() / 2 + beyond && std::abs(z) <= size.z() / 2 + beyond;
  }
};

/// Which of up to 64 regions one is in. A trivially copyable value.
class Regions {
 public:
  static constexpr std::size_t most = 64;

  /// What holds at a point, now that one has come there; at one that is not finite everything stays as it is.
  std::uint32_t step(const Eigen::Vector3d& point, Span<const Region> regions) {
    std::uint32_t conditions = 0;
    for (std::size_t i = 0; i < regions.size() && i < most; ++i) {
      const std::uint64_t bit = std::uint64_t{1} << i;
      const bool was = (inside_ & bit) != 0;
      const bool in = point.allFinite() ? regions[i].holds(point, was ? regions[i].leave : 0) : was;
      inside_ = in ? inside_ | bit : inside_ & ~bit;
      if (in) conditions |= regions[i].conditions;
    }
    return conditions;
  }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("inside").ids(inside_);
  }

 private:
  std::uint64_t inside_ = 0;
};

}  // namespace alpglow
