#include "command_line.hpp"
#include "commands.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/io/take_file.hpp"

#include <fmt/format.h>

#include <cmath>
#include <map>
#include <memory>
#include <string_view>

namespace alpglow::cli {

namespace {

/// What one control does in a take.
struct Part {
  int events = 0, presses = 0;
  double x = 0, y = 0, travel = 0;  // displacements
  double most = 0;                  // of an axis
  double heldSince = -1, held = 0;  // of a button
};

Part& note(Part& part, const ControlEvent& event) {
  ++part.events;
  part.x += event.x;
  part.y += event.y;
  part.travel += std::hypot(event.x, event.y);
  part.most = std::max(part.most, std::abs(event.x));
  if (event.x > 0 && part.heldSince < 0) ++part.presses, part.heldSince = event.time;
  if (event.x == 0 && part.heldSince >= 0) part.held += event.time - part.heldSince, part.heldSince = -1;
  return part;
}

std::string text(const std::string& name, const Part& part) {
  const Control control = findControl(name);
  switch (kindOf(control)) {
    case ControlKind::displacement:
      if (valuesOf(control) == 2)
        return fmt::format("{} events, {:g} {:g} in all, a path of {:.0f}", part.events, part.x, part.y, part.travel);
      return fmt::format("{} events, {:g} in all", part.events, part.x);
    case ControlKind::axis: return fmt::format("{} events, up to {:.2f}", part.events, part.most);
    case ControlKind::button: break;
  }
  return fmt::format("pressed {}, held {:.2f} s", part.presses == 1 ? "once" : fmt::format("{} times", part.presses),
                     part.held);
}

int run(const std::string& path) {
  const io::Take take = io::readTake(path);
  std::map<std::string, Part> parts;
  for (const ControlEvent& event : take.events) note(parts[nameOf(event.control)], event);
  fmt::print("{}: {:.2f} s, {} events of {} controls\n", path, take.length, take.events.size(), parts.size());
  for (auto& [name, part] : parts) {
    if (part.heldSince >= 0) part.held += take.length - part.heldSince;
    fmt::print("  {:<16} {}\n", name, text(name, part));
  }
  double right = 0, down = 0;
  for (const io::Turn& turn : take.turns) right += turn.right, down += turn.down;
  if (!take.turns.empty())
    fmt::print("  {:<16} {} events, {:.1f}° {:.1f}° in all\n", "MouseTurn", take.turns.size(), toDegrees(right),
               toDegrees(down));
  for (const io::Cue& cue : take.cues) fmt::print("  {:.2f} s  {} {}\n", cue.time, io::nameOf(cue.kind), cue.name);
  return 0;
}

}  // namespace

void addTake(CommandLine& line) {
  const auto path = std::make_shared<std::string>();
  Command command = line.add("take", "Summarise a take: which controls move how much", "take demo/round.take",
                             [path] { return run(*path); });
  command.option("take", *path, "take (*.take)").required();
}

}  // namespace alpglow::cli
