#pragma once
// The commands. A new one: a file with its options and what it does, and its line here and in main.cpp.

namespace alpglow::cli {

class CommandLine;

void addNew(CommandLine& line);
void addCheck(CommandLine& line);
void addRehearse(CommandLine& line);
void addStoryboard(CommandLine& line);
void addExplain(CommandLine& line);
void addFeel(CommandLine& line);
void addPlot(CommandLine& line);
void addCompare(CommandLine& line);
void addAudit(CommandLine& line);
void addTake(CommandLine& line);
void addPlay(CommandLine& line);
void addListen(CommandLine& line);

}  // namespace alpglow::cli
