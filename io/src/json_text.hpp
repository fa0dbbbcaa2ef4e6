#pragma once
// JSON with the keys of our TOML files, as the TOML that says the same: one line for each key, so that what is wrong in
// a line can be said by the key's path in the document.

#include "alpglow/io/input_error.hpp"

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace alpglow::io {

/// Where the first character that is not a space opens an object.
bool looksLikeJson(std::string_view text);

/// How deep a document is nested, and a key that one of its objects has twice, if any; as far as the text is JSON.
struct JsonShape {
  int depth = 0;
  std::string keyTwice;
};
JsonShape shapeOf(std::string_view json);

struct TomlOfJson {
  std::string toml;
  /// Of each line, "framing[1].distance_m"; empty for what is of the whole document.
  std::vector<std::string> paths;

  /// The error about the TOML as one about the document.
  InputError error(const std::string& name, const InputError& about) const;
};

/// Throws InputError with line and column where it is no JSON, and with the path where TOML cannot say it (null, deeper
/// than 16).
TomlOfJson tomlOfJson(const std::string& text, const std::string& name);

/// Reads a document, whichever of the two it is: `read` gets its TOML.
template <class Read>
auto readEither(const std::string& text, const std::string& name, Read&& read) {
  if (text.find_first_not_of(" \t\r\n") == std::string::npos) throw InputError(name, "is empty");
  if (!looksLikeJson(text)) return read(text);
  const TomlOfJson made = tomlOfJson(text, name);
  try {
    return read(made.toml);
  } catch (const InputError& error) {
    throw made.error(name, error);
  }
}

}  // namespace alpglow::io
