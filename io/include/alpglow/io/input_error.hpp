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
/// The known name that somebody may have meant, for messages: the same but for capitals, for the order of its parts
/// (LeftShift: ShiftLeft) or for what kind it is (W: KeyW), or else the one that differs by the fewest letters.
std::string nearestName(std::string_view word, const std::vector<std::string>& known);

/// What a terminal shows as it stands, so many bytes at most: control characters, what turns the direction of text and
/// bytes that are no UTF-8 by their numbers, and the middle left out where it is too long. Messages of InputError are
/// so already.
std::string plainText(std::string_view text, std::size_t most = 200);

/// The file's whole content, no more bytes than `most`. Throws InputError when it cannot be read, is longer or is
/// empty.
std::string readWhole(const std::string& path, std::size_t most = 64u << 20);

/// Writes a new file beside the target and renames it, so that a target is either untouched or complete, and keeps its
/// permissions; a link stays one, and what it leads to is written. Devices and pipes are written to. What a program
/// that was killed in the middle of this left beside the target is removed. Throws InputError.
void writeWhole(const std::string& path, std::string_view content);

}  // namespace alpglow::io
