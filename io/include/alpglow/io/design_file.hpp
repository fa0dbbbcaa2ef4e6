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

/// The same with one number changed, as if it stood there so; what is relative to it changes along. It is named by its
/// key, as "follow_half_life_s", or with its section before it, "pull_in.horizon_s", where several have one; a
/// framing's and a push's section is its name, and a key alone means the first framing's. Throws InputError, also where
/// there is no such number or the value is out of its range.
CameraDesign parseDesignWith(const std::string& text, const std::string& name, const std::string& number, double value);

/// A complete design as text: every key with its value, and as comments its meaning, unit, range and default.
std::string writeDesign(const CameraDesign& design);

/// All keys with unit, range, default and meaning, as a table to read.
std::string designReference();

}  // namespace alpglow::io
