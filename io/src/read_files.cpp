// From files. What is read from memory needs none of this, so a game without a file system links without it.

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"

namespace alpglow::io {

CameraDesign readDesign(const std::string& path) {
  requireKind(path, FileKind::design);
  return parseDesign(readWhole(path), path);
}

Bindings readControls(const std::string& path) {
  requireKind(path, FileKind::controls);
  return parseControls(readWhole(path), path);
}

Preferences readPreferences(const std::string& path) {
  requireKind(path, FileKind::preferences);
  return parsePreferences(readWhole(path), path);
}

}  // namespace alpglow::io
