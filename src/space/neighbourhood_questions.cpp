// What is asked of a list.

#include "four_boxes.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/space/neighbourhood.hpp"

#include <algorithm>
#include <limits>
#include <new>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double beside = 1e-6;           // metres for the rounding of bounds
constexpr double mostInFloats = 1e15;     // metres: squares and products of that are floats
constexpr std::size_t mostInRow = 64;     // boxes, a bit for each
constexpr std::size_t mostReached = 512;  // fours and entries, by a question
constexpr std::size_t fewReached = 24;    // of so many the nearest is picked; more are sorted

std::uint32_t lowestBit(std::uint64_t bits) {
#ifdef __GNUC__
  return static_cast<std::uint32_t>(__builtin_ctzll(bits));
#else
  std::uint32_t lowest = 0;
  for (; bits % 2 == 0; bits /= 2) ++lowest;
  return lowest;
#endif
}

/// Where a question reaches the boxes of some fours that stand in a row. Asked without a branch for each box: which of
/// them are reached is open each time.
class Row {
 public:
  void set(std::size_t four, const Reach& reach) {
    Eigen::Map<Four, Eigen::Aligned16>(at_ + 4 * four) = reach.at;
    left_ |= static_cast<std::uint64_t>(reach.bits()) << 4 * four;
  }
  bool empty() const { return left_ == 0; }
  /// Each box once, in order or the nearest first; where several are as near in order.
  std::uint32_t takeFirst() { return take(lowestBit(left_)); }
  std::uint32_t takeNearest() {
    std::uint32_t nearest = lowestBit(left_);
    for (std::uint64_t others = left_ & (left_ - 1); others != 0; others &= others - 1) {
      const std::uint32_t other = lowestBit(others);
      nearest = at_[other] < at_[nearest] ? other : nearest;
    }
    return take(nearest);
  }
  float at(std::uint32_t box) const { return at_[box]; }

 private:
  std::uint32_t take(std::uint32_t box) {
    left_ &= ~(std::uint64_t{1} << box);
    return box;
  }
  alignas(16) float at_[mostInRow];
  std::uint64_t left_ = 0;
};

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

template <class Visit>
void Neighbourhood::visit(const Entry& entry, Visit&& visit) {
  const void* shape = entry.shape.data();
  switch (entry.kind) {
    case Kind::triangle: return visit(*std::launder(static_cast<const Triangle*>(shape)));
    case Kind::keptTriangle: return visit(**std::launder(static_cast<const Triangle* const*>(shape)));
    case Kind::capsule: return visit(*std::launder(static_cast<const Capsule*>(shape)));
    case Kind::box: return visit(*std::launder(static_cast<const Box*>(shape)));
    case Kind::cylinder: return visit(*std::launder(static_cast<const Cylinder*>(shape)));
    case Kind::halfSpace: return visit(*std::launder(static_cast<const HalfSpace*>(shape)));
    case Kind::hull: return visit(*std::launder(static_cast<const Hull*>(shape)));
    case Kind::convex: return visit(*std::launder(static_cast<const Convex*>(shape)));
  }
}

/// Everything whose bounds the question reaches, as `ask` says, and whether it does so where it begins; the nearest
/// first, and none that is farther than `limit` has become meanwhile. Level by level, so that one answer does not wait
/// for the other.
template <class Ask, class Visit>
void Neighbourhood::forEachNear(const double& limit, Ask&& ask, std::uint32_t purpose, Visit&& visitEach) const {
  const auto goesOn = [&](const Reached& next) {
    if (static_cast<double>(next.at) > limit) return false;
    const Entry& entry = list_.entries[next.which];
    if ((entry.stops & purpose) != 0) visit(entry, [&](const auto& shape) { visitEach(shape, entry, next.at <= 0); });
    return true;
  };
  static_assert(4 * fewRoots <= mostInRow);
  Row row;
  for (std::uint32_t i = 0; i < list_.roots; ++i) row.set(i, ask(list_.boxes[list_.top][i]));
  if (list_.top > 0) return forEachBelow(row, ask, goesOn);
  while (!row.empty()) {
    const std::uint32_t nearest = row.takeNearest();
    if (!goesOn({row.at(nearest), nearest})) return;
  }
}

/// The same from the uppermost boxes that it reaches down.
template <class Row, class Ask, class GoesOn>
void Neighbourhood::forEachBelow(Row& row, Ask& ask, GoesOn& goesOn) const {
  // Several threads may ask at once, so what is reached lies here; where that is too much, all is asked in order.
  std::array<Reached, mostReached> reached;
  std::size_t begin = 0, end = 0;
  while (!row.empty()) reached[end++] = {0, row.takeFirst()};
  for (std::size_t level = list_.top; level-- > 0;) {
    for (const std::size_t last = end; begin < last; ++begin) {
      if (end + 4 > mostReached) {
        for (std::uint32_t four = 0; four < foursFor(list_.count); ++four) {
          const Reach reach = ask(list_.boxes[0][four]);
          for (std::uint32_t i = 0; i < 4; ++i) {
            if (reach.reaches(i)) goesOn({reach.at[i], 4 * four + i});
          }
        }
        return;
      }
      const std::uint32_t four = reached[begin].which;
      const Reach reach = ask(list_.boxes[level][four]);
      for (std::uint32_t i = 0; i < 4; ++i) {
        reached[end] = {reach.at[i], 4 * four + i};
        end += reach.reaches(i) ? 1 : 0;
      }
    }
  }
  // What is reached at the same place stays in the order of the list.
  Reached* const first = reached.data() + begin;
  Reached* const last = reached.data() + end;
  if (end - begin > fewReached) {
    std::sort(first, last,
              [](const Reached& a, const Reached& b) { return a.at < b.at || (a.at == b.at && a.which < b.which); });
    std::all_of(first, last, goesOn);
    return;
  }
  constexpr Reached visited{std::numeric_limits<float>::infinity(), 0};
  for (std::size_t left = end - begin; left > 0; --left) {
    Reached* nearest = first;
    for (Reached* each = first + 1; each < last; ++each) nearest = each->at < nearest->at ? each : nearest;
    if (!goesOn(std::exchange(*nearest, visited))) return;
  }
}

template <class Visit>
void Neighbourhood::forEachOnWay(const FirstContact& onWay, double radius, std::uint32_t purpose, Visit&& visit) const {
  if (!withinAlongEachAxis(onWay.from(), mostInFloats)) return;  // nothing that is listed is there
  const Way way(onWay.from() - list_.middle, onWay.direction(), onWay.distance(), radius);
  const Four end = way.end(onWay.distance());
  forEachNear(
      onWay.distance(), [&](const BoxesOfFour& boxes) { return way.enters(boxes, end); }, purpose, visit);
}

template <class Wanted>
Contact Neighbourhood::firstOf(FirstContact& first, double radius, std::uint32_t purpose, Wanted&& wanted) const {
  if (list_.cutShort) return noAnswer();
  bool apart = radius > 0;
  forEachOnWay(first, radius, purpose, [&](const auto& shape, const Entry& entry, bool atStart) {
    if (!wanted(entry)) return;
    if (atStart && apart) apart = nearestTo(shape, first.from()).distance > radius + beside;
    first.meet(shape, entry.id);
  });
  Contact contact = first.contact();
  contact.startsApart = apart;
  return contact;
}

Contact Neighbourhood::first(FirstContact& first, double radius, std::uint32_t purpose) const {
  return firstOf(first, radius, purpose, [](const Entry&) { return true; });
}

Contact Neighbourhood::swept(const Vector3d& from, const Vector3d& displacement, double radius,
                             Purpose::Bit purpose) const noexcept {
  FirstContact first(from, displacement, radius, purpose);
  if (!first.moves()) return first.contact();
  const Bounds way = Bounds::around(from).with(from + displacement).grown(radius + beside);
  const bool none = (list_.stops & purpose) == 0 && !list_.cutShort;
  if (answers(way)) return none ? first.contact() : this->first(first, radius, purpose);
  return purpose == Purpose::large ? world_.sweepLarge(from, displacement, radius)
                                   : world_.sweep(from, displacement, radius);
}

bool Neighbourhood::anyMoves(const RigidMotion& from) const noexcept {
  return list_.open && std::any_of(moving().begin(), moving().end(),
                                   [&](const Moving& each) { return each.motion.seenFrom(from).moves(); });
}

/// What moves is asked where it is, from where its motion will not have taken the question yet; one thing after the
/// other, whole.
Contact Neighbourhood::sweptLater(const Vector3d& from, const Vector3d& displacement, double radius,
                                  const MomentAhead& later) const noexcept {
  const Bounds way = Bounds::around(from).with(from + displacement).grown(radius + beside);
  const FirstContact whole(from, displacement, radius, Purpose::camera);
  if (!whole.moves() || list_.movingCount == 0 || !answers(way))
    return swept(from, displacement, radius, Purpose::camera);
  FirstContact still = whole;
  Contact contact = firstOf(still, radius, Purpose::camera, [](const Entry& entry) { return entry.motion == atRest; });
  const bool apart = contact.startsApart;
  for (std::size_t which = 0; which < list_.movingCount; ++which) {
    const RigidMotion motion = list_.moving[which].motion.seenFrom(later.from);
    const double seconds = motion.moves() ? later.seconds : 0;
    const Rotation turn = motion.turnIn(seconds);
    const Vector3d start = seconds > 0 ? motion.pointBefore(seconds, from) : from;
    const Vector3d there = turn.conjugate() * Vector3d(whole.direction() * contact.distance);
    FirstContact then(start, there, radius, Purpose::camera);
    if (!then.moves() ||
        !list_.moving[which].around.touches(Bounds::around(start).with(start + there).grown(radius + beside)))
      continue;
    bool around = false;  // where the way begins, then: that is not waited for
    forEachOnWay(then, radius, Purpose::camera, [&](const auto& shape, const Entry& entry, bool atStart) {
      if (entry.motion != which) return;
      around = around || (atStart && seconds > 0 && nearestTo(shape, start).distance <= radius);
      then.meet(shape, entry.id);
    });
    if (around || !then.contact().hit()) continue;
    contact = then.contact();
    contact.normal = turn * contact.normal;
  }
  contact.startsApart = apart;
  return contact;
}

Contact Neighbourhood::ray(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept {
  const FirstContact whole(from, displacement, 0, purpose);
  if (!whole.moves() || !answers(Bounds::around(from, beside))) return world_.cast(from, displacement, purpose);
  const double length = whole.distance();
  const double here = wayWithin(list_.bounds.grown(-beside), from, whole.direction(), length);
  const Vector3d edge = here * whole.direction();
  FirstContact within(from, edge, 0, purpose);
  Contact contact = first(within, 0, purpose);
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
  const auto within = [&](const BoxesOfFour& boxes) { return away(boxes, nearest); };
  forEachNear(nearest, within, Purpose::camera, [&](const auto& shape, const Entry&, bool) {
    nearest = std::min(nearest, nearestTo(shape, point).distance);
  });
  return world_.isInside(point) ? 0 : nearest;
}

}  // namespace alpglow
