#include "alpglow/view/debug_draw.hpp"

#include <algorithm>
#include <array>

namespace alpglow {

using Eigen::Vector2d;
using Eigen::Vector3d;
using Meaning = DebugDraw::Meaning;

namespace {

constexpr double unseen = 1e-3, dot = 0.04, normalLength = 0.3, longestRay = 30;  // metres

/// What it sees, as far as a quarter of the way to its subject: a pyramid with its edges.
void drawPicture(const View& view, DebugDraw& lines) {
  const double far = std::clamp(0.25 * (view.position - view.head).norm(), 0.2, 2.0);
  const std::array<Vector2d, 4> corners = {Vector2d(-1, -1), Vector2d(1, -1), Vector2d(1, 1), Vector2d(-1, 1)};
  std::array<Vector3d, 4> ends;
  std::transform(corners.begin(), corners.end(), ends.begin(), [&](const Vector2d& corner) {
    const Vector3d ray = view.rayThrough(corner);
    return Vector3d(view.position + far / ray.dot(view.forward()) * ray);
  });
  for (std::size_t i = 0; i < ends.size(); ++i) {
    lines.line(view.position, ends[i], Meaning::camera);
    lines.line(ends[i], ends[(i + 1) % ends.size()], Meaning::camera);
  }
}

}  // namespace

void drawCamera(const View& view, const Explanation& why, DebugDraw& lines, const ExplanationNames& names) {
  if (!view.position.allFinite() || !view.head.allFinite() || !view.freePosition.allFinite()) return;
  const double scale = std::clamp(view.freeDistance / 2.5, 0.1, 10.0);
  lines.sphere(view.head, dot * scale, Meaning::subject);
  lines.sphere(view.pivot, dot * scale, Meaning::subject);
  lines.line(view.head, view.pivot, Meaning::subject);
  lines.line(view.pivot, view.position, Meaning::camera);
  lines.sphere(view.position, why.radius, Meaning::camera);
  drawPicture(view, lines);
  if ((view.freePosition - view.position).norm() > unseen) {
    lines.line(view.head, view.freePosition, Meaning::without);
    lines.sphere(view.freePosition, why.radius, Meaning::without);
  }
  if (why.met) {
    lines.sphere(why.sphere, why.radius, Meaning::limit);
    lines.line(why.point, why.point + normalLength * scale * why.normal, Meaning::limit);
    lines.label(why.point, names.of(why.obstacle), Meaning::limit);
  } else if (why.why == Explanation::Why::foreseen) {
    lines.label(view.position, names.of(why.obstacle), Meaning::ahead);
  }
  const Vector3d aim = view.aimPoint - view.aimOrigin();
  const double length = aim.norm();
  if (length > unseen && aim.allFinite())
    lines.line(view.aimOrigin(), view.aimOrigin() + std::min(1.0, longestRay / length) * aim, Meaning::aim);
}

}  // namespace alpglow
