#include "alpglow/play/parts.hpp"

#include "alpglow/design/settings.hpp"

#include <algorithm>
#include <cstring>
#include <string_view>

namespace alpglow::play {

namespace {

constexpr const char* names[partCount] = {"lag",         "orbit lag", "rest zone",  "lead",       "head motion",
                                          "steadying",   "foresight", "easing out", "swing back", "idle drift",
                                          "living hand", "pushes",    "transitions"};

struct PartSetting {
  std::size_t part;
  std::string_view section;  // "framing" and "push" for each of those
  std::string_view key;
};

constexpr PartSetting partSettings[] = {
    {0, "framing", "follow_half_life_s"},
    {0, "framing", "follow_vertical_half_life_s"},
    {1, "framing", "orbit_half_life_s"},
    {2, "framing", "rest_above_m"},
    {2, "framing", "rest_below_m"},
    {2, "framing", "rest_radius_m"},
    {2, "framing", "rest_screen"},
    {3, "lead", "time_s"},
    {4, "bob", "vertical_m"},
    {4, "bob", "lateral_m"},
    {4, "dip", "depth_per_speed_s"},
    {4, "breath", "amplitude_m"},
    {5, "steady", "cap_deg"},
    {6, "pull_in", "horizon_s"},
    {7, "pull_in", "wait_s"},
    {7, "pull_in", "wait_after_pump_s"},
    {8, "swing_back", "rate_degps"},
    {9, "idle_drift", "rate_degps"},
    {10, "unrest", "amount"},
    {10, "framing", "sway_deg"},
    {11, "push", "pitch_deg"},
    {11, "push", "yaw_deg"},
    {11, "push", "roll_deg"},
    {11, "push", "right_m"},
    {11, "push", "up_m"},
    {11, "push", "back_m"},
    {12, "framing", "transition_s"},
    {12, "framing", "shoulder_swap_s"},
};

template <class Section>
void scale(std::string_view section, Section& values, const PartFactors& factors) {
  for (const Setting<Section>& setting : settings<Section>()) {
    for (const PartSetting& each : partSettings) {
      if (each.section != section || each.key != setting.key || factors[each.part] == 1) continue;
      setting.assign(values, std::clamp(setting.value(values) * factors[each.part], setting.low, setting.high));
    }
  }
}

}  // namespace

Span<const char* const> partNames() { return names; }

PartFactors allParts() {
  PartFactors factors;
  factors.fill(1);
  return factors;
}

CameraDesign withParts(CameraDesign design, const PartFactors& factors) {
  for (NamedFraming& named : design.framings) scale("framing", named.framing, factors);
  for (NamedPush& named : design.pushes) scale("push", named.push, factors);
  forEachSection(design, [&factors](const char* name, auto& section, auto) { scale(name, section, factors); });
  return design;
}

}  // namespace alpglow::play
