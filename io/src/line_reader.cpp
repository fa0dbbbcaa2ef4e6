#include "line_reader.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <cerrno>
#include <cstring>
#include <filesystem>

namespace alpglow::io {

LineReader::LineReader(std::string path) : path_(std::move(path)), file_(path_, std::ios::binary) {
  std::error_code none;
  if (std::filesystem::is_directory(path_, none)) throw InputError(path_, "is a directory, not a file");
  if (!file_) throw InputError(path_, fmt::format("cannot be read: {}", std::strerror(errno)));
  if (file_.peek() == std::ifstream::traits_type::eof()) throw InputError(path_, "is empty");
}

bool LineReader::next(std::string& line) {
  line.clear();
  ++number_;
  std::streambuf& bytes = *file_.rdbuf();
  constexpr int end = std::ifstream::traits_type::eof();
  for (int c = bytes.sbumpc(); c != end; c = bytes.sbumpc()) {
    if (c == '\n') {
      if (!line.empty() && line.back() == '\r') line.pop_back();
      return true;
    }
    if (line.size() == longest) throw InputError(path_, number_, 0, fmt::format("is longer than {} bytes", longest));
    line += static_cast<char>(c);
  }
  return !line.empty();
}

}  // namespace alpglow::io
