#include "alpglow/framing_blend.hpp"

#include <algorithm>
#include <limits>

namespace alpglow {

void FramingBlend::begin(const FramingNumbers& shown, const FramingNumbers& wanted, double seconds, double lensLow,
                         double lensHigh) {
  constexpr double infinity = std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < framingNumbers; ++i) {
    const auto number = static_cast<FramingNumber>(i);
    const double time = seconds > 0 ? std::max(seconds, alone_[i]) : 0, difference = shown[i] - wanted[i];
    if (time > 0 && number == FramingNumber::distance) {
      parts_[i].beginWithin(-wanted[i], infinity, difference, time);
    } else if (time > 0 && number == FramingNumber::lens) {
      parts_[i].beginWithin(lensLow - wanted[i], lensHigh - wanted[i], difference, time);
    } else if (time > 0 && number == FramingNumber::firstPerson) {
      parts_[i].beginWithin(-wanted[i], 1 - wanted[i], difference, time);
    } else {
      parts_[i].begin(difference, time);
    }
  }
  elapsed_ = 0;
  duration_ = seconds;
  done_ = allDone();
}

void FramingBlend::begin(FramingNumber number, double difference, double seconds) {
  parts_[placeOf(number)].begin(difference, seconds);
  alone_[placeOf(number)] = seconds;
  done_ = allDone();
}

void FramingBlend::pass(double seconds) {
  for (Transition& part : parts_) part.pass(seconds);
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
