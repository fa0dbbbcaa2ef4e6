#pragma once
// Sticks and triggers: a radial dead zone that is rescaled so that motion starts from 0, a response curve, and
// triggers as buttons.
//
//   const Rate deflection = shaped({axis0, axis1}, settings);   // 0 inside, 1 at the outer edge, direction kept

#include "alpglow/input/intent.hpp"

namespace alpglow {

struct StickSettings {
  /// Deflection up to which nothing happens, 0 … 1.
  double innerEdge = 0.12;
  /// Deflection from which on it counts as full; more than the inner edge.
  double outerEdge = 0.96;
  /// Response: 1 is straight, more is finer in the middle.
  double exponent = 1.0;
};

/// With m the deflection's length, ((m − inner)/(outer − inner))^exponent along the same direction, 0 … 1.
Rate shaped(Rate raw, const StickSettings& settings);

struct TriggerSettings {
  /// A trigger counts as pressed from here on …
  double pressAt = 0.5;
  /// … and as released when it falls below this; at most pressAt.
  double releaseAt = 0.35;
};

/// Whether a button or trigger counts as pressed, with hysteresis.
inline bool pressed(bool before, double value, const TriggerSettings& settings) {
  return before ? value >= settings.releaseAt : value >= settings.pressAt;
}

}  // namespace alpglow
