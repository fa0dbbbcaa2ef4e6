#include "command_line.hpp"
#include "commands.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <filesystem>
#include <memory>

namespace alpglow::cli {

namespace {

constexpr char level[] = R"(# A level of solids, metres and degrees. What is commented out stands for an example.

format = 1
name = "yard"

[spawn]
feet_m = [0, 0, 0]
heading_deg = 0                # 0 looks along -z, positive turns left

[[box]]
name = "ground"
base_m = [0, -1, 0]            # the middle of its lower side
size_m = [40, 1, 40]

[[box]]
name = "hut"
base_m = [5, 0, -6]
size_m = [4, 3, 5]
yaw_deg = 20

# [[cylinder]]
# name = "hay-cart"
# labels = ["large"]           # looked past, kept out of, faded; also soft, see-through and walk-through
# base_m = [-4, 0, -5]
# radius_m = 1.4
# height_m = 2.2

[[target]]
name = "lantern"
at_m = [2, 1.8, -4]

# Where a condition of the design's framings holds while the character is in it.
# [[region]]
# flag = "indoors"
# base_m = [5, -0.1, -6]
# size_m = [4, 3, 5]
# leave_m = 0.3                # how far outside it ends

# A camera that stands.
# [[camera]]
# name = "corner"
# stand_m = [-7, 3, 7]
# look_m = [0, 1.3, 0]         # from what it looks at
# look_at = "character"
# fov_deg = 42

# A camera that holds several in one picture. Takes name it: 2.0 camera company 0.8
# [[group_shot]]
# name = "company"
# members = ["character", "lantern"]   # the first one is never lost
# nearest_m = 3                # from the camera to the middle
# farthest_m = 12              # beyond that the least important member is left out
# narrow_fov_deg = 50
# wide_fov_deg = 70            # where a wall leaves no room behind
# margin = 0.12                # share of the half picture that stays free at each edge
)";

int run(const std::string& output) {
  if (std::filesystem::exists(output)) throw io::InputError(output, "exists already and is never overwritten");
  switch (io::fileKindOf(output)) {
    case io::FileKind::design: io::writeWhole(output, io::writeDesign(CameraDesign())); break;
    case io::FileKind::controls: io::writeWhole(output, io::writeControls(standardBindings())); break;
    case io::FileKind::preferences: io::writeWhole(output, io::writePreferences(Preferences())); break;
    case io::FileKind::level: io::writeWhole(output, level); break;
    case io::FileKind::scene:
    case io::FileKind::limits:
    case io::FileKind::take:
    case io::FileKind::trace:
    case io::FileKind::unknown:
      throw io::InputError(output,
                           "the ending says what is written: .camera.toml, .controls.toml, .preferences.toml or "
                           ".level.toml");
  }
  fmt::print("wrote {}\n", output);
  return 0;
}

}  // namespace

void addNew(CommandLine& line) {
  const auto output = std::make_shared<std::string>();
  Command command = line.add(
      "new", "Write a complete design (or *.controls.toml, *.preferences.toml, *.level.toml) with its keys explained",
      "new warden.camera.toml", [output] { return run(*output); });
  command.option("output", *output, "file to create; an existing one is never overwritten").required();
}

}  // namespace alpglow::cli
