#include "alpglow/stage/storyboard.hpp"

#include "canvas.hpp"
#include "drawn_walker.hpp"
#include "outside.hpp"
#include "plan.hpp"

#include "alpglow/base/rotation.hpp"
#include "alpglow/stage/picture.hpp"
#include "alpglow/stage/rehearsal.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

namespace {

constexpr int pictureWidth = 448, pictureHeight = 252, captionHeight = 46, gutter = 20, header = 74, columns = 2;
constexpr int planWidth = 620;
constexpr double finer = 1.5;  // pictures are painted at, beside their four samples a pixel
constexpr Ink paper{0.965, 0.955, 0.94}, ink{0.16, 0.15, 0.19}, soft{0.38, 0.36, 0.42};

std::size_t frameAt(const io::Trace& trace, double time) {
  const auto found = std::lower_bound(trace.begin(), trace.end(), time - 1e-9,
                                      [](const io::TraceFrame& frame, double t) { return frame.time < t; });
  return static_cast<std::size_t>(std::min(found, trace.end() - 1) - trace.begin());
}

/// Four short strokes around the middle of the screen.
void drawCrosshair(Canvas& canvas, Point2 middle) {
  for (const auto& [inkOf, width] : {std::pair(Ink{0, 0, 0, 0.8}, 3.6), std::pair(Ink{1, 1, 1, 1}, 1.4)}) {
    for (const Point2 direction : {Point2{1, 0}, Point2{-1, 0}, Point2{0, 1}, Point2{0, -1}}) {
      canvas.line({{middle.x + 3 * direction.x, middle.y + 3 * direction.y},
                   {middle.x + 8 * direction.x, middle.y + 8 * direction.y}},
                  inkOf, width);
    }
  }
}

/// Where the crosshair's ray goes, from the middle to the right and up, in halves of the height: pushes that move the
/// picture only leave it where it was.
Eigen::Vector2d aimInPicture(const io::TraceFrame& frame) {
  if (frame.pushYaw == 0 && frame.pushPitch == 0) return {0, 0};
  const double yaw = degrees(frame.yaw), pitch = degrees(frame.pitch);
  const Eigen::Vector3d ahead = -rotationOf(yaw - degrees(frame.pushYaw), pitch - degrees(frame.pushPitch)).col(2);
  const Eigen::Vector3d seen = rotationOf(yaw, pitch, degrees(frame.roll)).transpose() * ahead;
  return seen.head<2>() / (-seen.z() * std::tan(degrees(frame.fieldOfView) / 2));
}

/// What shows the camera itself, if anything does.
struct Outside {
  View from, camera;
  Explanation why;
  ExplanationNames names;
};

void drawPicture(Canvas& canvas, Point2 at, const Image& image, const io::TraceFrame& frame, std::size_t number,
                 bool severalFramings, const Outside* outside) {
  const double scale =
      std::min(static_cast<double>(pictureWidth) / image.width, static_cast<double>(pictureHeight) / image.height);
  const double width = image.width * scale, height = image.height * scale;
  const Rectangle area{at.x + (pictureWidth - width) / 2, at.y + (pictureHeight - height) / 2, width, height};
  canvas.image(image, area);
  canvas.strokeRectangle(area, {0, 0, 0, 0.5}, 1);
  if (outside != nullptr) {
    canvas.clip(area);
    LinesOnPicture lines(canvas, area, outside->from);
    drawCamera(outside->camera, outside->why, lines, outside->names);
    canvas.unclip();
  } else {
    const Eigen::Vector2d aim = aimInPicture(frame);
    drawCrosshair(canvas, {area.x + width / 2 + height / 2 * aim.x(), area.y + height / 2 - height / 2 * aim.y()});
  }
  const double line = at.y + pictureHeight + 17;
  canvas.text({at.x, line}, fmt::format("{}", number), 13, ink, Align::left, true);
  canvas.text({at.x + 24, line},
              fmt::format("{:.3f} s   yaw {:.1f}°   pitch {:.1f}°   distance {:.2f} m   fov {:.1f}°", frame.time,
                          frame.yaw, frame.pitch, frame.distance, frame.fieldOfView),
              12.5, ink);
  std::string notes;
  const auto note = [&notes](const std::string& text) { notes += (notes.empty() ? "" : "    ") + text; };
  if (frame.cameraName != "character" && !frame.cameraName.empty()) note("camera " + frame.cameraName);
  if (frame.filmed != "character" && !frame.filmed.empty()) note("films " + frame.filmed);
  if (frame.framingBlend < 1)
    note(fmt::format("{} → {} {:.0f} %", frame.framingFrom, frame.framingTo, 100 * frame.framingBlend));
  if (frame.framingBlend >= 1 && severalFramings) note(frame.framing);
  if (std::abs(frame.roll) > 0.05) note(fmt::format("roll {:.1f}°", frame.roll));
  if (frame.opacity < 0.995 && frame.freeDistance > 0) note(fmt::format("subject {:.0f} % drawn", 100 * frame.opacity));
  for (const char* event :
       {"cut", "teleport", "shoulder-swapped", "eyes-took-over", "eyes-gave-back", "lock-began", "lock-lost"}) {
    if (frame.frame > 0 && io::happened(frame, event)) note(event);
  }
  if (!frame.lock.empty()) note(fmt::format("locked on {}, {:.1f}° to turn", frame.lock, frame.lockError));
  if (std::abs(frame.swingBack) > 1e-6) note(fmt::format("swinging back {:.0f}°/s", frame.swingBack / frame.dt));
  const double lost = frame.freeDistance - frame.distance;
  if (!frame.obstacle.empty()) {
    note(fmt::format("pulled in from {:.2f} m by {}", frame.freeDistance, frame.obstacle));
  } else if (!frame.foreseen.empty()) {
    note(fmt::format("comes in from {:.2f} m, {:.2f} s before {}", frame.freeDistance, frame.foreseenIn,
                     frame.foreseen));
  } else if (lost > 0.01) {
    note(frame.outIn > 0.05 ? fmt::format("goes out to {:.2f} m in {:.1f} s", frame.freeDistance, frame.outIn)
                            : fmt::format("goes out to {:.2f} m", frame.freeDistance));
  }
  if (!frame.covering.empty() && frame.coveringOpacity < 0.99)
    note(fmt::format("past {}, {:.0f} % drawn", frame.covering, 100 * frame.coveringOpacity));
  for (const auto& [name, opacity] : io::pairsOf(frame.fading)) {
    if (opacity < 0.99) note(fmt::format("through {}, {:.0f} % drawn", name, 100 * opacity));
  }
  canvas.text({at.x + 24, line + 16}, notes, 11.5, soft);
}

}  // namespace

std::vector<double> storyboardTimes(const io::Trace& trace, std::vector<double> times) {
  const double start = trace.front().time, end = trace.back().time;
  for (double& time : times) time = std::clamp(time, start, end);
  if (times.empty()) {
    for (std::size_t i = 0; i < fewestPictures; ++i) {
      times.push_back(start + (end - start) * (static_cast<double>(i) + 0.5) / static_cast<double>(fewestPictures));
    }
  }
  std::sort(times.begin(), times.end());
  while (times.size() < fewestPictures) {  // into the middle of the widest gap
    double before = start, widest = -1, middle = start;
    for (std::size_t i = 0; i <= times.size(); ++i) {
      const double after = i < times.size() ? times[i] : end;
      if (after - before > widest) widest = after - before, middle = (before + after) / 2;
      before = after;
    }
    times.insert(std::upper_bound(times.begin(), times.end(), middle), middle);
  }
  return times;
}

std::string storyboard(const Stage& stage, const io::Trace& trace, const std::vector<double>& times,
                       const std::string& title, const SheetOptions& options) {
  const std::vector<View>& outside = options.outside;
  const int rows = (static_cast<int>(times.size()) + columns - 1) / columns;
  const int height = header + rows * (pictureHeight + captionHeight) + gutter;
  const int picturesWidth = gutter + columns * (pictureWidth + gutter);
  static_assert(gutter + columns * (pictureWidth + gutter) + planWidth + 2 * gutter == sheetWidth);
  const double scale = static_cast<double>(options.width) / sheetWidth;
  Canvas canvas(sheetWidth, height, paper, scale);
  canvas.text({gutter, 34}, title, 20, ink, Align::left, true);
  const Summary summary = summarise(trace);
  canvas.text(
      {gutter, 56},
      fmt::format(
          "{:.1f} s, {} frames; subject {:.1f} m, camera {:.1f} m; least clearance {:.3f} m; pulled in {} frames",
          summary.length, summary.frames, summary.subjectPath, summary.cameraPath, summary.leastClearance,
          summary.framesPulledIn),
      12.5, soft);

  if (!outside.empty()) drawMeanings(canvas, {picturesWidth + planWidth + 8.0, 30});
  const bool severalFramings = std::any_of(
      trace.begin(), trace.end(), [&](const io::TraceFrame& frame) { return frame.framing != trace.front().framing; });
  Painter painter(stage.level());
  std::vector<std::size_t> marks;
  for (std::size_t i = 0; i < times.size(); ++i) {
    marks.push_back(frameAt(trace, times[i]));
    const io::TraceFrame& frame = trace[marks.back()];
    const int width = std::clamp(static_cast<int>(std::lround(finer * scale * pictureWidth)), 160, 4096),
              high = static_cast<int>(std::lround(width / frame.aspect));
    Shot shot = shotOf(frame, stage);
    Outside seen;
    if (!outside.empty()) {
      stage.moveTo(shot.time);
      seen.camera = outside[marks.back()];
      seen.why = explain(seen.camera, stage.obstacles());
      seen.names.obstacle = [&stage](ObstacleId id) { return stage.nameOf(id); };
      seen.from = shot.view = outsideOf(seen.camera, stage.obstacles(), frame.aspect);
      shot.opacity = 1;
      shot.covering.clear();
    }
    const Image image = painter.paint(shot, width, high);
    const std::size_t line = i / columns;
    const auto column = static_cast<double>(i - line * columns), row = static_cast<double>(line);
    drawPicture(canvas, {gutter + column * (pictureWidth + gutter), header + row * (pictureHeight + captionHeight)},
                image, frame, i + 1, severalFramings, outside.empty() ? nullptr : &seen);
  }
  constexpr double axes = 44, sideHeight = 150, most = 320, legendHeight = 44;
  Rectangle area{picturesWidth + 28.0, header, planWidth - 20.0,
                 height - header - 2 * axes - sideHeight - legendHeight - gutter};
  area = drawPlan(canvas, area, stage.level(), trace, marks);
  const double below = area.y + area.height + axes + 16;
  const Rectangle side{area.x, below, area.width, std::min(height - gutter - legendHeight - axes - below, most)};
  drawSideView(canvas, side, trace, marks);
  drawLegend(canvas, {area.x, side.y + side.height + axes + 16}, area.width, stage.level());
  return options.format == SheetFormat::jpeg ? canvas.jpeg() : canvas.png();
}

}  // namespace alpglow::stage
