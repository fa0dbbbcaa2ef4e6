#pragma once
// The playground: a window in which a design is played and tuned.
//
//   alpglow::play::play({{"trail.camera.toml"}, "refuge.level.toml"});

#include <string>
#include <vector>

namespace alpglow::play {

/// As fine as the machine can: coarser pictures where there is no graphics card.
enum class PlayQuality { automatic, full, plain };

struct PlayOptions {
  /// One design, or two to compare; none: the demo's.
  std::vector<std::string> designs = {};
  std::string level = {};                       // the demo's refuge if empty
  std::string controls = {}, preferences = {};  // the standard ones if empty
  /// A take to replay from the start.
  std::string take = {};
  /// A file that says as one object of JSON how things stand, written whenever that changes.
  std::string status = {};
  /// What recordings and pictures are called: "play" gives play.take, play.frames, play.csv, play-1.png.
  std::string out = "play";
  /// Of the window, in its units.
  int width = 1280, height = 800;
  /// How large text and panels are, 1 for 15 pixels a line; 0: as the display says.
  double scale = 0;
  PlayQuality quality = PlayQuality::automatic;
};

/// Until the window is closed. Throws InputError for files that cannot be read, std::runtime_error where no window can
/// be opened.
int play(const PlayOptions& options);

}  // namespace alpglow::play
