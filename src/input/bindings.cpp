#include "alpglow/input/bindings.hpp"

#include <algorithm>

namespace alpglow {

Mode& Bindings::addMode(const std::string& modeName) {
  const std::size_t at = findMode(modeName);
  if (at < modes.size()) return modes[at];
  modes.push_back({modeName, {}});
  return modes.back();
}

std::size_t Bindings::findMode(const std::string& modeName) const {
  const auto found = std::find_if(modes.begin(), modes.end(), [&](const Mode& mode) { return mode.name == modeName; });
  return static_cast<std::size_t>(found - modes.begin());
}

std::string Bindings::nameOf(Action action) const {
  const auto index = static_cast<std::size_t>(action);
  const Span<const char* const> builtIn = builtInActionNames();
  if (index < builtIn.size()) return builtIn[index];
  return index - builtIn.size() < ownActions.size() ? ownActions[index - builtIn.size()] : std::string("none");
}

bool Bindings::findAction(const std::string& actionName, Action& action) const {
  const std::size_t count = builtInActionNames().size() + ownActions.size();
  for (std::size_t i = 0; i < count; ++i) {
    if (nameOf(static_cast<Action>(i)) != actionName) continue;
    action = static_cast<Action>(i);
    return true;
  }
  return false;
}

Bindings standardBindings() {
  Bindings bindings;
  bindings.name = "standard";
  bindings.rightStick.exponent = 1.6;
  std::vector<Binding>& onFoot = bindings.addMode("on-foot").bindings;
  const auto bind = [&onFoot](Action action, Axis axis, const char* control, double scale = 1) {
    onFoot.push_back({action, axis, findControl(control), scale, {}, PressStyle::hold});
  };
  bind(Action::move, Axis::y, "KeyW");
  bind(Action::move, Axis::y, "KeyS", -1);
  bind(Action::move, Axis::x, "KeyD");
  bind(Action::move, Axis::x, "KeyA", -1);
  bind(Action::move, Axis::x, "PadAxis0");
  bind(Action::move, Axis::y, "PadAxis1", -1);
  bind(Action::look, Axis::both, "MouseMove");
  bind(Action::look, Axis::x, "PadAxis2");
  bind(Action::look, Axis::y, "PadAxis3", -1);
  bind(Action::zoom, Axis::x, "MouseWheel");
  bind(Action::zoom, Axis::x, "PadButton12");
  bind(Action::zoom, Axis::x, "PadButton13", -1);
  bind(Action::run, Axis::x, "ShiftLeft");
  bind(Action::run, Axis::x, "PadButton10");
  bind(Action::slow, Axis::x, "AltLeft");
  bind(Action::glance, Axis::x, "KeyQ");
  bind(Action::glance, Axis::x, "PadButton4");
  bind(Action::crouch, Axis::x, "ControlLeft");
  bind(Action::crouch, Axis::x, "PadButton1");
  bind(Action::jump, Axis::x, "Space");
  bind(Action::jump, Axis::x, "PadButton0");
  bind(Action::aim, Axis::x, "MouseButton2");
  bind(Action::aim, Axis::x, "PadButton6");
  bind(Action::swingBack, Axis::x, "KeyC");
  bind(Action::swingBack, Axis::x, "PadButton11");
  bind(Action::lockOn, Axis::x, "KeyF");
  bind(Action::lockOn, Axis::x, "PadButton5");
  bind(Action::nextTarget, Axis::x, "KeyG");
  bind(Action::nextTarget, Axis::x, "PadButton15");
  bind(Action::swapShoulder, Axis::x, "KeyX");
  bind(Action::switchPerspective, Axis::x, "KeyV");
  bind(Action::swapShoulder, Axis::x, "PadButton14");
  bind(Action::switchPerspective, Axis::x, "PadButton8");
  bind(Action::pointerLock, Axis::x, "Escape");
  bindings.addMode("menu");
  return bindings;
}

Misfit misfitOf(const Binding& binding, const Bindings& bindings) {
  const std::size_t actions = builtInActionNames().size() + bindings.ownActions.size();
  const auto exists = [](Control control) { return control.index < controlNames().size(); };
  if (static_cast<std::size_t>(binding.action) >= actions) return Misfit::action;
  if (!exists(binding.control)) return Misfit::control;
  if (binding.modifier.valid() && !exists(binding.modifier)) return Misfit::modifier;
  const bool builtIn = binding.action < Action::firstOfTheGame;
  return builtIn && valuesOf(binding.control) > 1 && axesOf(binding.action) < 2 ? Misfit::axis : Misfit::none;
}

std::vector<MisfitBinding> misfits(const Bindings& all) {
  std::vector<MisfitBinding> found;
  for (std::size_t mode = 0; mode < all.modes.size(); ++mode) {
    const std::vector<Binding>& bindings = all.modes[mode].bindings;
    for (std::size_t i = 0; i < bindings.size(); ++i) {
      const Misfit misfit = misfitOf(bindings[i], all);
      if (misfit != Misfit::none) found.push_back({mode, i, misfit});
    }
  }
  return found;
}

bool conflict(const Binding& a, const Binding& b) {
  const bool sameTarget = a.action == b.action && a.axis == b.axis;
  return a.control == b.control && a.modifier == b.modifier && !sameTarget;
}

std::vector<Conflict> conflicts(const Bindings& all) {
  std::vector<Conflict> found;
  for (std::size_t mode = 0; mode < all.modes.size(); ++mode) {
    const std::vector<Binding>& bindings = all.modes[mode].bindings;
    for (std::size_t i = 0; i < bindings.size(); ++i) {
      for (std::size_t k = i + 1; k < bindings.size(); ++k) {
        if (conflict(bindings[i], bindings[k])) found.push_back({mode, i, k});
      }
    }
  }
  return found;
}

}  // namespace alpglow
