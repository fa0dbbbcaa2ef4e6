#include "alpglow/view/fading.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

void Fading::update(const Hiding& hiding, double dt, const LookPastSettings& settings) {
  LookPastSettings now = settings;
  double seconds = dt > 0 && std::isfinite(dt) ? dt : 0;
  if (cut_) now.fadeHalfLife = 0, seconds = 1;
  cut_ = false;
  fadeCoverings(things_, hiding.all(), seconds, now);
  const auto end =
      std::remove_if(things_.begin(), things_.end(), [](const Covering& each) { return each.thing == noObstacle; });
  std::fill(end, things_.end(), Covering());
  count_ = static_cast<std::uint32_t>(end - things_.begin());
}

double Fading::opacityOf(ObstacleId thing) const {
  const auto found = std::find_if(all().begin(), all().end(), [thing](const Covering& c) { return c.thing == thing; });
  return found == all().end() ? 1 : found->opacity;
}

}  // namespace alpglow
