#pragma once
// A window with OpenGL and Dear ImGui in it.

#include "alpglow/stage/picture.hpp"
#include "alpglow/stage/scene.hpp"

#include <SDL.h>

#include <functional>
#include <optional>
#include <string>
#include <utility>

namespace alpglow::play {

class Window {
 public:
  /// A scale of 0 is the display's. Throws std::runtime_error, in one line that says what works without, where there is
  /// no window to be had.
  Window(const std::string& title, int width, int height, double scale);
  ~Window();
  Window(const Window&) = delete;
  Window& operator=(const Window&) = delete;

  SDL_Window* get() const { return window_; }
  SDL_GLContext context() const { return context_; }
  /// Pixels.
  int width() const { return width_; }
  int height() const { return height_; }
  /// Pixels of the drawing for one of the window's units; how large text ought to be.
  float scale() const { return scale_; }
  /// There is no graphics card.
  bool software() const { return software_; }
  bool visible() const;

  /// `input` may change what Dear ImGui takes for mouse and keys of this frame.
  void begin(const std::function<void()>& input);
  /// Dear ImGui's panels over what was drawn, and on the screen.
  void end();
  /// What is on the screen after `end`, if asked for before it.
  void keepPicture() { keeps_ = true; }
  std::optional<stage::Image> takePicture() { return std::exchange(kept_, std::nullopt); }

 private:
  SDL_Window* window_ = nullptr;
  SDL_GLContext context_ = nullptr;
  int width_ = 0, height_ = 0;
  float scale_ = 1;
  bool software_ = false, keeps_ = false;
  std::optional<stage::Image> kept_;
};

/// A plain picture of fewer pixels than it covers; otherwise the window itself.
class Viewport {
 public:
  ~Viewport();
  /// Draws into this part of the window, in pixels from its upper left corner.
  void draw(stage::Scene& scene, const stage::Shot& shot, const Window& window, bool plain, int x, int y, int width,
            int height);

 private:
  void resize(int width, int height);

  unsigned framebuffer_ = 0, buffers_[2] = {};
  int width_ = 0, height_ = 0;
};

}  // namespace alpglow::play
