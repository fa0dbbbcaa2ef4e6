#include "alpglow/io/controls_file.hpp"

#include "alpglow/design/settings.hpp"
#include "json_text.hpp"
#include "setting_text.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

namespace alpglow::io {

namespace {

const char* const axisNames[] = {"x", "y", "both"};
const char* const pressNames[] = {"hold", "toggle"};

/// A control by its name, or an error at the key with the nearest known name.
Control readControl(TomlKeys& keys, const char* key, const std::string& name) {
  const Control control = findControl(name);
  if (control.valid()) return control;
  const std::vector<std::string> known(controlNames().begin(), controlNames().end());
  keys.fail(key, fmt::format("{} is \"{}\", which is no control; the nearest known one is {}", key, name,
                             nearestName(name, known)));
}

Action readAction(TomlKeys& keys, const Bindings& bindings) {
  const std::string name = keys.requiredText("action");
  Action action{};
  if (bindings.findAction(name, action)) return action;
  std::vector<std::string> known(builtInActionNames().begin(), builtInActionNames().end());
  known.insert(known.end(), bindings.ownActions.begin(), bindings.ownActions.end());
  keys.fail("action", fmt::format("action is \"{}\", which is none; the nearest known one is {}", name,
                                  nearestName(name, known)));
}

template <class Choice, std::size_t N>
Choice readChoice(TomlKeys& keys, const char* key, const char* const (&names)[N], Choice fallback) {
  const std::optional<std::string> text = keys.text(key);
  if (!text) return fallback;
  for (std::size_t i = 0; i < N; ++i) {
    if (names[i] == *text) return static_cast<Choice>(i);
  }
  keys.fail(key, fmt::format("{} is \"{}\", but must be one of {}", key, *text, fmt::join(names, ", ")));
}

Binding readBinding(TomlKeys& keys, const Bindings& bindings) {
  Binding binding;
  binding.action = readAction(keys, bindings);
  binding.control = readControl(keys, "control", keys.requiredText("control"));
  const bool both = valuesOf(binding.control) == 2 && axesOf(binding.action) == 2;
  binding.axis = readChoice(keys, "axis", axisNames, both ? Axis::both : Axis::x);
  binding.scale = keys.number("scale", {-1000, 1000}, 1);
  if (const auto modifier = keys.text("modifier")) binding.modifier = readControl(keys, "modifier", *modifier);
  binding.press = readChoice(keys, "press", pressNames, PressStyle::hold);
  keys.finish();
  if (axesOf(binding.action) == 2 && !both && !keys.has("axis")) {
    keys.fail("action", fmt::format("axis is missing: {} drives x or y of {}", nameOf(binding.control),
                                    bindings.nameOf(binding.action)));
  }
  if (misfitOf(binding, bindings) == Misfit::axis) {
    keys.fail("control", fmt::format("control is \"{}\", which drives look and the game's own actions only, not {}",
                                     nameOf(binding.control), bindings.nameOf(binding.action)));
  }
  return binding;
}

void readMode(TomlKeys& keys, Bindings& bindings) {
  const std::string name = keys.requiredText("name");
  if (bindings.findMode(name) < bindings.modes.size())
    keys.fail("name", fmt::format("mode \"{}\" is given twice", name));
  Mode& mode = bindings.addMode(name);
  std::vector<TomlKeys> tables = keys.tables("bindings");
  keys.finish();
  for (TomlKeys& table : tables) {
    const Binding binding = readBinding(table, bindings);
    for (const Binding& other : mode.bindings) {
      if (!conflict(other, binding)) continue;
      table.fail("control", fmt::format("{} drives both {} and {} in mode {}; give one of them a modifier",
                                        nameOf(binding.control), bindings.nameOf(other.action),
                                        bindings.nameOf(binding.action), name));
    }
    mode.bindings.push_back(binding);
  }
}

std::string writeBinding(const Bindings& bindings, const Binding& binding) {
  std::string text = fmt::format("  {{action = \"{}\"", bindings.nameOf(binding.action));
  if (axesOf(binding.action) == 2) text += fmt::format(", axis = \"{}\"", axisNames[static_cast<int>(binding.axis)]);
  text += fmt::format(", control = \"{}\"", nameOf(binding.control));
  if (binding.scale != 1) text += fmt::format(", scale = {}", binding.scale);
  if (binding.modifier.valid()) text += fmt::format(", modifier = \"{}\"", nameOf(binding.modifier));
  if (binding.press == PressStyle::toggle) text += ", press = \"toggle\"";
  return text + "},\n";
}

Bindings controlsOf(const std::string& toml, const std::string& path) {
  const toml::table table = parseToml(toml, path, controlsFormat);
  TomlKeys keys(path, table, "");
  Bindings bindings;
  keys.number("format", {controlsFormat, controlsFormat});
  if (const auto name = keys.text("name")) bindings.name = *name;
  bindings.ownActions = keys.texts("actions");
  forEachControlSection(bindings, [&](const char* name, auto& section, auto) {
    auto inside = keys.table(name);
    if (!inside) return;
    if constexpr (std::is_same_v<std::decay_t<decltype(section)>, PointerSettings>) {
      if (const auto button = inside->text("drag_button"))
        section.dragButton = readControl(*inside, "drag_button", *button);
    }
    readSection(*inside, section);
  });
  for (TomlKeys& mode : keys.tables("mode")) readMode(mode, bindings);
  keys.finish();
  if (bindings.modes.empty()) throw InputError(path, "holds no mode: [[mode]] with name and bindings");
  return bindings;
}

Preferences preferencesOf(const std::string& toml, const std::string& name) {
  const toml::table table = parseToml(toml, name, preferencesFormat);
  TomlKeys keys(name, table, "");
  keys.number("format", {preferencesFormat, preferencesFormat});
  Preferences preferences;
  readSection(keys, preferences);
  return preferences;
}

}  // namespace

Bindings parseControls(const std::string& text, const std::string& name) {
  return readEither(text, name, [&](const std::string& toml) { return controlsOf(toml, name); });
}

std::string writeControls(const Bindings& bindings) {
  std::string text = fmt::format("# Controls: which devices drive which actions.\n\nformat = {}\nname = \"{}\"\n",
                                 controlsFormat, bindings.name);
  if (!bindings.ownActions.empty())
    text += fmt::format("actions = [\"{}\"]\n", fmt::join(bindings.ownActions, "\", \""));
  text += '\n';
  forEachControlSection(bindings, [&text](const char* name, const auto& section, auto) {
    text += fmt::format("[{}]\n", name);
    if constexpr (std::is_same_v<std::decay_t<decltype(section)>, PointerSettings>) {
      text +=
          fmt::format("# the button that is held while dragging\ndrag_button = \"{}\"\n", nameOf(section.dragButton));
    }
    text += writeSection(section);
  });
  for (const Mode& mode : bindings.modes) {
    text += fmt::format("[[mode]]\nname = \"{}\"\nbindings = [\n", mode.name);
    for (const Binding& binding : mode.bindings) text += writeBinding(bindings, binding);
    text += "]\n\n";
  }
  text.pop_back();
  return text;
}

Preferences parsePreferences(const std::string& text, const std::string& name) {
  return readEither(text, name, [&](const std::string& toml) { return preferencesOf(toml, name); });
}

std::string writePreferences(const Preferences& preferences) {
  return fmt::format("# A player's preferences, on top of the game's design and controls.\n\nformat = {}\n\n",
                     preferencesFormat) +
         writeSection(preferences);
}

std::string controlsReference() {
  std::string text = fmt::format("Keys of controls (*.controls.toml), format {}\n\n", controlsFormat);
  const Bindings bindings;
  forEachControlSection(bindings, [&text](const char* name, const auto& section, auto) {
    text += referenceOf<std::decay_t<decltype(section)>>(fmt::format("[{}]", name));
  });
  text += "[[mode]]   name = \"…\"   bindings = [{action, control, axis, scale, modifier, press}, …]\n";
  text += fmt::format("  actions: {}; a game adds its own with actions = [\"…\"]\n\n",
                      fmt::join(builtInActionNames().begin(), builtInActionNames().end(), ", "));
  return text + referenceOf<Preferences>(
                    fmt::format("Keys of preferences (*.preferences.toml), format {}", preferencesFormat));
}

}  // namespace alpglow::io
