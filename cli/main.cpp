#include "commands.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>
#include <CLI/CLI.hpp>

#include <cstdio>
#include <exception>
#include <functional>

namespace {

using namespace alpglow::cli;

void addRehearsalFiles(CLI::App& command, RehearsalFiles& files) {
  command.add_option("design", files.design, "camera design (*.camera.toml)")->required();
  command.add_option("--level", files.level, "level (*.level.toml, *.gltf, *.glb)")->required();
  command.add_option("--take", files.take, "take (*.take)")->required();
  command.add_option("--aspect", files.aspect, "width over height of the picture")
      ->check(CLI::Range(0.05, 20.0))
      ->capture_default_str();
  auto* fps = command.add_option("--fps", files.framesPerSecond, "frames a second")
                  ->check(CLI::Range(1.0, 10000.0))
                  ->capture_default_str();
  command.add_option("--frames", files.frames, "file of frame times in seconds, one a line")->excludes(fps);
}

int run(int argc, char** argv) {
  CLI::App app("Designs first- and third-person character cameras, and rehearses them without a window.", "alpglow");
  app.set_version_flag("--version", ALPGLOW_VERSION);
  app.require_subcommand(1);
  app.footer("Exit codes: 0 done, 1 a check found something, 2 bad usage or input.");
  std::function<int()> chosen;

  std::string created;
  CLI::App* create = app.add_subcommand("new", "Write a complete design with every key explained");
  create->add_option("output", created, "file to create; an existing one is never overwritten")->required();
  create->footer("Example: alpglow new warden.camera.toml");
  create->callback([&] { chosen = [&] { return runNew(created); }; });

  CheckOptions checked;
  CLI::App* check = app.add_subcommand("check", "Validate a design and explain it in numbers one can picture");
  auto* design = check->add_option("design", checked.design, "camera design (*.camera.toml)");
  check->add_flag("--reference", checked.reference, "print all keys with unit, range, default and meaning");
  check->footer("Example: alpglow check demo/trail.camera.toml");
  check->callback([&, design] {
    if (design->empty() && !checked.reference) throw CLI::RequiredError("design");
    chosen = [&] { return runCheck(checked); };
  });

  RehearsalFiles files;
  std::string trace;
  CLI::App* rehearse = app.add_subcommand("rehearse", "Run a design with a take in a level and trace every frame");
  addRehearsalFiles(*rehearse, files);
  rehearse->add_option("--trace", trace, "CSV file to write")->required();
  rehearse->footer(
      "Example: alpglow rehearse demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take --trace "
      "out.csv");
  rehearse->callback([&] { chosen = [&] { return runRehearse(files, trace); }; });

  std::string sheet;
  std::vector<double> times;
  CLI::App* board = app.add_subcommand("storyboard", "Paint a sheet of pictures through the camera beside a plan");
  addRehearsalFiles(*board, files);
  board->add_option("-o,--output", sheet, "PNG file to write")->required();
  board->add_option("--at", times, "times in seconds, such as 0.5,2,3.5; filled up to six")
      ->delimiter(',')
      ->check(CLI::NonNegativeNumber);
  board->footer(
      "Example: alpglow storyboard demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take -o "
      "round.png");
  board->callback([&] { chosen = [&] { return runStoryboard(files, sheet, times); }; });

  try {
    app.parse(argc, argv);
  } catch (const CLI::Success& done) {
    return app.exit(done);
  } catch (const CLI::ParseError& error) {
    fmt::print(stderr, "alpglow: {} (see alpglow --help)\n", error.what());
    return 2;
  }
  return chosen();
}

}  // namespace

int main(int argc, char** argv) {
  try {
    return run(argc, argv);
  } catch (const alpglow::io::InputError& error) {
    fmt::print(stderr, "{}\n", error.what());
  } catch (const std::exception& error) {
    fmt::print(stderr, "alpglow: {}\n", error.what());
  }
  return 2;
}
