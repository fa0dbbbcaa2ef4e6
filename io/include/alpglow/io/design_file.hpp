#pragma once
// Designs as TOML files, `*.camera.toml`. Keys that are left out take their documented defaults.

#include "alpglow/design/design.hpp"

#include <string>

namespace alpglow::io {

constexpr int designFormat = 1;

/// Throws InputError with file, line, column, key, value and what is allowed; of JSON with the key's path in the
/// document, "framing[1].distance_m: …".
CameraDesign readDesign(const std::string& path);
/// The same from memory: TOML, or JSON with the same keys (text that opens an object). Errors call it by this name.
CameraDesign parseDesign(const std::string& text, const std::string& name = "design");

/// A complete design as text: every key with its value, and as comments its meaning, unit, range and default.
std::string writeDesign(const CameraDesign& design);

/// All keys with unit, range, default and meaning, as a table to read.
std::string designReference();

}  // namespace alpglow::io
