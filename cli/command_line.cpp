#include "command_line.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <CLI/CLI.hpp>

#include <algorithm>
#include <cctype>
#include <cstdio>
#include <cstdlib>
#include <utility>
#include <vector>

namespace alpglow::cli {

Option& Option::required() { return option_.required(), *this; }

Option& Option::between(double low, double high) {
  const auto problem = [low, high](const std::string& text) {
    char* end = nullptr;
    const double value = std::strtod(text.c_str(), &end);
    const bool in = end != text.c_str() && *end == '\0' && value >= low && value <= high;
    return in ? std::string() : fmt::format("{} is not in {:g} to {:g}", text, low, high);
  };
  option_.check(CLI::Validator(problem, fmt::format("FLOAT in [{:g} - {:g}]", low, high)));
  return *this;
}

Option& Option::showDefault() { return option_.capture_default_str(), *this; }

Option& Option::commas() { return option_.delimiter(','), *this; }

Option& Option::filesUpTo(int most) { return option_.expected(0, most)->type_name("FILE"), *this; }

Option& Option::excludes(Option& other) { return option_.excludes(&other.option_), *this; }

Option Command::option(const std::string& names, std::string& variable, const std::string& help) {
  return Option(*app_.add_option(names, variable, help));
}
Option Command::option(const std::string& names, double& variable, const std::string& help) {
  return Option(*app_.add_option(names, variable, help));
}
Option Command::option(const std::string& names, int& variable, const std::string& help) {
  return Option(*app_.add_option(names, variable, help));
}
Option Command::option(const std::string& names, std::vector<std::string>& variable, const std::string& help) {
  return Option(*app_.add_option(names, variable, help));
}
Option Command::option(const std::string& names, std::vector<double>& variable, const std::string& help) {
  return Option(*app_.add_option(names, variable, help));
}
void Command::flag(const std::string& names, bool& variable, const std::string& help) {
  app_.add_flag(names, variable, help);
}

void Command::choiceOf(const std::string& name, const std::vector<std::string>& words,
                       const std::function<void(const std::string&)>& choose, const std::string& help) {
  const auto chosen = [name, words, choose](const std::string& word) {
    if (std::find(words.begin(), words.end(), word) == words.end()) {
      throw CLI::ValidationError(name, fmt::format("{} is none of {}; the nearest one is {}", word,
                                                   fmt::join(words, ", "), io::nearestName(word, words)));
    }
    choose(word);
  };
  app_.add_option_function<std::string>(name, chosen, fmt::format("{}: {}", help, fmt::join(words, ", ")));
}

CommandLine::CommandLine()
    : app_(std::make_unique<CLI::App>(
          "Designs first- and third-person character cameras, and rehearses them without a window.", "alpglow")) {
  app_->set_version_flag("--version", ALPGLOW_VERSION);
  app_->require_subcommand(1);
  app_->footer("Exit codes: 0 done, 1 a check found something, 2 bad usage or input.");
}

CommandLine::~CommandLine() = default;

Command CommandLine::add(const std::string& name, const std::string& help, const std::string& example,
                         std::function<int()> run) {
  CLI::App& command = *app_->add_subcommand(name, help);
  command.footer("Example: alpglow " + example);
  command.callback([this, run = std::move(run)] { chosen_ = run; });
  return Command(command);
}

int CommandLine::run(int argc, const char* const* argv) {
  try {
    app_->parse(argc, argv);
    return chosen_();
  } catch (const CLI::Success& done) {
    return app_->exit(done);
  } catch (const CLI::ParseError& error) {
    return badUsage(argc, argv, error.what());
  } catch (const UsageError& error) {
    return badUsage(argc, argv, error.what());
  }
}

/// Prints what is wrong and where help is. Returns the exit code.
int CommandLine::badUsage(int argc, const char* const* argv, const std::string& problem) const {
  const std::string slip = mistyped(argc, argv);
  const CLI::App* command = named(argc > 1 ? argv[1] : "");
  const std::string help = command == nullptr
                               ? "see alpglow --help"
                               : fmt::format("see alpglow {} --help. {}", command->get_name(), command->get_footer());
  fmt::print(stderr, "alpglow: {} ({})\n", io::plainText(slip.empty() ? problem : slip, 700), help);
  return 2;
}

/// The command of this name, or none.
const CLI::App* CommandLine::named(const std::string& name) const {
  const auto found = app_->get_subcommands([&name](const CLI::App* each) { return each->get_name() == name; });
  return found.empty() ? nullptr : found.front();
}

/// The first command or option that there is not, with the nearest one that there is; empty if all are known.
std::string CommandLine::mistyped(int argc, const char* const* argv) const {
  const std::string first = argc > 1 ? argv[1] : "";
  const CLI::App* command = first.empty() || first[0] == '-' ? app_.get() : named(first);
  if (command == nullptr) {
    std::vector<std::string> commands;
    for (const CLI::App* each : app_->get_subcommands([](const CLI::App*) { return true; }))
      commands.push_back(each->get_name());
    return fmt::format("{} is no command; the nearest known one is {}", first, io::nearestName(first, commands));
  }
  std::vector<std::string> known;
  for (const CLI::Option* option : command->get_options()) {
    for (const std::string& name : option->get_lnames()) known.push_back("--" + name);
    for (const std::string& name : option->get_snames()) known.push_back("-" + name);
  }
  for (int i = 1; i < argc; ++i) {
    const std::string word = argv[i];
    if (word == "--") break;
    const std::string name = word.substr(0, word.compare(0, 2, "--") == 0 ? word.find('=') : 2);
    const bool option = name.size() > 1 && name[0] == '-' && std::isdigit(static_cast<unsigned char>(name[1])) == 0;
    if (option && std::find(known.begin(), known.end(), name) == known.end())
      return fmt::format("{} is no option of {}; the nearest known one is {}", name, command->get_name(),
                         io::nearestName(word.substr(0, word.find('=')), known));
  }
  return {};
}

}  // namespace alpglow::cli
