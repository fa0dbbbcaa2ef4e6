#include "plan.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

namespace {

constexpr double shortWay = 3,
                 standing = 0.05;  // metres, metres per second: a subject that mostly stands is shown over time

/// What is along the lower edge: metres of the subject's way, or seconds.
std::vector<double> alongOf(const io::Trace& trace, bool& overTime) {
  std::vector<double> way{0}, time;
  double stands = 0;
  for (std::size_t i = 1; i < trace.size(); ++i) {
    const Eigen::Vector3d step = trace[i].subject - trace[i - 1].subject;
    const bool cuts = io::happened(trace[i], "cut");
    if (step.norm() < standing * trace[i].dt) stands += trace[i].dt;
    way.push_back(way.back() + (cuts ? 0 : std::hypot(step.x(), step.z())));
  }
  overTime = way.back() < shortWay || stands > trace.back().time / 2;
  if (!overTime) return way;
  for (const io::TraceFrame& frame : trace) time.push_back(frame.time);
  return time;
}

double roundStep(double range, double most) {
  for (const double step : {0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0}) {
    if (range / step <= most) return step;
  }
  return range;
}

}  // namespace

void drawSideView(Canvas& canvas, Rectangle area, const io::Trace& trace, const std::vector<std::size_t>& marks) {
  bool overTime = false;
  const std::vector<double> along = alongOf(trace, overTime);
  double low = trace[0].subject.y(), high = low;
  for (const io::TraceFrame& frame : trace) {
    low = std::min({low, frame.subject.y(), frame.camera.y()});
    high = std::max({high, frame.head.y(), frame.camera.y()});
  }
  low -= 0.3, high += 0.3;
  const double length = std::max(along.back(), 1e-3);
  // A little room at either end, so that a subject that stands there is seen.
  const auto x = [&](double value) { return area.x + area.width * (0.03 + 0.94 * value / length); };
  const auto y = [&](double height) { return area.y + area.height * (high - height) / (high - low); };
  canvas.fillRectangle(area, {0.985, 0.98, 0.97});
  const double tall = roundStep(high - low, 5), wide = roundStep(length, 12);
  for (int i = static_cast<int>(std::ceil(low / tall)); i * tall <= high; ++i) {
    const double mark = i * tall;
    canvas.line({{area.x, y(mark)}, {area.x + area.width, y(mark)}}, {0.20, 0.19, 0.22, 0.12}, 1);
    canvas.text({area.x - 8, y(mark) + 4}, fmt::format("{:g}", mark + 0.0), 11, textInk, Align::right);
  }
  for (int i = 0; i * wide <= length; ++i) {
    const double mark = i * wide;
    canvas.line({{x(mark), area.y + area.height}, {x(mark), area.y + area.height + 5}}, textInk, 1);
    canvas.text({x(mark), area.y + area.height + 18}, fmt::format("{:g}", mark), 11, textInk, Align::centre);
  }
  canvas.text({area.x + area.width / 2, area.y + area.height + 34},
              overTime ? "seconds" : "metres along the subject's way", 12, textInk, Align::centre);
  canvas.text({area.x - 8, area.y - 8}, "height, metres", 12, textInk);
  canvas.clip(area);
  const io::TraceFrame* const first = trace.data();
  const auto path = [&](double (*height)(const io::TraceFrame&)) {
    return pathOf(trace, [&, height](const io::TraceFrame& f) {
      return Point2{x(along[static_cast<std::size_t>(&f - first)]), y(height(f))};
    });
  };
  for (const auto& piece : path([](const io::TraceFrame& f) { return f.head.y(); }))
    canvas.line(piece, subjectInk, 1, 3);
  for (const auto& piece : path([](const io::TraceFrame& f) { return f.subject.y(); }))
    canvas.line(piece, subjectInk, 2.4);
  for (const auto& piece : path([](const io::TraceFrame& f) { return f.camera.y(); }))
    canvas.line(piece, cameraInk, 1.8);
  std::vector<Point2> places;
  places.reserve(marks.size());
  for (const std::size_t mark : marks) places.push_back({x(along[mark]), y(trace[mark].camera.y())});
  drawNumbers(canvas, places, area);
  canvas.unclip();
  canvas.strokeRectangle(area, textInk, 1);
}

void drawLegend(Canvas& canvas, Point2 at, double width, const io::Level& level) {
  double x = at.x;
  const double right = at.x + width;
  const auto entry = [&](const char* words, double length, const auto& draw) {
    if (x + 30 + length > right) x = at.x, at.y += 18;
    draw(Point2{x, at.y - 4});
    canvas.text({x + 30, at.y}, words, 11.5, textInk);
    x += 30 + length + 14;
  };
  const auto stroke = [&](Ink ink, double thick, double dash) {
    return [&canvas, ink, thick, dash](Point2 p) { canvas.line({p, {p.x + 24, p.y}}, ink, thick, dash); };
  };
  entry("subject", 44, stroke(subjectInk, 2.4, 0));
  entry("its head, from the side", 132, stroke(subjectInk, 1, 3));
  entry("camera", 42, stroke(cameraInk, 1.8, 0));
  entry("a picture: its number, what the lens takes in, what it looks at", 356, [&](Point2 p) {
    canvas.polygon({{p.x + 4, p.y}, {p.x + 24, p.y - 8}, {p.x + 26, p.y}, {p.x + 24, p.y + 8}},
                   {cameraInk.red, cameraInk.green, cameraInk.blue, 0.25});
    canvas.disc({p.x + 4, p.y}, 5, cameraInk);
  });
  entry("hangs above", 70, stroke(faintInk, 1, 4));
  entry("cut at 1.5 m", 70, [&](Point2 p) { canvas.fillRectangle({p.x + 4, p.y - 5, 16, 10}, {0.27, 0.22, 0.2}); });
  if (!level.targets.empty())
    entry("target", 38, [&](Point2 p) {
      canvas.disc({p.x + 12, p.y}, 4.5, {1, 1, 1});
      canvas.disc({p.x + 12, p.y}, 3.2, targetInk);
    });
  if (!level.platforms.empty()) entry("way of what moves", 106, stroke(platformInk, 1.4, 5));
}

}  // namespace alpglow::stage
