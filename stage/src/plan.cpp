#include "plan.hpp"

#include "alpglow/base/angles.hpp"

#include <fmt/format.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double cutHeight = 1.5;  // above the subject's feet, like an architect's plan

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
    if (piece.low > cut) return canvas.line(outline, faintInk, 1, 4, true);
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

/// Where platforms go, and the targets.
void drawPlatforms(Canvas& canvas, const Chart& chart, const io::Level& level) {
  for (const io::MovingPlatform& platform : level.platforms) {
    std::vector<Point2> line;
    for (const Vector3d& p : platform.path) line.push_back(chart.at(p));
    canvas.line(line, platformInk, 1.4, 5);
  }
  for (const io::LevelTarget& target : level.targets) {
    canvas.disc(chart.at(target.position), 4.5, {1, 1, 1});
    canvas.disc(chart.at(target.position), 3.2, targetInk);
  }
}

void drawPath(Canvas& canvas, const Chart& chart, const io::Trace& trace, Vector3d io::TraceFrame::*point, Ink ink,
              double width) {
  for (const std::vector<Point2>& piece : pathOf(trace, [&](const io::TraceFrame& f) { return chart.at(f.*point); })) {
    canvas.line(piece, {1, 1, 1, 0.75}, width + 2.5);
    canvas.line(piece, ink, width);
  }
}

/// What the lens takes in, and what it looks at.
void drawView(Canvas& canvas, const Chart& chart, const io::TraceFrame& frame) {
  const Point2 camera = chart.at(frame.camera), subject = chart.at(frame.subject);
  const double half = std::atan(std::tan(degrees(frame.fieldOfView) / 2) * frame.aspect);
  std::vector<Point2> wedge = {camera};
  for (const double side : {-1.0, -0.5, 0.0, 0.5, 1.0}) {
    const double angle = degrees(frame.yaw) + side * half;
    wedge.push_back({camera.x - 34 * std::sin(angle), camera.y - 34 * std::cos(angle)});
  }
  canvas.polygon(wedge, {cameraInk.red, cameraInk.green, cameraInk.blue, 0.25});
  canvas.line({camera, subject}, faintInk, 1, 3);
  canvas.disc(subject, 5, {1, 1, 1});
  canvas.disc(subject, 4, subjectInk);
}

}  // namespace

namespace {

constexpr double margin = 3, least = 14;  // metres

Eigen::Vector2d shownSize(const Eigen::AlignedBox2d& bounds) {
  return (bounds.sizes().array() + 2 * margin).max(least);
}

}  // namespace

Chart::Chart(Rectangle area, const Eigen::AlignedBox2d& bounds) : area_(area) {
  const Eigen::Vector2d size = shownSize(bounds);
  scale_ = std::min(area.width / size.x(), area.height / size.y());
  centre_ = {bounds.center().x(), bounds.center().y()};
}

double Chart::depthOverWidth(const Eigen::AlignedBox2d& bounds) {
  const Eigen::Vector2d size = shownSize(bounds);
  return size.y() / size.x();
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
    canvas.line({{chart.x(v), area.y + area.height}, {chart.x(v), area.y + area.height + 5}}, textInk, 1);
    canvas.text({chart.x(v), area.y + area.height + 18}, fmt::format("{:g}", v), 11, textInk, Align::centre);
  }
  for (int mark = firstMark(chart.top()); mark * step <= chart.bottom(); ++mark) {
    const double v = mark * step;
    canvas.line({{area.x - 5, chart.y(v)}, {area.x, chart.y(v)}}, textInk, 1);
    canvas.text({area.x - 8, chart.y(v) + 4}, fmt::format("{:g}", v), 11, textInk, Align::right);
  }
  if (!named) return;
  canvas.text({area.x + area.width / 2, area.y + area.height + 35}, "x, metres", 12, textInk, Align::centre);
  canvas.text({area.x - 8, area.y - 8}, "z, metres", 12, textInk, Align::centre);
}

std::vector<std::vector<Point2>> pathOf(const io::Trace& trace,
                                        const std::function<Point2(const io::TraceFrame&)>& place) {
  std::vector<std::vector<Point2>> pieces;
  for (const io::TraceFrame& frame : trace) {
    if (pieces.empty() || io::happened(frame, "cut")) pieces.emplace_back();
    pieces.back().push_back(place(frame));
  }
  return pieces;
}

std::vector<Point2> spread(const std::vector<Point2>& places, double apart, Rectangle within) {
  std::vector<Point2> result = places;
  for (int round = 0; round < 200; ++round) {
    bool moved = false;
    for (std::size_t i = 0; i < result.size(); ++i) {
      for (std::size_t k = i + 1; k < result.size(); ++k) {
        Point2 way{result[k].x - result[i].x, result[k].y - result[i].y};
        double length = std::hypot(way.x, way.y);
        if (length >= apart) continue;
        // Two at one place part in a direction of their own.
        if (length < 1e-6)
          way = {std::cos(2.4 * static_cast<double>(k)), std::sin(2.4 * static_cast<double>(k))}, length = 1;
        const double by = (apart - std::min(length, apart - 1)) / 2 / length;
        result[i] = {result[i].x - by * way.x, result[i].y - by * way.y};
        result[k] = {result[k].x + by * way.x, result[k].y + by * way.y};
        moved = true;
      }
    }
    for (Point2& each : result) {
      each.x = std::clamp(each.x, within.x + apart / 2, within.x + within.width - apart / 2);
      each.y = std::clamp(each.y, within.y + apart / 2, within.y + within.height - apart / 2);
    }
    if (!moved) break;
  }
  return result;
}

void drawNumbers(Canvas& canvas, const std::vector<Point2>& places, Rectangle within) {
  const std::vector<Point2> shown = spread(places, 19, within);
  for (std::size_t i = 0; i < places.size(); ++i) {
    canvas.line({places[i], shown[i]}, {1, 1, 1}, 3);
    canvas.line({places[i], shown[i]}, cameraInk, 1.3);
    canvas.disc(places[i], 2.5, cameraInk);
  }
  for (std::size_t i = 0; i < places.size(); ++i) {
    canvas.disc(shown[i], 9.5, {1, 1, 1});
    canvas.disc(shown[i], 8.5, cameraInk);
    canvas.text({shown[i].x, shown[i].y + 4}, fmt::format("{}", i + 1), 11, {1, 1, 1}, Align::centre, true);
  }
}

Rectangle drawPlan(Canvas& canvas, Rectangle area, const io::Level& level, const io::Trace& trace,
                   const std::vector<std::size_t>& marks) {
  Eigen::AlignedBox2d bounds;
  for (const io::TraceFrame& frame : trace) {
    for (const Vector3d& p : {frame.subject, frame.camera}) bounds.extend(Eigen::Vector2d(p.x(), p.z()));
  }
  area.height = std::min(area.height, area.width * Chart::depthOverWidth(bounds));
  const Chart chart(area, bounds);
  canvas.clip(area);
  canvas.fillRectangle(area, {0.80, 0.79, 0.82});
  drawLevel(canvas, chart, level, medianHeight(trace));
  drawPlatforms(canvas, chart, level);
  drawPath(canvas, chart, trace, &io::TraceFrame::camera, cameraInk, 1.6);
  drawPath(canvas, chart, trace, &io::TraceFrame::subject, subjectInk, 2.4);
  std::vector<Point2> cameras;
  for (const std::size_t mark : marks) {
    drawView(canvas, chart, trace[mark]);
    cameras.push_back(chart.at(trace[mark].camera));
  }
  drawNumbers(canvas, cameras, area);
  canvas.unclip();
  canvas.strokeRectangle(area, textInk, 1);
  drawAxes(canvas, chart, area);
  return area;
}

}  // namespace alpglow::stage
