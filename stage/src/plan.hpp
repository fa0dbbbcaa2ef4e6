#pragma once
// The level from above with the paths drawn in.

#include "canvas.hpp"

#include "alpglow/io/level.hpp"
#include "alpglow/io/trace.hpp"

#include <Eigen/Geometry>

namespace alpglow::stage {

/// Maps metres on the ground to the sheet: x to the right, z down.
class Chart {
 public:
  /// Around bounds of x and z, with a margin.
  Chart(Rectangle area, const Eigen::AlignedBox2d& bounds);

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

/// Draws the plan of what surrounds the paths into `place`; `marks` are positions in the trace that get a number.
void drawPlan(Canvas& canvas, Rectangle area, const io::Level& level, const io::Trace& trace,
              const std::vector<std::size_t>& marks);

}  // namespace alpglow::stage
