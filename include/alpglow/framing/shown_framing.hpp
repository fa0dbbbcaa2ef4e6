#pragma once
// A framing as it is shown at one moment, whatever blends into what: plain numbers in natural units.

#include "alpglow/look/look.hpp"

namespace alpglow {

/// Where a framing puts the camera relative to the subject, and through which lens.
struct FramingPose {
  /// Where on the subject the anchor sits, 0 at the feet, 1 at the eyes; and further up from there, metres.
  double anchorHeight = 1, anchorRise = 0;
  /// Of the pivot to the right of the anchor, metres.
  double shoulder = 0;
  /// The camera orbits this much lower than it looks, radians.
  double tilt = 0;
  /// From the pivot to the camera with nothing in the way, metres of the subject's scale.
  double distance = 0;
  /// Metres of the subject's scale.
  double nearPlane = 0.1;
  /// Vertical, radians.
  double fieldOfView = degrees(60);
};

struct ShownFraming {
  FramingPose pose;
  /// Metres of the subject's scale.
  double farPlane = 1000;
  PitchLimits pitch;
  /// Bob, dip and breathing are multiplied by this.
  double bobScale = 1;
  /// How far the hand sways the view, radians.
  double sway = 0;
  /// How much of it is first person, 0 … 1.
  double firstPerson = 0;
  /// What look input is multiplied by.
  double lookScale = 1;
};

}  // namespace alpglow
