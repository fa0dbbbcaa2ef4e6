#pragma once
// Options that several commands share.

#include "rehearsal_files.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <CLI/CLI.hpp>

#include <map>
#include <string>
#include <vector>

namespace alpglow::cli {

/// Lets through numbers from `low` to `high`, and nothing that is not a number, as `CLI::Range` does.
CLI::Validator between(double low, double high);

/// One of some words, each of which stands for a value.
template <class Value>
void addChoice(CLI::App& command, const std::string& option, Value& value, const std::map<std::string, Value>& choices,
               const std::string& help) {
  std::vector<std::string> words;
  words.reserve(choices.size());
  for (const auto& choice : choices) words.push_back(choice.first);
  const auto choose = [option, &value, choices, words](const std::string& word) {
    const auto found = choices.find(word);
    if (found == choices.end()) {
      throw CLI::ValidationError(option, fmt::format("{} is none of {}; the nearest one is {}", word,
                                                     fmt::join(words, ", "), io::nearestName(word, words)));
    }
    value = found->second;
  };
  command.add_option_function<std::string>(option, choose, fmt::format("{}: {}", help, fmt::join(words, ", ")));
}

/// --aspect and --world.
void addAspectAndWorld(CLI::App& command, double& aspect, stage::WorldKind& world);
/// What all commands that rehearse share, without design, level, take and frame rate; and with them.
void addRehearsal(CLI::App& command, RehearsalFiles& files);
void addRehearsalFiles(CLI::App& command, RehearsalFiles& files);
void addLimits(CLI::App& command, std::string& limits);

}  // namespace alpglow::cli
