#pragma once
// A rehearsal from files, with a progress line when it takes long.

#include "commands.hpp"

#include "alpglow/stage/rehearsal.hpp"

namespace alpglow::cli {

struct Rehearsed {
  stage::Stage stage;
  io::Trace trace;
};

Rehearsed rehearseFiles(const RehearsalFiles& files);

}  // namespace alpglow::cli
