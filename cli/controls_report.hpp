#pragma once
// Controls and preferences in words and numbers that one can picture.

#include "alpglow/control_scheme.hpp"
#include "alpglow/design.hpp"
#include "alpglow/preferences.hpp"

#include <string>
#include <vector>

namespace alpglow::cli {

/// A table of actions and their controls for each mode, and what sticks, keys and pointer do.
std::string explain(const ControlScheme& scheme);

/// The player's choices, and what they make of a design's turns.
std::string explain(const Preferences& preferences, const CameraDesign& design);

/// What is legal but hardly meant.
std::vector<std::string> implausible(const ControlScheme& scheme);

/// "move x", "aim": what a binding drives.
std::string targetText(const ControlScheme& scheme, const Binding& binding);

}  // namespace alpglow::cli
