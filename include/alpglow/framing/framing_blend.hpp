#pragma once
// A blend between framings: what is left of the difference to the live numbers of the framing that applies, each as
// a transition. Interruptible at any frame; no number leaves the range between its ends.
//
//   blend.begin(shown, target, 0.35, ranges);   // both as numbers of a framing
//   blend.advance(dt);
//   shoulder = framing.shoulder + blend.difference(FramingParameter::shoulder);

#include "alpglow/base/transition.hpp"

#include <array>
#include <cstddef>

namespace alpglow {

/// What blends. Distance, and the farthest that lock on makes of it, are in ln(1 + d/0.5 m), the lens in ln tan(fov/2),
/// near in ln; first person is 0 … 1; of the look scale it is ln of what its rule is off from the one before.
enum class FramingParameter {
  anchorHeight,
  anchorRise,
  shoulder,
  tilt,
  distance,
  farthest,
  lens,
  nearPlane,
  pitchLow,
  pitchHigh,
  bobScale,
  sway,
  firstPerson,
  lookScale,
};
constexpr std::size_t framingParameterCount = 14;
using FramingParameters = std::array<double, framingParameterCount>;
/// Bounds of a parameter, the ends included.
struct ParameterRange {
  double low = 0, high = 0;
};
/// Those of all framings of a design: no blend between them leaves its range.
using FramingRanges = std::array<ParameterRange, framingParameterCount>;
constexpr std::size_t indexOf(FramingParameter parameter) { return static_cast<std::size_t>(parameter); }

class FramingBlend {
 public:
  /// Over `seconds`, from the speeds that the numbers have; all are within their ranges, and stay there.
  void begin(const FramingParameters& shown, const FramingParameters& target, double seconds,
             const FramingRanges& ranges);
  /// What this number was doing is over: it begins from rest.
  void halt(FramingParameter parameter) { parts_[indexOf(parameter)].finish(); }
  /// Only one of them.
  void begin(FramingParameter parameter, double shown, double target, double seconds, ParameterRange range);
  void advance(double seconds);
  void finish() { *this = FramingBlend(); }

  double difference(FramingParameter parameter) const { return parts_[indexOf(parameter)].difference(); }
  const Transition& part(FramingParameter parameter) const { return parts_[indexOf(parameter)]; }
  bool done() const { return done_; }
  /// Until everything has arrived, seconds.
  double left() const;
  /// Since everything was at rest, whatever has changed its mind meanwhile, seconds.
  double underWay() const { return underWay_; }
  /// Of the last change of framing, in time, 0 … 1.
  double progress() const { return elapsed_ < duration_ ? elapsed_ / duration_ : 1; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    for (Transition& part : parts_) fields.named("parts").part(part);
    for (double& left : alone_) fields.named("alone").number(left, 0, 1e9);
    fields.named("elapsed duration underWay").times(elapsed_, duration_, underWay_);
    fields.named("done").flag(done_);
    fields.require(done_ == allDone());
  }

 private:
  bool allDone() const;

  std::array<Transition, framingParameterCount> parts_;
  FramingParameters alone_{};  // time left of what was begun alone: a change of framing does not cut it short
  double elapsed_ = 0, duration_ = 0, underWay_ = 0;
  bool done_ = true;
};

}  // namespace alpglow
