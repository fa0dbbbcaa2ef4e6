// Distances and magnifications of framings: zooming, and what each remembers.

#include "alpglow/camera/active_framing.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double ladderTime = 0.15;  // seconds from one magnification to the next
constexpr double never = 1e9;

/// The base whose distance a framing scales, or −1 where it has one of its own.
int scaledBase(std::size_t framing, const CompiledDesign& design) {
  const NamedFraming& named = design.design().framings[framing];
  const int base = design.baseOf(named.perspective);
  return named.framing.distanceScale > 0 && base != static_cast<int>(framing) ? base : -1;
}

/// Notches of a wheel that a held zoom amounts to, a second.
double stepRate(double rate, const CompiledDesign& design) {
  return std::min(std::abs(rate), 1.0) * design.design().zoom.notchesPerSecond;
}

double scaledDistance(const Framing& framing, double base) {
  return std::clamp(base * framing.distanceScale, framing.distanceRange.nearest, framing.distanceRange.farthest);
}

}  // namespace

/// Zooming this way, from the end of this framing's distances, the other perspective is next.
bool ActiveFraming::leadsOn(double notches, const CompiledDesign& design) const {
  const bool in = notches > 0, third = perspective_ == Perspective::third;
  return design.design().zoomIntoEyes && third == in && static_cast<int>(active_) == design.baseOf(perspective_);
}

/// How many notches of the wheel are left to the end of the distances this way.
double ActiveFraming::notchesToEnd(double way, const CompiledDesign& design) const {
  const DistanceRange& range = settings(design).distanceRange;
  const double end = way > 0 ? range.nearest : range.farthest, target = distance_.target();
  if (way > 0 ? target <= end : target >= end) return 0;
  const double perNotch = std::log(design.design().zoom.factorPerNotch);
  return end > 0 && perNotch > 0 ? std::abs(std::log(target / end)) / perNotch : never;
}

/// Zooming this way goes by steps: magnifications, or the other perspective. A zoom that is held at the end goes on by
/// steps while something else pulls the distance away from there, such as swinging back.
bool ActiveFraming::zoomSteps(double notches, const CompiledDesign& design) const {
  if (settings(design).lens.steps() > 1) return true;
  if (!leadsOn(notches, design)) return false;
  return (atEnd_ && notches * pushed_ > 0) || notchesToEnd(notches, design) <= 0;
}

void ActiveFraming::zoom(double notches, const CompiledDesign& design) {
  if (notches == 0) return;
  const Framing& framing = settings(design);
  if (framing.lens.steps() > 1) return stepLadder(notches > 0 ? 1 : -1, design);
  if (zoomSteps(notches, design)) return choose(notches > 0 ? Perspective::first : Perspective::third, design);
  distance_.zoom(notches, design.design().zoom, framing.distanceRange);
}

void ActiveFraming::stepLadder(int steps, const CompiledDesign& design) {
  std::uint8_t& step = steps_[active_];
  const double before = shown(FramingParameter::lens, design);
  const int next = std::clamp(step + steps, 0, settings(design).lens.steps() - 1);
  if (next == step) return;
  rememberHome();
  step = static_cast<std::uint8_t>(next);
  beginAlone(FramingParameter::lens, before, ladderTime, design);
}

void ActiveFraming::setDistance(double distance, const CompiledDesign& design) {
  const DistanceRange& range = settings(design).distanceRange;
  blend_.finish();
  distance_ = OrbitDistance(std::clamp(distance, range.nearest, range.farthest));
}

/// As the player has chosen it, for one that may not be active.
double ActiveFraming::chosenDistance(std::size_t framing, const CompiledDesign& design) const {
  if (framing == active_) return distance_.target();
  const int base = scaledBase(framing, design);
  if (base < 0) return remembered_[framing];
  const auto from = static_cast<std::size_t>(base);
  return scaledDistance(design.design().framings[framing].framing, chosenDistance(from, design));
}

/// Of the active one, for when it comes back. One that scales its base's has chosen for that, if it chose at all.
void ActiveFraming::rememberDistance(const CompiledDesign& design) {
  const int base = scaledBase(active_, design);
  if (base < 0) {
    remembered_[active_] = distance_.target();
    return;
  }
  double& chosen = remembered_[base];
  if (distance_.target() == scaledDistance(settings(design), chosen)) return;
  const DistanceRange& range = design.design().framings[static_cast<std::size_t>(base)].framing.distanceRange;
  chosen = std::clamp(distance_.target() / settings(design).distanceScale, range.nearest, range.farthest);
}

double ActiveFraming::defaultDistance(const CompiledDesign& design) const {
  const int base = scaledBase(active_, design);
  if (base < 0) return settings(design).distance;
  return scaledDistance(settings(design), design.design().framings[static_cast<std::size_t>(base)].framing.distance);
}

int ActiveFraming::zoomAtRate(double seconds, double rate, const CompiledDesign& design) {
  constexpr double rounding = 1e-9;
  const double way = rate > 0 ? 1 : rate < 0 ? -1 : 0;
  const bool steps = way != 0 && zoomSteps(way, design), held = way == pushed_;
  const bool ladder = settings(design).lens.steps() > 1;
  pushed_ = way;
  distance_.advance(seconds, ladder ? 0 : rate, design.design().zoom, settings(design).distanceRange);
  atEnd_ = way != 0 && leadsOn(way, design) && notchesToEnd(way, design) <= (atEnd_ && held ? 1 : rounding);
  toStep_ = !steps ? 0 : held ? std::min(toStep_ + stepRate(rate, design) * seconds, 1.0) : 1;
  if (toStep_ < 1 - rounding) return 0;
  toStep_ = 0;
  return static_cast<int>(way);
}

/// Of two calls in a row, one at least answers with the time of a whole step, or a step follows: so a stretch of time
/// has few pieces.
double ActiveFraming::untilZoomSteps(double rate, const CompiledDesign& design) const {
  constexpr double now = 1e-9;
  const double rateOfSteps = stepRate(rate, design);
  if (rateOfSteps <= 0) return never;
  if (zoomSteps(rate, design)) return rate * pushed_ > 0 ? std::max((1 - toStep_) / rateOfSteps, now) : now;
  if (!leadsOn(rate, design)) return never;
  return std::clamp(notchesToEnd(rate, design) / rateOfSteps, now, never);
}

void ActiveFraming::addLogDistance(double change, const CompiledDesign& design) {
  if (change != 0) distance_.addLogDistance(change, settings(design).distanceRange);
}

}  // namespace alpglow
