#include "command_line.hpp"
#include "commands.hpp"
#include "feel_report.hpp"
#include "options.hpp"

#include "alpglow/feel/feel.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <memory>

namespace alpglow::cli {

namespace {

struct FeelRequest {
  std::vector<std::string> traces;
  /// Lists every pop; what there was room for at best; every number of all together with its verdict; or all as JSON.
  bool pops = false, bound = false, details = false, json = false;
  std::string limits;
};

using feel::LookRate;
using io::Felt;

constexpr const char* header =
    "{:<{}}       s  pops/min  at rest  slowly  in flicks  pumps/min   deep  kept %  < {:.1f} m %  in m/s    calm  "
    "head °/s\n";

void printRow(const std::string& name, std::size_t width, const feel::Feel& f) {
  const auto cell = [](double value, int decimals) {
    return std::isnan(value) ? std::string("-") : fmt::format("{:.{}f}", value, decimals);
  };
  const auto pops = [&](LookRate look) { return cell(f.perMinute(f.popsAt(look)), 1); };
  const auto of = [&](Felt what, int decimals, double factor = 1) { return cell(factor * f.of(what), decimals); };
  fmt::print("{:<{}} {:>7.1f}  {:>8}  {:>7}  {:>6}  {:>9}  {:>9}  {:>5}  {:>6}  {:>9}  {:>6}  {:>6}  {:>8}\n", name,
             width, f.seconds, of(Felt::popsPerMinute, 1), pops(LookRate::rest), pops(LookRate::slow),
             pops(LookRate::flick), of(Felt::pumpsPerMinute, 1), of(Felt::deepPumpsPerMinute, 1),
             of(Felt::kept, 1, 100), of(Felt::close, 1, 100), of(Felt::inSpeed, 1), of(Felt::calmInSpeed, 1),
             of(Felt::headSpeed, 0));
}

int run(const FeelRequest& request) {
  const auto& [traces, pops, bound, details, json, limits] = request;
  const io::Limits held = limitsOf(limits);
  std::vector<io::Trace> read;
  std::size_t width = 7;
  std::vector<std::string> names;
  for (const std::string& path : traces) {
    read.push_back(io::readTrace(path));
    names.push_back(std::filesystem::path(path).stem().string());
    width = std::max(width, names.back().size());
  }
  feel::FeelMeter all, best;
  if (!json) fmt::print(fmt::runtime(header), "", width, feel::closeDistance);
  nlohmann::json said = nlohmann::json::object();
  for (std::size_t i = 0; i < read.size(); ++i) {
    feel::FeelMeter one;
    one.add(read[i]);
    all.add(read[i]);
    if (bound) best.add(feel::withPerfectForesight(read[i]));
    if (json) said[traces[i]] = asJson(one.feel(), held);
    if (json) continue;
    printRow(names[i], width, one.feel());
    if (pops) printPops(one.feel());
  }
  const feel::Feel together = all.feel();
  if (json) {
    fmt::print("{}\n", nlohmann::json{{"traces", said}, {"all", asJson(together, held)}}.dump(2));
  } else {
    if (read.size() > 1) printRow("all", width, together);
    if (bound) printRow("at best", width, best.feel());
    if (details) printFeel(together, held);
  }
  return holdTo(together, held, limits);
}

}  // namespace

void addFeel(CommandLine& line) {
  const auto request = std::make_shared<FeelRequest>();
  Command command = line.add("feel", "Measure what a player notices of obstacles in traces: pops, pumps, distance",
                             "feel out.csv --pops", [request] { return run(*request); });
  command.option("traces", request->traces, "traces (*.csv); several add up").required();
  command.flag("--pops", request->pops, "list every loss of more than 0.25 m within 1/60 s");
  command.flag("--bound", request->bound,
               "a last line: what a camera that knows the future, and comes in at 4 m/s, would have made of all");
  command.flag("--all", request->details, "every number of all traces together, with a verdict");
  command.flag("--json", request->json, "every number as one object");
  addLimits(command, request->limits);
}

}  // namespace alpglow::cli
