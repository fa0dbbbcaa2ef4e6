#include "gnuplot.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace alpglow::feel {

namespace {

constexpr std::size_t mostCurves = 12, curveColumns = 3;

/// Of what is felt and is not the same at all values, that which changes its verdict most first.
std::vector<std::size_t> whatChanges(const std::vector<FeltAt>& felt, const io::Limits& limits) {
  std::vector<std::pair<int, std::size_t>> changing;
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    int best = 3, worst = 0;
    for (const FeltAt& each : felt) {
      const double value = each.feel.values[i];
      if (std::isnan(value)) continue;
      low = std::min(low, value), high = std::max(high, value);
      const int verdict = static_cast<int>(verdictOf(value, static_cast<io::Felt>(i), limits));
      best = std::min(best, verdict), worst = std::max(worst, verdict);
    }
    const io::Verdicts& of = limits.verdicts[i];
    if (high - low > 0.02 * std::abs(of.bad - of.fine)) changing.push_back({best - worst, i});
  }
  std::stable_sort(changing.begin(), changing.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  if (changing.size() > mostCurves) changing.resize(mostCurves);
  std::vector<std::size_t> result;
  result.reserve(changing.size());
  for (const auto& each : changing) result.push_back(each.second);
  std::sort(result.begin(), result.end());
  return result;
}

}  // namespace

std::string curveScript(const std::string& setting, const std::vector<FeltAt>& felt, const io::Limits& limits,
                        const PlotOptions& options) {
  const std::vector<std::size_t> shown = whatChanges(felt, limits);
  if (shown.empty()) return {};
  const std::size_t rows = (shown.size() + curveColumns - 1) / curveColumns;
  std::string text = terminal(options);
  text += fmt::format(
      "set multiplot\nset border lc rgb {0}\nset tics textcolor rgb {0} nomirror\nset grid lt 1 lw 0.5 lc rgb "
      "'#e2ded6'\n"
      "set xrange [{1:.9g}:{2:.9g}]\nunset key\n"
      "set label 1 {3} at screen 0.06, screen 0.975 font ',12' textcolor rgb {0}\n"
      "set label 2 'fine up to the green line, bad beyond the red one' at screen 0.97, screen 0.975 right textcolor "
      "rgb {0}\n",
      quoted(night), felt.front().value, felt.back().value, quoted("against " + setting));
  for (std::size_t k = 0; k < shown.size(); ++k) {
    const io::LimitKey& key = io::limitKeys()[shown[k]];
    const io::Verdicts& verdicts = limits.verdicts[shown[k]];
    double low = key.atLeast ? std::numeric_limits<double>::infinity() : 0, high = 0;
    text += fmt::format("$d{} << EOD\n", k);
    for (const FeltAt& each : felt) {
      const double value = each.feel.values[shown[k]];
      if (std::isnan(value)) continue;
      text += fmt::format("{:.9g} {:.9g}\n", each.value, value);
      low = std::min(low, value), high = std::max(high, value);
    }
    const std::size_t line = k / curveColumns;
    const double span = std::max(high - low, 1e-6), column = static_cast<double>(k - line * curveColumns),
                 row = static_cast<double>(line), height = 0.93 / static_cast<double>(rows);
    text += fmt::format(
        "EOD\nset lmargin at screen {:.4f}\nset rmargin at screen {:.4f}\nset tmargin at screen {:.4f}\n"
        "set bmargin at screen {:.4f}\nset yrange [{:.9g}:{:.9g}]\nset title {} offset 0,-0.6\n",
        0.06 + 0.32 * column, 0.33 + 0.32 * column, 0.93 - row * height, 0.93 - (row + 1) * height + 0.065,
        low - 0.05 * span, high + 0.08 * span, quoted(key.key + std::string(key.atLeast ? " (more is better)" : "")));
    text += fmt::format(
        "plot {:.9g} with lines lw 1.2 dt 2 lc rgb {}, {:.9g} with lines lw 1.2 dt 2 lc rgb {}, $d{} using 1:2 with "
        "linespoints pt 7 ps "
        "0.8 lw 2 lc rgb {}\nunset label 1\nunset label 2\n",
        verdicts.fine, quoted(colours[2]), verdicts.bad, quoted(red), k, quoted(colours[0]));
  }
  return text + "unset multiplot\n";
}

}  // namespace alpglow::feel
