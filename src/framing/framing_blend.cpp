#include "alpglow/framing/framing_blend.hpp"

#include <algorithm>
#include <limits>

namespace alpglow {

void FramingBlend::begin(const FramingParameters& shown, const FramingParameters& target, double seconds,
                         double lensLow, double lensHigh) {
  constexpr double infinity = std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < framingParameterCount; ++i) {
    const auto number = static_cast<FramingParameter>(i);
    const double time = seconds > 0 ? std::max(seconds, alone_[i]) : 0, difference = shown[i] - target[i];
    if (time > 0 && number == FramingParameter::distance) {
      parts_[i].beginWithin(-target[i], infinity, difference, time);
    } else if (time > 0 && number == FramingParameter::lens) {
      parts_[i].beginWithin(lensLow - target[i], lensHigh - target[i], difference, time);
    } else if (time > 0 && number == FramingParameter::firstPerson) {
      parts_[i].beginWithin(-target[i], 1 - target[i], difference, time);
    } else {
      parts_[i].begin(difference, time);
    }
  }
  elapsed_ = 0;
  duration_ = seconds;
  done_ = allDone();
}

void FramingBlend::begin(FramingParameter number, double difference, double seconds) {
  parts_[indexOf(number)].begin(difference, seconds);
  alone_[indexOf(number)] = seconds;
  done_ = allDone();
}

void FramingBlend::advance(double seconds) {
  for (Transition& part : parts_) part.advance(seconds);
  for (double& left : alone_) left = std::max(left - seconds, 0.0);
  if (elapsed_ < duration_) elapsed_ += seconds;
  underWay_ += seconds;
  done_ = allDone();
  if (done_) underWay_ = 0;
}

double FramingBlend::left() const {
  double most = duration_ - elapsed_;
  for (const Transition& part : parts_) most = std::max(most, part.left());
  return most;
}

bool FramingBlend::allDone() const {
  return std::all_of(parts_.begin(), parts_.end(), [](const Transition& part) { return part.done(); });
}

}  // namespace alpglow
