#include "commands.hpp"

#include "alpglow/io/input_error.hpp"
#include "alpglow/play/play.hpp"

#include <fmt/format.h>
#include <CLI/CLI.hpp>

#include <algorithm>
#include <cctype>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <exception>
#include <functional>
#include <map>

namespace {

using namespace alpglow::cli;

/// As `CLI::Range`, which lets through what is no number.
CLI::Validator between(double low, double high) {
  return {[low, high](const std::string& text) {
            char* end = nullptr;
            const double value = std::strtod(text.c_str(), &end);
            const bool in = end != text.c_str() && *end == '\0' && value >= low && value <= high;
            return in ? std::string() : fmt::format("{} is not in {:g} to {:g}", text, low, high);
          },
          fmt::format("FLOAT in [{:g} - {:g}]", low, high)};
}

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
                                                     fmt::join(words, ", "), alpglow::io::nearestName(word, words)));
    }
    value = found->second;
  };
  command.add_option_function<std::string>(option, choose, fmt::format("{}: {}", help, fmt::join(words, ", ")));
}

void addAspectAndWorld(CLI::App& command, double& aspect, alpglow::stage::WorldKind& world) {
  command.add_option("--aspect", aspect, "width over height of the screen")
      ->check(between(0.05, 20))
      ->capture_default_str();
  using alpglow::stage::WorldKind;
  addChoice<WorldKind>(
      command, "--world", world,
      {{"bullet", WorldKind::bullet}, {"embree", WorldKind::embree}, {"triangles", WorldKind::triangles}},
      "who answers the camera's questions");
}

/// What all commands that rehearse share.
void addRehearsal(CLI::App& command, RehearsalFiles& files) {
  command.add_option("--controls", files.controls,
                     "what the take's controls mean (*.controls.toml); else the standard ones");
  command.add_option("--preferences", files.preferences, "the player's preferences (*.preferences.toml)");
  command.add_option("--ticks", files.ticksPerSecond, "how often a second the character walks on")
      ->check(between(10, 1000))
      ->capture_default_str();
  addAspectAndWorld(command, files.aspect, files.world);
}

void addRehearsalFiles(CLI::App& command, RehearsalFiles& files) {
  command.add_option("design", files.design, "camera design (*.camera.toml)")->required();
  command.add_option("--level", files.level, "level (*.level.toml, *.gltf, *.glb)")->required();
  command.add_option("--take", files.take, "take (*.take)")->required();
  auto* fps = command.add_option("--fps", files.framesPerSecond, "frames a second")
                  ->check(between(1, 10000))
                  ->capture_default_str();
  command.add_option("--frames", files.frames, "file of frame times in seconds, one a line")->excludes(fps);
  addRehearsal(command, files);
}

void addLimits(CLI::App& command, std::string& limits) {
  command.add_option("--limits", limits,
                     "what may be felt (*.limits.toml): exit code 1 and a line for each limit that is broken");
}

/// The first command or option that there is not, with the nearest one that there is; empty if all are known.
std::string mistyped(CLI::App& app, int argc, char** argv) {
  const std::string first = argc > 1 ? argv[1] : "";
  const CLI::App* command = first.empty() || first[0] == '-' ? &app : nullptr;
  std::vector<std::string> commands;
  for (const CLI::App* each : app.get_subcommands([](const CLI::App*) { return true; })) {
    commands.push_back(each->get_name());
    if (each->get_name() == first) command = each;
  }
  if (command == nullptr) {
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

int run(int argc, char** argv) {
  CLI::App app("Designs first- and third-person character cameras, and rehearses them without a window.", "alpglow");
  app.set_version_flag("--version", ALPGLOW_VERSION);
  app.require_subcommand(1);
  app.footer("Exit codes: 0 done, 1 a check found something, 2 bad usage or input.");
  std::function<int()> chosen;

  std::string created;
  CLI::App* create = app.add_subcommand(
      "new", "Write a complete design (or *.controls.toml, *.preferences.toml, *.level.toml) with its keys explained");
  create->add_option("output", created, "file to create; an existing one is never overwritten")->required();
  create->footer("Example: alpglow new warden.camera.toml");
  create->callback([&] { chosen = [&] { return runNew(created); }; });

  CheckOptions checked;
  CLI::App* check = app.add_subcommand(
      "check",
      "Validate designs, controls, preferences, levels and limits and explain them in numbers one can imagine");
  auto* checkedFiles = check->add_option(
      "files", checked.files, "designs, *.controls.toml, *.preferences.toml, *.level.toml and *.limits.toml");
  check->add_flag("--reference", checked.reference, "print all keys with unit, range, default and meaning");
  check->footer("Example: alpglow check demo/trail.camera.toml demo/pad.controls.toml");
  check->callback([&, checkedFiles] {
    if (checkedFiles->empty() && !checked.reference) throw CLI::RequiredError("files");
    chosen = [&] { return runCheck(checked); };
  });

  RehearsalFiles files;
  RehearseRequest rehearsed;
  CLI::App* rehearse =
      app.add_subcommand("rehearse", "Run a design with a take in a level and say what a player feels");
  addRehearsalFiles(*rehearse, rehearsed.files);
  rehearse->add_option("--trace", rehearsed.trace, "CSV file to write, every frame of it");
  rehearse->add_option("--motion", rehearsed.motion,
                       "glTF file to write: the camera's motion, for a modelling program");
  addLimits(*rehearse, rehearsed.limits);
  rehearse->add_flag("--json", rehearsed.json, "what is felt as one object");
  rehearse->footer(
      "Example: alpglow rehearse demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take --trace "
      "out.csv");
  rehearse->callback([&] { chosen = [&] { return runRehearse(rehearsed); }; });

  StoryboardRequest sheet;
  CLI::App* board = app.add_subcommand("storyboard", "Paint a sheet of pictures through the camera beside a plan");
  addRehearsalFiles(*board, sheet.files);
  board->add_option("-o,--output", sheet.output, "picture to write (*.png, *.jpg)")->required();
  board->add_option("--at", sheet.times, "times in seconds, such as 0.5,2,3.5; filled up to six with what tells most")
      ->delimiter(',')
      ->check(between(0, 1e6));
  board->add_flag("--outside", sheet.outside, "show the camera from outside, with what limits it");
  board->add_option("--width", sheet.width, "pixels")->check(between(400, 8192))->capture_default_str();
  board->footer(
      "Example: alpglow storyboard demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take -o "
      "round.png");
  board->callback([&] { chosen = [&] { return runStoryboard(sheet); }; });

  std::vector<double> asked;
  bool asJson = false;
  CLI::App* explain = app.add_subcommand("explain", "Say why the camera is where it is, and what hides its subject");
  addRehearsalFiles(*explain, files);
  explain->add_option("--at", asked, "times in seconds, such as 0.5,2,3.5; otherwise each time that the reason changes")
      ->delimiter(',')
      ->check(between(0, 1e6));
  explain->add_flag("--json", asJson, "one object a line");
  explain->footer(
      "Example: alpglow explain demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take --at "
      "6,12");
  explain->callback([&] { chosen = [&] { return runExplain(files, asked, asJson); }; });

  FeelRequest felt;
  CLI::App* feel =
      app.add_subcommand("feel", "Measure what a player notices of obstacles in traces: pops, pumps, distance");
  feel->add_option("traces", felt.traces, "traces (*.csv); several add up")->required();
  feel->add_flag("--pops", felt.pops, "list every loss of more than 0.25 m within 1/60 s");
  feel->add_flag("--bound", felt.bound,
                 "a last line: what a camera that knows the future, and comes in at 4 m/s, would have made of all");
  feel->add_flag("--all", felt.details, "every number of all traces together, with a verdict");
  feel->add_flag("--json", felt.json, "every number as one object");
  addLimits(*feel, felt.limits);
  feel->footer("Example: alpglow feel out.csv --pops");
  feel->callback([&] { chosen = [&] { return runFeel(felt); }; });

  PlotRequest plotted;
  CLI::App* plot = app.add_subcommand("plot", "Draw traces over time, laid over each other");
  plot->add_option("traces", plotted.traces, "traces (*.csv)")->required();
  plot->add_option("-o,--output", plotted.output, "picture to write (*.png, *.svg)")->required();
  plot->add_option("--from", plotted.from, "seconds at which it begins")->check(between(0, 1e6));
  plot->add_option("--to", plotted.to, "seconds at which it ends")->check(between(0, 1e6));
  plot->add_option("--width", plotted.width, "pixels")->check(between(320, 8192))->capture_default_str();
  plot->add_option("--height", plotted.height, "pixels")->check(between(240, 8192))->capture_default_str();
  plot->footer("Example: alpglow plot before.csv after.csv -o both.png");
  plot->callback([&] { chosen = [&] { return runPlot(plotted); }; });

  CompareRequest compared;
  CLI::App* compare = app.add_subcommand("compare", "Lay what is felt of designs, traces or frame rates side by side");
  compare->add_option("compared", compared.compared, "designs (*.camera.toml) and traces (*.csv)")->required();
  compare->add_option("--level", compared.files.level, "level in which designs are rehearsed");
  compare->add_option("--take", compared.files.take, "take with which they are");
  compare->add_option("--fps", compared.rates, "frame rates, such as 30,60,240")
      ->delimiter(',')
      ->check(between(1, 10000));
  compare->add_option("--vary", compared.vary,
                      "a number of one design, such as follow_half_life_s=0:0.25:6: from, to, how many");
  compare->add_option("-o,--output", compared.output,
                      "picture to write (*.png, *.svg): laid over each other, or against what is varied");
  compare->add_flag("--json", compared.json, "everything as one array");
  addLimits(*compare, compared.limits);
  addRehearsal(*compare, compared.files);
  compare->footer(
      "Example: alpglow compare demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take --vary "
      "follow_half_life_s=0:0.25:6 -o lag.png");
  compare->callback([&] { chosen = [&] { return runCompare(compared); }; });

  AuditRequest audited;
  CLI::App* audit =
      app.add_subcommand("audit", "Stand everywhere in a level, look around, and paint what a camera finds");
  audit->add_option("design", audited.design, "camera design (*.camera.toml)")->required();
  audit->add_option("--level", audited.level, "level (*.level.toml, *.gltf, *.glb)")->required();
  audit->add_option("-o,--output", audited.output, "PNG file to write: four heat maps on the plan");
  audit->add_option("--takes", audited.takes, "folder for a take of each of the ten worst places");
  audit->add_option("--step", audited.step, "metres between places")->check(between(0.2, 5.0))->capture_default_str();
  audit->add_option("--directions", audited.directions, "over the whole turn")
      ->check(between(4, 72))
      ->capture_default_str();
  audit->add_option("--most", audited.mostPlaces, "places at most")->check(between(1, 1000000))->capture_default_str();
  audit->add_option("--width", audited.width, "pixels")->check(between(640, 8192))->capture_default_str();
  audit->add_option("--height", audited.height, "pixels")->check(between(480, 8192))->capture_default_str();
  addAspectAndWorld(*audit, audited.aspect, audited.world);
  addLimits(*audit, audited.limits);
  audit->add_flag("--json", audited.json, "everything as one object");
  audit->footer(
      "Example: alpglow audit demo/trail.camera.toml --level demo/refuge.level.toml -o refuge.png --takes worst");
  audit->callback([&] { chosen = [&] { return runAudit(audited); }; });

  std::string summarised;
  CLI::App* take = app.add_subcommand("take", "Summarise a take: which controls move how much");
  take->add_option("take", summarised, "take (*.take)")->required();
  take->footer("Example: alpglow take demo/round.take");
  take->callback([&] { chosen = [&] { return runTake(summarised); }; });

  alpglow::play::PlayOptions played;
  CLI::App* play = app.add_subcommand("play", "Open a window in which a design is played and tuned");
  play->add_option("designs", played.designs, "a camera design (*.camera.toml), or two to compare; else the demo's")
      ->expected(0, 2)
      ->type_name("FILE");
  play->add_option("--level", played.level, "level (*.level.toml, *.gltf, *.glb); else the demo's refuge");
  play->add_option("--controls", played.controls, "what the controls mean (*.controls.toml); else the standard ones");
  play->add_option("--preferences", played.preferences, "the player's preferences (*.preferences.toml)");
  play->add_option("--take", played.take, "take (*.take) to replay from the start");
  play->add_option("--out", played.out, "what recordings and pictures are called: OUT.take, OUT.frames, OUT-1.png")
      ->capture_default_str();
  play->add_option("--status", played.status, "file that says how things stand, as JSON, whenever that changes");
  using alpglow::play::PlayQuality;
  addChoice<PlayQuality>(
      *play, "--quality", played.quality,
      {{"automatic", PlayQuality::automatic}, {"full", PlayQuality::full}, {"plain", PlayQuality::plain}},
      "of the picture");
  play->add_option("--width", played.width, "of the window")->check(between(320, 16384))->capture_default_str();
  play->add_option("--height", played.height, "of the window")->check(between(240, 16384))->capture_default_str();
  play->add_option("--scale", played.scale, "how large text is, such as 2 on a dense display; else as the display says")
      ->check(between(0.5, 4));
  play->footer("Example: alpglow play demo/trail.camera.toml demo/warden.camera.toml");
  play->callback([&] { chosen = [&] { return alpglow::play::play(played); }; });

  std::string heard;
  double seconds = 0;
  CLI::App* listen = app.add_subcommand("listen", "Show live what every device sends and what becomes of it");
  listen->add_option("--controls", heard, "what the controls mean (*.controls.toml); else the standard ones");
  listen->add_option("--seconds", seconds, "how long; 0 = until Escape")->check(between(0, 1e6));
  listen->footer("Example: alpglow listen --controls demo/pad.controls.toml");
  listen->callback([&] { chosen = [&] { return runListen(heard, seconds); }; });

  try {
    app.parse(argc, argv);
  } catch (const CLI::Success& done) {
    return app.exit(done);
  } catch (const CLI::ParseError& error) {
    const std::string slip = mistyped(app, argc, argv);
    fmt::print(stderr, "alpglow: {} (see alpglow --help)\n",
               alpglow::io::plainText(slip.empty() ? error.what() : slip, 700));
    return 2;
  }
  return chosen();
}

}  // namespace

int main(int argc, char** argv) {
#ifdef SIGPIPE
  std::signal(SIGPIPE, SIG_IGN);  // whoever reads no longer is told below
#endif
  try {
    const int code = run(argc, argv);
    if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return code;
    fmt::print(stderr, "alpglow: what is printed cannot be written: {}\n", std::strerror(errno));
    return 2;
  } catch (const alpglow::io::InputError& error) {
    fmt::print(stderr, "{}\n", error.what());
  } catch (const std::exception& error) {
    fmt::print(stderr, "alpglow: {}\n", error.what());
  }
  return 2;
}
