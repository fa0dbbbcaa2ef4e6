#include "alpglow/view/hiding.hpp"

#include "alpglow/space/guarded_obstacles.hpp"

#include <algorithm>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double before = 0.01, beyond = 1e-3;  // metres: not asked for at the end; from a surface to the next question
constexpr int mostQuestions = 64;

void note(Hiding& hiding, ObstacleId thing) {
  const auto end = hiding.things.begin() + static_cast<std::ptrdiff_t>(hiding.count);
  if (std::find(hiding.things.begin(), end, thing) != end) return;
  if (hiding.count == Hiding::most) return void(hiding.complete = false);
  hiding.things[hiding.count++] = thing;
}

/// Whether anything is on the way. A ray that starts inside something leaves it by ever longer steps.
bool hides(Hiding& hiding, const Vector3d& eye, const Vector3d& point, const Obstacles& world, Purpose::Bit purpose) {
  const Vector3d way = point - eye;
  const double length = way.norm() - before;
  if (!way.allFinite()) return true;
  if (!(length > 0)) return false;
  const Vector3d ahead = way.normalized();
  double at = 0, step = beyond;
  bool any = false;
  for (int asked = 0; at < length; ++asked) {
    if (asked == mostQuestions) return hiding.complete = false, any;
    const Contact contact = world.cast(eye + at * ahead, (length - at) * ahead, purpose);
    if (!contact.hit()) break;
    any = true;
    note(hiding, contact.obstacle);
    step = contact.distance > 0 ? beyond : 2 * step;
    at += contact.distance + step;
  }
  return any;
}

}  // namespace

std::array<Vector3d, 7> bodyPoints(const Subject& subject, const Vector3d& eye) {
  constexpr double wide = 0.2;
  const Vector3d body = subject.head - subject.feet, up = subject.frame.up, to = eye - subject.head;
  const Vector3d across = up.cross(to);
  const Vector3d side = across.norm() > 1e-9 ? Vector3d(across.normalized()) : up.unitOrthogonal();
  const Vector3d aside = wide * subject.frame.scale * side;
  const auto at = [&](double share, double way) { return Vector3d(subject.feet + share * body + way * aside); };
  return {subject.head, at(0.85, -1), at(0.85, 1), at(0.55, -0.7), at(0.55, 0.7), at(0.06, -0.5), at(0.06, 0.5)};
}

Hiding whatHides(const Vector3d& eye, Span<const Vector3d> points, const Obstacles& host, Purpose::Bit purpose) {
  const GuardedObstacles world(host);
  Hiding hiding;
  int hidden = 0;
  for (const Vector3d& point : points) hidden += hides(hiding, eye, point, world, purpose) ? 1 : 0;
  if (!points.empty()) hiding.visible = 1 - static_cast<double>(hidden) / static_cast<double>(points.size());
  return hiding;
}

}  // namespace alpglow
