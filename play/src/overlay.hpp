#pragma once
// What is drawn over the picture: crosshair, events, sticks, and the camera seen from outside.

#include "alpglow/input/player_controls.hpp"
#include "alpglow/io/trace.hpp"
#include "alpglow/view/debug_draw.hpp"
#include "alpglow/view/view.hpp"

#include <imgui.h>

#include <deque>
#include <string>

namespace alpglow::play {

/// A part of the window, in the units of Dear ImGui.
struct Area {
  float x = 0, y = 0, width = 0, height = 0;

  ImVec2 from() const { return {x, y}; }
  ImVec2 to() const { return {x + width, y + height}; }
  double aspect() const { return height > 0 ? static_cast<double>(width) / static_cast<double>(height) : 1; }
};

/// Lines of the world over a picture from `from`, clipped where they go behind it.
class LinesOverPicture final : public DebugDraw {
 public:
  LinesOverPicture(ImDrawList& draw, const Area& area, const View& from) : draw_(draw), area_(area), from_(from) {}

  void line(const Eigen::Vector3d& from, const Eigen::Vector3d& to, Meaning meaning) override;
  void sphere(const Eigen::Vector3d& middle, double radius, Meaning meaning) override;
  void label(const Eigen::Vector3d& at, const std::string& text, Meaning meaning) override;

 private:
  ImVec2 at(const Eigen::Vector3d& seen) const;

  ImDrawList& draw_;
  Area area_;
  View from_;
  Eigen::Matrix4d toView_ = from_.worldToView();
};

/// What happened lately, for as long as it takes to read.
class EventList {
 public:
  void add(const io::TraceFrame& frame);
  void draw(ImDrawList& list, ImVec2 at) const;

 private:
  struct One {
    double time;
    std::string what;
  };
  std::deque<One> events_;
  double now_ = 0;
};

void drawCrosshair(ImDrawList& draw, const Area& area);
/// Raw and shaped, in a square of this size: the dead zone, the stick, and what becomes of it.
void drawStick(ImDrawList& draw, ImVec2 at, float size, const PlayerControls::Stick& stick, double innerEdge);
/// Words that can be read on anything.
void drawWords(ImDrawList& draw, ImVec2 at, const std::string& words, ImU32 colour);

}  // namespace alpglow::play
