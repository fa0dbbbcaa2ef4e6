#pragma once
// Starting SDL for a window that somebody sees.
//
//   sdl::start();                        // video and game controllers; SDL_Quit ends both

namespace alpglow::sdl {

/// Throws std::runtime_error with the reason where there is no display; a driver that shows nothing counts only where
/// SDL_VIDEODRIVER asks for it.
void start();

}  // namespace alpglow::sdl
