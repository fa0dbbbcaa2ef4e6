#include "commands.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <filesystem>

namespace alpglow::cli {

int runNew(const std::string& output) {
  if (std::filesystem::exists(output)) throw io::InputError(output, "exists already and is never overwritten");
  const auto named = [&output](const char* ending) { return output.find(ending) != std::string::npos; };
  io::writeWhole(output, named(".controls.toml")      ? io::writeControls(standardBindings())
                         : named(".preferences.toml") ? io::writePreferences(Preferences())
                                                      : io::writeDesign(CameraDesign()));
  fmt::print("wrote {}\n", output);
  return 0;
}

}  // namespace alpglow::cli
