#include "alpglow/io/file_kind.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <string_view>

namespace alpglow::io {

namespace {

struct Ending {
  std::string_view text;
  FileKind kind;
};
constexpr Ending endings[] = {
    {".camera.toml", FileKind::design},
    {".controls.toml", FileKind::controls},
    {".preferences.toml", FileKind::preferences},
    {".level.toml", FileKind::level},
    {".limits.toml", FileKind::limits},
    {".gltf", FileKind::scene},
    {".glb", FileKind::scene},
    {".take", FileKind::take},
    {".csv", FileKind::trace},
};

const char* inWords(FileKind kind) {
  switch (kind) {
    case FileKind::design: return "a camera design";
    case FileKind::controls: return "a controls file";
    case FileKind::preferences: return "a preferences file";
    case FileKind::level:
    case FileKind::scene: return "a level";
    case FileKind::limits: return "a limits file";
    case FileKind::take: return "a take";
    case FileKind::trace: return "a trace";
    case FileKind::unknown: break;
  }
  return "a file of no known kind";
}

/// The command line that takes such a file.
std::string useOf(FileKind kind, const std::string& path) {
  switch (kind) {
    case FileKind::design: return "alpglow check " + path;
    case FileKind::controls: return "alpglow rehearse DESIGN --level LEVEL --take TAKE --controls " + path;
    case FileKind::preferences: return "alpglow rehearse DESIGN --level LEVEL --take TAKE --preferences " + path;
    case FileKind::level:
    case FileKind::scene: return "alpglow rehearse DESIGN --take TAKE --level " + path;
    case FileKind::limits: return "alpglow rehearse DESIGN --level LEVEL --take TAKE --limits " + path;
    case FileKind::take: return "alpglow rehearse DESIGN --level LEVEL --take " + path;
    case FileKind::trace: return "alpglow feel " + path;
    case FileKind::unknown: break;
  }
  return "alpglow --help";
}

}  // namespace

FileKind fileKindOf(const std::string& path) {
  for (const auto& [text, kind] : endings) {
    if (path.size() >= text.size() && path.compare(path.size() - text.size(), text.size(), text) == 0) return kind;
  }
  return FileKind::unknown;
}

void requireKind(const std::string& path, FileKind expected) {
  const auto plain = [](FileKind kind) { return kind == FileKind::scene ? FileKind::level : kind; };
  const FileKind kind = fileKindOf(path);
  if (kind == FileKind::unknown || plain(kind) == plain(expected)) return;
  throw InputError(path, fmt::format("this is {}, but {} is expected here. Try: {}", inWords(kind), inWords(expected),
                                     useOf(kind, path)));
}

}  // namespace alpglow::io
