#include "alpglow/sdl/start.hpp"

#include <SDL.h>

#include <stdexcept>
#include <string>

namespace alpglow::sdl {

void start() {
  SDL_SetHint(SDL_HINT_JOYSTICK_ALLOW_BACKGROUND_EVENTS, "1");
  if (SDL_Init(SDL_INIT_VIDEO | SDL_INIT_GAMECONTROLLER) != 0) throw std::runtime_error(SDL_GetError());
  const char* driver = SDL_GetCurrentVideoDriver();
  const std::string name = driver != nullptr ? driver : "";
  if ((name != "offscreen" && name != "dummy") || SDL_GetHint(SDL_HINT_VIDEODRIVER) != nullptr) return;
  SDL_Quit();
  throw std::runtime_error("there is no display");
}

}  // namespace alpglow::sdl
