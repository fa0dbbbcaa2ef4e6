#include "commands.hpp"

#include "alpglow/feel/feel.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

namespace alpglow::cli {

namespace {

using feel::LookRate;

constexpr const char* header =
    "{:<{}}       s  pops/min  at rest  slowly  in flicks  pumps/min   deep  kept %  < {:.1f} m %  in m/s    calm  "
    "head °/s\n";

void printRow(const std::string& name, std::size_t width, const feel::Feel& f) {
  const auto pops = [&f](LookRate look) { return f.perMinute(f.popsAt(look)); };
  fmt::print(
      "{:<{}} {:>7.1f}  {:>8.1f}  {:>7.1f}  {:>6.1f}  {:>9.1f}  {:>9.1f}  {:>5.1f}  {:>6.1f}  {:>9.1f}  {:>6.1f}  "
      "{:>6.1f}  {:>8.0f}\n",
      name, width, f.seconds, f.perMinute(static_cast<double>(f.pops.size())), pops(LookRate::rest),
      pops(LookRate::slow), pops(LookRate::flick), f.perMinute(f.pumps), f.perMinute(f.deepPumps), 100 * f.kept,
      100 * f.close, f.inSpeed, f.calmInSpeed, f.headSpeed);
}

void printPops(const feel::Feel& f) {
  for (const feel::Pop& pop : f.pops) {
    fmt::print("    {:>7.3f} s  {:.2f} m lost, the look turns at {:.0f}°/s{}{}\n", pop.time, pop.loss, pop.lookRate,
               pop.obstacle.empty() ? "" : ", ", pop.obstacle);
  }
}

}  // namespace

int runFeel(const std::vector<std::string>& traces, bool pops, bool bound, const std::string& limits) {
  const io::Limits held = limits.empty() ? io::Limits() : io::readLimits(limits);
  std::vector<io::Trace> read;
  std::size_t width = 7;
  std::vector<std::string> names;
  for (const std::string& path : traces) {
    read.push_back(io::readTrace(path));
    names.push_back(std::filesystem::path(path).stem().string());
    width = std::max(width, names.back().size());
  }
  fmt::print(fmt::runtime(header), "", width, feel::closeDistance);
  feel::FeelMeter all, best;
  for (std::size_t i = 0; i < read.size(); ++i) {
    feel::FeelMeter one;
    one.add(read[i]);
    all.add(read[i]);
    if (bound) best.add(feel::withPerfectForesight(read[i]));
    printRow(names[i], width, one.feel());
    if (pops) printPops(one.feel());
  }
  if (read.size() > 1) printRow("all", width, all.feel());
  if (bound) printRow("at best", width, best.feel());
  const std::vector<std::string> broken = feel::broken(all.feel(), held);
  for (const std::string& line : broken) fmt::print("{}: {}\n", limits, line);
  return broken.empty() ? 0 : 1;
}

}  // namespace alpglow::cli
