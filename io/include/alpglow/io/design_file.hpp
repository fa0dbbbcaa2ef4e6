#pragma once
// Designs as TOML files, `*.camera.toml`. Keys that are left out take their documented defaults.

#include "alpglow/design/design.hpp"

#include <string>

namespace alpglow::io {

constexpr int designFormat = 1;

/// Throws InputError with file, line, column, key, value and what is allowed.
CameraDesign readDesign(const std::string& path);

/// A complete design as text: every key with its value, and as comments its meaning, unit, range and default.
std::string writeDesign(const CameraDesign& design);

/// All keys with unit, range, default and meaning, as a table to read.
std::string designReference();

}  // namespace alpglow::io
