#include "alpglow/io/limits_file.hpp"

#include "alpglow/io/input_error.hpp"
#include "toml_keys.hpp"

#include <algorithm>

namespace alpglow::io {

Span<const LimitKey> limitKeys() {
  static const LimitKey keys[feltCount] = {
      {"pops_per_minute", "frames that lose more than 0.25 m to an obstacle", 1e4, false},
      {"calm_pops_per_minute", "of these, while the look turns slower than 180 degrees a second", 1e4, false},
      {"worst_pop_m", "the most that a frame loses", 1e3, false},
      {"pumps_per_minute", "in, out and in again by 0.1 m", 1e4, false},
      {"deep_pumps_per_minute", "in, out and in again by 0.3 m", 1e4, false},
      {"in_speed_mps", "how fast the distance shrinks, in 99.9 % of the frames", 1e4, false},
      {"calm_in_speed_mps", "the same in frames that are no flick", 1e4, false},
      {"head_speed_dps", "how fast the head moves in the picture, in 99.9 % of the frames", 1e5, false},
      {"close", "share of the time closer than 0.9 m although more is wanted", 1, false},
      {"kept", "share of the distance that one wants, on average", 1, true},
  };
  return keys;
}

Limits readLimits(const std::string& path) {
  const toml::table table = parseToml(readWhole(path), path, limitsFormat);
  TomlKeys keys(path, table, "");
  keys.number("format", {limitsFormat, limitsFormat});
  Limits limits;
  for (std::size_t i = 0; i < feltCount; ++i)
    limits.values[i] = keys.number(limitKeys()[i].key, {0, limitKeys()[i].high});
  keys.finish();
  const bool any =
      std::any_of(limits.values.begin(), limits.values.end(), [](const auto& one) { return one.has_value(); });
  if (!any) throw InputError(path, "limits nothing; see docs/formats.md");
  return limits;
}

}  // namespace alpglow::io
