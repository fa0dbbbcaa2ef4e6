#pragma once
// The command line. Each command adds itself, with its options, from a file of its own:
//
//   void addTake(CommandLine& line) {
//     const auto path = std::make_shared<std::string>();
//     CLI::App& command = line.add("take", "Summarise a take", "take demo/round.take", [path] { return run(*path); });
//     command.add_option("take", *path, "take (*.take)")->required();
//   }

#include <CLI/CLI.hpp>

#include <functional>
#include <string>

namespace alpglow::cli {

class CommandLine {
 public:
  CommandLine();
  /// `run` is called if the command is chosen, after its options are read. It returns the exit code: 0 done, 1 a check
  /// found something. Bad input is thrown as io::InputError. `example` is a line without the program's name.
  CLI::App& add(const std::string& name, const std::string& help, const std::string& example, std::function<int()> run);
  /// Reads the arguments and runs the command that they name. Returns the exit code; 2 is bad usage.
  int run(int argc, const char* const* argv);

 private:
  const CLI::App* named(const std::string& name) const;
  std::string mistyped(int argc, const char* const* argv) const;

  CLI::App app_;
  std::function<int()> chosen_;
};

}  // namespace alpglow::cli
