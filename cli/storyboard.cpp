#include "commands.hpp"
#include "rehearsal_files.hpp"

#include "alpglow/io/input_error.hpp"
#include "alpglow/stage/storyboard.hpp"

#include <fmt/format.h>

#include <filesystem>

namespace alpglow::cli {

int runStoryboard(const RehearsalFiles& files, const std::string& output, const std::vector<double>& times,
                  bool outside) {
  std::vector<View> views;
  const auto keep = [&views](const stage::Rehearsal& run, const stage::Stage&, const ExplanationNames&) {
    views.push_back(run.view());
  };
  const Rehearsed rehearsed = rehearseFiles(files, outside ? ShownFrame(keep) : ShownFrame());
  const auto name = [](const std::string& path) { return std::filesystem::path(path).filename().string(); };
  const std::string title = fmt::format("{}  ·  {}  ·  {}", name(files.design), name(files.take), name(files.level));
  io::writeWhole(output, stage::storyboard(rehearsed.stage, rehearsed.trace,
                                           stage::storyboardTimes(rehearsed.trace, times), title, views));
  fmt::print("wrote {}\n", output);
  return 0;
}

}  // namespace alpglow::cli
