#pragma once
// A picture of keyboard, mouse and pad, with what each key and button does.

#include "alpglow/input/bindings.hpp"

#include <string>
#include <vector>

namespace alpglow::play {

/// Into the current window of Dear ImGui: what the bindings of a mode make of each control, beside the playground's own
/// keys, so wide. What is pointed at is said in full.
void showControlsPicture(const Bindings& bindings, const std::string& mode, float width);

/// The names of all controls in it.
std::vector<std::string> picturedControls();

}  // namespace alpglow::play
