#pragma once
// Names in files that were others once: whoever brings an old file is told the new name.

#include <string>

namespace alpglow::io {

enum class NameOf { table, key, value, action, column };

/// What this is called now; empty if it never had another name.
std::string newName(NameOf what, const std::string& old);

}  // namespace alpglow::io
