#pragma once
// The level from above with the paths drawn in.

#include "canvas.hpp"

#include "alpglow/io/level.hpp"
#include "alpglow/io/trace.hpp"

#include <Eigen/Geometry>

#include <functional>
#include <vector>

namespace alpglow::stage {

constexpr Ink textInk{0.20, 0.19, 0.22}, faintInk{0.20, 0.19, 0.22, 0.35}, subjectInk{0.78, 0.22, 0.14},
    cameraInk{0.10, 0.35, 0.62}, platformInk{0.85, 0.45, 0.1, 0.9}, targetInk{0.95, 0.65, 0.1};

/// Maps metres on the ground to the sheet: x to the right, z down.
class Chart {
 public:
  /// Around bounds of x and z, with a margin.
  Chart(Rectangle area, const Eigen::AlignedBox2d& bounds);
  /// Of an area that nothing is wasted of.
  static double depthOverWidth(const Eigen::AlignedBox2d& bounds);

  Point2 at(const Eigen::Vector3d& p) const { return {x(p.x()), y(p.z())}; }
  double x(double metres) const { return area_.x + area_.width / 2 + (metres - centre_.x) * scale_; }
  double y(double metres) const { return area_.y + area_.height / 2 + (metres - centre_.y) * scale_; }
  double left() const { return centre_.x - area_.width / 2 / scale_; }
  double right() const { return centre_.x + area_.width / 2 / scale_; }
  double top() const { return centre_.y - area_.height / 2 / scale_; }
  double bottom() const { return centre_.y + area_.height / 2 / scale_; }
  double scale() const { return scale_; }

 private:
  Rectangle area_;
  double scale_;
  Point2 centre_;
};

/// The level as an architect draws it, cut above a floor.
void drawLevel(Canvas& canvas, const Chart& chart, const io::Level& level, double floor);
/// Metres along the lower and the left edge.
void drawAxes(Canvas& canvas, const Chart& chart, Rectangle area, bool named = true);

/// The way of something, in pieces between cuts.
std::vector<std::vector<Point2>> pathOf(const io::Trace& trace,
                                        const std::function<Point2(const io::TraceFrame&)>& place);
/// The same places, pushed from each other until they are so far apart.
std::vector<Point2> spread(const std::vector<Point2>& places, double apart, Rectangle within);
/// 1, 2 and so on beside their places.
void drawNumbers(Canvas& canvas, const std::vector<Point2>& places, Rectangle within);

/// Draws the plan of what surrounds the paths into `area`, no higher than it needs; `marks` are positions in the trace
/// that get a number. Returns where it is.
Rectangle drawPlan(Canvas& canvas, Rectangle area, const io::Level& level, const io::Trace& trace,
                   const std::vector<std::size_t>& marks);

/// Heights of subject and camera along the subject's way, or over time where that is short.
void drawSideView(Canvas& canvas, Rectangle area, const io::Trace& trace, const std::vector<std::size_t>& marks);

/// What everything on plan and side view means, in a line of its own from there.
void drawLegend(Canvas& canvas, Point2 at, double width, const io::Level& level);

}  // namespace alpglow::stage
