#include "command_line.hpp"
#include "commands.hpp"
#include "feel_report.hpp"
#include "options.hpp"
#include "rehearsal_files.hpp"

#include "alpglow/io/camera_motion.hpp"
#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <memory>

namespace alpglow::cli {

namespace {

struct RehearseRequest {
  RehearsalFiles files;
  std::string trace;   // where it goes; nowhere without a name
  std::string motion;  // likewise
  std::string limits;
  bool json = false;
};

int run(const RehearseRequest& request) {
  const RehearsalFiles& files = request.files;
  std::vector<std::string> inputs = inputsOf(files);
  inputs.push_back(request.limits);
  requireApart({request.trace, request.motion}, inputs);
  const io::Limits limits = limitsOf(request.limits);
  const io::Trace trace = rehearseFiles(files).trace;
  if (!request.trace.empty()) io::writeWhole(request.trace, io::writeTrace(trace));
  if (!request.motion.empty()) io::writeWhole(request.motion, io::cameraMotion(trace, files.design));
  feel::FeelMeter meter;
  meter.add(trace);
  const feel::Feel felt = meter.feel();
  if (request.json) {
    fmt::print("{}\n", asJson(felt, limits).dump(2));
    return holdTo(felt, limits, request.limits);
  }
  const stage::Summary s = stage::summarise(trace);
  const auto row = [](const char* what, const std::string& value) { fmt::print("  {:<22} {}\n", what, value); };
  fmt::print("{} with {} in {}\n", files.design, files.take, files.level);
  row("length", fmt::format("{:.2f} s, {} frames", s.length, s.frames));
  row("subject's path", fmt::format("{:.2f} m", s.subjectPath));
  row("camera's path", fmt::format("{:.2f} m", s.cameraPath));
  row("pitch", fmt::format("{:.1f}° … {:.1f}°", s.lowestPitch, s.highestPitch));
  row("distance", fmt::format("{:.2f} m … {:.2f} m", s.closest, s.farthest));
  row("least clearance", fmt::format("{:.3f} m", s.leastClearance));
  const auto share = [&row](const char* what, std::size_t frames, std::size_t of) {
    if (of > 0)
      row(what, fmt::format("{} ({:.1f} %)", frames, 100.0 * static_cast<double>(frames) / static_cast<double>(of)));
  };
  share("head at the crosshair", s.framesHeadInTheWay, s.framesOfThirdPerson);
  share("subject faded out", s.framesFaded, s.framesOfThirdPerson);
  fmt::print("what a player feels\n");
  printFeel(felt, limits);
  printPops(felt);
  if (!request.trace.empty()) fmt::print("wrote {}\n", request.trace);
  return holdTo(felt, limits, request.limits);
}

}  // namespace

void addRehearse(CommandLine& line) {
  const auto request = std::make_shared<RehearseRequest>();
  Command command =
      line.add("rehearse", "Run a design with a take in a level and say what a player feels",
               "rehearse demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take --trace out.csv",
               [request] { return run(*request); });
  addRehearsalFiles(command, request->files);
  command.option("--trace", request->trace, "CSV file to write, every frame of it");
  command.option("--motion", request->motion, "glTF file to write: the camera's motion, for a modelling program");
  addLimits(command, request->limits);
  command.flag("--json", request->json, "what is felt as one object");
}

}  // namespace alpglow::cli
