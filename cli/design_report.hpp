#pragma once
// A design in words and numbers that one can imagine.

#include "alpglow/design/design.hpp"

#include <string>
#include <vector>

namespace alpglow::cli {

/// What the numbers are told for: a screen, width over height; a run, metres per second; a mouse.
constexpr double wide = 16.0 / 9.0, brisk = 4.5, dotsPerInch = 800;
/// Of the mouse, for a turn of so many radians.
inline double centimetresFor(double angle, double perCount) { return angle / perCount / dotsPerInch * 2.54; }

/// Several lines of text.
std::string explain(const CameraDesign& design);

/// What is legal but hardly meant.
std::vector<std::string> implausible(const CameraDesign& design);

}  // namespace alpglow::cli
