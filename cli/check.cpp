#include "commands.hpp"
#include "controls_report.hpp"
#include "design_report.hpp"
#include "level_report.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/limits_file.hpp"

#include <fmt/format.h>

namespace alpglow::cli {

namespace {

bool endsWith(const std::string& path, std::string_view ending) {
  return path.size() >= ending.size() && path.compare(path.size() - ending.size(), ending.size(), ending) == 0;
}

bool isLevel(const std::string& path) {
  return endsWith(path, ".level.toml") || endsWith(path, ".gltf") || endsWith(path, ".glb");
}

bool isDesign(const std::string& path) {
  return !isLevel(path) && !endsWith(path, ".controls.toml") && !endsWith(path, ".preferences.toml") &&
         !endsWith(path, ".limits.toml");
}

std::string explain(const io::Limits& limits) {
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

}  // namespace

int runCheck(const CheckOptions& options) {
  if (options.reference) fmt::print("{}\n{}", io::designReference(), io::controlsReference());
  Report report;
  CameraDesign design;  // what the preferences are explained with
  for (const std::string& file : options.files) {
    if (endsWith(file, ".take")) throw io::InputError(file, "is a take; alpglow take says what is in it");
    if (endsWith(file, ".csv")) throw io::InputError(file, "is a trace; alpglow feel measures it");
    if (!isDesign(file)) continue;
    design = io::readDesign(file);
    add(report, explain(design), implausible(design));
  }
  for (const std::string& file : options.files) {
    if (endsWith(file, ".controls.toml")) {
      const Bindings bindings = io::readControls(file);
      add(report, explain(bindings), implausible(bindings));
    } else if (endsWith(file, ".preferences.toml")) {
      add(report, explain(io::readPreferences(file), design));
    } else if (endsWith(file, ".limits.toml")) {
      add(report, explain(io::readLimits(file)));
    } else if (isLevel(file)) {
      add(report, explain(io::readLevel(file)));
    }
  }
  fmt::print("{}", report.text);
  for (const std::string& warning : report.warnings) fmt::print("warning: {}\n", warning);
  if (report.warnings.empty() && !options.files.empty()) fmt::print("Nothing looks implausible.\n");
  return report.warnings.empty() ? 0 : 1;
}

}  // namespace alpglow::cli
