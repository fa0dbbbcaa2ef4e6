#include "alpglow/framing/orbit_distance.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/log_scales.hpp"

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
  target_ = scaled(target_, notches, settings, range);
  if (settings.halfLife <= 0) shown_ = target_;
}

void OrbitDistance::addLogDistance(double change, const DistanceRange& range) {
  const auto moved = [&](double distance) {
    return std::clamp(distanceFromLog(logDistance(distance) + change), range.nearest, range.farthest);
  };
  target_ = moved(target_);
  shown_ = moved(shown_);
}

void OrbitDistance::advance(double seconds, double rate, const ZoomSettings& settings, const DistanceRange& range) {
  if (!(seconds > 0) || (shown_ == target_ && rate == 0)) return;
  const double left = std::exp(-decay(settings.halfLife, seconds));
  const double lag = target_ > 0 && shown_ > 0 ? std::log(shown_ / target_) * left : 0.0;
  target_ = scaled(target_, std::clamp(rate, -1.0, 1.0) * settings.notchesPerSecond * seconds, settings, range);
  shown_ = std::abs(lag) < 1e-12 ? target_ : std::clamp(target_ * std::exp(lag), range.nearest, range.farthest);
}

}  // namespace alpglow
