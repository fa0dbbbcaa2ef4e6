#pragma once
// Going over between framings: what is left of the difference to the live numbers of the framing that applies, each as
// a transition. Interruptible at any frame; no number leaves the range between its ends.
//
//   blend.begin(shown, wanted, 0.35);            // both as numbers of a framing
//   blend.pass(dt);
//   shoulder = framing.shoulder + blend.difference(FramingNumber::shoulder);

#include "alpglow/transition.hpp"

#include <array>
#include <cstddef>

namespace alpglow {

/// What goes over. Distance is in ln(1 + d/0.5 m), the lens in ln tan(fov/2), near in ln; first person is 0 … 1; of the
/// look scale it is ln of what its rule is off from the one before.
enum class FramingNumber {
  anchorHeight,
  anchorRise,
  shoulder,
  tilt,
  distance,
  lens,
  near,
  pitchLow,
  pitchHigh,
  bobScale,
  sway,
  firstPerson,
  lookScale,
};
constexpr std::size_t framingNumbers = 13;
using FramingNumbers = std::array<double, framingNumbers>;
constexpr std::size_t placeOf(FramingNumber number) { return static_cast<std::size_t>(number); }

class FramingBlend {
 public:
  /// Over `seconds`, from the speeds that the numbers have. Distance does not fall below 0, first person stays within
  /// 0 … 1, and the lens within these bounds.
  void begin(const FramingNumbers& shown, const FramingNumbers& wanted, double seconds, double lensLow,
             double lensHigh);
  /// What this number was doing is over: it begins from rest.
  void halt(FramingNumber number) { parts_[placeOf(number)].finish(); }
  /// Only one of them.
  void begin(FramingNumber number, double difference, double seconds);
  void pass(double seconds);
  void finish() { *this = FramingBlend(); }

  double difference(FramingNumber number) const { return parts_[placeOf(number)].difference(); }
  bool done() const { return done_; }
  /// Until everything has arrived, seconds.
  double left() const;
  /// Since everything was at rest, whatever has changed its mind meanwhile, seconds.
  double underWay() const { return underWay_; }
  /// Of the last change of framing, in time, 0 … 1.
  double progress() const { return elapsed_ < duration_ ? elapsed_ / duration_ : 1; }

 private:
  bool allDone() const;

  std::array<Transition, framingNumbers> parts_;
  FramingNumbers alone_{};  // time left of what was begun alone: a change of framing does not cut it short
  double elapsed_ = 0, duration_ = 0, underWay_ = 0;
  bool done_ = true;
};

}  // namespace alpglow
