#include "alpglow/play/controls_picture.hpp"

#include "alpglow/panel/theme.hpp"
#include "controls_menu.hpp"

#include <imgui.h>

#include <algorithm>
#include <cstring>
#include <string_view>
#include <utility>
#include <vector>

namespace alpglow::play {

using panel::Colours;

namespace {

/// A key or button: the control's name, what is written on it, and how wide it is, in widths of a letter's key. One
/// without a control is a gap.
struct Key {
  const char* control;
  const char* label;
  float width = 1;
};

const std::vector<std::vector<Key>>& keyboard() {
  static const std::vector<std::vector<Key>> rows = {
      {{"Escape", "Esc"},
       {nullptr, "", 0.6f},
       {"F1", "F1"},
       {"F2", "F2"},
       {"F3", "F3"},
       {"F4", "F4"},
       {nullptr, "", 0.7f},
       {"F5", "F5"},
       {"F6", "F6"},
       {"F7", "F7"},
       {"F8", "F8"},
       {nullptr, "", 0.7f},
       {"F9", "F9"},
       {"F10", "F10"},
       {"F11", "F11"},
       {"F12", "F12"}},
      {{"Backquote", "`"},
       {"Digit1", "1"},
       {"Digit2", "2"},
       {"Digit3", "3"},
       {"Digit4", "4"},
       {"Digit5", "5"},
       {"Digit6", "6"},
       {"Digit7", "7"},
       {"Digit8", "8"},
       {"Digit9", "9"},
       {"Digit0", "0"},
       {"Minus", "-"},
       {"Equal", "="},
       {"Backspace", "Backspace", 2}},
      {{"Tab", "Tab", 1.5f},
       {"KeyQ", "Q"},
       {"KeyW", "W"},
       {"KeyE", "E"},
       {"KeyR", "R"},
       {"KeyT", "T"},
       {"KeyY", "Y"},
       {"KeyU", "U"},
       {"KeyI", "I"},
       {"KeyO", "O"},
       {"KeyP", "P"},
       {"BracketLeft", "["},
       {"BracketRight", "]"},
       {"Backslash", "\\", 1.5f}},
      {{"CapsLock", "Caps", 1.75f},
       {"KeyA", "A"},
       {"KeyS", "S"},
       {"KeyD", "D"},
       {"KeyF", "F"},
       {"KeyG", "G"},
       {"KeyH", "H"},
       {"KeyJ", "J"},
       {"KeyK", "K"},
       {"KeyL", "L"},
       {"Semicolon", ";"},
       {"Quote", "'"},
       {"Enter", "Enter", 2.25f}},
      {{"ShiftLeft", "Shift", 2.25f},
       {"KeyZ", "Z"},
       {"KeyX", "X"},
       {"KeyC", "C"},
       {"KeyV", "V"},
       {"KeyB", "B"},
       {"KeyN", "N"},
       {"KeyM", "M"},
       {"Comma", ","},
       {"Period", "."},
       {"Slash", "/"},
       {"ShiftRight", "Shift", 1.25f},
       {nullptr, "", 0.25f},
       {"ArrowUp", "↑"}},
      {{"ControlLeft", "Ctrl", 1.5f},
       {"AltLeft", "Alt", 1.25f},
       {nullptr, "", 0.25f},
       {"Space", "Space", 6},
       {nullptr, "", 0.25f},
       {"AltRight", "Alt", 1.25f},
       {"ControlRight", "Ctrl", 1.25f},
       {nullptr, "", 0.75f},
       {"ArrowLeft", "←"},
       {"ArrowDown", "↓"},
       {"ArrowRight", "→"}},
  };
  return rows;
}

/// What the playground itself does with a key.
const char* ownUse(const char* control) {
  static constexpr std::pair<const char*, const char*> uses[] = {
      {"F1", "keys"},   {"F2", "panels"}, {"F3", "outside"}, {"F4", "A or B"}, {"F5", "record"}, {"F6", "replay"},
      {"F7", "rewind"}, {"F8", "both"},   {"F9", "pause"},   {"F10", "frame"}, {"F11", "slow"},  {"F12", "picture"}};
  for (const auto& [key, use] : uses) {
    if (std::strcmp(key, control) == 0) return use;
  }
  return "";
}

/// Parts of mouse and pad: from where, how large, in keys, and whether they are round.
struct Part {
  const char* control;  // for a stick its axes and its button, with spaces between
  const char* label;
  float x, y, width, height;
  bool round = false;
};

constexpr Part mouse[] = {
    {"MouseButton0", "0", 0, 0, 1.5f, 1.1f},    {"MouseButton1 MouseWheel", "1", 1.6f, 0, 1.3f, 1.1f},
    {"MouseButton2", "2", 3, 0, 1.5f, 1.1f},    {"MouseMove", "move", 0, 1.2f, 4.5f, 0.9f},
    {"MouseButton3", "3", 0, 2.2f, 2.2f, 0.9f}, {"MouseButton4", "4", 2.3f, 2.2f, 2.2f, 0.9f},
};

constexpr Part pad[] = {
    {"PadButton6", "6", 0, 0, 2.4f, 0.9f},
    {"PadButton4", "4", 0, 1, 2.4f, 0.9f},
    {"PadButton7", "7", 16.6f, 0, 2.4f, 0.9f},
    {"PadButton5", "5", 16.6f, 1, 2.4f, 0.9f},
    {"PadAxis0 PadAxis1 PadButton10", "stick, 10", 2.6f, 0, 2.5f, 1.9f, true},
    {"PadButton12", "12", 6.4f, 0, 1.2f, 0.95f},
    {"PadButton14", "14", 5.2f, 1, 1.2f, 0.95f},
    {"PadButton15", "15", 7.6f, 1, 1.2f, 0.95f},
    {"PadButton13", "13", 6.4f, 2, 1.2f, 0.95f},
    {"PadButton8", "8", 8.9f, 0, 1.1f, 0.95f},
    {"PadButton16", "16", 8.9f, 1, 1.1f, 0.95f},
    {"PadButton9", "9", 8.9f, 2, 1.1f, 0.95f},
    {"PadButton3", "3", 11.4f, 0, 1.2f, 0.95f},
    {"PadButton2", "2", 10.2f, 1, 1.2f, 0.95f},
    {"PadButton1", "1", 12.6f, 1, 1.2f, 0.95f},
    {"PadButton0", "0", 11.4f, 2, 1.2f, 0.95f},
    {"PadAxis2 PadAxis3 PadButton11", "stick, 11", 13.9f, 0, 2.5f, 1.9f, true},
};

std::vector<std::string> namesIn(std::string_view controls) {
  std::vector<std::string> names;
  for (std::size_t start = 0; start < controls.size();) {
    const std::size_t end = std::min(controls.find(' ', start), controls.size());
    names.emplace_back(controls.substr(start, end - start));
    start = end + 1;
  }
  return names;
}

class Picture {
 public:
  Picture(const Bindings& bindings, const std::string& mode, float width)
      : bindings_(bindings),
        bound_(bindings.modes[bindings.findMode(mode)].bindings),
        draw_(*ImGui::GetWindowDrawList()),
        unit_(width / across) {}

  void show() {
    ImVec2 from = ImGui::GetCursorScreenPos();
    ImVec2 at = from;
    for (const std::vector<Key>& row : keyboard()) {
      at.x = from.x;
      for (const Key& key : row) {
        if (key.control != nullptr) part(key.control, key.label, at, {key.width * unit_ - 3, rowHigh() - 3}, false);
        at.x += key.width * unit_;
      }
      at.y += rowHigh();
    }
    const float beside = from.x + aside * unit_;
    for (const Part& each : mouse) place(each, {beside, from.y + rowHigh()});
    const ImVec2 below(from.x, at.y + rowHigh() * 0.4f);
    for (const Part& each : pad) place(each, below);
    ImGui::Dummy({across * unit_, below.y + 3 * rowHigh() - from.y});
    if (!said_.empty()) ImGui::SetTooltip("%s", said_.c_str());
  }

 private:
  static constexpr float aside = 15.4f, across = aside + 4.5f;  // where the mouse begins, and how wide all is

  float rowHigh() const { return unit_; }

  void place(const Part& of, ImVec2 from) {
    part(of.control, of.label, {from.x + of.x * unit_, from.y + of.y * rowHigh()},
         {of.width * unit_ - 3, of.height * rowHigh() - 3}, of.round);
  }

  static const char* arrow(const Binding& binding) {
    if (axesOf(binding.action) < 2 || binding.axis == Axis::both || kindOf(binding.control) != ControlKind::button)
      return "";
    return binding.axis == Axis::x ? (binding.scale > 0 ? " →" : " ←") : (binding.scale > 0 ? " ↑" : " ↓");
  }

  /// What it does: each action once, a line each.
  std::vector<std::string> usesOf(const char* controls) {
    std::vector<std::string> uses;
    for (const std::string& name : namesIn(controls)) {
      const Control control = findControl(name);
      for (const Binding& binding : bound_) {
        if (!(binding.control == control) || !control.valid()) continue;
        const std::string use =
            bindings_.nameOf(binding.action) + arrow(binding) + (binding.modifier.valid() ? " +" : "");
        if (std::find(uses.begin(), uses.end(), use) == uses.end()) uses.push_back(use);
      }
    }
    return uses;
  }

  void part(const char* controls, const char* label, ImVec2 from, ImVec2 size, bool round) {
    std::vector<std::string> uses = usesOf(controls);
    const std::string own = ownUse(controls);
    const bool bound = !uses.empty();
    if (!own.empty()) uses.insert(uses.begin(), own);
    const ImVec2 to(from.x + size.x, from.y + size.y);
    const float rounding = round ? std::min(size.x, size.y) / 2 : 4;
    draw_.AddRectFilled(from, to, bound ? IM_COL32(46, 70, 102, 255) : IM_COL32(38, 40, 50, 255), rounding);
    draw_.AddRect(from, to, bound ? IM_COL32(110, 180, 230, 170) : IM_COL32(80, 84, 98, 255), rounding);
    const float small = ImGui::GetFontSize() * 0.78f, inset = round ? rounding * 0.45f : 5;
    draw_.PushClipRect(from, to, true);
    float down = from.y + 2 + (round ? rounding * 0.25f : 0);
    draw_.AddText(nullptr, small, {from.x + inset, down}, Colours::quiet, label);
    down += small * 1.15f;
    for (const std::string& use : uses) {
      // Split where it is too long, and smaller where that is not enough.
      const std::size_t hyphen = use.find_first_of("- ");
      const float room = size.x - inset - 4;
      const bool splits = hyphen != std::string::npos && wide(use) * small > room;
      for (const std::string& line : splits
                                         ? std::vector<std::string>{use.substr(0, hyphen + 1), use.substr(hyphen + 1)}
                                         : std::vector<std::string>{use}) {
        const float fits = std::min(small, room / std::max(wide(line), 0.1f));
        draw_.AddText(nullptr, fits, {from.x + inset, down}, bound ? Colours::text : Colours::quiet, line.c_str());
        down += fits * 1.05f;
      }
    }
    draw_.PopClipRect();
    if (ImGui::IsWindowHovered() && ImGui::IsMouseHoveringRect(from, to)) {
      said_ = controls;
      for (const std::string& use : uses) said_ += "\n" + use;
      if (uses.empty()) said_ += "\nfree";
    }
  }
  /// Of a line, in sizes of its letters.
  static float wide(const std::string& line) {
    return ImGui::CalcTextSize(line.c_str()).x / std::max(ImGui::GetFontSize(), 1.0f);
  }

  const Bindings& bindings_;
  const std::vector<Binding>& bound_;
  ImDrawList& draw_;
  float unit_;
  std::string said_;
};

}  // namespace

void showControlsPicture(const Bindings& bindings, const std::string& mode, float width) {
  Picture(bindings, mode, width).show();
}

std::vector<std::string> picturedControls() {
  std::vector<std::string> all;
  const auto add = [&all](const char* controls) {
    for (std::string& name : namesIn(controls)) all.push_back(std::move(name));
  };
  for (const std::vector<Key>& row : keyboard()) {
    for (const Key& key : row) {
      if (key.control != nullptr) add(key.control);
    }
  }
  for (const Part& each : mouse) add(each.control);
  for (const Part& each : pad) add(each.control);
  return all;
}

}  // namespace alpglow::play
