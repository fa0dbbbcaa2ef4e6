#pragma once
// SDL2's devices as controls: keyboard, mouse, game controllers (several, plugged in and out at any time), touch.
//
//   sdl::Input input(window, bindings.touch,
//                    [&](std::size_t player, const ControlEvent& event) { players[player].feed(event); });
//   while (SDL_PollEvent(&event)) input.handle(event, now);      // `now` in the time that your controls count in
//   input.lockPointer(players[0].wantsPointerLock(), now);
//
// Needs SDL_INIT_VIDEO and SDL_INIT_GAMECONTROLLER. What is delivered can be recorded as it is: it is all there is.

#include "alpglow/input/control.hpp"
#include "alpglow/input/touch.hpp"

#include <SDL.h>

#include <functional>
#include <memory>
#include <vector>

namespace alpglow::sdl {

/// The control of a key; not valid for keys without a W3C code.
Control controlOf(SDL_Scancode key);
/// Of a button of a game controller, in the W3C standard layout.
Control controlOf(SDL_GameControllerButton button);
/// Of an axis; triggers are the buttons 6 and 7.
Control controlOf(SDL_GameControllerAxis axis);

class Input {
 public:
  /// The player that gets it, and what moved.
  using Sink = std::function<void(int player, const ControlEvent& event)>;

  /// The window must outlive the input.
  Input(SDL_Window* window, const TouchSettings& touch, Sink sink);
  ~Input();
  Input(const Input&) = delete;
  Input& operator=(const Input&) = delete;

  /// Takes one event of SDL's queue, at a time in seconds. Events of no device are passed over.
  void handle(const SDL_Event& event, double time);

  /// Locks the pointer to the window, or frees it; says so to player 0 when it changes.
  void lockPointer(bool locked, double time);

  /// Whose pad it is; player 0's unless said otherwise. What was held on it is released for its old player.
  void assignPad(SDL_JoystickID pad, int player, double time);
  /// The pads that are plugged in.
  std::vector<SDL_JoystickID> pads() const;

  /// Zones for fingers from now on; those that are down end.
  void setTouch(const TouchSettings& touch, double time);
  /// Tells which places of the screen are the game's own buttons (fractions of width and height): fingers that start
  /// there do not look.
  void setButtonTest(std::function<bool(double x, double y)> onButton) { onButton_ = std::move(onButton); }

 private:
  struct Pad;

  void key(const SDL_KeyboardEvent& event, double time);
  void mouse(const SDL_Event& event, double time);
  void finger(const SDL_TouchFingerEvent& event, std::uint32_t type, double time);
  void window(const SDL_WindowEvent& event, double time);
  void plugIn(int deviceIndex);
  void unplug(SDL_JoystickID id, double time);
  void padMoved(SDL_JoystickID id, Control control, double value, double time);
  void releaseControl(Pad& pad, double time);
  Pad* find(SDL_JoystickID id);
  void send(int player, double time, const char* control, double x, double y = 0);

  SDL_Window* window_;
  TouchZones touch_;
  Sink sink_;
  std::function<bool(double, double)> onButton_;
  std::vector<std::unique_ptr<Pad>> pads_;
  bool pointerLocked_ = false;
};

}  // namespace alpglow::sdl
