#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>
#ifndef _WIN32
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>
#endif

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <random>
#include <utility>

namespace alpglow::io {

namespace {

namespace fs = std::filesystem;

[[noreturn]] void fail(const std::string& path, int error) {
  throw InputError(path, std::string("cannot be written: ") + std::strerror(error));
}

#ifndef _WIN32

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

/// What files beside a target are called until they are complete; eight hexadecimal digits follow.
std::string unfinishedName(const fs::path& target) { return target.filename().string() + ".unfinished-"; }

/// Removes what writers of this target left that live no more: a living one holds a lock on its file.
void tidyBeside(const fs::path& target) {
  const std::string begins = unfinishedName(target);
  std::error_code none;
  const fs::path folder = target.has_parent_path() ? target.parent_path() : fs::path(".");
  for (fs::directory_iterator each(folder, none), end; !none && each != end; each.increment(none)) {
    const std::string name = each->path().filename().string();
    const bool ours = name.size() == begins.size() + 8 && name.compare(0, begins.size(), begins) == 0 &&
                      name.find_first_not_of("0123456789abcdef", begins.size()) == std::string::npos;
    if (!ours) continue;
    const Descriptor left(::open(each->path().c_str(), O_WRONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK));
    if (left.get() >= 0 && ::flock(left.get(), LOCK_EX | LOCK_NB) == 0) ::unlink(each->path().c_str());
  }
}

/// Opens a file that was not there before, beside a target, locks it and says what it is called. What replaces
/// something is nobody else's until it is complete; −1 where there can be none.
int createBeside(const fs::path& target, bool replaces, std::string& name) {
  std::random_device chance;
  constexpr int tries = 100;
  for (int i = 0; i < tries; ++i) {
    name = (target.parent_path() / fmt::format("{}{:08x}", unfinishedName(target), chance())).string();
    const int file = ::open(name.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, replaces ? 0600 : 0666);
    if (file < 0 && errno != EEXIST) return file;
    if (file < 0) continue;
    struct stat made = {};
    ::flock(file, LOCK_EX);  // where there are no locks, nothing is tidied either
    if (::fstat(file, &made) == 0 && made.st_nlink > 0) return file;
    ::close(file);  // somebody tidied just now
  }
  return -1;
}

/// Owner and permissions of another file, as far as one may give things away.
bool takesAfter(int file, const struct stat& other) {
  if (::fchown(file, other.st_uid, other.st_gid) != 0 && errno != EPERM) return false;
  return ::fchmod(file, other.st_mode & 07777) == 0;
}

#endif

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

#ifdef _WIN32

void writeWhole(const std::string& path, std::string_view content) {
  const fs::path target(path), unfinished(path + ".unfinished");
  std::error_code failed;
  if (fs::is_directory(target, failed)) fail(path, EISDIR);
  {
    std::ofstream file(unfinished, std::ios::binary | std::ios::trunc);
    file.write(content.data(), static_cast<std::streamsize>(content.size()));
    file.close();
    if (!file) fail(path, errno);
  }
  fs::rename(unfinished, target, failed);  // replaces what is there
  if (!failed) return;
  std::error_code none;
  fs::remove(unfinished, none);
  throw InputError(path, "cannot be written: " + failed.message());
}

#else

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
  struct stat there = {};
  const bool replaces = ::stat(target.c_str(), &there) == 0;
  tidyBeside(target);
  std::string unfinished;
  Descriptor file(createBeside(target, replaces, unfinished));
  if (file.get() < 0) fail(path, errno);
  const bool written = writeAll(file.get(), content) && (!replaces || takesAfter(file.get(), there)) && file.close();
  if (written && std::rename(unfinished.c_str(), target.c_str()) == 0) return;
  const int reason = errno;
  ::unlink(unfinished.c_str());
  fail(path, reason);
}

#endif

}  // namespace alpglow::io
