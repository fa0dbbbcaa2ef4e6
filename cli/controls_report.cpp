#include "controls_report.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace alpglow::cli {

namespace {

constexpr const char* directions[2][2][2] = {{{"right", "left"}, {"up", "down"}},
                                             {{"right", "left"}, {"ahead", "back"}}};

std::string_view kindOfName(Control control) {
  const std::string_view name = nameOf(control);
  for (const std::string_view prefix : {"PadAxis", "Pad", "Touch", "Mouse"}) {
    if (name.substr(0, prefix.size()) == prefix) return prefix;
  }
  return "Key";
}

/// Axes that report "toward the user" as positive: a negative scale is what one expects of them.
bool pointsBackward(Control control) {
  const std::string_view name = nameOf(control);
  return name == "PadAxis1" || name == "PadAxis3" || name == "TouchStickY";
}

/// Which way a binding drives an action with axes; empty where that goes without saying.
std::string directionText(const Binding& binding) {
  const bool moves = binding.action == Action::move, up = binding.axis == Axis::y, backward = binding.scale < 0;
  const bool key = kindOf(binding.control) == ControlKind::button;
  if (axesOf(binding.action) == 2 && binding.axis != Axis::both) {
    const auto& names = directions[moves][up];
    return key ? fmt::format("{}: ", names[backward]) : fmt::format("{} and {}: ", names[0], names[1]);
  }
  if (key && binding.action == Action::rise) return backward ? "down: " : "up: ";
  if (key && binding.action == Action::zoom) return backward ? "out: " : "in: ";
  return "";
}

std::string controlText(const Binding& binding) {
  std::string text = directionText(binding);
  if (binding.modifier.valid()) text += fmt::format("{} + ", nameOf(binding.modifier));
  text += nameOf(binding.control);
  const bool inverted = (binding.scale < 0) != pointsBackward(binding.control);
  if (inverted && kindOf(binding.control) != ControlKind::button) text += " inverted";
  if (std::abs(binding.scale) != 1) text += fmt::format(" × {:g}", std::abs(binding.scale));
  if (binding.press == PressStyle::toggle) text += " (toggle)";
  return text;
}

/// Whether any mode uses a control for which the test holds.
template <class Test>
bool uses(const Bindings& bindings, Test&& test) {
  return std::any_of(bindings.modes.begin(), bindings.modes.end(), [&](const Mode& mode) {
    return std::any_of(mode.bindings.begin(), mode.bindings.end(), [&](const Binding& b) { return test(b); });
  });
}

std::string modeText(const Bindings& bindings, const Mode& mode) {
  std::string text = fmt::format("Mode \"{}\"\n", mode.name);
  if (mode.bindings.empty()) return text + "  nothing is bound\n";
  const std::size_t actions = builtInActionNames().size() + bindings.ownActions.size();
  for (std::size_t i = 0; i < actions; ++i) {
    std::vector<std::string> controls;
    for (const Binding& binding : mode.bindings) {
      if (binding.action == static_cast<Action>(i)) controls.push_back(controlText(binding));
    }
    if (!controls.empty())
      text += fmt::format("  {:<20} {}\n", bindings.nameOf(static_cast<Action>(i)), fmt::join(controls, ", "));
  }
  return text;
}

std::string stickText(const char* name, const StickSettings& stick) {
  const double half = shaped({0.5, 0}, stick).x;
  return fmt::format(
      "  {:<20} nothing up to {:.0f} %, full from {:.0f} %, exponent {:g}: half a deflection gives {:.0f} %\n", name,
      100 * stick.innerEdge, 100 * stick.outerEdge, stick.exponent, 100 * half);
}

std::string pressText(PressPreference preference) {
  return preference == PressPreference::asBound ? "as bound" : preference == PressPreference::hold ? "hold" : "toggle";
}

std::string lookText(const char* device, const LookPreference& look) {
  return fmt::format("  {:<20} × {:g} sideways{}, × {:g} up and down{}", device, look.sensitivityX,
                     look.invertX ? " inverted" : "", look.sensitivityY, look.invertY ? " inverted" : "");
}

}  // namespace

std::string explain(const Bindings& bindings) {
  std::string text = fmt::format("Controls \"{}\"\n", bindings.name);
  switch (bindings.pointer.look) {
    case PointerLook::always: text += "  pointer              always looks\n"; break;
    case PointerLook::locked: text += "  pointer              looks while it is locked to the window\n"; break;
    case PointerLook::dragging:
      text += fmt::format("  pointer              looks while {} is held\n", nameOf(bindings.pointer.dragButton));
      break;
  }
  const auto usesKind = [&bindings](std::string_view kind) {
    return uses(bindings, [kind](const Binding& b) { return kindOfName(b.control) == kind; });
  };
  if (!usesKind("Mouse")) text = fmt::format("Controls \"{}\"\n", bindings.name);
  if (usesKind("PadAxis"))
    text += stickText("left stick", bindings.leftStick) + stickText("right stick", bindings.rightStick);
  if (usesKind("Pad")) {
    text += fmt::format("  {:<20} pressed from {:.0f} %, released below {:.0f} %\n", "triggers",
                        100 * bindings.triggers.pressAt, 100 * bindings.triggers.releaseAt);
  }
  if (uses(bindings, [](const Binding& b) { return b.action == Action::slow; })) {
    text +=
        fmt::format("  {:<20} leaves {:.0f} % of movement and look by keys\n", "slow", 100 * bindings.keys.slowScale);
  }
  if (usesKind("Touch")) {
    text += fmt::format("  {:<20} the left {:.0f} % of the screen moves, full at {:.0f} thousandths of its height\n",
                        "touch", 100 * bindings.touch.moveZone, bindings.touch.moveTravel);
  }
  for (const Mode& mode : bindings.modes) text += modeText(bindings, mode);
  return text;
}

std::string explain(const Preferences& preferences, const CameraDesign& design) {
  constexpr double countsPerCentimetre = 800 / 2.54;
  const double turn = 2 * pi / (design.look.yawPerCount * preferences.mouse.sensitivityX) / countsPerCentimetre;
  std::string text = "Preferences\n" + lookText("mouse", preferences.mouse) +
                     fmt::format(": with this design a full turn in {:.1f} cm at 800 dpi\n", turn) +
                     lookText("stick", preferences.stick);
  const double rate = design.look.yawRate * preferences.stick.sensitivityX;
  text += rate > 0 ? fmt::format(": half a turn in {:.2f} s\n", pi / rate) : "\n";
  text += lookText("touch", preferences.touch) + "\n";
  text += fmt::format("  presses              aim {}, crouch {}, run {}\n", pressText(preferences.aim),
                      pressText(preferences.crouch), pressText(preferences.run));
  text += preferences.fieldOfView > 0
              ? fmt::format("  field of view        {:.0f}° vertical\n", toDegrees(preferences.fieldOfView))
              : "  field of view        the design's\n";
  const Comfort& comfort = preferences.comfort;
  return text + fmt::format(
                    "  comfort              bob {:.0f} %, dip {:.0f} %, breath {:.0f} %, pushes {:.0f} %, "
                    "unrest {:.0f} %, lead {:.0f} %; steadying up to {:g}°, automatic turning up to {:g}°/s\n",
                    100 * comfort.bob, 100 * comfort.dip, 100 * comfort.breath, 100 * comfort.push,
                    100 * comfort.unrest, 100 * comfort.lead, toDegrees(comfort.steadyCap),
                    toDegrees(comfort.autoTurnCap));
}

std::vector<std::string> implausible(const Bindings& bindings) {
  std::vector<std::string> warnings;
  const auto drives = [&bindings](Action action) {
    return uses(bindings, [action](const Binding& b) { return b.action == action; });
  };
  if (!drives(Action::look)) warnings.push_back("nothing drives look");
  if (!drives(Action::move)) warnings.push_back("nothing drives move");
  for (const auto& [name, stick] :
       {std::pair("left_stick", bindings.leftStick), std::pair("right_stick", bindings.rightStick)}) {
    if (stick.innerEdge > 0.35)
      warnings.push_back(
          fmt::format("{}: a third of its travel does nothing (inner_edge {:g})", name, stick.innerEdge));
    if (stick.outerEdge - stick.innerEdge < 0.3)
      warnings.push_back(
          fmt::format("{}: hardly more than a switch ({:g} … {:g})", name, stick.innerEdge, stick.outerEdge));
  }
  if (bindings.pointer.look == PointerLook::locked && !drives(Action::pointerLock)) {
    warnings.push_back("the pointer looks only while locked, and no control locks it: the game must");
  }
  return warnings;
}

std::string targetText(const Bindings& bindings, const Binding& binding) {
  std::string action = bindings.nameOf(binding.action);
  if (axesOf(binding.action) < 2 || binding.axis == Axis::both) return action;
  return action + (binding.axis == Axis::x ? " x" : " y");
}

}  // namespace alpglow::cli
