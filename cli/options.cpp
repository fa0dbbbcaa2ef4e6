#include "options.hpp"

#include "alpglow/base/limits.hpp"

#include <cstdlib>

namespace alpglow::cli {

CLI::Validator between(double low, double high) {
  return {[low, high](const std::string& text) {
            char* end = nullptr;
            const double value = std::strtod(text.c_str(), &end);
            const bool in = end != text.c_str() && *end == '\0' && value >= low && value <= high;
            return in ? std::string() : fmt::format("{} is not in {:g} to {:g}", text, low, high);
          },
          fmt::format("FLOAT in [{:g} - {:g}]", low, high)};
}

void addAspectAndWorld(CLI::App& command, double& aspect, stage::WorldKind& world) {
  command.add_option("--aspect", aspect, "width over height of the screen")
      ->check(between(narrowestAspect, widestAspect))
      ->capture_default_str();
  using stage::WorldKind;
  addChoice<WorldKind>(
      command, "--world", world,
      {{"bullet", WorldKind::bullet}, {"embree", WorldKind::embree}, {"triangles", WorldKind::triangles}},
      "what answers the camera's questions");
}

void addRehearsal(CLI::App& command, RehearsalFiles& files) {
  command.add_option("--controls", files.controls,
                     "what the take's controls mean (*.controls.toml); else the standard ones");
  command.add_option("--preferences", files.preferences, "the player's preferences (*.preferences.toml)");
  command.add_option("--ticks", files.ticksPerSecond, "how often a second the character walks on")
      ->check(between(10, 1000))
      ->capture_default_str();
  addAspectAndWorld(command, files.aspect, files.world);
}

void addRehearsalFiles(CLI::App& command, RehearsalFiles& files) {
  command.add_option("design", files.design, "camera design (*.camera.toml)")->required();
  command.add_option("--level", files.level, "level (*.level.toml, *.gltf, *.glb)")->required();
  command.add_option("--take", files.take, "take (*.take)")->required();
  auto* fps = command.add_option("--fps", files.framesPerSecond, "frames a second")
                  ->check(between(1, 10000))
                  ->capture_default_str();
  command.add_option("--frames", files.frames, "file of frame times in seconds, one a line")->excludes(fps);
  addRehearsal(command, files);
}

void addLimits(CLI::App& command, std::string& limits) {
  command.add_option("--limits", limits,
                     "what may be felt (*.limits.toml): exit code 1 and a line for each limit that is broken");
}

}  // namespace alpglow::cli
