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
constexpr double unseen = 1e-4, seen = 1e-3;  // metres that are not worth coming back from; that count as coming in
constexpr double shortest = 1e-6;             // metres that are a way

}  // namespace

/// A sphere in touch goes deeper one way or the other.
bool touchesLarge(const Vector3d& point, double radius, const Obstacles& obstacles) {
  for (int axis = 0; axis < 3; ++axis) {
    for (const double way : {-radius, radius}) {
      const Contact on = obstacles.sweepLarge(point, way * Vector3d::Unit(axis), radius);
      if (on.hit() && on.distance <= 0) return true;
    }
  }
  return false;
}

/// From the head to the camera and as far as it may be pushed back, among large things.
struct LookPast::Way {
  const Obstacles& obstacles;
  Vector3d head, ahead;
  double length, farthest, radius;
  Contact first;  // the first large thing of all of it

  Vector3d at(double metres) const { return head + metres * ahead; }
  /// The camera stays before it if it does not look past it.
  double from() const { return first.hit() ? std::max(first.distance - apart, 0.0) : nowhere; }
  /// The last one, coming from there.
  Contact behind(double metres) const { return obstacles.sweepLarge(at(metres), -metres * ahead, radius); }
  /// Behind which it is free again; infinite where nothing on this side of there is.
  double to(double metres) const {
    const Contact last = behind(metres);
    return last.hit() && last.distance > 0 ? metres - last.distance + apart : nowhere;
  }
  bool touches(double metres) const { return touchesLarge(at(metres), radius, obstacles); }
  bool clear(double metres) const { return metres <= from() || (to(metres) <= metres && !touches(metres)); }
};

LookPastPose LookPast::place(const Vector3d& head, const Vector3d& camera, double radius, const Obstacles& obstacles,
                             const LookPastSettings& settings, double scale) {
  const double seconds = std::exchange(seconds_, 0.0), length = (camera - head).norm();
  const bool fades =
      std::any_of(covers_.begin(), covers_.end(), [](const Covering& each) { return each.thing != noObstacle; });
  // Farther back than the camera is asked only where something large is on the way to it, or was.
  const bool acts = pushed_ > 0 || limiting() || fades;
  const bool any =
      obstacles.anyLarge() && length > shortest && (acts || obstacles.sweepLarge(head, camera - head, radius).hit());
  if (!any && !acts) {
    last_ = std::min(length, farthestState);
    return {};
  }
  Way way{obstacles, head, Vector3d::Zero(), length, length + std::min(settings.push * scale, length), radius, {}};
  if (length > shortest) way.ahead = (camera - head) / length;
  if (any) way.first = obstacles.sweepLarge(head, way.farthest * way.ahead, radius);

  double pushed = 0;
  if (before_.limiting())
    pushed = -1;
  else if (length > shortest)
    pushed = pushedOn(way, seconds, settings, scale);
  pushed_ = std::max(pushed, 0.0);
  const bool before = pushed < 0;
  const double allowed = way.from() < length ? way.from() : nowhere;
  const double shown = before ? before_.step(length, allowed, seconds, settings.out) : length + pushed_;
  last_ = std::min(shown, farthestState);

  LookPastPose pose;
  if (length > shortest) pose.along = std::min(shown / length, 1.0);
  pose.pushed = pushed_;
  pose.back = pushed_ * way.ahead;
  if (before && allowed < length) {
    pose.before = way.first.obstacle;
    pose.clear = allowed / length;
  }
  cameIn_ = shown < length - seen;
  const bool past = shown > way.from();
  const ObstacleId ends[] = {past ? way.first.obstacle : noObstacle, past ? way.behind(shown).obstacle : noObstacle};
  fadeCoverings(covers_, ends, seconds, settings);
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
    if (way.touches(way.length + pushed)) return -1;
  }
  if (pushed == 0) return 0;
  const Contact wall = way.obstacles.sweep(way.at(way.length), pushed * way.ahead, way.radius);
  if (!wall.hit()) return pushed;
  pushed = std::max(wall.distance - apart, 0.0);
  return way.clear(way.length + pushed) ? pushed : -1;
}

/// A new one takes the place of the plainest of those that do not cover.
void fadeCoverings(Span<Covering> things, Span<const ObstacleId> covering, double seconds,
                   const LookPastSettings& settings) {
  constexpr double plain = 0.999;
  const auto covers = [&](const Covering& each) {
    return each.thing != noObstacle && std::find(covering.begin(), covering.end(), each.thing) != covering.end();
  };
  for (const ObstacleId thing : covering) {
    const auto known = [thing](const Covering& each) { return each.thing == thing; };
    if (thing == noObstacle || std::any_of(things.begin(), things.end(), known)) continue;
    const auto plainness = [&](const Covering& each) { return covers(each) ? -1 : each.opacity; };
    *std::max_element(things.begin(), things.end(),
                      [&](const Covering& a, const Covering& b) { return plainness(a) < plainness(b); }) = {thing, 1};
  }
  for (Covering& each : things) {
    if (each.thing == noObstacle) continue;
    each.opacity = approach(each.opacity, covers(each) ? settings.opacity : 1, settings.fadeHalfLife, seconds);
    if (!covers(each) && each.opacity > plain) each = Covering();
  }
}

}  // namespace alpglow
