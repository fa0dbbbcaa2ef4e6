#include "level_report.hpp"

#include "alpglow/base/angles.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <string_view>

namespace alpglow::cli {

namespace {

std::string group(const io::Level& level, const io::LevelGroup& group) {
  const auto nameOf = [&level](int member) {
    return member < 0 ? std::string("character") : level.targets[static_cast<std::size_t>(member)].name;
  };
  std::vector<std::string> names;
  for (const int member : group.members) names.push_back(nameOf(member));
  const GroupSettings& s = group.settings;
  // Two balls of the character's size beside each other, as framing/group_fit.hpp has it.
  constexpr double aspect = 16.0 / 9.0;
  const double edge = (1 - s.margin) * std::tan(s.wide / 2) * aspect,
               apart = 2 * (edge * s.farthest - group.characterRadius * std::hypot(1, edge));
  return fmt::format(
      "  group {:<15} {}; {} is never lost\n"
      "  {:<21} {:.3g} … {:.3g} m from the middle, {:.0f}° while there is room, up to {:.0f}°: two stay in one picture "
      "up to {:.0f} m apart\n"
      "  {:<21} from yaw {:.0f}°, pitch {:.0f}°; {}; half a turn takes {:.1f} s\n",
      group.name, fmt::join(names, ", "), names.front(), "", s.nearest, s.farthest, toDegrees(s.narrow),
      toDegrees(s.wide), std::max(apart, 0.0), "", toDegrees(group.look.yaw), toDegrees(group.look.pitch),
      s.patience > 0 ? fmt::format("looks elsewhere once somebody was hidden for {:.2g} s", s.patience)
                     : std::string("never looks elsewhere"),
      pi / std::max(s.turnRate, 1e-6));
}

}  // namespace

std::string explain(const io::Level& level) {
  const auto labelled = [&level](std::string_view label) {
    return std::count_if(level.objects.begin(), level.objects.end(),
                         [label](const io::LevelObject& object) { return object.labelled(label); });
  };
  std::string text = fmt::format(
      "Level \"{}\"\n  objects               {}: {} large, {} soft, {} see-through, {} walk-through; {} platforms, {} "
      "targets\n"
      "  character             {:.2f} m high, walks {:.1f} m/s, runs {:.1f} m/s\n",
      level.name, level.objects.size(), labelled("large"), labelled("soft"), labelled("see-through"),
      labelled("walk-through"), level.platforms.size(), level.targets.size(), level.body.height, level.body.walkSpeed,
      level.body.runSpeed);
  for (const io::LevelRegion& of : level.regions) {
    const Region& r = of.region;
    text += fmt::format("  region {:<14} {:.3g} × {:.3g} × {:.3g} m at {:.3g}, {:.3g}, {:.3g}; left {:.2g} m outside\n",
                        of.flag, r.size.x(), r.size.y(), r.size.z(), r.base.x(), r.base.y(), r.base.z(), r.leave);
  }
  for (const io::LevelCamera& camera : level.cameras)
    text += fmt::format("  camera {:<14} {:.0f}°{}{}\n", camera.name, toDegrees(camera.settings.lens.fieldOfView),
                        camera.standsOn.kind != io::Thing::Kind::world ? ", rides" : "",
                        camera.looksAt.kind != io::Thing::Kind::world ? ", looks at what moves" : "");
  for (const io::LevelGroup& each : level.groups) text += group(level, each);
  return text;
}

}  // namespace alpglow::cli
