#pragma once
// A rehearsal from files, with a progress line when it takes long.

#include "alpglow/stage/rehearsal.hpp"
#include "alpglow/view/explanation.hpp"

#include <functional>
#include <string>
#include <vector>

namespace alpglow::cli {

struct RehearsalFiles {
  std::string design, level, take;
  double framesPerSecond = 60, ticksPerSecond = 60;
  std::string frames;
  double aspect = 16.0 / 9.0;
  std::string controls, preferences;
  stage::WorldKind world = stage::WorldKind::bullet;
};

/// Everything but design, level and take.
stage::RehearsalOptions rehearsalOptions(const RehearsalFiles& files);

struct Rehearsed {
  stage::Stage stage;
  io::Trace trace;
};

/// Shown each frame, with what level and design call things.
using ShownFrame = std::function<void(const stage::Rehearsal&, const stage::Stage&, const ExplanationNames&)>;

/// Also says, in lines of its own, what the take asks for in vain.
Rehearsed rehearseFiles(const RehearsalFiles& files, const ShownFrame& shown = {});

/// What a take asks for that its design or its controls cannot give: a line each.
std::vector<std::string> notesOn(const io::Take& take, const CompiledDesign& design, const Bindings& bindings,
                                 const io::Trace& trace);

/// Throws InputError if a file to be written is one that is read, under whatever name, or is written twice.
void requireApart(const std::vector<std::string>& outputs, const std::vector<std::string>& inputs);
std::vector<std::string> inputsOf(const RehearsalFiles& files);

/// Says in a line of its own that pictures lack signs, where there are no fonts.
void sayIfFontsAreMissing();

/// Throws InputError for a time that is after the take's end.
void requireWithin(const std::vector<double>& times, const std::string& take);

}  // namespace alpglow::cli
