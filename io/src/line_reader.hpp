#pragma once
// A text file line by line, however long it is.

#include <fstream>
#include <string>

namespace alpglow::io {

class LineReader {
 public:
  static constexpr std::size_t longest = 1 << 20;  // bytes of a line

  /// Throws InputError when the file cannot be read or is empty.
  explicit LineReader(std::string path);

  /// The next line without its end; false after the last one. Throws InputError for one that is too long.
  bool next(std::string& line);
  /// Of the line that was read last; the first one is 1.
  int number() const { return number_; }
  const std::string& path() const { return path_; }

 private:
  std::string path_;
  std::ifstream file_;
  int number_ = 0;
};

}  // namespace alpglow::io
