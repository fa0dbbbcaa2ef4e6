#include "alpglow/orbit_distance.hpp"

#include "alpglow/blend_space.hpp"
#include "alpglow/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double mostNotches = 100;  // at once; beyond any range, and the factor stays finite

double scaled(double distance, double notches, const ZoomSettings& settings, const DistanceRange& range) {
  const double legal = std::clamp(notches, -mostNotches, mostNotches);
  return std::clamp(distance * std::pow(settings.factorPerNotch, -legal), range.nearest, range.farthest);
}

}  // namespace

void OrbitDistance::zoom(double notches, const ZoomSettings& settings, const DistanceRange& range) {
  wanted_ = scaled(wanted_, notches, settings, range);
  if (settings.halfLife <= 0) shown_ = wanted_;
}

void OrbitDistance::scaleSpace(double change, const DistanceRange& range) {
  const auto moved = [&](double distance) {
    return std::clamp(distanceFrom(distanceSpace(distance) + change), range.nearest, range.farthest);
  };
  wanted_ = moved(wanted_);
  shown_ = moved(shown_);
}

void OrbitDistance::pass(double seconds, double rate, const ZoomSettings& settings, const DistanceRange& range) {
  if (!(seconds > 0) || (shown_ == wanted_ && rate == 0)) return;
  const double left = std::exp(-decay(settings.halfLife, seconds));
  const double lag = wanted_ > 0 && shown_ > 0 ? std::log(shown_ / wanted_) * left : 0.0;
  wanted_ = scaled(wanted_, std::clamp(rate, -1.0, 1.0) * settings.notchesPerSecond * seconds, settings, range);
  shown_ = std::abs(lag) < 1e-12 ? wanted_ : std::clamp(wanted_ * std::exp(lag), range.nearest, range.farthest);
}

}  // namespace alpglow
