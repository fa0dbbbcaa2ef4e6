#pragma once
// The command line. Each command adds itself, with its options, from a file of its own:
//
//   void addTake(CommandLine& line) {
//     const auto path = std::make_shared<std::string>();
//     Command command = line.add("take", "Summarise a take", "take demo/round.take", [path] { return run(*path); });
//     command.option("take", *path, "take (*.take)").required();
//   }
//
// CLI11 reads the arguments. Only command_line.cpp includes it: its headers take seconds to compile.

#include <functional>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <vector>

namespace CLI {
class App;
class Option;
}  // namespace CLI

namespace alpglow::cli {

/// Arguments that do not fit together. `CommandLine::run` prints it with the command's help and example.
struct UsageError : std::runtime_error {
  using std::runtime_error::runtime_error;
};

class Option {
 public:
  explicit Option(CLI::Option& option) : option_(option) {}
  Option& required();
  /// Refuses numbers outside `low` to `high`, and what is not a number.
  Option& between(double low, double high);
  Option& showDefault();
  /// Values stand in one argument, with commas between them.
  Option& commas();
  /// Takes this many files at most, or none.
  Option& filesUpTo(int most);
  Option& excludes(Option& other);

 private:
  CLI::Option& option_;
};

class Command {
 public:
  explicit Command(CLI::App& app) : app_(app) {}

  /// `names` is a name for an argument without dashes, `--long` or `-s,--long` for an option. The variable keeps its
  /// value unless the option is given. It has to live until the command has run.
  Option option(const std::string& names, std::string& variable, const std::string& help);
  Option option(const std::string& names, double& variable, const std::string& help);
  Option option(const std::string& names, int& variable, const std::string& help);
  Option option(const std::string& names, std::vector<std::string>& variable, const std::string& help);
  Option option(const std::string& names, std::vector<double>& variable, const std::string& help);
  void flag(const std::string& names, bool& variable, const std::string& help);

  /// One of some words, each of which stands for a value.
  template <class Value>
  void choice(const std::string& name, Value& variable, const std::map<std::string, Value>& choices,
              const std::string& help) {
    std::vector<std::string> words;
    for (const auto& each : choices) words.push_back(each.first);
    choiceOf(
        name, words, [&variable, choices](const std::string& word) { variable = choices.at(word); }, help);
  }

 private:
  void choiceOf(const std::string& name, const std::vector<std::string>& words,
                const std::function<void(const std::string&)>& choose, const std::string& help);
  CLI::App& app_;
};

class CommandLine {
 public:
  CommandLine();
  ~CommandLine();
  /// `run` is called if the command is chosen, after its options are read. It returns the exit code: 0 done, 1 a check
  /// found something. Bad input is thrown as io::InputError. `example` is a line without the program's name.
  Command add(const std::string& name, const std::string& help, const std::string& example, std::function<int()> run);
  /// Reads the arguments and runs the command that they name. Returns the exit code; 2 is bad usage.
  int run(int argc, const char* const* argv);

 private:
  const CLI::App* named(const std::string& name) const;
  std::string mistyped(int argc, const char* const* argv) const;
  int badUsage(int argc, const char* const* argv, const std::string& problem) const;

  std::unique_ptr<CLI::App> app_;
  std::function<int()> chosen_;
};

}  // namespace alpglow::cli
