#include "alpglow/input/stick.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

Rate shaped(Rate raw, const StickSettings& settings) {
  const double length = std::hypot(raw.x, raw.y);
  if (!(length > settings.innerEdge) || !std::isfinite(length)) return {};
  const double share = std::clamp((length - settings.innerEdge) / (settings.outerEdge - settings.innerEdge), 0.0, 1.0);
  const double scale = std::pow(share, settings.exponent) / length;
  return {raw.x * scale, raw.y * scale};
}

}  // namespace alpglow
