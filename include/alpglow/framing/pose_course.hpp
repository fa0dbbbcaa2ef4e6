#pragma once
// How a framing's pose goes on by itself: where it is going, and what is left of the way. Says
// where the camera would be if nothing else had changed.
//
//   PoseCourse course(blend, targets);      // the parameters that the blend goes to, log distance and all
//   course.advance(dt);
//   const FramingPose pose = course.pose();
//
// A trivially copyable value.

#include "alpglow/framing/framing_blend.hpp"
#include "alpglow/framing/shown_framing.hpp"

#include <algorithm>

namespace alpglow {

class PoseCourse {
 public:
  PoseCourse() = default;
  PoseCourse(const FramingBlend& blend, const FramingParameters& targets) {
    for (std::size_t i = 0; i < count; ++i) {
      targets_[i] = targets[indexOf(followed[i])];
      parts_[i] = blend.part(followed[i]);
    }
  }

  void advance(double seconds) {
    for (Transition& part : parts_) part.advance(seconds);
  }
  /// Until it has arrived, seconds.
  double left() const {
    double most = 0;
    for (const Transition& part : parts_) most = std::max(most, part.left());
    return most;
  }
  /// Anchor, shoulder, tilt and distance; near and lens are not known.
  FramingPose pose() const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    for (Transition& part : parts_) fields.named("parts").part(part);
    for (double& target : targets_) fields.named("targets").numbers(1e6, target);
  }

 private:
  static constexpr std::size_t count = 5;
  static constexpr FramingParameter followed[count] = {FramingParameter::anchorHeight, FramingParameter::anchorRise,
                                                       FramingParameter::shoulder, FramingParameter::tilt,
                                                       FramingParameter::distance};
  double at(std::size_t i) const { return targets_[i] + parts_[i].difference(); }

  Transition parts_[count];
  double targets_[count] = {};
};

}  // namespace alpglow
