#pragma once
// Actions: what a player can want, whatever control says it.
//
// Two have two axes and take displacement and rate alike (look) or a rate (move); two have one axis (rise, zoom); all
// others are pressed and released. A game adds its own in its bindings; they are numbered after the built-in ones, are
// pressed, and have the values of whatever drives them.

#include "alpglow/base/span.hpp"

#include <cstdint>

namespace alpglow {

enum class Action : std::uint8_t {
  look,
  move,
  rise,
  zoom,
  aim,
  glance,
  swapShoulder,
  switchPerspective,
  swingBack,
  lockOn,
  nextTarget,
  run,
  slow,
  crouch,
  jump,
  pointerLock,
  firstOfTheGame,
};

/// How many axes an action has: 2, 1, or 0 for those that are pressed.
constexpr int axesOf(Action action) {
  return action == Action::look || action == Action::move   ? 2
         : action == Action::rise || action == Action::zoom ? 1
                                                            : 0;
}

/// The names of the built-in actions in the order of the enumeration, as files write them: "swap-shoulder".
Span<const char* const> builtInActionNames();

}  // namespace alpglow
