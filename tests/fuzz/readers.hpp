#pragma once
// Every reader of files, by name, for inputs that nobody would write.

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/design_text.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/limits_file.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/io/trace.hpp"

#include <sys/mman.h>
#include <unistd.h>

#include <cstdlib>
#include <functional>
#include <string>
#include <string_view>

namespace alpglow::testing {

struct Reader {
  const char* name;
  /// What its files end in, and a demo file to begin with.
  const char* ending;
  std::function<void(const std::string& path)> read;
};

/// A small triangle in a data URI, and the rest of what our reader looks at.
inline const std::string& smallGltf() {
  static const std::string text =
      R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0,1]}],"nodes":[{"name":"hut","mesh":0,"translation":[0,1,0],)"
      R"("children":[2]},{"name":"spawn","rotation":[0,0.7071068,0,0.7071068]},{"mesh":0,"scale":[2,-1,1]}],)"
      R"("meshes":[{"primitives":[{"attributes":{"POSITION":0},"indices":1,"mode":5}]}],"accessors":[{"bufferView":0,)"
      R"("byteOffset":0,"componentType":5126,"count":3,"type":"VEC3"},{"bufferView":1,"componentType":5121,"count":3,)"
      R"("type":"SCALAR"}],"bufferViews":[{"buffer":0,"byteOffset":0,"byteLength":36,"byteStride":12},{"buffer":0,)"
      R"("byteOffset":36,"byteLength":3}],"buffers":[{"byteLength":39,"uri":"data:application/octet-stream;base64,)"
      R"(AAAAAAAAAAAAAAAAAACAPwAAAAAAAAAAAAAAAAAAgD8AAAAAAAEC"}]})";
  return text;
}

inline const Reader readers[] = {
    {"design", ".camera.toml", [](const std::string& path) { io::DesignText(io::readWhole(path), path).settings(); }},
    {"json-design", ".camera.json",
     [](const std::string& path) { io::parseDesign(io::readWhole(path), "design.camera.json"); }},
    {"controls", ".controls.toml", [](const std::string& path) { io::readControls(path); }},
    {"preferences", ".preferences.toml", [](const std::string& path) { io::readPreferences(path); }},
    {"block-out", ".level.toml", [](const std::string& path) { io::readBlockOut(path); }},
    {"gltf", ".gltf", [](const std::string& path) { io::readGltf(path); }},
    {"take", ".take", [](const std::string& path) { io::writeTake(io::readTake(path)); }},
    {"frame-times", ".frames", [](const std::string& path) { io::readFrameTimes(path); }},
    {"limits", ".limits.toml", [](const std::string& path) { io::readLimits(path); }},
    {"trace", ".csv", [](const std::string& path) { io::writeTrace(io::readTrace(path)); }},
};

/// A file in memory.
class MemoryFile {
 public:
  explicit MemoryFile(std::string_view content) : number_(memfd_create("input", MFD_CLOEXEC)) {
    if (write(number_, content.data(), content.size()) != static_cast<ssize_t>(content.size())) std::abort();
  }
  ~MemoryFile() { close(number_); }
  MemoryFile(const MemoryFile&) = delete;
  MemoryFile& operator=(const MemoryFile&) = delete;
  std::string path() const { return "/proc/self/fd/" + std::to_string(number_); }

 private:
  int number_;
};

/// Empty where the reader took the input or refused it in one line that a terminal can show.
inline std::string wrongWith(const Reader& reader, std::string_view input) {
  try {
    reader.read(MemoryFile(input).path());
    return {};
  } catch (const io::InputError& error) {
    const std::string said = error.what();
    if (said.size() > 1500) return "says too much: " + said;
    for (const char c : said) {
      if (static_cast<unsigned char>(c) < 0x20 || c == 0x7f) return "says what moves the cursor";
    }
    return {};
  } catch (const std::exception& error) {
    return std::string("throws something else: ") + error.what();
  }
}

}  // namespace alpglow::testing
