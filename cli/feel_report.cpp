#include "feel_report.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace alpglow::cli {

std::string shown(double value) {
  if (std::isnan(value)) return "-";
  if (value == 0) return "0";
  const int decimals = std::abs(value) >= 100 ? 0 : std::abs(value) >= 10 ? 1 : std::abs(value) >= 1 ? 2 : 3;
  return fmt::format("{:.{}f}", value, decimals);
}

void printFelt(const feel::Feel& felt, io::Felt what, const io::Limits& limits, const std::string& help) {
  const feel::Verdict verdict = feel::verdictOf(felt.of(what), what, limits);
  if (verdict == feel::Verdict::unmeasured) return;
  fmt::print("  {:<22} {:>8}  {:<10}  {}\n", io::limitKeys()[static_cast<std::size_t>(what)].key, shown(felt.of(what)),
             feel::nameOf(verdict), help);
}

void printFeel(const feel::Feel& felt, const io::Limits& limits) {
  for (std::size_t i = 0; i < io::feltCount; ++i)
    printFelt(felt, static_cast<io::Felt>(i), limits, io::limitKeys()[i].help);
  if (std::isfinite(felt.headInPicture.x()))
    fmt::print("  the head is in the picture at {:.2f}, {:.2f} on average (1 = the right, the upper edge)\n",
               felt.headInPicture.x(), felt.headInPicture.y());
}

void printPops(const feel::Feel& f) {
  for (const feel::Pop& pop : f.pops) {
    fmt::print("    {:>7.3f} s  {:.2f} m lost, the look turns at {:.0f}°/s{}{}\n", pop.time, pop.loss, pop.lookRate,
               pop.obstacle.empty() ? "" : ", ", pop.obstacle);
  }
}

nlohmann::json asJson(const feel::Feel& felt, const io::Limits& limits) {
  static const char* const looks[] = {"rest", "slow", "flick"};
  const auto number = [](double value) { return std::isfinite(value) ? nlohmann::json(value) : nlohmann::json(); };
  nlohmann::json values = nlohmann::json::object(), pops = nlohmann::json::array();
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    const feel::Verdict verdict = feel::verdictOf(felt.values[i], static_cast<io::Felt>(i), limits);
    values[io::limitKeys()[i].key] = {
        {"value", number(felt.values[i])},
        {"verdict", verdict == feel::Verdict::unmeasured ? nlohmann::json() : nlohmann::json(feel::nameOf(verdict))}};
  }
  for (const feel::Pop& pop : felt.pops)
    pops.push_back({{"time_s", pop.time},
                    {"loss_m", pop.loss},
                    {"look", looks[static_cast<int>(pop.look)]},
                    {"look_rate_degps", pop.lookRate},
                    {"obstacle", pop.obstacle}});
  return {{"seconds", felt.seconds},
          {"feel", values},
          {"pops", pops},
          {"head_in_picture", {number(felt.headInPicture.x()), number(felt.headInPicture.y())}}};
}

io::Limits limitsOf(const std::string& path) { return path.empty() ? io::Limits() : io::readLimits(path); }

int holdTo(const feel::Feel& felt, const io::Limits& limits, const std::string& path) {
  const std::vector<std::string> broken = feel::broken(felt, limits), unmeasured = feel::unmeasured(felt, limits);
  const auto held = std::count_if(limits.values.begin(), limits.values.end(), [](const auto& limit) { return limit; });
  for (const std::string& line : broken) fmt::print(stderr, "{}: {}\n", path, line);
  if (!unmeasured.empty())
    fmt::print(stderr, "{}: not measured, as there is nothing to measure it by: {}\n", path,
               fmt::join(unmeasured, ", "));
  const bool nothingHeld = held > 0 && static_cast<std::size_t>(held) == unmeasured.size();
  return broken.empty() && !nothingHeld ? 0 : 1;
}

}  // namespace alpglow::cli
