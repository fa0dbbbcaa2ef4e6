#include "command_line.hpp"
#include "commands.hpp"
#include "feel_report.hpp"
#include "gnuplot.hpp"
#include "options.hpp"
#include "rehearsal_files.hpp"
#include "workers.hpp"

#include "alpglow/feel/plot.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/take_file.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <stdexcept>

namespace alpglow::cli {

namespace {

struct CompareRequest {
  /// Designs and traces; level and take are for the designs.
  std::vector<std::string> compared;
  RehearsalFiles files;
  std::vector<double> rates;  // frames a second
  std::string vary;           // such as "follow_half_life_s=0:0.25:6"
  std::string output, limits;
  bool json = false;
};

/// One column: a trace, or what makes one.
struct Compared {
  std::string name;
  std::optional<CompiledDesign> design;
  double framesPerSecond = 60;
  double value = 0;  // of what is varied
  io::Trace trace;
  feel::Feel felt;
};

struct Variation {
  std::string number;
  std::vector<double> values;
};

/// "follow_half_life_s=0:0.25:6": from, to, and how many values.
Variation variationOf(const std::string& text) {
  const auto wrong = [&text]() {
    return std::runtime_error(fmt::format(
        "--vary is \"{}\", but must be such as follow_half_life_s=0:0.25:6 (from : to : how many, 2 to 100)", text));
  };
  const std::size_t equals = text.find('=');
  if (equals == std::string::npos || equals == 0) throw wrong();
  double numbers[3];
  const char* at = text.data() + equals;
  for (double& number : numbers) {
    const auto read = std::from_chars(at + 1, text.data() + text.size(), number);
    const bool last = &number == &numbers[2];
    if (read.ec != std::errc() || !std::isfinite(number) ||
        (last ? read.ptr != text.data() + text.size() : *read.ptr != ':'))
      throw wrong();
    at = read.ptr;
  }
  const double count = numbers[2];
  if (count != std::floor(count) || count < 2 || count > 100 || numbers[0] == numbers[1]) throw wrong();
  Variation variation;
  variation.number = text.substr(0, equals);
  for (int i = 0; i < static_cast<int>(count); ++i)
    variation.values.push_back(numbers[0] + (numbers[1] - numbers[0]) * i / (count - 1));
  return variation;
}

bool isTrace(const std::string& path) { return io::fileKindOf(path) == io::FileKind::trace; }

/// "warden" of "warden.camera.toml".
std::string shortName(const std::string& path) {
  const std::string name = std::filesystem::path(path).filename().string();
  return name.substr(0, name.find('.'));
}

std::vector<Compared> columnsOf(const CompareRequest& request, const Preferences& preferences) {
  std::vector<Compared> columns;
  const std::vector<double> rates =
      request.rates.empty() ? std::vector<double>{request.files.framesPerSecond} : request.rates;
  for (const std::string& path : request.compared) {
    if (isTrace(path)) {
      columns.emplace_back();
      columns.back().name = shortName(path);
      columns.back().trace = io::readTrace(path);
      continue;
    }
    const std::string text = io::readWhole(path);
    const auto add = [&](const std::string& name, const CameraDesign& design, double value) {
      for (const double rate : rates) {
        columns.emplace_back();
        columns.back().name =
            rates.size() > 1 ? fmt::format("{}{}{:g} fps", name, name.empty() ? "" : " ", rate) : name;
        columns.back().design.emplace(design, preferences);
        columns.back().framesPerSecond = rate;
        columns.back().value = value;
      }
    };
    if (request.vary.empty()) {
      add(request.compared.size() == 1 && rates.size() > 1 ? "" : shortName(path), io::parseDesign(text, path), 0);
    } else {
      const Variation variation = variationOf(request.vary);
      for (const double value : variation.values)
        add(fmt::format("{:.4g}", value), io::parseDesignWith(text, path, variation.number, value), value);
    }
  }
  return columns;
}

/// What the take asks for in vain, and of which designs if not of all.
void sayNotes(const std::vector<Compared>& columns, const std::string& path, const io::Take& take,
              const Bindings& controls) {
  std::map<std::string, std::vector<std::string>> whom;
  std::size_t rehearsed = 0;
  for (const Compared& column : columns) {
    if (!column.design) continue;
    ++rehearsed;
    for (const std::string& note : notesOn(take, *column.design, controls, column.trace))
      whom[note].push_back(column.name);
  }
  for (const auto& [note, names] : whom)
    fmt::print(stderr, "{}: note: {}{}\n", io::plainText(path), note,
               names.size() < rehearsed ? fmt::format(" ({})", fmt::join(names, ", ")) : "");
}

/// Several at a time; each has a stage of its own, as what moves in a level has one place at a time.
void rehearseAll(std::vector<Compared>& columns, const CompareRequest& request) {
  if (std::none_of(columns.begin(), columns.end(), [](const Compared& each) { return each.design.has_value(); }))
    return;
  if (request.files.level.empty() || request.files.take.empty())
    throw std::runtime_error("designs are compared in a --level with a --take");
  const io::Level level = io::readLevel(request.files.level);
  const io::Take take = io::readTake(request.files.take);
  const stage::RehearsalOptions common = rehearsalOptions(request.files);
  io::checkNames(take, request.files.take, level, common.controls);
  inParallel("rehearsed", columns.size(), [&](std::size_t i) {
    Compared& column = columns[i];
    if (!column.design) return;
    stage::RehearsalOptions options = common;
    options.framesPerSecond = column.framesPerSecond;
    stage::Stage own(level, request.files.world);
    own.setTicksPerSecond(request.files.ticksPerSecond);
    column.trace = stage::rehearse(*column.design, own, take, options);
  });
  sayNotes(columns, request.files.take, take, common.controls);
}

const char* markOf(feel::Verdict verdict) {
  return verdict == feel::Verdict::bad ? "!" : verdict == feel::Verdict::noticeable ? "~" : " ";
}

void printTable(const std::vector<Compared>& columns, const io::Limits& limits) {
  std::size_t width = 9;
  for (const Compared& column : columns) width = std::max(width, column.name.size() + 1);
  std::string header;
  for (const Compared& column : columns) header += fmt::format(" {:>{}} ", column.name, width);
  fmt::print("  {:<22}{}\n", "", header);
  std::vector<std::array<int, 4>> verdicts(columns.size());
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    std::string line;
    bool any = false;
    for (std::size_t k = 0; k < columns.size(); ++k) {
      const double value = columns[k].felt.values[i];
      const feel::Verdict verdict = feel::verdictOf(value, static_cast<io::Felt>(i), limits);
      ++verdicts[k][static_cast<std::size_t>(verdict)];
      any = any || verdict != feel::Verdict::unmeasured;
      line += fmt::format(" {:>{}}{}", shown(value), width, markOf(verdict));
    }
    if (any) fmt::print("  {:<22}{}\n", io::limitKeys()[i].key, line);
  }
  for (const feel::Verdict verdict : {feel::Verdict::noticeable, feel::Verdict::bad}) {
    std::string line;
    for (const auto& counted : verdicts) {
      const int count = counted[static_cast<std::size_t>(verdict)];
      line += fmt::format(" {:>{}}{}", count, width, count > 0 ? markOf(verdict) : " ");
    }
    fmt::print("  {:<22}{}\n", feel::nameOf(verdict), line);
  }
  fmt::print("  ~ noticeable   ! bad   - nothing to measure it by; `alpglow feel --all` says what each is\n");
}

nlohmann::json differences(const io::Trace& first, const io::Trace& other) {
  nlohmann::json result = nlohmann::json::array();
  for (const feel::Difference& each : feel::largestDifferences(first, other))
    result.push_back({{"what", each.what}, {"unit", each.unit}, {"value", each.value}, {"time_s", each.time}});
  return result;
}

void printDifferences(const std::vector<Compared>& columns) {
  for (std::size_t k = 1; k < columns.size(); ++k) {
    std::string line;
    for (const feel::Difference& each : feel::largestDifferences(columns[0].trace, columns[k].trace))
      line += fmt::format("{}{} {} {} at {:.2f} s", line.empty() ? "" : ", ", each.what, shown(each.value), each.unit,
                          each.time);
    fmt::print("  {} differs most from {} in {}\n", columns[k].name, columns[0].name, line);
  }
}

std::string scriptOf(const std::vector<Compared>& columns, const CompareRequest& request, const io::Limits& limits,
                     const feel::PlotOptions& options) {
  if (!request.vary.empty()) {
    std::vector<feel::FeltAt> felt;
    felt.reserve(columns.size());
    for (const Compared& column : columns) felt.push_back({column.value, column.felt});
    return feel::curveScript(variationOf(request.vary).number, felt, limits, options);
  }
  std::vector<feel::PlottedTrace> traces;
  traces.reserve(columns.size());
  for (const Compared& column : columns) traces.push_back({column.name, &column.trace});
  return feel::plotScript(traces, options);
}

int run(const CompareRequest& request) {
  const io::Limits limits = limitsOf(request.limits);
  const feel::PictureFormat format =
      request.output.empty() ? feel::PictureFormat::png : pictureFormatOf(request.output);
  std::vector<std::string> inputs = inputsOf(request.files);
  inputs.insert(inputs.end(), request.compared.begin(), request.compared.end());
  inputs.push_back(request.limits);
  requireApart({request.output}, inputs);
  const bool varies = !request.vary.empty();
  if (varies && (request.compared.size() != 1 || isTrace(request.compared[0]) || request.rates.size() > 1))
    throw std::runtime_error("--vary takes one design at one frame rate");
  std::vector<Compared> columns = columnsOf(request, rehearsalOptions(request.files).preferences);
  rehearseAll(columns, request);
  int code = 0;
  nlohmann::json said = nlohmann::json::array();
  for (Compared& column : columns) {
    feel::FeelMeter meter;
    meter.add(column.trace);
    column.felt = meter.feel();
    if (request.json)
      said.push_back({{"name", column.name},
                      {"measured", asJson(column.felt, limits)},
                      {"differs", differences(columns[0].trace, column.trace)}});
  }
  if (request.json) {
    fmt::print("{}\n", said.dump(2));
  } else {
    if (varies) fmt::print("{} of {}\n", variationOf(request.vary).number, request.compared[0]);
    printTable(columns, limits);
    if (!varies) printDifferences(columns);
  }
  for (const Compared& column : columns)
    code = std::max(code, holdTo(column.felt, limits, request.limits + ": " + column.name));
  if (request.output.empty()) return code;
  feel::PlotOptions options;
  options.format = format;
  const std::string script = scriptOf(columns, request, limits, options);
  if (script.empty()) throw std::runtime_error("nothing that is felt changes: there is nothing to draw");
  io::writeWhole(request.output, drawnByGnuplot(script));
  if (!request.json) fmt::print("wrote {}\n", request.output);
  return code;
}

}  // namespace

void addCompare(CommandLine& line) {
  const auto request = std::make_shared<CompareRequest>();
  Command command = line.add("compare", "Lay what is felt of designs, traces or frame rates side by side",
                             "compare demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take "
                             "--vary follow_half_life_s=0:0.25:6 -o lag.png",
                             [request] { return run(*request); });
  command.option("compared", request->compared, "designs (*.camera.toml) and traces (*.csv)").required();
  command.option("--level", request->files.level, "level in which designs are rehearsed");
  command.option("--take", request->files.take, "take with which they are");
  command.option("--fps", request->rates, "frame rates, such as 30,60,240").commas().between(1, 10000);
  command.option("--vary", request->vary,
                 "a number of one design, such as follow_half_life_s=0:0.25:6: from, to, how many");
  command.option("-o,--output", request->output,
                 "picture to write (*.png, *.svg): laid over each other, or against what is varied");
  command.flag("--json", request->json, "everything as one array");
  addLimits(command, request->limits);
  addRehearsal(command, request->files);
}

}  // namespace alpglow::cli
