#pragma once
// A design in words and numbers that one can imagine.

#include "alpglow/design/design.hpp"

#include <string>
#include <vector>

namespace alpglow::cli {

/// Several lines of text.
std::string explain(const CameraDesign& design);

/// What is legal but hardly meant.
std::vector<std::string> implausible(const CameraDesign& design);

}  // namespace alpglow::cli
