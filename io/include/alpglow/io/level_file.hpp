#pragma once
// Levels from files: a block-out in TOML (`*.level.toml`) or triangles in glTF 2.0 (`*.gltf`, `*.glb`).

#include "alpglow/io/level.hpp"

#include <string>

namespace alpglow::io {

constexpr int levelFormat = 1;

/// Reads either kind, told apart by the ending. Throws InputError.
Level readLevel(const std::string& path);

/// Boxes, ramps and cylinders with names, groups and labels; a spawn point and the character's body.
Level readBlockOut(const std::string& path);

/// Triangle meshes under their nodes' transforms. The spawn is the node named `spawn` (its −z is the heading), else the
/// ground under the origin; the character's body takes its defaults.
Level readGltf(const std::string& path);

}  // namespace alpglow::io
