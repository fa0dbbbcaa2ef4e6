#include "alpglow/space/neighbourhood.hpp"

#include "four_boxes.hpp"

#include <algorithm>
#include <new>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double beside = 1e-6;  // metres for the rounding of bounds

/// How far a way goes within bounds in which it starts.
double wayWithin(const Bounds& bounds, const Vector3d& from, const Vector3d& direction, double length) {
  double way = length;
  for (int axis = 0; axis < 3; ++axis) {
    if (direction[axis] > 0) way = std::min(way, (bounds.high[axis] - from[axis]) / direction[axis]);
    if (direction[axis] < 0) way = std::min(way, (bounds.low[axis] - from[axis]) / direction[axis]);
  }
  return std::max(way, 0.0);
}

}  // namespace

Neighbourhood::Neighbourhood(const Surroundings& world, std::size_t most, std::size_t planesEach) : world_(world) {
  list_.entries.resize(most);
  list_.each.resize(most / 4 + 1);
  list_.blocks.resize(most / 16 + 1);
  list_.planes.resize(most * planesEach);
}

void Neighbourhood::listAnew(const Bounds& bounds) const noexcept {
  list_.open = !bounds.empty() && bounds.low.allFinite() && bounds.high.allFinite();
  if (!list_.open) return;
  list_.count = list_.planeCount = list_.movingCount = 0;
  list_.bounds = bounds;
  list_.middle = bounds.centre();
  list_.overflowed = list_.anyLarge = false;
  auto entered = [this](const auto& shape, const Thing& thing) { enter(shape, thing); };
  ForEachFound<decltype(entered)> found(entered);
  world_.list(bounds, found);
  list_.cutShort = !found.complete();
  for (std::size_t four = 0; 4 * four < list_.count; ++four) {
    if (four % 4 == 0) list_.blocks[four / 4] = BoxesOfFour();
    setBoxAround(list_.blocks[four / 4], four % 4, list_.each[four]);
  }
}

template <class Shape>
constexpr Neighbourhood::Kind Neighbourhood::kindOf() {
  if (std::is_same_v<Shape, Triangle>) return Kind::triangle;
  if (std::is_same_v<Shape, Capsule>) return Kind::capsule;
  if (std::is_same_v<Shape, Box>) return Kind::box;
  if (std::is_same_v<Shape, Cylinder>) return Kind::cylinder;
  if (std::is_same_v<Shape, HalfSpace>) return Kind::halfSpace;
  if (std::is_same_v<Shape, Hull>) return Kind::hull;
  return Kind::convex;
}

template <class Shape>
void Neighbourhood::enter(const Shape& shape, const Thing& thing) const {
  static_assert(sizeof(Shape) <= sizeof(Entry::shape) && alignof(Shape) <= alignof(Convex));
  static_assert(std::is_trivially_destructible_v<Shape>);
  const Bounds bounds = boundsOf(shape);
  const bool moves = thing.motion.moves() && list_.movingCount < list_.moving.size();
  const bool near = list_.bounds.touches(moves ? bounds.grown(comesCloserBy(thing.motion, bounds)) : bounds);
  if (list_.overflowed || !near) return;
  list_.overflowed = list_.count == list_.entries.size();
  if (list_.overflowed) return;
  [[maybe_unused]] Plane* const planes = list_.planes.data() + list_.planeCount;
  if constexpr (std::is_same_v<Shape, Hull>) {
    list_.overflowed = list_.planeCount + shape.planes.size() > list_.planes.size();
    if (list_.overflowed) return;
    std::copy(shape.planes.begin(), shape.planes.end(), planes);
    list_.planeCount += shape.planes.size();
  }
  BoxesOfFour& four = list_.each[list_.count / 4];
  if (list_.count % 4 == 0) four = BoxesOfFour();
  setBox(four, list_.count % 4, bounds.moved(-list_.middle));
  if (moves) list_.moving[list_.movingCount++] = static_cast<std::uint32_t>(list_.count);
  Entry& entry = list_.entries[list_.count++];
  entry.moves = moves;
  entry.kind = kindOf<Shape>();
  entry.thing = thing;
  list_.anyLarge = list_.anyLarge || (thing.stops & Purpose::large) != 0;
  [[maybe_unused]] Shape* const kept = new (entry.shape.data()) Shape(shape);
  if constexpr (std::is_same_v<Shape, Hull>) kept->planes = {planes, shape.planes.size()};
}

template <class Visit>
void Neighbourhood::visit(const Entry& entry, Visit&& visit) {
  const void* shape = entry.shape.data();
  switch (entry.kind) {
    case Kind::triangle: return visit(*std::launder(static_cast<const Triangle*>(shape)));
    case Kind::capsule: return visit(*std::launder(static_cast<const Capsule*>(shape)));
    case Kind::box: return visit(*std::launder(static_cast<const Box*>(shape)));
    case Kind::cylinder: return visit(*std::launder(static_cast<const Cylinder*>(shape)));
    case Kind::halfSpace: return visit(*std::launder(static_cast<const HalfSpace*>(shape)));
    case Kind::hull: return visit(*std::launder(static_cast<const Hull*>(shape)));
    case Kind::convex: return visit(*std::launder(static_cast<const Convex*>(shape)));
  }
}

/// Everything whose bounds the question reaches, which is whom `ask` does not find at `never`; by fours, the nearest
/// first, and none that is farther than `limit` has become meanwhile.
template <class Ask, class Visit>
void Neighbourhood::forEachNear(const double& limit, Ask&& ask, std::uint32_t purpose, Visit&& visitEach) const {
  const auto visitFour = [&](std::size_t start) {
    const Four each = ask(list_.each[start / 4]);
    for (std::size_t i = 0; i < std::min<std::size_t>(4, list_.count - std::min(start, list_.count)); ++i) {
      const float after = each[static_cast<Eigen::Index>(i)];
      if (after == never || static_cast<double>(after) > limit) continue;
      const Entry& entry = list_.entries[start + i];
      if ((entry.thing.stops & purpose) != 0) visit(entry, [&](const auto& shape) { visitEach(shape, entry); });
    }
  };
  struct Reached {
    float after;
    std::size_t start;
  };
  std::array<Reached, 48> inOrder;
  std::size_t count = 0;
  for (std::size_t block = 0; 16 * block < list_.count; ++block) {
    const Four fours = ask(list_.blocks[block]);
    for (std::size_t i = 0; i < 4; ++i) {
      const Reached reached{fours[static_cast<Eigen::Index>(i)], 16 * block + 4 * i};
      if (reached.after == never) continue;
      if (count == inOrder.size()) {
        visitFour(reached.start);
        continue;
      }
      std::size_t at = count++;
      for (; at > 0 && inOrder[at - 1].after > reached.after; --at) inOrder[at] = inOrder[at - 1];
      inOrder[at] = reached;
    }
  }
  for (std::size_t i = 0; i < count && static_cast<double>(inOrder[i].after) <= limit; ++i) visitFour(inOrder[i].start);
}

Contact Neighbourhood::first(FirstContact first, double radius, std::uint32_t purpose, bool stillOnly) const {
  if (list_.cutShort) return noAnswer();
  const Way way(first.from() - list_.middle, first.direction(), first.distance(), radius);
  forEachNear(
      first.distance(), [&](const BoxesOfFour& boxes) { return way.enters(boxes, first.distance()); }, purpose,
      [&](const auto& shape, const Entry& entry) {
        if (!stillOnly || !entry.moves) first(shape, entry.thing);
      });
  return first.contact();
}

Contact Neighbourhood::swept(const Vector3d& from, const Vector3d& displacement, double radius,
                             Purpose::Bit purpose) const noexcept {
  const FirstContact first(from, displacement, radius, purpose);
  if (!first.moves()) return first.contact();
  const Bounds way = Bounds::around(from).with(from + displacement).grown(radius + beside);
  const bool none = purpose == Purpose::large && !list_.anyLarge && !list_.cutShort;
  if (answers(way)) return none ? first.contact() : this->first(first, radius, purpose);
  return purpose == Purpose::large ? world_.sweepLarge(from, displacement, radius)
                                   : world_.sweep(from, displacement, radius);
}

bool Neighbourhood::anyMoves(const RigidMotion& from) const noexcept {
  return list_.open && std::any_of(moving().begin(), moving().end(), [&](std::uint32_t i) {
           return list_.entries[i].thing.motion.seenFrom(from).moves();
         });
}

/// What moves is asked where it is, from where its motion will not have taken the question yet.
Contact Neighbourhood::sweptLater(const Vector3d& from, const Vector3d& displacement, double radius,
                                  const MomentAhead& later) const noexcept {
  const Bounds way = Bounds::around(from).with(from + displacement).grown(radius + beside);
  const FirstContact whole(from, displacement, radius, Purpose::camera);
  if (!whole.moves() || list_.movingCount == 0 || !answers(way))
    return swept(from, displacement, radius, Purpose::camera);
  Contact contact = first(whole, radius, Purpose::camera, true);
  for (const std::uint32_t i : moving()) {
    const Entry& entry = list_.entries[i];
    if ((entry.thing.stops & Purpose::camera) == 0) continue;
    const RigidMotion motion = entry.thing.motion.seenFrom(later.from);
    const double seconds = motion.moves() ? later.seconds : 0;
    const Rotation turn = motion.turnIn(seconds);
    const Vector3d start = seconds > 0 ? motion.pointBefore(seconds, from) : from;
    FirstContact then(start, turn.conjugate() * Vector3d(whole.direction() * contact.distance), radius,
                      Purpose::camera);
    visit(entry, [&](const auto& shape) {
      if (seconds == 0 || nearestTo(shape, start).distance > radius) then(shape, entry.thing);
    });
    if (!then.moves() || !then.contact().hit()) continue;
    contact = then.contact();
    contact.normal = turn * contact.normal;
  }
  return contact;
}

Contact Neighbourhood::ray(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept {
  const FirstContact whole(from, displacement, 0, purpose);
  if (!whole.moves() || !answers(Bounds::around(from, beside))) return world_.cast(from, displacement, purpose);
  const double length = whole.distance();
  const double here = wayWithin(list_.bounds.grown(-beside), from, whole.direction(), length);
  const Vector3d edge = here * whole.direction();
  Contact contact = first(FirstContact(from, edge, 0, purpose), 0, purpose);
  if (contact.hit() || here >= length || list_.cutShort) return contact;
  Contact beyond = world_.cast(from + edge, displacement - edge, purpose);
  beyond.distance += here;
  return beyond;
}

double Neighbourhood::room(const Vector3d& point, double range) const noexcept {
  if (!answers(Bounds::around(point, range))) return world_.clearance(point, range);
  if (list_.cutShort) return noAnswer().distance;
  double nearest = range;
  const Away away(point - list_.middle);
  const auto within = [&](const BoxesOfFour& boxes) {
    const Four at = away(boxes);
    return Four((at <= static_cast<float>(nearest)).select(at, Four::Constant(never)));
  };
  forEachNear(nearest, within, Purpose::camera,
              [&](const auto& shape, const Entry&) { nearest = std::min(nearest, nearestTo(shape, point).distance); });
  return world_.isInside(point) ? 0 : nearest;
}

}  // namespace alpglow
