#pragma once
// A rehearsal from files, with a progress line when it takes long.

#include "commands.hpp"

#include "alpglow/stage/rehearsal.hpp"
#include "alpglow/view/explanation.hpp"

#include <functional>

namespace alpglow::cli {

/// Everything but design, level and take.
stage::RehearsalOptions rehearsalOptions(const RehearsalFiles& files);

struct Rehearsed {
  stage::Stage stage;
  io::Trace trace;
};

/// Shown each frame, with what level and design call things.
using ShownFrame = std::function<void(const stage::Rehearsal&, const stage::Stage&, const ExplanationNames&)>;

Rehearsed rehearseFiles(const RehearsalFiles& files, const ShownFrame& shown = {});

}  // namespace alpglow::cli
