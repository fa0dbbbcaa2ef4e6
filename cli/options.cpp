#include "options.hpp"

#include "alpglow/base/limits.hpp"

namespace alpglow::cli {

void addAspectAndWorld(Command& command, double& aspect, stage::WorldKind& world) {
  command.option("--aspect", aspect, "width over height of the screen")
      .between(narrowestAspect, widestAspect)
      .showDefault();
  using stage::WorldKind;
  command.choice("--world", world,
                 {{"bullet", WorldKind::bullet}, {"embree", WorldKind::embree}, {"triangles", WorldKind::triangles}},
                 "what answers the camera's questions");
}

void addRehearsal(Command& command, RehearsalFiles& files) {
  command.option("--controls", files.controls,
                 "what the take's controls mean (*.controls.toml); else the standard ones");
  command.option("--preferences", files.preferences, "the player's preferences (*.preferences.toml)");
  command.option("--ticks", files.ticksPerSecond, "how often a second the character walks on")
      .between(10, 1000)
      .showDefault();
  addAspectAndWorld(command, files.aspect, files.world);
}

void addRehearsalFiles(Command& command, RehearsalFiles& files) {
  command.option("design", files.design, "camera design (*.camera.toml)").required();
  command.option("--level", files.level, "level (*.level.toml, *.gltf, *.glb)").required();
  command.option("--take", files.take, "take (*.take)").required();
  Option fps = command.option("--fps", files.framesPerSecond, "frames a second").between(1, 10000).showDefault();
  command.option("--frames", files.frames, "file of frame times in seconds, one a line").excludes(fps);
  addRehearsal(command, files);
}

void addLimits(Command& command, std::string& limits) {
  command.option("--limits", limits,
                 "what may be felt (*.limits.toml): exit code 1 and a line for each limit that is broken");
}

}  // namespace alpglow::cli
