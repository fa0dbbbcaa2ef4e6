#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <numeric>
#include <sstream>

namespace alpglow::io {

namespace {

std::string position(const std::string& file, int line, int column) {
  return column > 0 ? fmt::format("{}:{}:{}", file, line, column) : fmt::format("{}:{}", file, line);
}

}  // namespace

InputError::InputError(const std::string& file, const std::string& what)
    : runtime_error(file + ": " + what), reason_(what) {}

InputError::InputError(const std::string& file, int line, int column, const std::string& what)
    : runtime_error(position(file, line, column) + ": " + what), line_(line), reason_(what) {}

std::size_t editDistance(std::string_view a, std::string_view b) {
  std::vector<std::size_t> row(b.size() + 1);
  std::iota(row.begin(), row.end(), std::size_t{0});
  for (std::size_t i = 0; i < a.size(); ++i) {
    std::size_t diagonal = row[0];
    row[0] = i + 1;
    for (std::size_t j = 0; j < b.size(); ++j) {
      const std::size_t replaced = diagonal + (a[i] == b[j] ? 0 : 1);
      diagonal = row[j + 1];
      row[j + 1] = std::min({replaced, row[j] + 1, diagonal + 1});
    }
  }
  return row.back();
}

std::string nearestName(std::string_view word, const std::vector<std::string>& known) {
  const auto nearer = [word](const std::string& a, const std::string& b) {
    return editDistance(word, a) < editDistance(word, b);
  };
  const auto found = std::min_element(known.begin(), known.end(), nearer);
  return found == known.end() ? std::string() : *found;
}

std::string readWhole(const std::string& path) {
  if (std::filesystem::is_directory(path)) throw InputError(path, "is a directory, not a file");
  std::ifstream file(path, std::ios::binary);
  if (!file) throw InputError(path, fmt::format("cannot be read: {}", std::strerror(errno)));
  std::ostringstream content;
  content << file.rdbuf();
  std::string text = content.str();
  if (text.find_first_not_of(" \t\r\n") == std::string::npos) throw InputError(path, "is empty");
  return text;
}

void writeWhole(const std::string& path, std::string_view content) {
  const std::string unfinished = path + ".unfinished";
  std::ofstream file(unfinished, std::ios::binary | std::ios::trunc);
  file.write(content.data(), static_cast<std::streamsize>(content.size()));
  file.close();
  std::error_code failed;
  if (!file) {
    const std::string reason = std::strerror(errno);
    std::filesystem::remove(unfinished, failed);
    throw InputError(path, "cannot be written: " + reason);
  }
  std::filesystem::rename(unfinished, path, failed);
  if (!failed) return;
  const std::string reason = failed.message();
  std::filesystem::remove(unfinished, failed);
  throw InputError(path, "cannot be written: " + reason);
}

}  // namespace alpglow::io
