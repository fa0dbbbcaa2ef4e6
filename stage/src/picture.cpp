#include "alpglow/stage/picture.hpp"

#include "alpglow/stage/scene.hpp"
#include "offscreen.hpp"

#include <optional>

namespace alpglow::stage {

struct Painter::Context {
  explicit Context(const io::Level& level) : scene(level) {}

  OffscreenContext gl;
  Scene scene;
  std::optional<RenderTarget> target;
};

Painter::Painter(const io::Level& level) : context_(std::make_unique<Context>(level)) {}
Painter::~Painter() = default;

Image Painter::paint(const Shot& shot, int width, int height) {
  Context& c = *context_;
  if (!c.target || c.target->width() != width || c.target->height() != height) c.target.emplace(width, height);
  c.scene.draw(shot, {c.target->framebuffer(), 0, 0, width, height});
  return c.target->read();
}

}  // namespace alpglow::stage
