#pragma once
// What is wrong with a file, in one line: where, which key, which value, and what is allowed.
//
//   warden.camera.toml:14:17: pitch_max_deg is 120, but must lie in [-90, 90]

#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

namespace alpglow::io {

class InputError : public std::runtime_error {
 public:
  /// The whole file.
  InputError(const std::string& file, const std::string& what);
  /// A place in it; line and column count from 1, column 0 leaves it out.
  InputError(const std::string& file, int line, int column, const std::string& what);

  /// The line; 0 for the whole file.
  int line() const { return line_; }
  /// Without where.
  const std::string& reason() const { return reason_; }

 private:
  int line_ = 0;
  std::string reason_;
};

/// How many letters are to be changed, left out or put in between (Levenshtein distance).
std::size_t editDistance(std::string_view a, std::string_view b);
/// The known name that differs least from `word`, for messages.
std::string nearestName(std::string_view word, const std::vector<std::string>& known);

/// The file's whole content. Throws InputError when it cannot be read or is empty.
std::string readWhole(const std::string& path);

/// Writes beside the target and renames, so that a target is either untouched or complete. Throws InputError.
void writeWhole(const std::string& path, std::string_view content);

}  // namespace alpglow::io
