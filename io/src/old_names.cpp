#include "old_names.hpp"

namespace alpglow::io {

namespace {

struct Renamed {
  NameOf what;
  const char* old;
  const char* now;
};

constexpr Renamed renamed[] = {
    {NameOf::table, "recentre", "swing_back"},
    {NameOf::table, "free_look", "glance"},
    {NameOf::table, "clear", "pull_in"},
    {NameOf::key, "part", "screen_fraction"},
    {NameOf::key, "lean_deg", "nudge_deg"},
    {NameOf::key, "lean_half_life_s", "nudge_half_life_s"},
    {NameOf::key, "look_match", "look_scale_at"},
    {NameOf::key, "foresight_s", "horizon_s"},
    {NameOf::key, "speed_mps", "calm_mps"},
    {NameOf::key, "ease_out_delay_s", "wait_s"},
    {NameOf::key, "ease_out_mps", "out_mps"},
    {NameOf::key, "back_off_s", "wait_after_pump_s"},
    {NameOf::value, "picture", "screen"},
    {NameOf::action, "recentre", "swing-back"},
    {NameOf::action, "free-look", "glance"},
    {NameOf::column, "freelook_yaw_deg", "glance_yaw_deg"},
    {NameOf::column, "freelook_pitch_deg", "glance_pitch_deg"},
    {NameOf::column, "recentre_deg", "swing_back_deg"},
};

}  // namespace

std::string newName(NameOf what, const std::string& old) {
  for (const Renamed& name : renamed) {
    if (name.what == what && name.old == old) return name.now;
  }
  return "";
}

std::string insteadOf(const std::string& goneKey) {
  if (goneKey == "back_off_most_s") return "wait_after_pump_s alone says how long the camera waits after a pump";
  if (goneKey == "ease_out_half_life_s") return "out_mps says how fast the camera goes out";
  return "";
}

}  // namespace alpglow::io
