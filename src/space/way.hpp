#pragma once
// Where a sphere on its way enters a box along the axes.

#include <Eigen/Core>

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

class Way {
 public:
  static constexpr double never = std::numeric_limits<double>::infinity();

  Way(const Eigen::Vector3d& from, const Eigen::Vector3d& direction, double radius)
      : from_(from), inverse_(direction.cwiseInverse()), radius_(radius + rounding) {}

  /// The way until then within `length`, or `never`. The box by anything that has three numbers.
  template <class Low, class High>
  double enters(const Low& low, const High& high, double length) const {
    double enter = 0, leave = length;
    for (int axis = 0; axis < 3; ++axis) {
      const double down = static_cast<double>(low[axis]) - radius_ - from_[axis];
      const double up = static_cast<double>(high[axis]) + radius_ - from_[axis];
      if (std::isinf(inverse_[axis])) {
        if (down > 0 || up < 0) return never;
        continue;
      }
      const double a = down * inverse_[axis], b = up * inverse_[axis];
      enter = std::max(enter, std::min(a, b));
      leave = std::min(leave, std::max(a, b));
    }
    return enter <= leave ? enter : never;
  }

 private:
  static constexpr double rounding = 1e-6;  // of boxes, metres
  Eigen::Vector3d from_, inverse_;
  double radius_;
};

}  // namespace alpglow
