#include "alpglow/sdl/sdl_input.hpp"

#include <algorithm>
#include <map>

namespace alpglow::sdl {

struct Input::Pad {
  SDL_GameController* controller;
  SDL_JoystickID id;
  int player;
  std::map<int, double> held;  // by control, what is not at rest
};

Input::Input(SDL_Window* window, const TouchSettings& touch, Sink sink)
    : window_(window), touch_(touch), sink_(std::move(sink)) {}

Input::~Input() {
  for (const auto& pad : pads_) SDL_GameControllerClose(pad->controller);
}

void Input::send(int player, double time, const char* control, double x, double y) {
  sink_(player, {time, findControl(control), x, y});
}

void Input::handle(const SDL_Event& event, double time) {
  switch (event.type) {
    case SDL_KEYDOWN:
    case SDL_KEYUP: key(event.key, time); break;
    case SDL_MOUSEMOTION:
    case SDL_MOUSEBUTTONDOWN:
    case SDL_MOUSEBUTTONUP:
    case SDL_MOUSEWHEEL: mouse(event, time); break;
    case SDL_FINGERDOWN:
    case SDL_FINGERMOTION:
    case SDL_FINGERUP: finger(event.tfinger, event.type, time); break;
    case SDL_CONTROLLERDEVICEADDED: plugIn(event.cdevice.which); break;
    case SDL_CONTROLLERDEVICEREMOVED: unplug(event.cdevice.which, time); break;
    case SDL_CONTROLLERBUTTONDOWN:
    case SDL_CONTROLLERBUTTONUP:
      padMoved(event.cbutton.which, controlOf(static_cast<SDL_GameControllerButton>(event.cbutton.button)),
               event.cbutton.state == SDL_PRESSED ? 1 : 0, time);
      break;
    case SDL_CONTROLLERAXISMOTION:
      padMoved(event.caxis.which, controlOf(static_cast<SDL_GameControllerAxis>(event.caxis.axis)),
               std::max(event.caxis.value / 32767.0, -1.0), time);
      break;
    case SDL_WINDOWEVENT: window(event.window, time); break;
    default: break;
  }
}

void Input::key(const SDL_KeyboardEvent& event, double time) {
  const Control control = controlOf(event.keysym.scancode);
  if (control.valid() && event.repeat == 0) sink_(0, {time, control, event.state == SDL_PRESSED ? 1.0 : 0.0, 0});
}

/// A finger may arrive as a mouse too: it counts once, as a finger.
void Input::mouse(const SDL_Event& event, double time) {
  constexpr const char* buttons[] = {"MouseButton0", "MouseButton1", "MouseButton2", "MouseButton3", "MouseButton4"};
  if (event.type == SDL_MOUSEMOTION) {
    if (event.motion.which != SDL_TOUCH_MOUSEID) send(0, time, "MouseMove", event.motion.xrel, event.motion.yrel);
  } else if (event.type == SDL_MOUSEWHEEL) {
    const double away = event.wheel.direction == SDL_MOUSEWHEEL_FLIPPED ? -1 : 1;
    if (event.wheel.which != SDL_TOUCH_MOUSEID)
      send(0, time, "MouseWheel", away * static_cast<double>(event.wheel.preciseY));
  } else if (event.button.which != SDL_TOUCH_MOUSEID && event.button.button >= 1 && event.button.button <= 5) {
    send(0, time, buttons[event.button.button - 1], event.button.state == SDL_PRESSED ? 1 : 0);
  }
}

void Input::finger(const SDL_TouchFingerEvent& event, std::uint32_t type, double time) {
  int width = 1, height = 1;
  SDL_GetWindowSize(window_, &width, &height);
  const double x = static_cast<double>(event.x), y = static_cast<double>(event.y);
  const auto out = [this](const ControlEvent& moved) { sink_(0, moved); };
  if (type == SDL_FINGERDOWN) {
    touch_.down(event.fingerId, x, y, onButton_ && onButton_(x, y));
  } else if (type == SDL_FINGERMOTION) {
    touch_.move(event.fingerId, x, y, time, static_cast<double>(width) / std::max(height, 1), out);
  } else {
    touch_.up(event.fingerId, time, out);
  }
}

void Input::window(const SDL_WindowEvent& event, double time) {
  if (event.event == SDL_WINDOWEVENT_FOCUS_GAINED) send(0, time, "Focus", 1);
  if (event.event != SDL_WINDOWEVENT_FOCUS_LOST) return;
  touch_.cancel(time, [this](const ControlEvent& moved) { sink_(0, moved); });
  lockPointer(false, time);
  send(0, time, "Focus", 0);
}

void Input::setTouch(const TouchSettings& touch, double time) {
  touch_.cancel(time, [this](const ControlEvent& moved) { sink_(0, moved); });
  touch_ = TouchZones(touch);
}

void Input::lockPointer(bool locked, double time) {
  if (locked == pointerLocked_) return;
  if (SDL_SetRelativeMouseMode(locked ? SDL_TRUE : SDL_FALSE) != 0) return;
  pointerLocked_ = locked;
  send(0, time, "PointerLock", locked ? 1 : 0);
}

void Input::plugIn(int deviceIndex) {
  SDL_GameController* controller = SDL_GameControllerOpen(deviceIndex);
  if (controller == nullptr) return;
  const SDL_JoystickID id = SDL_JoystickInstanceID(SDL_GameControllerGetJoystick(controller));
  if (find(id) != nullptr) return SDL_GameControllerClose(controller);
  pads_.push_back(std::make_unique<Pad>(Pad{controller, id, 0, {}}));
}

void Input::unplug(SDL_JoystickID id, double time) {
  Pad* pad = find(id);
  if (pad == nullptr) return;
  releaseControl(*pad, time);
  SDL_GameControllerClose(pad->controller);
  pads_.erase(std::find_if(pads_.begin(), pads_.end(), [pad](const auto& p) { return p.get() == pad; }));
}

void Input::padMoved(SDL_JoystickID id, Control control, double value, double time) {
  Pad* pad = find(id);
  if (pad == nullptr || !control.valid()) return;
  if (value != 0) {
    pad->held[control.index] = value;
  } else {
    pad->held.erase(control.index);
  }
  sink_(pad->player, {time, control, kindOf(control) == ControlKind::button ? std::max(value, 0.0) : value, 0});
}

/// Everything that is not at rest goes back to it.
void Input::releaseControl(Pad& pad, double time) {
  for (const auto& [index, value] : pad.held) sink_(pad.player, {time, {static_cast<std::uint16_t>(index)}, 0, 0});
  pad.held.clear();
}

void Input::assignPad(SDL_JoystickID id, int player, double time) {
  Pad* pad = find(id);
  if (pad == nullptr || pad->player == player) return;
  releaseControl(*pad, time);
  pad->player = player;
}

std::vector<SDL_JoystickID> Input::pads() const {
  std::vector<SDL_JoystickID> ids;
  for (const auto& pad : pads_) ids.push_back(pad->id);
  return ids;
}

Input::Pad* Input::find(SDL_JoystickID id) {
  const auto found = std::find_if(pads_.begin(), pads_.end(), [id](const auto& pad) { return pad->id == id; });
  return found == pads_.end() ? nullptr : found->get();
}

}  // namespace alpglow::sdl
