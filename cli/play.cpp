#include "command_line.hpp"
#include "commands.hpp"
#include "options.hpp"

#include "alpglow/play/play.hpp"

#include <memory>

namespace alpglow::cli {

void addPlay(CommandLine& line) {
  const auto options = std::make_shared<play::PlayOptions>();
  Command command =
      line.add("play", "Open a window in which a design is played and tuned",
               "play demo/trail.camera.toml demo/warden.camera.toml", [options] { return play::play(*options); });
  command.option("designs", options->designs, "a camera design (*.camera.toml), or two to compare; else the demo's")
      .filesUpTo(2);
  command.option("--level", options->level, "level (*.level.toml, *.gltf, *.glb); else the demo's refuge");
  command.option("--controls", options->controls, "what the controls mean (*.controls.toml); else the standard ones");
  command.option("--preferences", options->preferences, "the player's preferences (*.preferences.toml)");
  command.option("--take", options->take, "take (*.take) to replay from the start");
  command.option("--out", options->out, "what recordings and pictures are called: OUT.take, OUT.frames, OUT-1.png")
      .showDefault();
  command.option("--status", options->status, "file that says how things stand, as JSON, whenever that changes");
  command.choice("--quality", options->quality,
                 {{"automatic", play::PlayQuality::automatic},
                  {"full", play::PlayQuality::full},
                  {"plain", play::PlayQuality::plain}},
                 "of the picture");
  command.option("--width", options->width, "of the window").between(320, 16384).showDefault();
  command.option("--height", options->height, "of the window").between(240, 16384).showDefault();
  command.option("--scale", options->scale, "how large text is, such as 2 on a dense display; else as the display says")
      .between(0.5, 4);
}

}  // namespace alpglow::cli
