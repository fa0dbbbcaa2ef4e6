#pragma once
// Four float boxes, side by side, relative to their owner's origin: for trees and lists that are asked four at a time.
// And one box alone.

#include <cstddef>
#include <limits>

namespace alpglow {

/// Empty as it is made. First the low sides of the four along x, then those along y and z, then the high sides.
struct alignas(16) BoxesOfFour {
  static constexpr std::size_t low(int axis) { return 4 * static_cast<std::size_t>(axis); }
  static constexpr std::size_t high(int axis) { return 12 + low(axis); }

  static constexpr float end = std::numeric_limits<float>::infinity();
  float sides[24] = {end,  end,  end,  end,  end,  end,  end,  end,  end,  end,  end,  end,
                     -end, -end, -end, -end, -end, -end, -end, -end, -end, -end, -end, -end};
};

/// The low sides along x, y and z, then the high ones.
struct BoxOfOne {
  float sides[6];
};

}  // namespace alpglow
