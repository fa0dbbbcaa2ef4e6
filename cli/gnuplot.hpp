#pragma once
// Plots by gnuplot, which is a program of its own.

#include "alpglow/feel/plot.hpp"

#include <string>

namespace alpglow::cli {

/// By the ending of a file; throws where that is neither .png nor .svg.
feel::PictureFormat pictureFormatOf(const std::string& path);
/// The picture that a script makes. Throws where that cannot be drawn.
std::string drawnByGnuplot(const std::string& script);

}  // namespace alpglow::cli
