#include "outside.hpp"

#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

Ink inkOf(DebugDraw::Meaning meaning) {
  switch (meaning) {
    case DebugDraw::Meaning::subject: return {0.55, 0.85, 1.0};
    case DebugDraw::Meaning::camera: return {1.0, 1.0, 1.0};
    case DebugDraw::Meaning::without: return {0.62, 0.95, 0.60};
    case DebugDraw::Meaning::limit: return {1.0, 0.42, 0.36};
    case DebugDraw::Meaning::ahead: return {1.0, 0.72, 0.30};
    case DebugDraw::Meaning::aim: return {0.98, 0.90, 0.45};
  }
  return {1, 1, 1};
}

}  // namespace

View outsideOf(const View& camera, const Obstacles& world, double aspect) {
  const std::array<Vector3d, 4> shown = {camera.head, camera.position, camera.freePosition, camera.pivot};
  const Vector3d middle = (camera.head + camera.freePosition) / 2;
  double reach = 1;
  for (const Vector3d& point : shown) reach = std::max(reach, (point - middle).norm());
  constexpr double lens = degrees(50);
  const double away = 1.6 * reach / std::sin(lens / 2);
  const Vector3d along = (camera.freePosition - camera.head).normalized();
  View best;
  double most = -1;
  for (const double pitch : {degrees(-18), degrees(-35), degrees(-60), degrees(-5)}) {
    for (int turn = 0; turn < 24; ++turn) {
      const double yaw = degrees(15.0 * turn);
      const Vector3d back = rotationOf(yaw, pitch).col(2);
      const Contact free = world.cast(middle, away * back, Purpose::sight);
      const Vector3d eye = middle + std::max(free.distance - 0.2, 0.3) * back;
      double worth = 0.8 * (eye - middle).norm() / away + 0.6 * back.cross(along).norm() - 0.2 * std::abs(pitch);
      for (const Vector3d& point : shown)
        worth += world.cast(eye, point - eye, Purpose::sight).distance >= (point - eye).norm() - 0.05 ? 0.4 : 0;
      if (worth <= most) continue;
      most = worth;
      best = View::from(eye, rotationOf(yaw, pitch), lens);
    }
  }
  // Closer than wanted in a room: through a wider lens.
  const double needed = 2 * std::asin(std::min(1.6 * reach / std::max((best.position - middle).norm(), 1e-3), 0.93));
  best.fieldOfView = std::clamp(needed, lens, degrees(110));
  best.aspect = aspect;
  best.nearPlane = 0.05;
  return best;
}

void drawMeanings(Canvas& canvas, Point2 end) {
  constexpr double swatch = 20, gap = 6;
  struct Entry {
    DebugDraw::Meaning meaning;
    const char* words;
    double width;
  };
  double x = end.x;
  for (const Entry& entry :
       {Entry{DebugDraw::Meaning::aim, "crosshair", 62}, Entry{DebugDraw::Meaning::ahead, "foreseen", 56},
        Entry{DebugDraw::Meaning::limit, "what stops it", 82}, Entry{DebugDraw::Meaning::without, "unobstructed", 84},
        Entry{DebugDraw::Meaning::camera, "camera", 50}, Entry{DebugDraw::Meaning::subject, "head, pivot", 70}}) {
    x -= entry.width;
    canvas.text({x, end.y}, entry.words, 11.5, {0.38, 0.36, 0.42});
    const Rectangle area{x - gap - swatch, end.y - 10, swatch, 12};
    canvas.fillRectangle(area, {0.30, 0.28, 0.36});
    canvas.line({{area.x + 3, area.y + 6}, {area.x + swatch - 3, area.y + 6}}, inkOf(entry.meaning), 2);
    x = area.x - 2 * gap;
  }
}

Vector3d LinesOnPicture::seenFrom(const Vector3d& point) const {
  return from_.rotation().transpose() * (point - from_.position);
}

Point2 LinesOnPicture::onPicture(const Vector3d& seen) const {
  const double perMetre = area_.height / 2 / std::tan(from_.fieldOfView / 2) / -seen.z();
  return {area_.x + area_.width / 2 + seen.x() * perMetre, area_.y + area_.height / 2 - seen.y() * perMetre};
}

void LinesOnPicture::line(const Vector3d& from, const Vector3d& to, Meaning meaning) {
  Vector3d a = seenFrom(from), b = seenFrom(to);
  const double nearest = -from_.nearPlane;
  if (a.z() > nearest && b.z() > nearest) return;
  if (a.z() > nearest) std::swap(a, b);
  if (b.z() > nearest) b = a + (nearest - a.z()) / (b.z() - a.z()) * (b - a);
  const std::vector<Point2> ends = {onPicture(a), onPicture(b)};
  canvas_.line(ends, {0, 0, 0, 0.55}, 2.6);
  canvas_.line(ends, inkOf(meaning), 1.2, meaning == Meaning::without ? 4 : 0);
}

void LinesOnPicture::sphere(const Vector3d& middle, double radius, Meaning meaning) {
  const Vector3d seen = seenFrom(middle);
  if (seen.z() > -std::max(radius, from_.nearPlane)) return;
  const Point2 at = onPicture(seen);
  const double size = std::max(area_.height / 2 / std::tan(from_.fieldOfView / 2) * radius / -seen.z(), 2.0);
  constexpr int corners = 28;
  std::vector<Point2> circle;
  for (int i = 0; i < corners; ++i) {
    const double angle = 2 * pi * i / corners;
    circle.push_back({at.x + size * std::cos(angle), at.y + size * std::sin(angle)});
  }
  canvas_.line(circle, {0, 0, 0, 0.55}, 2.6, 0, true);
  canvas_.line(circle, inkOf(meaning), 1.3, 0, true);
}

void LinesOnPicture::label(const Vector3d& at, const std::string& text, Meaning meaning) {
  const Vector3d seen = seenFrom(at);
  if (seen.z() > -from_.nearPlane) return;
  const Point2 place = onPicture(seen);
  canvas_.text({place.x + 7, place.y - 5}, text, 12, {0, 0, 0, 0.8}, Align::left, true);
  canvas_.text({place.x + 6, place.y - 6}, text, 12, inkOf(meaning), Align::left, true);
}

}  // namespace alpglow::stage
