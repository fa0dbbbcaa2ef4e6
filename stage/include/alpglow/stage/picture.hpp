#pragma once
// Pictures of a level through a camera, rendered without a window.
//
//   Painter painter(stage.level());                 // OpenGL 3.3 on surfaceless EGL
//   const Image image = painter.paint(shot, 640, 360);

#include "alpglow/io/level.hpp"
#include "alpglow/io/trace.hpp"
#include "alpglow/stage/stage.hpp"
#include "alpglow/view/view.hpp"

#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace alpglow::stage {

/// Eight bits each of red, green, blue and an unused byte; rows from the top.
struct Image {
  int width = 0, height = 0;
  std::vector<std::uint8_t> pixels;
};

/// One moment to paint.
struct Shot {
  View view;
  /// The subject's feet, the direction the body faces in radians, the height of the body and how much of it to draw.
  Eigen::Vector3d feet = Eigen::Vector3d::Zero();
  double heading = 0;
  double height = 1.8;
  double opacity = 1;
  /// Large and soft things that cover the subject, and how much of each to draw.
  std::map<std::string, double> covering;
  /// When it is, for what moves in the level, seconds.
  double time = 0;
};

/// The moment of a frame of a trace that was made on this stage.
Shot shotOf(const io::TraceFrame& frame, const Stage& stage);

/// The picture as a PNG file's content. Throws std::runtime_error where it cannot be made.
std::string pngOf(const Image& image);

/// There is no font on this machine: captions are drawn by strokes, and signs such as ° are missing.
bool fontsMissing();

class Painter {
 public:
  /// Throws std::runtime_error when there is no OpenGL to be had.
  explicit Painter(const io::Level& level);
  ~Painter();

  Image paint(const Shot& shot, int width, int height);

 private:
  struct Context;
  std::unique_ptr<Context> context_;
};

/// The colour of a group of objects, red, green and blue in 0 … 1.
Eigen::Vector3f groupColour(const std::string& group);

}  // namespace alpglow::stage
