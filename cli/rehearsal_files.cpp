#include "rehearsal_files.hpp"

#include "progress.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/picture.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

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
  io::checkNames(take, files.take, result.stage.level(), options.controls);
  result.stage.setTicksPerSecond(files.ticksPerSecond);
  Progress progress;
  options.progress = [&](double reached) {
    progress.say([&] { return fmt::format("rehearsing: {:.1f} of {:.1f} s", reached, take.length); },
                 reached / take.length);
  };
  const ExplanationNames names{[&result](ObstacleId id) { return result.stage.nameOf(id); },
                               [&design](int index) { return nameOfFraming(design, index); }};
  if (shown) options.shown = [&](const stage::Rehearsal& run) { shown(run, result.stage, names); };
  result.trace = stage::rehearse(design, result.stage, take, options);
  progress.done();
  constexpr std::size_t mostNotes = 10;
  const std::vector<std::string> notes = notesOn(take, design, options.controls, result.trace);
  for (std::size_t i = 0; i < std::min(notes.size(), mostNotes); ++i)
    fmt::print(stderr, "{}: note: {}\n", io::plainText(files.take), notes[i]);
  if (notes.size() > mostNotes)
    fmt::print(stderr, "{}: and {} more such notes\n", io::plainText(files.take), notes.size() - mostNotes);
  return result;
}

void requireApart(const std::vector<std::string>& outputs, const std::vector<std::string>& inputs) {
  namespace fs = std::filesystem;
  const auto same = [](const std::string& a, const std::string& b) {
    std::error_code none;
    const auto place = [&none](const std::string& path) {
      return fs::weakly_canonical(fs::absolute(path, none), none);
    };
    if (fs::exists(a, none) && !fs::is_regular_file(a, none)) return false;  // a device or a pipe takes what it gets
    return fs::equivalent(a, b, none) || place(a) == place(b);
  };
  for (std::size_t i = 0; i < outputs.size(); ++i) {
    if (outputs[i].empty()) continue;
    for (const std::string& input : inputs) {
      if (!input.empty() && same(outputs[i], input))
        throw io::InputError(outputs[i], "is read, and must not be written at the same time");
    }
    for (std::size_t j = 0; j < i; ++j) {
      if (!outputs[j].empty() && same(outputs[i], outputs[j]))
        throw io::InputError(outputs[i], "would be written twice");
    }
  }
}

void sayIfFontsAreMissing() {
  if (stage::fontsMissing())
    fmt::print(stderr, "note: there are no fonts here (on Debian: fonts-dejavu-core); signs such as ° are missing\n");
}

void requireWithin(const std::vector<double>& times, const std::string& take) {
  if (times.empty()) return;
  const double length = io::readTake(take).length;
  for (const double time : times) {
    if (time > length)
      throw io::InputError(take, fmt::format("ends at {:g} s, so there is nothing to show --at {:g}", length, time));
  }
}

std::vector<std::string> inputsOf(const RehearsalFiles& files) {
  return {files.design, files.level, files.take, files.frames, files.controls, files.preferences};
}

}  // namespace alpglow::cli
