#include "rehearsal_files.hpp"

#include "progress.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"

#include <fmt/format.h>

namespace alpglow::cli {

namespace {

std::string nameOfFraming(const CompiledDesign& design, int index) {
  const auto& framings = design.design().framings;
  return index >= 0 && static_cast<std::size_t>(index) < framings.size()
             ? framings[static_cast<std::size_t>(index)].name
             : std::string();
}

}  // namespace

stage::RehearsalOptions rehearsalOptions(const RehearsalFiles& files) {
  stage::RehearsalOptions options;
  if (!files.controls.empty()) options.controls = io::readControls(files.controls);
  if (!files.preferences.empty()) options.preferences = io::readPreferences(files.preferences);
  options.framesPerSecond = files.framesPerSecond;
  if (!files.frames.empty()) options.frameTimes = io::readFrameTimes(files.frames);
  options.aspect = files.aspect;
  return options;
}

Rehearsed rehearseFiles(const RehearsalFiles& files, const ShownFrame& shown) {
  stage::RehearsalOptions options = rehearsalOptions(files);
  const CompiledDesign design(io::readDesign(files.design), options.preferences);
  const io::Take take = io::readTake(files.take);
  Rehearsed result{stage::Stage(io::readLevel(files.level), files.world), {}};
  result.stage.setTicksPerSecond(files.ticksPerSecond);
  Progress progress;
  options.progress = [&](double reached) {
    progress.say([&] { return fmt::format("rehearsing: {:.1f} of {:.1f} s", reached, take.length); });
  };
  const ExplanationNames names{[&result](ObstacleId id) { return result.stage.nameOf(id); },
                               [&design](int index) { return nameOfFraming(design, index); }};
  if (shown) options.shown = [&](const stage::Rehearsal& run) { shown(run, result.stage, names); };
  result.trace = stage::rehearse(design, result.stage, take, options);
  return result;
}

}  // namespace alpglow::cli
