#pragma once
// Four boxes side by side, for trees and lists that are asked four at a time: floats from a middle of whoever has them.

#include <limits>

namespace alpglow {

/// Empty as it is made. `low[axis][which]`.
struct alignas(16) BoxesOfFour {
  static constexpr float infinity = std::numeric_limits<float>::infinity();
  float low[3][4] = {{infinity, infinity, infinity, infinity},
                     {infinity, infinity, infinity, infinity},
                     {infinity, infinity, infinity, infinity}};
  float high[3][4] = {{-infinity, -infinity, -infinity, -infinity},
                      {-infinity, -infinity, -infinity, -infinity},
                      {-infinity, -infinity, -infinity, -infinity}};
};

}  // namespace alpglow
