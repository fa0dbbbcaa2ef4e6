#include "command_line.hpp"
#include "commands.hpp"
#include "controls_report.hpp"
#include "design_report.hpp"
#include "level_report.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/limits_file.hpp"

#include <fmt/format.h>

#include <memory>

namespace alpglow::cli {

namespace {

struct CheckOptions {
  std::vector<std::string> files;
  bool reference = false;
};

std::string inWords(const io::Limits& limits) {
  std::string text = "Limits\n";
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    const io::LimitKey& key = io::limitKeys()[i];
    if (limits.values[i])
      text += fmt::format("  {:<22} at {} {:g}: {}\n", key.key, key.atLeast ? "least" : "most", *limits.values[i],
                          key.help);
  }
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    const io::LimitKey& key = io::limitKeys()[i];
    const io::Verdicts &set = limits.verdicts[i], &usual = key.verdicts;
    if (set.fine != usual.fine || set.bad != usual.bad)
      text += fmt::format("  {:<22} fine to {:g}, bad from {:g} on (else {:g}, {:g})\n", key.key, set.fine, set.bad,
                          usual.fine, usual.bad);
  }
  return text;
}

struct Report {
  std::string text;
  std::vector<std::string> warnings;
};

void add(Report& report, const std::string& text, const std::vector<std::string>& warnings = {}) {
  report.text += text;
  report.warnings.insert(report.warnings.end(), warnings.begin(), warnings.end());
}

int run(const CheckOptions& options) {
  if (options.files.empty() && !options.reference) throw UsageError("files is required");
  if (options.reference) fmt::print("{}\n{}", io::designReference(), io::controlsReference());
  Report report;
  CameraDesign design;  // what the preferences are explained with
  for (const std::string& file : options.files) {
    const io::FileKind kind = io::fileKindOf(file);
    if (kind != io::FileKind::design && kind != io::FileKind::unknown) continue;
    design = io::readDesign(file);
    add(report, explain(design), implausible(design));
  }
  for (const std::string& file : options.files) {
    switch (io::fileKindOf(file)) {
      case io::FileKind::controls: {
        const Bindings bindings = io::readControls(file);
        add(report, explain(bindings), implausible(bindings));
        break;
      }
      case io::FileKind::preferences: add(report, explain(io::readPreferences(file), design)); break;
      case io::FileKind::limits: add(report, inWords(io::readLimits(file))); break;
      case io::FileKind::level:
      case io::FileKind::scene: add(report, explain(io::readLevel(file))); break;
      case io::FileKind::take:
      case io::FileKind::trace: io::requireKind(file, io::FileKind::design); break;
      case io::FileKind::design:
      case io::FileKind::unknown: break;
    }
  }
  fmt::print("{}", report.text);
  for (const std::string& warning : report.warnings) fmt::print("warning: {}\n", warning);
  if (report.warnings.empty() && !options.files.empty()) fmt::print("Nothing looks implausible.\n");
  return report.warnings.empty() ? 0 : 1;
}

}  // namespace

void addCheck(CommandLine& line) {
  const auto options = std::make_shared<CheckOptions>();
  Command command = line.add(
      "check", "Validate designs, controls, preferences, levels and limits and explain them in numbers one can imagine",
      "check demo/trail.camera.toml demo/pad.controls.toml", [options] { return run(*options); });
  command.option("files", options->files,
                 "designs, *.controls.toml, *.preferences.toml, *.level.toml and *.limits.toml");
  command.flag("--reference", options->reference, "print all keys with unit, range, default and meaning");
}

}  // namespace alpglow::cli
