#include "alpglow/framing/framing_blend.hpp"

#include <algorithm>

namespace alpglow {

void FramingBlend::begin(const FramingParameters& shown, const FramingParameters& target, double seconds,
                         const FramingRanges& ranges) {
  for (std::size_t i = 0; i < framingParameterCount; ++i) {
    const double time = seconds > 0 ? std::max(seconds, alone_[i]) : 0;
    parts_[i].beginWithin(ranges[i].low - target[i], ranges[i].high - target[i], shown[i] - target[i], time);
  }
  elapsed_ = 0;
  duration_ = seconds;
  done_ = allDone();
}

void FramingBlend::begin(FramingParameter parameter, double shown, double target, double seconds,
                         ParameterRange range) {
  const std::size_t i = indexOf(parameter);
  parts_[i].beginWithin(range.low - target, range.high - target, shown - target, seconds);
  alone_[i] = seconds;
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
