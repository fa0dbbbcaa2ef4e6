#include "alpglow/framing/framing_curves.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/log_scales.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

/// Follows what goes straight from `from` to `to` meanwhile.
double eased(double value, double from, double to, double seconds, double halfLife) {
  if (halfLife <= 0 || !(seconds > 0)) return halfLife <= 0 ? to : value;
  const double rate = ln2 / halfLife, decay = std::exp(-rate * seconds);
  const double trails = (to - from) * (-std::expm1(-rate * seconds)) / (rate * seconds);
  return to - trails + (value - from) * decay;
}

}  // namespace

void CurveInputs::advance(double seconds, double speed, double climb, const CurveSettings& settings) {
  if (fresh_) {
    speed_ = toldSpeed_ = speed;
    climb_ = toldClimb_ = climb;
    for (std::size_t i = 0; i < mostCurveNumbers; ++i) numbers_[i] = goals_[i];
    fresh_ = false;
    return;
  }
  speed_ = eased(speed_, toldSpeed_, speed, seconds, settings.speedHalfLife);
  climb_ = eased(climb_, toldClimb_, climb, seconds, settings.speedHalfLife);
  toldSpeed_ = speed;
  toldClimb_ = climb;
}

void CurveInputs::advanceNumbers(double seconds, const CurveSettings& settings) {
  for (std::size_t i = 0; i < mostCurveNumbers; ++i)
    numbers_[i] = std::clamp(eased(numbers_[i], goals_[i], goals_[i], seconds, settings.numberHalfLife), 0.0, 1.0);
}

void CurveInputs::rename(const std::vector<std::string>& before, const std::vector<std::string>& now) {
  const CurveInputs old = *this;
  for (std::size_t i = 0; i < mostCurveNumbers; ++i) numbers_[i] = goals_[i] = 0;
  for (std::size_t i = 0; i < now.size() && i < mostCurveNumbers; ++i) {
    const auto found = std::find(before.begin(), before.end(), now[i]);
    if (found == before.end()) continue;
    const auto k = static_cast<std::size_t>(found - before.begin());
    numbers_[i] = old.numbers_[k];
    goals_[i] = old.goals_[k];
  }
}

double CurveInputs::at(CurveOver over, std::size_t number, double distance) const {
  switch (over) {
    case CurveOver::pitch: return pitch_;
    case CurveOver::speed: return speed_;
    case CurveOver::climb: return climb_;
    case CurveOver::distance: return distance;
    case CurveOver::number: return numbers_[number];
  }
  return 0;
}

bool CompiledCurve::bends(FramingParameter parameter) const {
  switch (what) {
    case Curved::anchorHeight: return parameter == FramingParameter::anchorHeight;
    case Curved::anchorRise: return parameter == FramingParameter::anchorRise;
    case Curved::shoulder: return parameter == FramingParameter::shoulder;
    case Curved::tilt: return parameter == FramingParameter::tilt;
    case Curved::distance: return parameter == FramingParameter::distance;
    case Curved::fieldOfView: return parameter == FramingParameter::lens;
    case Curved::followHalfLife:
    case Curved::verticalHalfLife:
    case Curved::unrest: return false;
  }
  return false;
}

double CompiledCurve::addedFor(double value) const {
  if (what == Curved::distance) return logDistance(value) - logDistance(own);
  if (what == Curved::fieldOfView) return logTanHalfFov(value) - logTanHalfFov(own);
  return value - own;
}

}  // namespace alpglow
