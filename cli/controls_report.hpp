#pragma once
// Controls and preferences in words and numbers that one can imagine.

#include "alpglow/design/design.hpp"
#include "alpglow/input/bindings.hpp"
#include "alpglow/input/preferences.hpp"

#include <string>
#include <vector>

namespace alpglow::cli {

/// A table of actions and their controls for each mode, and what sticks, keys and pointer do.
std::string explain(const Bindings& bindings);

/// The player's choices, and what they make of a design's turns.
std::string explain(const Preferences& preferences, const CameraDesign& design);

/// What is legal but hardly meant.
std::vector<std::string> implausible(const Bindings& bindings);

/// "move x", "aim": what a binding drives.
std::string targetText(const Bindings& bindings, const Binding& binding);

}  // namespace alpglow::cli
