#include "alpglow/io/limits_file.hpp"

#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"
#include "toml_keys.hpp"

#include <algorithm>

namespace alpglow::io {

Span<const LimitKey> limitKeys() {
  static const LimitKey keys[feltCount] = {
      {"pops_per_minute", "losses of more than 0.25 m to an obstacle within 1/60 s", 1e4, false, {0.5, 4}},
      {"calm_pops_per_minute", "of these, while the look turns slower than 180 degrees a second", 1e4, false, {0.2, 2}},
      {"worst_pop_m", "the most that is lost within 1/60 s", 1e3, false, {0.25, 1}},
      {"pumps_per_minute", "in, out and in again by 0.1 m", 1e4, false, {2, 10}},
      {"deep_pumps_per_minute", "in, out and in again by 0.3 m", 1e4, false, {0.5, 4}},
      {"in_speed_mps", "how fast the distance shrinks, in 99.9 % of the frames", 1e4, false, {10, 25}},
      {"calm_in_speed_mps", "the same in frames that are no flick", 1e4, false, {6, 15}},
      {"out_speed_mps", "how fast the distance grows again, in 99.9 % of the frames", 1e4, false, {6, 15}},
      {"head_speed_dps", "how fast obstacles move the head in the picture, 99.9 %", 1e5, false, {120, 360}},
      {"close", "share of the time closer than 0.9 m although more is wanted", 1, false, {0.05, 0.2}},
      {"kept", "share of the distance that one wants, on average", 1, true, {0.9, 0.7}},
      {"pulled_in", "share of the time in which the distance is shorter than wanted", 1, false, {0.3, 0.7}},
      {"latency_frames", "from the first look input to the first turn of the view, at worst", 1e4, false, {0, 1}},
      {"walk_latency_frames",
       "from the first movement input to the first motion of the camera, at worst",
       1e4,
       false,
       {4, 8}},
      {"look_settle_s", "from the last look input until the view rests, at worst", 60, false, {0.1, 0.35}},
      {"follow_settle_s",
       "from where the subject stands until the camera's pivot rests, at worst",
       60,
       false,
       {0.4, 1}},
      {"follow_overshoot_m", "how far the pivot goes beyond where it comes to rest, at worst", 1e3, false, {0.02, 0.1}},
      {"change_settle_s", "from a change of framing until distance and lens rest, at worst", 60, false, {0.6, 1.5}},
      {"change_overshoot",
       "how far distance or lens go beyond, as a share of the change, at worst",
       1e3,
       false,
       {0.02, 0.1}},
      {"unasked_turn_dps2", "angular acceleration of the view while the hand rests, at worst", 1e7, false, {400, 2000}},
      {"aim_drift_deg",
       "how far the crosshair goes off the point that it is kept on, at worst",
       180,
       false,
       {0.1, 0.5}},
      {"jitter_px", "unrest of the head in the picture at 1080 lines while the subject moves", 1e4, false, {0.25, 1}},
      {"visible",
       "share of the subject's body that is in the picture and not hidden, on average",
       1,
       true,
       {0.85, 0.6}},
      {"out_of_picture", "share of the time in which the head is outside of the picture", 1, false, {0.02, 0.1}},
      {"horizon_speed_dps", "how fast the horizon rolls, in 99.9 % of the frames", 1e5, false, {3, 15}},
      {"view_acceleration_mps2",
       "acceleration of the eye while the hand rests, over tenths of a second, root mean square",
       1e5,
       false,
       {6, 20}},
  };
  return keys;
}

Limits::Limits() {
  for (std::size_t i = 0; i < feltCount; ++i) verdicts[i] = limitKeys()[i].verdicts;
}

namespace {

std::optional<Verdicts> readVerdicts(TomlKeys& keys, const LimitKey& of) {
  const std::optional<std::array<double, 2>> pair = keys.pair(of.key, {0, of.high});
  if (!pair) return std::nullopt;
  const Verdicts read{(*pair)[0], (*pair)[1]};
  if (of.atLeast ? read.fine < read.bad : read.fine > read.bad)
    keys.fail(of.key, fmt::format("{} is [{:g}, {:g}], but must begin with what is fine, the {} one", of.key, read.fine,
                                  read.bad, of.atLeast ? "larger" : "smaller"));
  return read;
}

}  // namespace

Limits readLimits(const std::string& path) {
  requireKind(path, FileKind::limits);
  const toml::table table = parseToml(readWhole(path), path, limitsFormat);
  TomlKeys keys(path, table, "");
  keys.number("format", {limitsFormat, limitsFormat});
  Limits limits;
  bool any = false;
  for (std::size_t i = 0; i < feltCount; ++i) {
    limits.values[i] = keys.number(limitKeys()[i].key, {0, limitKeys()[i].high});
    any = any || limits.values[i].has_value();
  }
  if (std::optional<TomlKeys> verdicts = keys.table("verdicts")) {
    for (std::size_t i = 0; i < feltCount; ++i) {
      const std::optional<Verdicts> read = readVerdicts(*verdicts, limitKeys()[i]);
      limits.verdicts[i] = read.value_or(limits.verdicts[i]);
      any = any || read.has_value();
    }
    verdicts->finish();
  }
  keys.finish();
  if (!any) throw InputError(path, "limits nothing; see docs/formats.md");
  return limits;
}

}  // namespace alpglow::io
