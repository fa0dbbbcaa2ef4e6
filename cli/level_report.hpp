#pragma once
// What a level has for cameras, in words and numbers.

#include "alpglow/io/level.hpp"

#include <string>

namespace alpglow::cli {

std::string explain(const io::Level& level);

}  // namespace alpglow::cli
