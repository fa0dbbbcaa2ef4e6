#pragma once
// Controls: the physical things that move. Keys carry their W3C UI Events `code`; pads follow the W3C Gamepad standard
// layout. The pointer reports counts, the wheel notches, a finger's drag thousandths of the screen's height (right and
// down), a pinch the natural logarithm of how much farther apart the fingers are: all of these are displacements.
//
//   const Control forward = findControl("KeyW");
//   nameOf(forward);                              // "KeyW"

#include "alpglow/base/span.hpp"

#include <cstdint>
#include <string_view>

namespace alpglow {

/// What the values of a control mean.
enum class ControlKind {
  button,  ///< 0 released … 1 pressed
  axis,    ///< −1 … 1; a stick's x is positive to the right, its y positive toward the user, as the standard has it
  displacement,  ///< how far it moved: added up, never held
};

/// One control, as a position in the table of all controls.
struct Control {
  std::uint16_t index = 0xffff;

  bool valid() const { return index != 0xffff; }
  friend bool operator==(Control a, Control b) { return a.index == b.index; }
  friend bool operator!=(Control a, Control b) { return a.index != b.index; }
};

/// The names of all controls, in the order of their index.
Span<const char* const> controlNames();

/// The control of this name; not valid if there is none.
Control findControl(std::string_view name);
const char* nameOf(Control control);
ControlKind kindOf(Control control);
/// How many numbers one event of it carries: 2 for the pointer and a finger's drag, 1 for all others.
int valuesOf(Control control);

/// A control moved: buttons and axes say where they are now, displacements how far they went.
struct ControlEvent {
  /// Seconds.
  double time = 0;
  Control control;
  double x = 0, y = 0;
};

}  // namespace alpglow
