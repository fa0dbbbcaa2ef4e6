#pragma once
// Levels from files: a block-out in TOML (`*.level.toml`) or triangles in glTF 2.0 (`*.gltf`, `*.glb`).

#include "alpglow/io/level.hpp"

#include <cstddef>
#include <string>

namespace alpglow::io {

constexpr int levelFormat = 1;

/// How much of a foreign file is read before it is refused: a small one can stand for a large level.
struct GltfLimits {
  std::size_t vertices = 4'000'000, triangles = 4'000'000;  // of all meshes, as often as nodes show them
  /// Of nodes, meshes, accessors and so on each.
  std::size_t parts = 100'000;
  /// How deep nodes hang below each other.
  int depth = 100;
  /// Of all buffers together.
  std::size_t bytes = 256u << 20;
};

/// Reads either kind, told apart by the ending. Throws InputError.
Level readLevel(const std::string& path, const GltfLimits& limits = {});

/// Boxes, ramps and cylinders with names, groups and labels; a spawn point and the character's body.
Level readBlockOut(const std::string& path);

/// Triangle meshes under their nodes' transforms. The spawn is the node named `spawn` (its −z is the heading), else the
/// ground under the origin; the character's body takes its defaults. What would be somewhere else without it (skins,
/// weights of morph targets, sparse accessors, required extensions) is refused by name; points and lines have no
/// surface.
Level readGltf(const std::string& path, const GltfLimits& limits = {});

}  // namespace alpglow::io
