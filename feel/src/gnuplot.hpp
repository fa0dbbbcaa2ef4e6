#pragma once
// What scripts for gnuplot share.

#include "alpglow/feel/plot.hpp"

#include <fmt/format.h>

#include <cstddef>
#include <iterator>
#include <string>

namespace alpglow::feel {

// Told apart by lightness, too.
inline constexpr const char* colours[] = {"#24508f", "#c8641c", "#2f7d57", "#7d3f86", "#8c6d2a", "#4a4a4a"};
inline constexpr const char *grey = "#9a9a9a", *amber = "#e6a23c", *red = "#c8102e", *night = "#2b2b33";

inline const char* colourOf(std::size_t i) { return colours[i % std::size(colours)]; }

/// Text as gnuplot takes it.
inline std::string quoted(const std::string& text) {
  std::string result = "'";
  for (const char c : text) {
    if (c == '\'') result += '\'';
    result += static_cast<unsigned char>(c) < ' ' ? ' ' : c;
  }
  return result + "'";
}

inline std::string terminal(const PlotOptions& options) {
  const bool png = options.format == PictureFormat::png;
  return fmt::format(
      "set terminal {} size {},{} noenhanced font 'DejaVu Sans,{}' background rgb '#fbfaf7'\n"
      "set encoding utf8\nset datafile separator ' '\n",
      png ? "pngcairo" : "svg", options.width, options.height, png ? 9 : 11);
}

}  // namespace alpglow::feel
