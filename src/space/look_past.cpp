#include "alpglow/space/look_past.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/state.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double apart = 1e-3;  // metres, between the sphere and what is large
constexpr double nowhere = std::numeric_limits<double>::infinity();
constexpr double unseen = 1e-4, shortest = 1e-6;  // metres that are not worth coming back from; that are a way

}  // namespace

/// From the head to the camera and as far as it may be pushed back, among large things.
struct LookPast::Way {
  const Obstacles& obstacles;
  Vector3d head, ahead;
  double length, farthest, radius;
  Contact first;  // the first large thing of all of it

  Vector3d at(double metres) const { return head + metres * ahead; }
  /// Before which it has to stay who does not look past it.
  double from() const { return first.hit() ? std::max(first.distance - apart, 0.0) : nowhere; }
  /// Behind the last one, coming from there; infinite where nothing behind is free.
  double to(double metres) const {
    const Contact contact = obstacles.sweepLarge(at(metres), -metres * ahead, radius);
    return contact.hit() && contact.distance > 0 ? metres - contact.distance + apart : nowhere;
  }
  /// Nothing large is touched there. Who is inside of something goes deeper one way or the other.
  bool clear(double metres) const {
    if (metres <= from()) return true;
    if (to(metres) > metres) return false;
    const Contact on = obstacles.sweepLarge(at(metres), radius * ahead, radius);
    return !on.hit() || on.distance > 0;
  }
};

LookPastPose LookPast::place(const Vector3d& head, const Vector3d& camera, double radius, const Obstacles& obstacles,
                             const LookPastSettings& settings, double scale) {
  const double seconds = std::exchange(seconds_, 0.0), length = (camera - head).norm();
  const bool fades = covers_[0].thing != noObstacle || covers_[1].thing != noObstacle;
  const bool any = obstacles.anyLarge() && length > shortest;
  if (!any && !limiting() && !fades) return last_ = std::min(length, farthestState), LookPastPose();
  Way way{obstacles, head, Vector3d::Zero(), length, length + settings.push * scale, radius, {}};
  if (length > shortest) way.ahead = (camera - head) / length;
  if (any) way.first = obstacles.sweepLarge(head, way.farthest * way.ahead, radius);

  const double pushed = before_.limiting() ? -1 : pushedOn(way, seconds, settings, scale);
  pushed_ = std::max(pushed, 0.0);
  const bool before = pushed < 0;
  const double allowed = way.from() < length ? way.from() : nowhere;
  const double shown = before ? before_.step(length, allowed, seconds, settings.out) : length + pushed_;
  last_ = std::min(shown, farthestState);

  LookPastPose pose;
  if (length > shortest) pose.along = std::min(shown / length, 1.0);
  pose.pushed = pushed_;
  if (before && allowed < length) pose.before = way.first.obstacle;
  fade(shown > way.from() ? way.first.obstacle : noObstacle, seconds, settings);
  pose.covers = covers_;
  return pose;
}

/// How far back it is pushed, metres; negative where it has to come in before what is large.
double LookPast::pushedOn(const Way& way, double seconds, const LookPastSettings& settings, double scale) const {
  double pushed = approach(pushed_, 0, settings.backHalfLife, seconds);
  if (pushed < unseen * scale) pushed = 0;
  if (!way.first.hit() && pushed == 0) return 0;
  pushed = std::min(pushed, way.farthest - way.length);
  if (!way.clear(way.length + pushed)) {
    const double to = way.to(way.farthest), last = last_ < 0 ? way.length : last_;
    if (to > way.farthest || to - last > std::abs(last - way.from())) return -1;
    pushed = std::max(to - way.length, 0.0);
  }
  if (pushed == 0) return 0;
  const Contact wall = way.obstacles.sweep(way.at(way.length), pushed * way.ahead, way.radius);
  if (!wall.hit()) return pushed;
  pushed = std::max(wall.distance - apart, 0.0);
  return way.clear(way.length + pushed) ? pushed : -1;
}

/// One comes to its opacity while the others come back; a third in one fade takes the place of the plainest.
void LookPast::fade(ObstacleId covering, double seconds, const LookPastSettings& settings) {
  constexpr double plain = 0.999;
  if (covering != noObstacle && covers_[0].thing != covering && covers_[1].thing != covering) {
    Covering& slot =
        covers_[0].thing == noObstacle || covers_[0].opacity > covers_[1].opacity ? covers_[0] : covers_[1];
    slot = {covering, 1};
  }
  for (Covering& each : covers_) {
    if (each.thing == noObstacle) continue;
    const bool covers = each.thing == covering;
    each.opacity = approach(each.opacity, covers ? settings.opacity : 1, settings.fadeHalfLife, seconds);
    if (!covers && each.opacity > plain) each = Covering();
  }
}

}  // namespace alpglow
