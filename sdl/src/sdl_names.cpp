#include "alpglow/sdl/sdl_input.hpp"

#include <string>

namespace alpglow::sdl {

namespace {

struct KeyName {
  SDL_Scancode key;
  const char* code;
};

// Letters, digits and function keys follow from their order.
constexpr KeyName otherKeys[] = {
    {SDL_SCANCODE_RETURN, "Enter"},
    {SDL_SCANCODE_ESCAPE, "Escape"},
    {SDL_SCANCODE_BACKSPACE, "Backspace"},
    {SDL_SCANCODE_TAB, "Tab"},
    {SDL_SCANCODE_SPACE, "Space"},
    {SDL_SCANCODE_MINUS, "Minus"},
    {SDL_SCANCODE_EQUALS, "Equal"},
    {SDL_SCANCODE_LEFTBRACKET, "BracketLeft"},
    {SDL_SCANCODE_RIGHTBRACKET, "BracketRight"},
    {SDL_SCANCODE_BACKSLASH, "Backslash"},
    {SDL_SCANCODE_SEMICOLON, "Semicolon"},
    {SDL_SCANCODE_APOSTROPHE, "Quote"},
    {SDL_SCANCODE_GRAVE, "Backquote"},
    {SDL_SCANCODE_COMMA, "Comma"},
    {SDL_SCANCODE_PERIOD, "Period"},
    {SDL_SCANCODE_SLASH, "Slash"},
    {SDL_SCANCODE_NONUSBACKSLASH, "IntlBackslash"},
    {SDL_SCANCODE_CAPSLOCK, "CapsLock"},
    {SDL_SCANCODE_PRINTSCREEN, "PrintScreen"},
    {SDL_SCANCODE_SCROLLLOCK, "ScrollLock"},
    {SDL_SCANCODE_PAUSE, "Pause"},
    {SDL_SCANCODE_INSERT, "Insert"},
    {SDL_SCANCODE_HOME, "Home"},
    {SDL_SCANCODE_PAGEUP, "PageUp"},
    {SDL_SCANCODE_DELETE, "Delete"},
    {SDL_SCANCODE_END, "End"},
    {SDL_SCANCODE_PAGEDOWN, "PageDown"},
    {SDL_SCANCODE_RIGHT, "ArrowRight"},
    {SDL_SCANCODE_LEFT, "ArrowLeft"},
    {SDL_SCANCODE_DOWN, "ArrowDown"},
    {SDL_SCANCODE_UP, "ArrowUp"},
    {SDL_SCANCODE_NUMLOCKCLEAR, "NumLock"},
    {SDL_SCANCODE_KP_DIVIDE, "NumpadDivide"},
    {SDL_SCANCODE_KP_MULTIPLY, "NumpadMultiply"},
    {SDL_SCANCODE_KP_MINUS, "NumpadSubtract"},
    {SDL_SCANCODE_KP_PLUS, "NumpadAdd"},
    {SDL_SCANCODE_KP_ENTER, "NumpadEnter"},
    {SDL_SCANCODE_KP_PERIOD, "NumpadDecimal"},
    {SDL_SCANCODE_APPLICATION, "ContextMenu"},
    {SDL_SCANCODE_LCTRL, "ControlLeft"},
    {SDL_SCANCODE_LSHIFT, "ShiftLeft"},
    {SDL_SCANCODE_LALT, "AltLeft"},
    {SDL_SCANCODE_LGUI, "MetaLeft"},
    {SDL_SCANCODE_RCTRL, "ControlRight"},
    {SDL_SCANCODE_RSHIFT, "ShiftRight"},
    {SDL_SCANCODE_RALT, "AltRight"},
    {SDL_SCANCODE_RGUI, "MetaRight"},
};

/// Numbers 1 … 9 and then 0, as SDL orders digits.
std::string digitAfter(const char* prefix, int position) {
  return std::string(prefix).append(std::to_string((position + 1) % 10));
}

}  // namespace

Control controlOf(SDL_Scancode key) {
  const auto between = [key](SDL_Scancode first, SDL_Scancode last) { return key >= first && key <= last; };
  if (between(SDL_SCANCODE_A, SDL_SCANCODE_Z))
    return findControl(std::string("Key").append(1, static_cast<char>('A' + key - SDL_SCANCODE_A)));
  if (between(SDL_SCANCODE_1, SDL_SCANCODE_0)) return findControl(digitAfter("Digit", key - SDL_SCANCODE_1));
  if (between(SDL_SCANCODE_KP_1, SDL_SCANCODE_KP_0)) return findControl(digitAfter("Numpad", key - SDL_SCANCODE_KP_1));
  if (between(SDL_SCANCODE_F1, SDL_SCANCODE_F12))
    return findControl(std::string("F").append(std::to_string(key - SDL_SCANCODE_F1 + 1)));
  for (const KeyName& other : otherKeys) {
    if (other.key == key) return findControl(other.code);
  }
  return {};
}

Control controlOf(SDL_GameControllerButton button) {
  // In SDL's order: the right cluster, back, guide, start, sticks, shoulders, the left cluster.
  constexpr int standard[] = {0, 1, 2, 3, 8, 16, 9, 10, 11, 4, 5, 12, 13, 14, 15};
  if (button < 0 || button >= static_cast<int>(std::size(standard))) return {};
  return findControl(std::string("PadButton").append(std::to_string(standard[button])));
}

Control controlOf(SDL_GameControllerAxis axis) {
  constexpr const char* names[] = {"PadAxis0", "PadAxis1", "PadAxis2", "PadAxis3", "PadButton6", "PadButton7"};
  return axis >= 0 && axis < static_cast<int>(std::size(names)) ? findControl(names[axis]) : Control();
}

}  // namespace alpglow::sdl
