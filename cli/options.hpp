#pragma once
// Options that several commands share.

#include "command_line.hpp"
#include "rehearsal_files.hpp"

#include <string>

namespace alpglow::cli {

/// --aspect and --world.
void addAspectAndWorld(Command& command, double& aspect, stage::WorldKind& world);
/// What all commands that rehearse share, without design, level, take and frame rate; and with them.
void addRehearsal(Command& command, RehearsalFiles& files);
void addRehearsalFiles(Command& command, RehearsalFiles& files);
void addLimits(Command& command, std::string& limits);

}  // namespace alpglow::cli
