#pragma once
// Names in files that were others once: whoever brings an old file is told the new name.

#include <string>

namespace alpglow::io {

enum class NameOf { table, key, value, action, column };

/// What this is called now; empty if it never had another name.
std::string newName(NameOf what, const std::string& old);

/// What says the same as a key that is gone, in words; empty for every other key.
std::string insteadOf(const std::string& goneKey);

}  // namespace alpglow::io
