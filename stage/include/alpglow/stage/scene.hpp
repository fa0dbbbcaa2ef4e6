#pragma once
// A level at dusk, drawn with OpenGL into whatever is there to draw into.
//
//   Scene scene(stage.level(), Quality::full);        // in a current context of OpenGL 3.3
//   scene.draw(shot, {0, 0, 0, 1280, 800});

#include "alpglow/stage/picture.hpp"

#include <memory>

namespace alpglow::stage {

/// As it looks best; or as it is drawn fast without a graphics card, with coarser shadows and fewer lanterns.
enum class Quality { full, plain };

/// Where a picture goes: pixels of a framebuffer, from its lower left corner.
struct Screen {
  unsigned framebuffer = 0;
  int x = 0, y = 0, width = 0, height = 0;
};

class Scene {
 public:
  /// The level must outlive the scene, and the context must be current when it is drawn and when it goes. Throws
  /// std::runtime_error where a shader cannot be had.
  explicit Scene(const io::Level& level, Quality quality = Quality::full);
  ~Scene();

  /// Fills that part of the screen. The height of the picture's view is that of the screen.
  void draw(const Shot& shot, const Screen& screen);

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace alpglow::stage
