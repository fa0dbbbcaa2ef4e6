#include "alpglow/input/control.hpp"

#include <algorithm>

namespace alpglow {

namespace {

// The displacements, the axes, then everything that is pressed.
const char* const names[] = {
    "MouseMove", "MouseWheel", "TouchDrag", "TouchPinch", "PadAxis0", "PadAxis1", "PadAxis2", "PadAxis3", "TouchStickX",
    "TouchStickY",
    // What the window says: 1 while the pointer is locked to it, 1 while it has the focus.
    "PointerLock", "Focus",
    // Pad buttons of the standard layout: 0–3 the right cluster, 4–7 shoulders and triggers, 8–9 centre, 10–11 sticks,
    // 12–15 the left cluster, 16 centre.
    "PadButton0", "PadButton1", "PadButton2", "PadButton3", "PadButton4", "PadButton5", "PadButton6", "PadButton7",
    "PadButton8", "PadButton9", "PadButton10", "PadButton11", "PadButton12", "PadButton13", "PadButton14",
    "PadButton15", "PadButton16",
    // Mouse buttons as in W3C MouseEvent.button: 0 primary, 1 middle, 2 secondary, 3 back, 4 forward.
    "MouseButton0", "MouseButton1", "MouseButton2", "MouseButton3", "MouseButton4",
    // Keys as in W3C UI Events KeyboardEvent code values.
    "KeyA", "KeyB", "KeyC", "KeyD", "KeyE", "KeyF", "KeyG", "KeyH", "KeyI", "KeyJ", "KeyK", "KeyL", "KeyM", "KeyN",
    "KeyO", "KeyP", "KeyQ", "KeyR", "KeyS", "KeyT", "KeyU", "KeyV", "KeyW", "KeyX", "KeyY", "KeyZ", "Digit0", "Digit1",
    "Digit2", "Digit3", "Digit4", "Digit5", "Digit6", "Digit7", "Digit8", "Digit9", "Backquote", "Minus", "Equal",
    "BracketLeft", "BracketRight", "Backslash", "Semicolon", "Quote", "Comma", "Period", "Slash", "IntlBackslash",
    "Backspace", "Tab", "CapsLock", "Enter", "ShiftLeft", "ShiftRight", "ControlLeft", "ControlRight", "AltLeft",
    "AltRight", "MetaLeft", "MetaRight", "Space", "ContextMenu", "Escape", "F1", "F2", "F3", "F4", "F5", "F6", "F7",
    "F8", "F9", "F10", "F11", "F12", "PrintScreen", "ScrollLock", "Pause", "Insert", "Delete", "Home", "End", "PageUp",
    "PageDown", "ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight", "NumLock", "Numpad0", "Numpad1", "Numpad2",
    "Numpad3", "Numpad4", "Numpad5", "Numpad6", "Numpad7", "Numpad8", "Numpad9", "NumpadAdd", "NumpadSubtract",
    "NumpadMultiply", "NumpadDivide", "NumpadDecimal", "NumpadEnter"};

constexpr int displacements = 4;
constexpr int axes = 6;

}  // namespace

Span<const char* const> controlNames() { return names; }

Control findControl(std::string_view name) {
  const auto* found = std::find(std::begin(names), std::end(names), name);
  return found == std::end(names) ? Control() : Control{static_cast<std::uint16_t>(found - names)};
}

const char* nameOf(Control control) { return control.index < std::size(names) ? names[control.index] : "none"; }

ControlKind kindOf(Control control) {
  if (control.index < displacements) return ControlKind::displacement;
  return control.index < displacements + axes ? ControlKind::axis : ControlKind::button;
}

int valuesOf(Control control) { return control.index == 0 || control.index == 2 ? 2 : 1; }

}  // namespace alpglow
