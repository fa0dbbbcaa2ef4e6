#include "alpglow/space/go_out.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

// What taking each number out costs: docs/research/pull_in.md.
constexpr double inside = 0.4;         // of the wait, before it leaves the head
constexpr double outside = 4;          // of the wait, before it is all the way out
constexpr double ampleShare = 0.2;     // of those, where there is ample room
constexpr double addedHalfLife = 1.5;  // seconds in which half of what a pump has added is forgotten
constexpr double outHalfLife = 0.15;   // seconds in which half of the way out is covered
constexpr double noticeable = 1e-3;    // metres that count as coming in
constexpr double pumping = 0.1;        // metres gone out before that count as a pump, as `feel` counts them

}  // namespace

double GoOut::step(double length, const RoomsOut& rooms, double seconds, const PullInSettings& settings, double scale) {
  added_ *= std::exp2(-seconds / addedHalfLife);
  const double most = std::min(rooms.room, rooms.whole);
  const auto dared = [&](double quiet, double unit, double room) {
    const double share = unit > 0 ? (quiet / unit - inside) / (outside - inside) : 1;
    return std::max(length, std::min(std::clamp(share, 0.0, 1.0) * rooms.whole, room));
  };
  const double unit = settings.wait + added_, sooner = ampleShare * unit, ample = std::min(rooms.ample, most);
  double from = dared(quiet_, unit, most), to = dared(quiet_ + seconds, unit, most);
  if (const double amply = dared(quiet_ + seconds, sooner, ample); amply > to)
    from = dared(quiet_, sooner, ample), to = amply;
  quiet_ += seconds;
  if (to <= length) return length;
  const double error = cappedApproach(length - from, to - from, seconds, outHalfLife, settings.outSpeed * scale);
  const double next = std::clamp(to + error, length, to);
  wentOut_ += next - length;
  wentIn_ = 0;
  return next;
}

void GoOut::wentIn(double by, const PullInSettings& settings, double scale) {
  wentIn_ += by;
  if (wentIn_ <= noticeable * scale) return;
  if (wentOut_ > pumping * scale) added_ = std::max(added_, settings.waitAfterPump);
  wentIn_ = wentOut_ = quiet_ = 0;
}

/// What is missing shrinks ever more slowly, so Newton's steps come from below and never pass the time.
double GoOut::waits(double share, const PullInSettings& settings) const {
  if (wentOut_ > 0) return 0;       // it is on its way
  constexpr double settled = 1e-4;  // seconds
  const double units = inside + (outside - inside) * share;
  double left = 0;
  for (int i = 0; i < 20; ++i) {
    const double added = added_ * std::exp2(-left / addedHalfLife);
    const double missing = units * (settings.wait + added) - (quiet_ + left);
    if (missing <= settled) break;
    left += missing / (1 + units * added * ln2 / addedHalfLife);
  }
  return left;
}

double GoOut::waitsAtFirst(double share, bool pumped, const PullInSettings& settings) {
  GoOut out;
  out.added_ = pumped ? settings.waitAfterPump : 0;
  return out.waits(share, settings);
}

}  // namespace alpglow
