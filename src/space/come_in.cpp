#include "alpglow/space/come_in.hpp"

#include "alpglow/base/capped_approach.hpp"

#include <algorithm>

namespace alpglow {

namespace {

// What taking it out costs: docs/research/pull_in.md.
constexpr double easing = 25;  // m/s² by which the speed falls at most: a look that misses a post does not show

}  // namespace

std::size_t ComeIn::look(double length, Span<const RoomAhead> rooms, double since, const InSpeeds& speeds) {
  double need = 0;
  std::size_t urgent = rooms.size();
  for (std::size_t i = 0; i < rooms.size(); ++i) {
    const double seconds = std::max((rooms[i].from + rooms[i].to) / 2, since / 2);
    if (const double each = (length - rooms[i].room) / seconds; each > need)
      need = each, urgent = i, seconds_ = seconds;
  }
  const double wish = std::min(need * eased((need - speeds.calm) / (speeds.calm / 2)), speeds.fastest);
  speed_ = need > 0 ? std::max(wish, speed_ - easing * since) : 0;
  return urgent;
}

}  // namespace alpglow
