#include "alpglow/stage/audit.hpp"

#include "plan.hpp"

#include "alpglow/base/angles.hpp"

#include <fmt/format.h>

#include <cmath>
#include <map>
#include <numeric>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr Ink paper{0.965, 0.955, 0.94}, ink{0.16, 0.15, 0.19}, soft{0.38, 0.36, 0.42}, markInk{0.10, 0.35, 0.62};
// Told apart by lightness, too.
constexpr Ink takers[] = {{0.14, 0.31, 0.56}, {0.85, 0.45, 0.13}, {0.20, 0.55, 0.40},
                          {0.55, 0.25, 0.58}, {0.72, 0.62, 0.16}, {0.60, 0.14, 0.16}};
constexpr Ink others{0.55, 0.54, 0.56};
constexpr double gutter = 20, listHeight = 122, titleHeight = 40, panelTitle = 26, below = 24, axes = 30;

/// Fine is pale, bad is dark.
Ink heat(double badness) {
  const double t = std::clamp(badness, 0.0, 1.0);
  const Ink stops[] = {{0.88, 0.91, 0.87}, {0.96, 0.80, 0.45}, {0.86, 0.42, 0.20}, {0.36, 0.06, 0.22}};
  const double at = 3 * t;
  const auto low = static_cast<std::size_t>(std::min(at, 2.999));
  const double s = at - static_cast<double>(low);
  const auto mix = [s](double a, double b) { return a + s * (b - a); };
  const Ink &a = stops[low], &b = stops[low + 1];
  return {mix(a.red, b.red), mix(a.green, b.green), mix(a.blue, b.blue)};
}

/// Without a minus before what is shown as zero.
double tenths(double value) { return std::round(10 * value) / 10 + 0.0; }

struct Panel {
  std::string title, low, high;
  std::function<double(const AuditedPlace&)> badness;  // without one: the obstacles that take most
  bool marks = false;
};

Eigen::AlignedBox2d boundsOf(const Audit& audit) {
  Eigen::AlignedBox2d bounds;
  for (const Vector3d& feet : audit.reach.feet) bounds.extend(Eigen::Vector2d(feet.x(), feet.z()));
  return bounds;
}

double middleHeight(const Audit& audit) {
  std::vector<double> heights;
  for (const Vector3d& feet : audit.reach.feet) heights.push_back(feet.y());
  const auto middle = heights.begin() + static_cast<std::ptrdiff_t>(heights.size() / 2);
  std::nth_element(heights.begin(), middle, heights.end());
  return *middle;
}

/// The obstacles that take most, all over; the first ones have colours.
std::vector<ObstacleId> takersOf(const Audit& audit) {
  std::map<ObstacleId, double> lost;
  for (const AuditedPlace& place : audit.places) {
    if (place.taker != noObstacle) lost[place.taker] += 1 - place.kept;
  }
  std::vector<ObstacleId> all;
  all.reserve(lost.size());
  for (const auto& each : lost) all.push_back(each.first);
  std::sort(all.begin(), all.end(), [&lost](ObstacleId a, ObstacleId b) { return lost[a] > lost[b]; });
  return all;
}

class Sheet {
 public:
  Sheet(const Stage& stage, const Audit& audit, int width, int height)
      : stage_(stage),
        audit_(audit),
        bounds_(boundsOf(audit)),
        floor_(middleHeight(audit)),
        canvas_(width, height, paper),
        width_(width),
        height_(height) {
    // The walkable cells of several floors lie over each other: the worst is on top.
    order_.resize(audit.places.size());
    std::iota(order_.begin(), order_.end(), std::size_t{0});
    for (std::size_t i = 0; i < audit.reach.feet.size(); ++i) {
      for (const int next : audit.reach.next[i]) {
        if (next >= 0)
          step_ = std::max(step_, flat(audit.reach.feet[static_cast<std::size_t>(next)] - audit.reach.feet[i]));
      }
    }
  }

  std::string png(const std::string& title) {
    canvas_.text({gutter, 28}, title, 17, ink, Align::left, true);
    const bool tall = bounds_.sizes().y() > 1.1 * bounds_.sizes().x();
    const int columns = tall ? 4 : 2, rows = 4 / columns;
    const double panelWidth = (width_ - gutter) / columns - gutter,
                 panelHeight = (height_ - titleHeight - listHeight) / rows - panelTitle - below;
    const Panel panels[] = {
        {"distance kept", "all", "none", [](const AuditedPlace& p) { return 1 - p.kept; }},
        {"subject hidden", "never", "always", [](const AuditedPlace& p) { return p.hidden; }},
        {"room lost to", "", "", {}},
        {"most lost to a neighbour", "0 m", "2 m", [](const AuditedPlace& p) { return p.lost / 2; }, true},
    };
    for (int i = 0; i < 4; ++i) {
      const int row = i / columns, column = i - row * columns;
      const Rectangle area{gutter + column * (panelWidth + gutter) + axes,
                           titleHeight + panelTitle + row * (panelHeight + panelTitle + below), panelWidth - axes,
                           panelHeight};
      draw(panels[i], area);
    }
    list({gutter, height_ - listHeight + 16});
    return canvas_.png();
  }

 private:
  static double flat(const Vector3d& way) { return std::max(std::abs(way.x()), std::abs(way.z())); }

  void draw(const Panel& panel, Rectangle area) {
    const Chart chart(area, bounds_);
    canvas_.text({area.x, area.y - 8}, panel.title, 13, ink, Align::left, true);
    canvas_.clip(area);
    canvas_.fillRectangle(area, {0.80, 0.79, 0.82});
    drawLevel(canvas_, chart, stage_.level(), floor_);
    canvas_.fillRectangle(area, {0.965, 0.955, 0.94, 0.55});
    const std::vector<ObstacleId> known = takersOf(audit_);
    std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
      const auto badness = [&](std::size_t i) {
        return panel.badness ? panel.badness(audit_.places[i]) : 1 - audit_.places[i].kept;
      };
      return badness(a) < badness(b);
    });
    for (const std::size_t i : order_)
      cell(chart, audit_.reach.feet[i],
           panel.badness ? heat(panel.badness(audit_.places[i])) : inkOf(audit_.places[i].taker, known));
    if (panel.marks) {
      for (std::size_t i = audit_.worst.size(); i-- > 0;) mark(chart.at(audit_.worst[i].from), i + 1);
    }
    canvas_.unclip();
    canvas_.strokeRectangle(area, ink, 1);
    drawAxes(canvas_, chart, area, false);
    panel.badness ? scale({area.x + area.width - 200, area.y - 18}, panel)
                  : names({area.x + 100, area.y - 9}, area.width - 100, known);
  }

  void cell(const Chart& chart, const Vector3d& feet, Ink colour) {
    const double size = step_ * chart.scale();
    const Point2 middle = chart.at(feet);
    canvas_.fillRectangle({middle.x - size / 2, middle.y - size / 2, size + 0.3, size + 0.3},
                          {colour.red, colour.green, colour.blue, 0.9});
  }

  static Ink inkOf(ObstacleId taker, const std::vector<ObstacleId>& known) {
    if (taker == noObstacle) return heat(0);
    const auto place = static_cast<std::size_t>(std::find(known.begin(), known.end(), taker) - known.begin());
    return place < std::size(takers) ? takers[place] : others;
  }

  void mark(Point2 at, std::size_t number) {
    canvas_.disc(at, 8.5, {1, 1, 1});
    canvas_.disc(at, 7.5, markInk);
    canvas_.text({at.x, at.y + 3.5}, fmt::format("{}", number), 9.5, {1, 1, 1}, Align::centre, true);
  }

  void scale(Point2 at, const Panel& panel) {
    const double from = at.x + 40, length = 110;
    canvas_.text({from - 6, at.y + 9}, panel.low, 10.5, soft, Align::right);
    for (int i = 0; i < 30; ++i)
      canvas_.fillRectangle({from + i * length / 30, at.y, length / 30 + 0.5, 10}, heat(i / 29.0));
    canvas_.text({from + length + 6, at.y + 9}, panel.high, 10.5, soft);
  }

  /// The most important ones that there is room for.
  void names(Point2 at, double room, const std::vector<ObstacleId>& known) {
    double x = at.x;
    const auto name = [&](const std::string& words, Ink colour) {
      const double width = 16 + 5.6 * static_cast<double>(words.size());
      if (x + width > at.x + room) return;
      canvas_.fillRectangle({x, at.y - 8, 9, 9}, colour);
      canvas_.text({x + 12, at.y}, words, 9.5, soft);
      x += width;
    };
    for (std::size_t i = 0; i < std::min(known.size(), std::size(takers)); ++i)
      name(stage_.nameOf(known[i]), takers[i]);
    if (known.size() > std::size(takers)) name("others", others);
  }

  void list(Point2 at) {
    canvas_.text(at, "most lost from one pose to the next", 12, ink, Align::left, true);
    for (std::size_t i = 0; i < audit_.worst.size(); ++i) {
      const WorstStep& each = audit_.worst[i];
      const bool turns = (each.to - each.from).norm() < 1e-9;
      const Point2 line{at.x + (i < 5 ? 0 : width_ / 2.0), at.y + 18 + 17 * static_cast<double>(i % 5)};
      canvas_.text(line, fmt::format("{:>2}", i + 1), 11, ink, Align::left, true);
      canvas_.text({line.x + 22, line.y},
                   fmt::format("{:.2f} m to {:.2f} m at {:.1f}, {:.1f}, {:.1f}, {} {:.0f}°{}: {}", each.before,
                               each.after, tenths(each.from.x()), tenths(each.from.y()), tenths(each.from.z()),
                               turns ? "turning from" : "stepping at", toDegrees(each.fromDirection),
                               turns ? fmt::format(" to {:.0f}°", toDegrees(each.toDirection)) : "", each.obstacle),
                   11, soft);
    }
  }

  const Stage& stage_;
  const Audit& audit_;
  Eigen::AlignedBox2d bounds_;
  double floor_;
  Canvas canvas_;
  int width_, height_;
  double step_ = 0.1;
  std::vector<std::size_t> order_;
};

}  // namespace

std::string auditPicture(const Stage& stage, const Audit& audit, const std::string& title, int width, int height) {
  return Sheet(stage, audit, width, height).png(title);
}

}  // namespace alpglow::stage
