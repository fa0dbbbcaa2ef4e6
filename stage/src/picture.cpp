#include "alpglow/stage/picture.hpp"

#include "alpglow/stage/scene.hpp"
#include "canvas.hpp"
#include "drawn_walker.hpp"
#include "offscreen.hpp"

#include <optional>

namespace alpglow::stage {

Shot shotOf(const io::TraceFrame& frame, const Stage& stage) {
  const io::Body& body = stage.level().body;
  Shot shot;
  shot.view.position = frame.camera;
  shot.view.yaw = degrees(frame.yaw);
  shot.view.pitch = degrees(frame.pitch);
  shot.view.roll = degrees(frame.roll);
  shot.view.fieldOfView = degrees(frame.fieldOfView);
  shot.view.aspect = frame.aspect;
  shot.view.nearPlane = frame.nearPlane;
  shot.feet = frame.subject;
  shot.heading = degrees(frame.subjectHeading);
  shot.height = body.height * (frame.head.y() - frame.subject.y()) / body.eyeHeight;  // lower when crouching
  shot.opacity = frame.filmed == "character" || frame.filmed.empty() ? frame.opacity : 0;
  shot.covering = io::pairsOf(frame.fading);
  if (!frame.covering.empty()) shot.covering[frame.covering] = frame.coveringOpacity;
  shot.time = drawnTime(frame.world, stage.tickLength());
  return shot;
}

std::string pngOf(const Image& image) {
  Canvas canvas(image.width, image.height, {0, 0, 0});
  canvas.image(image, {0, 0, static_cast<double>(image.width), static_cast<double>(image.height)});
  return canvas.png();
}

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
