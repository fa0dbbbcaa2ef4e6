#pragma once
// The lines of a camera that is seen from outside, on a picture from there.

#include "canvas.hpp"

#include "alpglow/stage/outside_view.hpp"

#include "alpglow/view/debug_draw.hpp"

namespace alpglow::stage {

/// What the colours mean, in one line that ends there.
void drawMeanings(Canvas& canvas, Point2 end);

/// Lines over a picture: what is behind something is drawn, too.
class LinesOnPicture final : public DebugDraw {
 public:
  LinesOnPicture(Canvas& canvas, const Rectangle& area, const View& from) : canvas_(canvas), area_(area), from_(from) {}

  void line(const Eigen::Vector3d& from, const Eigen::Vector3d& to, Meaning meaning) override;
  void sphere(const Eigen::Vector3d& middle, double radius, Meaning meaning) override;
  void label(const Eigen::Vector3d& at, const std::string& text, Meaning meaning) override;

 private:
  Point2 onPicture(const Eigen::Vector3d& seen) const;
  Eigen::Vector3d seenFrom(const Eigen::Vector3d& point) const;

  Canvas& canvas_;
  Rectangle area_;
  const View& from_;
};

}  // namespace alpglow::stage
