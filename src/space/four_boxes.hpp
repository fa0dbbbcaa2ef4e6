#pragma once
// Four boxes along the axes, side by side so that one instruction asks all of them. In floats from some middle of their
// own; questions are wider than asked by a millionth of all lengths in them (`slack`), some ten times what rounding
// takes, so that nothing is left out.

#include "alpglow/space/bounds.hpp"
#include "alpglow/space/boxes_of_four.hpp"

#include <Eigen/Core>

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

/// One number for each of the four.
using Four = Eigen::Array4f;

/// Where a question reaches each of four boxes, and up to where it would count.
struct Reach {
  Four at, until;
  bool reaches(std::size_t which) const {
    const auto i = static_cast<Eigen::Index>(which);
    return at[i] <= until[i];
  }
  /// A bit for each that is reached, the first one lowest.
  unsigned bits() const {
#ifdef EIGEN_VECTORIZE_SSE
    return static_cast<unsigned>(_mm_movemask_ps(_mm_cmple_ps(_mm_load_ps(at.data()), _mm_load_ps(until.data()))));
#else
    unsigned bits = 0;
    for (unsigned i = 0; i < 4; ++i) bits |= (reaches(i) ? 1u : 0u) << i;
    return bits;
#endif
  }
};

/// Metres, in a question about places and lengths up to this.
inline double slackOf(double size) { return 1e-6 + 1e-6 * size; }

/// Bounds from the middle.
inline void setBox(BoxesOfFour& boxes, std::size_t which, const Bounds& bounds) {
  for (int axis = 0; axis < 3; ++axis) {
    boxes.sides[BoxesOfFour::low(axis) + which] = static_cast<float>(bounds.low[axis]);
    boxes.sides[BoxesOfFour::high(axis) + which] = static_cast<float>(bounds.high[axis]);
  }
}
inline BoxOfOne boxOf(const Bounds& bounds) {
  BoxOfOne box;
  for (int axis = 0; axis < 3; ++axis) {
    box.sides[axis] = static_cast<float>(bounds.low[axis]);
    box.sides[axis + 3] = static_cast<float>(bounds.high[axis]);
  }
  return box;
}
/// Boxes as they lie from another middle: moved by so much, and wider by what rounding takes. `size` is how far from
/// that middle it matters where their sides are.
class Shifted {
 public:
  Shifted(const Eigen::Vector3d& by, double size) {
    const double slack = slackOf(by.lpNorm<Eigen::Infinity>() + size);
    for (int axis = 0; axis < 3; ++axis) {
      by_[axis] = static_cast<float>(by[axis] - slack);
      by_[axis + 3] = static_cast<float>(by[axis] + slack);
    }
  }
  void set(BoxesOfFour& boxes, std::size_t which, const BoxOfOne& box) const {
    for (std::size_t side = 0; side < 6; ++side) boxes.sides[4 * side + which] = box.sides[side] + by_[side];
  }

 private:
  float by_[6];
};
inline Four sideOf(const BoxesOfFour& boxes, std::size_t side) {
  return Eigen::Map<const Four, Eigen::Aligned16>(boxes.sides + side);
}
inline Four lowOf(const BoxesOfFour& boxes, int axis) { return sideOf(boxes, BoxesOfFour::low(axis)); }
inline Four highOf(const BoxesOfFour& boxes, int axis) { return sideOf(boxes, BoxesOfFour::high(axis)); }

/// A box around four others.
inline void setBoxAround(BoxesOfFour& boxes, std::size_t which, const BoxesOfFour& others) {
  for (int axis = 0; axis < 3; ++axis) {
    boxes.sides[BoxesOfFour::low(axis) + which] = lowOf(others, axis).minCoeff();
    boxes.sides[BoxesOfFour::high(axis) + which] = highOf(others, axis).maxCoeff();
  }
}

/// Where a sphere on its way enters boxes. `from` counts from their middle.
class Way {
 public:
  Way(const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double length, double radius) {
    constexpr float upright = 1e-30f;  // stands for 0, whose inverse is no float
    slack_ = slackOf(from.lpNorm<Eigen::Infinity>() + length + radius);
    const auto beside = static_cast<float>(radius + slack_);
    for (int axis = 0; axis < 3; ++axis) {
      const auto start = static_cast<float>(from[axis]), rate = static_cast<float>(direction[axis]);
      const float sign = std::copysign(1.0f, rate);
      const std::size_t back = std::signbit(rate) ? BoxesOfFour::high(0) : 0;  // without branches
      firstSide_[axis] = BoxesOfFour::low(axis) + back;
      lastSide_[axis] = BoxesOfFour::high(axis) - back;
      inverse_[axis] = Four::Constant(sign / std::max(std::abs(rate), upright));
      near_[axis] = Four::Constant(start + sign * beside);
      far_[axis] = Four::Constant(start - sign * beside);
    }
  }

  /// As far as it goes.
  Four end(double length) const { return Four::Constant(static_cast<float>(length + slack_)); }
  /// The way until then, before its `end`.
  Reach enters(const BoxesOfFour& boxes, const Four& end) const {
    Four enter = Four::Zero(), leave = end;
    for (int axis = 0; axis < 3; ++axis) {
      enter = enter.max((sideOf(boxes, firstSide_[axis]) - near_[axis]) * inverse_[axis]);
      leave = leave.min((sideOf(boxes, lastSide_[axis]) - far_[axis]) * inverse_[axis]);
    }
    return {enter, leave};
  }

 private:
  double slack_;
  Four near_[3], far_[3], inverse_[3];
  std::size_t firstSide_[3], lastSide_[3];
};

/// How far boxes are apart from bounds along any axis; not at all where they touch.
class Nearby {
 public:
  explicit Nearby(const Bounds& bounds) {
    for (int axis = 0; axis < 3; ++axis) {
      const double slack = slackOf(std::max(std::abs(bounds.low[axis]), std::abs(bounds.high[axis])));
      low_[axis] = static_cast<float>(bounds.low[axis] - slack);
      high_[axis] = static_cast<float>(bounds.high[axis] + slack);
    }
    constexpr float any = std::numeric_limits<float>::infinity();
    lowOfOne_ = {-any, low_[0], low_[1], low_[2]};
    highOfOne_ = {high_[0], high_[1], high_[2], any};
  }
  Reach operator()(const BoxesOfFour& boxes) const {
    Four apart = Four::Constant(-1);
    for (int axis = 0; axis < 3; ++axis)
      apart = apart.max((lowOf(boxes, axis) - high_[axis]).max(low_[axis] - highOf(boxes, axis)));
    return {apart, Four::Zero()};
  }
  bool operator()(const BoxOfOne& box) const {
    // Four sides at once, of which one counts for nothing.
    const Four low = Eigen::Map<const Four>(box.sides), high = Eigen::Map<const Four>(box.sides + 2);
    return (low - highOfOne_).max(lowOfOne_ - high).maxCoeff() <= 0;
  }

 private:
  float low_[3], high_[3];
  Four lowOfOne_, highOfOne_;
};

/// How far boxes are from a point, at least; from their middle.
class Away {
 public:
  explicit Away(const Eigen::Vector3d& point)
      : point_(point.cast<float>()), slack_(static_cast<float>(slackOf(point.lpNorm<Eigen::Infinity>()))) {}
  Reach operator()(const BoxesOfFour& boxes, double range) const {
    Four square = Four::Zero();
    for (int axis = 0; axis < 3; ++axis) {
      const Four beside = (lowOf(boxes, axis) - point_[axis]).max(point_[axis] - highOf(boxes, axis)).max(0);
      square += beside * beside;
    }
    constexpr double most = 1e30;  // what is empty is farther
    return {square.sqrt() * (1 - 1e-6f) - slack_, Four::Constant(static_cast<float>(std::min(range, most)))};
  }

 private:
  Eigen::Vector3f point_;
  float slack_;
};

}  // namespace alpglow
