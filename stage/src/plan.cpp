#include "plan.hpp"

#include "alpglow/base/angles.hpp"

#include <fmt/format.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr Ink text{0.20, 0.19, 0.22}, faint{0.20, 0.19, 0.22, 0.35}, subjectInk{0.78, 0.22, 0.14},
    cameraInk{0.10, 0.35, 0.62};
constexpr double cutHeight = 1.5;  // above the subject's feet, like an architect's plan

Chart chartOf(Rectangle area, const io::Trace& trace) {
  Eigen::AlignedBox2d bounds;
  for (const io::TraceFrame& frame : trace) {
    for (const Vector3d& p : {frame.subject, frame.camera}) bounds.extend(Eigen::Vector2d(p.x(), p.z()));
  }
  return {area, bounds};
}

double medianHeight(const io::Trace& trace) {
  std::vector<double> heights;
  for (const io::TraceFrame& frame : trace) heights.push_back(frame.subject.y());
  std::nth_element(heights.begin(), heights.begin() + static_cast<std::ptrdiff_t>(heights.size() / 2), heights.end());
  return heights[heights.size() / 2];
}

/// The convex outline of points on the sheet (Andrew's monotone chain).
std::vector<Point2> hull(std::vector<Point2> points) {
  std::sort(points.begin(), points.end(), [](Point2 a, Point2 b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
  const auto turn = [](Point2 o, Point2 a, Point2 b) { return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x); };
  std::vector<Point2> outline;
  for (int pass = 0; pass < 2; ++pass) {
    const std::size_t start = outline.size();
    for (const Point2& p : points) {
      while (outline.size() >= start + 2 && turn(outline[outline.size() - 2], outline.back(), p) <= 0)
        outline.pop_back();
      outline.push_back(p);
    }
    outline.pop_back();
    std::reverse(points.begin(), points.end());
  }
  return outline;
}

struct Piece {
  const io::LevelObject* object;
  double low, high;
};

void drawObject(Canvas& canvas, const Chart& chart, const Piece& piece, double cut, double floor) {
  const Eigen::Vector3f c = groupColour(piece.object->group);
  const bool walled = piece.high > cut;
  const double dim = walled ? 0.55 : 1.0 - 0.25 * std::clamp((floor - piece.high) / 6, 0.0, 1.0);
  const double pale = walled ? 0.0 : 0.42;
  const auto part = [&](float value) { return (static_cast<double>(value) * (1 - pale) + pale) * dim; };
  const Ink fill{part(c.x()), part(c.y()), part(c.z())};
  if (piece.object->convex) {
    std::vector<Point2> points;
    for (const Vector3d& v : piece.object->mesh.vertices) points.push_back(chart.at(v));
    const std::vector<Point2> outline = hull(points);
    if (piece.low > cut) return canvas.line(outline, faint, 1, 4, true);
    canvas.polygon(outline, fill);
    canvas.line(outline, {0, 0, 0, 0.25}, 0.7, 0, true);
  } else if (piece.low <= cut) {
    for (const auto& t : piece.object->mesh.triangles) {
      const auto corner = [&](std::size_t k) {
        return chart.at(piece.object->mesh.vertices[static_cast<std::size_t>(t[k])]);
      };
      canvas.polygon({corner(0), corner(1), corner(2)}, fill);
    }
  }
}

/// Where movers go, and the targets.
void drawMovers(Canvas& canvas, const Chart& chart, const io::Level& level) {
  for (const io::Mover& mover : level.movers) {
    std::vector<Point2> line;
    for (const Vector3d& p : mover.path) line.push_back(chart.at(p));
    canvas.line(line, {0.85, 0.45, 0.1, 0.9}, 1.4, 5);
  }
  for (const io::LevelTarget& target : level.targets) {
    canvas.disc(chart.at(target.position), 4.5, {1, 1, 1});
    canvas.disc(chart.at(target.position), 3.2, {0.95, 0.65, 0.1});
  }
}

void drawPath(Canvas& canvas, const Chart& chart, const io::Trace& trace, Vector3d io::TraceFrame::*point, Ink ink,
              double width) {
  std::vector<Point2> line;
  for (const io::TraceFrame& frame : trace) line.push_back(chart.at(frame.*point));
  canvas.line(line, {1, 1, 1, 0.75}, width + 2.5);
  canvas.line(line, ink, width);
}

void drawMark(Canvas& canvas, const Chart& chart, const io::TraceFrame& frame, std::size_t number) {
  const Point2 camera = chart.at(frame.camera), subject = chart.at(frame.subject);
  const double half = std::atan(std::tan(degrees(frame.fieldOfView) / 2) * frame.aspect);
  std::vector<Point2> wedge = {camera};
  for (const double side : {-1.0, -0.5, 0.0, 0.5, 1.0}) {
    const double angle = degrees(frame.yaw) + side * half;
    wedge.push_back({camera.x - 34 * std::sin(angle), camera.y - 34 * std::cos(angle)});
  }
  canvas.polygon(wedge, {cameraInk.red, cameraInk.green, cameraInk.blue, 0.25});
  canvas.line({camera, subject}, faint, 1, 3);
  canvas.disc(subject, 5, {1, 1, 1});
  canvas.disc(subject, 4, subjectInk);
  canvas.disc(camera, 9.5, {1, 1, 1});
  canvas.disc(camera, 8.5, cameraInk);
  canvas.text({camera.x, camera.y + 4}, fmt::format("{}", number), 11, {1, 1, 1}, Align::centre, true);
}

void drawLegend(Canvas& canvas, Point2 at) {
  canvas.line({{at.x, at.y}, {at.x + 26, at.y}}, subjectInk, 2.5);
  canvas.text({at.x + 32, at.y + 4}, "subject", 12, text);
  canvas.line({{at.x + 100, at.y}, {at.x + 126, at.y}}, cameraInk, 1.8);
  canvas.text({at.x + 132, at.y + 4}, "camera", 12, text);
}

}  // namespace

Chart::Chart(Rectangle area, const Eigen::AlignedBox2d& bounds) : area_(area) {
  constexpr double margin = 3, least = 14;
  const double width = std::max(bounds.sizes().x() + 2 * margin, least),
               depth = std::max(bounds.sizes().y() + 2 * margin, least);
  scale_ = std::min(area.width / width, area.height / depth);
  centre_ = {bounds.center().x(), bounds.center().y()};
}

void drawLevel(Canvas& canvas, const Chart& chart, const io::Level& level, double floor) {
  const double cut = floor + cutHeight;
  std::vector<Piece> pieces;
  for (const io::LevelObject& object : level.objects) {
    Piece piece{&object, 1e30, -1e30};
    for (const Vector3d& v : object.mesh.vertices)
      piece.low = std::min(piece.low, v.y()), piece.high = std::max(piece.high, v.y());
    pieces.push_back(piece);
  }
  // What reaches through the cut goes on top of what lies below it; what hangs above is an outline over everything.
  std::stable_sort(pieces.begin(), pieces.end(), [cut](const Piece& a, const Piece& b) {
    const auto rank = [cut](const Piece& p) { return p.low > cut ? 1e9 : p.high; };
    return rank(a) < rank(b);
  });
  for (const Piece& piece : pieces) drawObject(canvas, chart, piece, cut, floor);
}

void drawAxes(Canvas& canvas, const Chart& chart, Rectangle area, bool named) {
  const double step = chart.scale() > 28 ? 1 : chart.scale() > 12 ? 2 : chart.scale() > 6 ? 5 : 10;
  const auto firstMark = [step](double from) { return static_cast<int>(std::ceil(from / step)); };
  for (int mark = firstMark(chart.left()); mark * step <= chart.right(); ++mark) {
    const double v = mark * step;
    canvas.line({{chart.x(v), area.y + area.height}, {chart.x(v), area.y + area.height + 5}}, text, 1);
    canvas.text({chart.x(v), area.y + area.height + 18}, fmt::format("{:g}", v), 11, text, Align::centre);
  }
  for (int mark = firstMark(chart.top()); mark * step <= chart.bottom(); ++mark) {
    const double v = mark * step;
    canvas.line({{area.x - 5, chart.y(v)}, {area.x, chart.y(v)}}, text, 1);
    canvas.text({area.x - 8, chart.y(v) + 4}, fmt::format("{:g}", v), 11, text, Align::right);
  }
  if (!named) return;
  canvas.text({area.x + area.width / 2, area.y + area.height + 35}, "x, metres", 12, text, Align::centre);
  canvas.text({area.x - 8, area.y - 8}, "z, metres", 12, text, Align::centre);
}

void drawPlan(Canvas& canvas, Rectangle area, const io::Level& level, const io::Trace& trace,
              const std::vector<std::size_t>& marks) {
  const Chart chart = chartOf(area, trace);
  canvas.clip(area);
  canvas.fillRectangle(area, {0.80, 0.79, 0.82});
  drawLevel(canvas, chart, level, medianHeight(trace));
  drawMovers(canvas, chart, level);
  drawPath(canvas, chart, trace, &io::TraceFrame::camera, cameraInk, 1.6);
  drawPath(canvas, chart, trace, &io::TraceFrame::subject, subjectInk, 2.4);
  for (std::size_t i = 0; i < marks.size(); ++i) drawMark(canvas, chart, trace[marks[i]], i + 1);
  canvas.unclip();
  canvas.strokeRectangle(area, text, 1);
  drawAxes(canvas, chart, area);
  drawLegend(canvas, {area.x + area.width - 190, area.y - 12});
}

}  // namespace alpglow::stage
