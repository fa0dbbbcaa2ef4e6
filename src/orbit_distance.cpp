#include "alpglow/orbit_distance.hpp"

#include "alpglow/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double scale = 0.5;        // metres
constexpr double mostNotches = 100;  // at once; beyond any range, and the factor stays finite

double toBlendSpace(double distance) { return std::log1p(distance / scale); }
double fromBlendSpace(double value) { return scale * std::expm1(value); }

}  // namespace

void OrbitDistance::zoom(double notches, const ZoomSettings& settings, const DistanceRange& range) {
  const double legal = std::clamp(notches, -mostNotches, mostNotches);
  wanted_ = std::clamp(wanted_ * std::pow(settings.factorPerNotch, -legal), range.nearest, range.farthest);
}

void OrbitDistance::pass(double seconds, const ZoomSettings& settings) {
  if (shown_ == wanted_ || !(seconds > 0)) return;
  const double value = approach(toBlendSpace(shown_), toBlendSpace(wanted_), settings.halfLife, seconds);
  shown_ = std::abs(value - toBlendSpace(wanted_)) < 1e-12 ? wanted_ : fromBlendSpace(value);
}

}  // namespace alpglow
