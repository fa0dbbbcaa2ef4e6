#include "rehearsal_files.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

namespace alpglow::cli {

namespace {

bool presses(const io::Take& take, const Bindings& bindings, Action action) {
  std::vector<Control> controls;
  for (const Mode& mode : bindings.modes) {
    for (const Binding& binding : mode.bindings) {
      if (binding.action == action) controls.push_back(binding.control);
    }
  }
  return std::any_of(take.events.begin(), take.events.end(), [&](const ControlEvent& event) {
    return event.x != 0 && std::find(controls.begin(), controls.end(), event.control) != controls.end();
  });
}

}  // namespace

std::vector<std::string> notesOn(const io::Take& take, const CompiledDesign& design, const Bindings& bindings,
                                 const io::Trace& trace) {
  std::vector<std::string> notes;
  const Control mouse = findControl("MouseMove");
  const bool moves = std::any_of(take.events.begin(), take.events.end(), [&](const ControlEvent& event) {
    return event.control == mouse && (event.x != 0 || event.y != 0);
  });
  const bool looks = std::any_of(trace.begin(), trace.end(),
                                 [](const io::TraceFrame& row) { return row.lookX != 0 || row.lookY != 0; });
  if (moves && !looks)
    notes.emplace_back(
        "the mouse moves and never looks: is MouseMove bound to look in this mode, and the pointer locked "
        "(PointerLock 1) where the controls ask for that?");
  const std::vector<NamedFraming>& framings = design.design().framings;
  const auto anyFraming = [&framings](auto&& which) { return std::any_of(framings.begin(), framings.end(), which); };
  if (presses(take, bindings, Action::aim) &&
      !anyFraming([](const NamedFraming& each) { return each.when.find("aiming") != std::string::npos; }))
    notes.emplace_back("the take aims, but no framing of the design is for aiming");
  if (presses(take, bindings, Action::switchPerspective) &&
      std::all_of(framings.begin(), framings.end(),
                  [&](auto& each) { return each.perspective == framings.front().perspective; }))
    notes.emplace_back("the take switches the perspective, but the design has only one");
  std::set<std::string> said;
  for (const io::Cue& cue : take.cues) {
    const char* unknown = nullptr;
    switch (cue.kind) {
      case io::Cue::Kind::set:
        if (design.flag(cue.name) == 0) unknown = "no framing of the design asks for";
        break;
      case io::Cue::Kind::push:
        if (design.push(cue.name) < 0) unknown = "the design has no push";
        break;
      case io::Cue::Kind::number:
        if (design.number(cue.name) < 0) unknown = "no curve of the design is over the number";
        break;
      default: break;
    }
    if (unknown == nullptr) continue;
    std::string note = fmt::format("{} {}", unknown, io::plainText(cue.name));
    if (said.insert(note).second) notes.push_back(std::move(note));
  }
  return notes;
}

}  // namespace alpglow::cli
