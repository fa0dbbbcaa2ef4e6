#include "command_line.hpp"
#include "commands.hpp"
#include "options.hpp"
#include "rehearsal_files.hpp"

#include "alpglow/feel/telling.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/stage/storyboard.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <memory>
#include <stdexcept>

namespace alpglow::cli {

namespace {

struct StoryboardRequest {
  RehearsalFiles files;
  std::string output;
  std::vector<double> times;
  bool outside = false;
  int width = 1616;  // pixels
};

constexpr std::size_t mostTelling = 4;

/// Those that are asked for, then what tells most, then what is between.
std::vector<double> timesOf(const io::Trace& trace, std::vector<double> times) {
  constexpr double apart = 0.4;
  const std::size_t most = std::min(times.size() + mostTelling, stage::fewestPictures);
  for (const double telling : feel::tellingMoments(trace, stage::fewestPictures, apart)) {
    const auto shown = [telling](double time) { return std::abs(time - telling) < apart; };
    if (times.size() < most && std::none_of(times.begin(), times.end(), shown)) times.push_back(telling);
  }
  return stage::storyboardTimes(trace, times);
}

int run(const StoryboardRequest& request) {
  stage::SheetOptions options;
  options.width = request.width;
  const std::string ending = std::filesystem::path(request.output).extension().string();
  if (ending != ".png" && ending != ".jpg" && ending != ".jpeg")
    throw std::runtime_error(fmt::format("{}: a sheet is a .png or a .jpg", request.output));
  requireApart({request.output}, inputsOf(request.files));
  requireWithin(request.times, request.files.take);
  options.format = ending == ".png" ? stage::SheetFormat::png : stage::SheetFormat::jpeg;
  const auto keep = [&options](const stage::Rehearsal& run, const stage::Stage&, const ExplanationNames&) {
    options.outside.push_back(run.view());
  };
  const Rehearsed rehearsed = rehearseFiles(request.files, request.outside ? ShownFrame(keep) : ShownFrame());
  const auto name = [](const std::string& path) { return std::filesystem::path(path).filename().string(); };
  const std::string title =
      fmt::format("{}  ·  {}  ·  {}", name(request.files.design), name(request.files.take), name(request.files.level));
  io::writeWhole(request.output, stage::storyboard(rehearsed.stage, rehearsed.trace,
                                                   timesOf(rehearsed.trace, request.times), title, options));
  sayIfFontsAreMissing();
  fmt::print("wrote {}\n", request.output);
  return 0;
}

}  // namespace

void addStoryboard(CommandLine& line) {
  const auto request = std::make_shared<StoryboardRequest>();
  Command command =
      line.add("storyboard", "Paint a sheet of pictures through the camera beside a plan",
               "storyboard demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take -o round.png",
               [request] { return run(*request); });
  addRehearsalFiles(command, request->files);
  command.option("-o,--output", request->output, "picture to write (*.png, *.jpg)").required();
  command.option("--at", request->times, "times in seconds, such as 0.5,2,3.5; filled up to six with what tells most")
      .commas()
      .between(0, 1e6);
  command.flag("--outside", request->outside, "show the camera from outside, with what limits it");
  command.option("--width", request->width, "pixels").between(400, 8192).showDefault();
}

}  // namespace alpglow::cli
