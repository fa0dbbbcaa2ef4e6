#include "command_line.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cstdio>
#include <utility>
#include <vector>

namespace alpglow::cli {

CommandLine::CommandLine()
    : app_("Designs first- and third-person character cameras, and rehearses them without a window.", "alpglow") {
  app_.set_version_flag("--version", ALPGLOW_VERSION);
  app_.require_subcommand(1);
  app_.footer("Exit codes: 0 done, 1 a check found something, 2 bad usage or input.");
}

CLI::App& CommandLine::add(const std::string& name, const std::string& help, const std::string& example,
                           std::function<int()> run) {
  CLI::App& command = *app_.add_subcommand(name, help);
  command.footer("Example: alpglow " + example);
  command.callback([this, run = std::move(run)] { chosen_ = run; });
  return command;
}

int CommandLine::run(int argc, const char* const* argv) {
  try {
    app_.parse(argc, argv);
    return chosen_();
  } catch (const CLI::Success& done) {
    return app_.exit(done);
  } catch (const CLI::ParseError& error) {
    const std::string slip = mistyped(argc, argv);
    const CLI::App* command = named(argc > 1 ? argv[1] : "");
    const std::string help = command == nullptr
                                 ? "see alpglow --help"
                                 : fmt::format("see alpglow {} --help. {}", command->get_name(), command->get_footer());
    fmt::print(stderr, "alpglow: {} ({})\n", io::plainText(slip.empty() ? error.what() : slip, 700), help);
    return 2;
  }
}

/// The command of this name, or none.
const CLI::App* CommandLine::named(const std::string& name) const {
  const auto found = app_.get_subcommands([&name](const CLI::App* each) { return each->get_name() == name; });
  return found.empty() ? nullptr : found.front();
}

/// The first command or option that there is not, with the nearest one that there is; empty if all are known.
std::string CommandLine::mistyped(int argc, const char* const* argv) const {
  const std::string first = argc > 1 ? argv[1] : "";
  const CLI::App* command = first.empty() || first[0] == '-' ? &app_ : named(first);
  if (command == nullptr) {
    std::vector<std::string> commands;
    for (const CLI::App* each : app_.get_subcommands([](const CLI::App*) { return true; }))
      commands.push_back(each->get_name());
    return fmt::format("{} is no command; the nearest known one is {}", first,
                       alpglow::io::nearestName(first, commands));
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
                         alpglow::io::nearestName(word.substr(0, word.find('=')), known));
  }
  return {};
}

}  // namespace alpglow::cli
