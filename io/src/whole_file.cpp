#include "alpglow/io/input_error.hpp"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <utility>

namespace alpglow::io {

namespace {

namespace fs = std::filesystem;

/// An open file, closed whatever happens.
class Descriptor {
 public:
  explicit Descriptor(int number) : number_(number) {}
  ~Descriptor() {
    if (number_ >= 0) ::close(number_);
  }
  Descriptor(const Descriptor&) = delete;
  Descriptor& operator=(const Descriptor&) = delete;
  int get() const { return number_; }
  /// Some file systems say only now that there was no room.
  bool close() { return ::close(std::exchange(number_, -1)) == 0; }

 private:
  int number_;
};

bool writeAll(int to, std::string_view content) {
  while (!content.empty()) {
    const ssize_t written = ::write(to, content.data(), content.size());
    if (written < 0 && errno == EINTR) continue;
    if (written < 0) return false;
    content.remove_prefix(static_cast<std::size_t>(written));
  }
  return true;
}

[[noreturn]] void fail(const std::string& path, int error) {
  throw InputError(path, std::string("cannot be written: ") + std::strerror(error));
}

/// Where the links from here lead, whether anything is there or not.
fs::path behindLinks(fs::path path) {
  constexpr int most = 40;
  std::error_code none;
  for (int i = 0; i < most && fs::is_symlink(path, none); ++i) {
    const fs::path next = fs::read_symlink(path, none);
    if (none) break;
    path = next.is_absolute() ? next : path.parent_path() / next;
  }
  return path;
}

/// Something that is there to be written to, not to be replaced: a device, a pipe, a socket, an open file of a process.
bool takesBytes(const fs::path& path) {
  std::error_code none;
  const fs::file_status status = fs::status(path, none);
  if (fs::exists(status) && !fs::is_regular_file(status) && !fs::is_directory(status)) return true;
  const std::string text = path.lexically_normal().string();
  return text.compare(0, 5, "/dev/") == 0 || text.compare(0, 6, "/proc/") == 0;
}

/// As a file of this name has them, or as a new one would.
mode_t permissionsOf(const fs::path& path) {
  struct stat there = {};
  if (::stat(path.c_str(), &there) == 0) return there.st_mode & 07777;
  const mode_t mask = ::umask(0);
  ::umask(mask);
  return 0666 & ~mask;
}

}  // namespace

std::string readWhole(const std::string& path, std::size_t most) {
  std::error_code none;
  if (fs::is_directory(path, none)) throw InputError(path, "is a directory, not a file");
  std::ifstream file(path, std::ios::binary);
  if (!file) throw InputError(path, fmt::format("cannot be read: {}", std::strerror(errno)));
  std::string text;
  constexpr std::size_t piece = 1 << 16;
  while (file) {
    const std::size_t before = text.size();
    text.resize(before + piece);
    file.read(text.data() + before, static_cast<std::streamsize>(piece));
    text.resize(before + static_cast<std::size_t>(file.gcount()));
    if (text.size() > most) throw InputError(path, fmt::format("is longer than {} MB", most >> 20));
  }
  if (file.bad()) throw InputError(path, fmt::format("cannot be read: {}", std::strerror(errno)));
  if (text.find_first_not_of(" \t\r\n") == std::string::npos) throw InputError(path, "is empty");
  return text;
}

void writeWhole(const std::string& path, std::string_view content) {
  if (takesBytes(path)) {
    Descriptor there(::open(path.c_str(), O_WRONLY | O_CLOEXEC | O_NOCTTY));
    if (there.get() < 0 || !writeAll(there.get(), content) || !there.close()) fail(path, errno);
    return;
  }
  const fs::path target = behindLinks(path);
  if (takesBytes(target)) return writeWhole(target.string(), content);
  std::error_code none;
  if (fs::is_directory(target, none)) fail(path, EISDIR);
  // Fresh, and nobody else's: what stands there under a likely name is neither followed nor overwritten.
  std::string unfinished = target.string() + ".XXXXXX";
  Descriptor file(::mkostemp(unfinished.data(), O_CLOEXEC));
  if (file.get() < 0) fail(path, errno);
  const bool written =
      writeAll(file.get(), content) && ::fchmod(file.get(), permissionsOf(target)) == 0 && file.close();
  if (written && std::rename(unfinished.c_str(), target.c_str()) == 0) return;
  const int reason = errno;
  ::unlink(unfinished.c_str());
  fail(path, reason);
}

}  // namespace alpglow::io
