#pragma once
// A bindings: which controls drive which actions, as plain data and as a file (`*.controls.toml`).
//
//   Bindings bindings;
//   bindings.addMode("on-foot").bindings.push_back({Action::move, Axis::y, findControl("KeyW")});
//   for (const Conflict& conflict : conflicts(bindings)) report(conflict);

#include "alpglow/input/action.hpp"
#include "alpglow/input/control.hpp"
#include "alpglow/input/stick.hpp"

#include <string>
#include <vector>

namespace alpglow {

/// Which axis of the action a control drives. The pointer and a finger drive both.
enum class Axis : std::uint8_t { x, y, both };

/// How a pressed action answers to its control.
enum class PressStyle : std::uint8_t { hold, toggle };

struct Binding {
  Action action = Action::look;
  Axis axis = Axis::x;
  Control control = {};
  /// Multiplies the control's value; negative turns it round.
  double scale = 1;
  /// Counts only while this control is held; none = always, unless another binding of the control has its modifier
  /// held.
  Control modifier = {};
  PressStyle press = PressStyle::hold;

  friend bool operator==(const Binding& a, const Binding& b) {
    return a.action == b.action && a.axis == b.axis && a.control == b.control && a.scale == b.scale &&
           a.modifier == b.modifier && a.press == b.press;
  }
};

struct Mode {
  std::string name;
  std::vector<Binding> bindings;
};

/// When the pointer looks.
enum class PointerLook { always, locked, dragging };

struct PointerSettings {
  PointerLook look = PointerLook::always;
  /// The button that is held while dragging.
  Control dragButton = findControl("MouseButton2");
};

struct KeySettings {
  /// What the slow action leaves of movement and look by keys, 0 … 1.
  double slowScale = 0.4;
};

struct TouchSettings {
  /// A finger that starts in this share of the screen's width, from the left, moves; 0 = none.
  double moveZone = 0.4;
  /// Travel of the finger for full deflection, thousandths of the screen's height.
  double moveTravel = 120;
};

struct Bindings {
  std::string name = "controls";
  PointerSettings pointer;
  StickSettings leftStick, rightStick;
  TriggerSettings triggers;
  KeySettings keys;
  TouchSettings touch;
  /// Names of the game's own actions. Whatever drives one, it is pressed, and it has values.
  std::vector<std::string> ownActions;
  /// The first one is on at the start.
  std::vector<Mode> modes;

  /// Adds a mode; one that is there already is returned as it is.
  Mode& addMode(const std::string& modeName);
  /// The position of a mode; the number of modes if there is none.
  std::size_t findMode(const std::string& modeName) const;

  std::string nameOf(Action action) const;
  /// False if there is no such action.
  bool findAction(const std::string& actionName, Action& action) const;
};

/// Mouse, keyboard and pad for walking, with a mode for menus: what a player expects.
Bindings standardBindings();

/// What is wrong with a binding on its own. The pointer and a finger's drag do not drive built-in actions of fewer than
/// two axes.
enum class Misfit { none, action, control, modifier, axis };
Misfit misfitOf(const Binding& binding, const Bindings& bindings);

/// A binding that can do nothing.
struct MisfitBinding {
  std::size_t mode, binding;
  Misfit misfit;
};
std::vector<MisfitBinding> misfits(const Bindings& bindings);

/// Two bindings of one mode that one control would drive at once.
struct Conflict {
  std::size_t mode;
  std::size_t first, second;
};

std::vector<Conflict> conflicts(const Bindings& bindings);

/// Whether one control would drive two different actions, or axes, by these bindings.
bool conflict(const Binding& a, const Binding& b);

}  // namespace alpglow
