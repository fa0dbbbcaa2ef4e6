#pragma once
// What a file holds, by the ending of its name: the one place that knows the endings.

#include <string>

namespace alpglow::io {

enum class FileKind { design, controls, preferences, level, scene, limits, take, trace, unknown };

/// `scene` is glTF, *.gltf or *.glb. A name with another ending is `unknown`.
FileKind fileKindOf(const std::string& path);

/// Throws InputError if the ending says that the file is something else than `expected`. It names the command that
/// takes such a file. An unknown ending passes.
void requireKind(const std::string& path, FileKind expected);

}  // namespace alpglow::io
