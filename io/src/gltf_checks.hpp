#pragma once
// What a glTF file says of itself, before a loader is let near it.

#include "alpglow/io/level_file.hpp"

#include <string>
#include <vector>

namespace alpglow::io {

/// Throws InputError if the JSON is none or nested too deeply, or if anything comes more often than the limits allow.
/// The same if a buffer is elsewhere than beside the file, or if an extension that we do not read is required or moves
/// geometry. `content` is the whole file, of either kind. Returns a file that holds geometry and nothing else, so that
/// no loader spends time or memory on materials, pictures and animations.
std::string checkedGltf(const std::string& path, const std::string& content, const GltfLimits& limits);

/// Whether a relative path stays in its folder or below it.
bool staysBeside(const std::string& path);

}  // namespace alpglow::io
