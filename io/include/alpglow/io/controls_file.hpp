#pragma once
// Control schemes (`*.controls.toml`) and preferences (`*.preferences.toml`) as files.

#include "alpglow/input/bindings.hpp"
#include "alpglow/input/preferences.hpp"

#include <string>

namespace alpglow::io {

constexpr int controlsFormat = 1;
constexpr int preferencesFormat = 1;

/// Throws InputError with file, line, column, key, value and what is allowed; also where two bindings conflict.
Bindings readControls(const std::string& path);
/// The same from memory, TOML or JSON (design_file.hpp).
Bindings parseControls(const std::string& text, const std::string& name = "controls");
/// Reads back to the same bindings.
std::string writeControls(const Bindings& bindings);

/// Keys that are left out take their default. Throws InputError.
Preferences readPreferences(const std::string& path);
Preferences parsePreferences(const std::string& text, const std::string& name = "preferences");
std::string writePreferences(const Preferences& preferences);

/// All keys of both files with range, default and meaning.
std::string controlsReference();

}  // namespace alpglow::io
