#include "alpglow/space/neighbourhood.hpp"

#include "four_boxes.hpp"

#include <algorithm>
#include <limits>
#include <new>
#include <type_traits>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double beside = 1e-6;           // metres for the rounding of bounds
constexpr std::size_t fewRoots = 16;      // fours that each question asks, without a level above
constexpr std::size_t mostReached = 512;  // fours and entries, by a question
constexpr std::size_t fewReached = 24;    // of so many the nearest is picked; more are sorted

std::size_t foursFor(std::size_t count) { return (count + 3) / 4; }

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
  static_assert(4 * fewRoots <= 64);
  alignas(16) float at_[4 * fewRoots];
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

Neighbourhood::Neighbourhood(const Surroundings& world, std::size_t most, std::size_t planesEach) : world_(world) {
  most = std::min<std::size_t>(most, fewRoots << 2 * levels);
  list_.entries.resize(most);
  std::size_t fours = most;
  for (std::vector<BoxesOfFour>& level : list_.boxes) level.resize(fours = fours / 4 + 1);
  list_.planes.resize(most * planesEach);
}

void Neighbourhood::listAnew(const Bounds& bounds) const noexcept {
  list_.open = !bounds.empty() && bounds.low.allFinite() && bounds.high.allFinite();
  if (!list_.open) return;
  list_.most = std::min(list_.entries.size(), world_.mostWorthListing());
  list_.count = list_.planeCount = list_.movingCount = 0;
  list_.bounds = bounds;
  list_.middle = bounds.centre();
  list_.overflowed = false;
  list_.stops = 0;
  auto entered = [this](const auto& shape, const Thing& thing) { enter(shape, thing, thing.motion.moves()); };
  class Entering final : public ForEachFound<decltype(entered)> {
   public:
    Entering(const Neighbourhood& list, decltype(entered)& each) : ForEachFound(each), list_(list) {}
    void addEach(Span<const Triangle> shapes, const Thing& thing) noexcept override {
      if (!thing.motion.moves()) return list_.enterStill(shapes, thing);
      for (const Triangle& shape : shapes) list_.enter(shape, thing, true);
    }
    void addKept(const Kept& kept) noexcept override { list_.enterKept(kept); }
    bool full() const noexcept override { return list_.list_.overflowed; }

   private:
    const Neighbourhood& list_;
  };
  Entering found(*this, entered);
  world_.list(bounds, found);
  list_.cutShort = !found.complete();
  stackFours();
}

void Neighbourhood::stackFours() const {
  std::size_t level = 0, fours = foursFor(list_.count);
  for (; fours > fewRoots; ++level, fours = foursFor(fours)) {
    for (std::size_t i = 0; i < fours; ++i) {
      BoxesOfFour& around = list_.boxes[level + 1][i / 4];
      if (i % 4 == 0) around = BoxesOfFour();
      setBoxAround(around, i % 4, list_.boxes[level][i]);
    }
  }
  list_.top = level;
  list_.roots = static_cast<std::uint32_t>(fours);
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

/// One more entry, of something at rest and without a shape and bounds as yet, if there is room.
inline bool Neighbourhood::another(Kind kind, const Thing& thing, std::size_t& which) const {
  list_.overflowed = list_.overflowed || list_.count == list_.most;
  if (list_.overflowed) return false;
  which = list_.count++;
  if (which % 4 == 0) list_.boxes[0][which / 4] = BoxesOfFour();
  list_.stops |= thing.stops;
  Entry& entry = list_.entries[which];
  entry.kind = kind;
  entry.motion = atRest;
  entry.stops = thing.stops;
  entry.id = thing.id;
  return true;
}

/// Which of what moves that is; one more if it is none of it and there is room.
std::uint8_t Neighbourhood::motionOf(const Thing& thing, const Bounds& bounds) const {
  const auto moveAlike = [&thing](const Moving& each) {
    const RigidMotion &a = each.motion, &b = thing.motion;
    return a.velocity == b.velocity && a.spin == b.spin && a.about == b.about;
  };
  const auto same = [&](const Moving& each) { return each.id == thing.id && moveAlike(each); };
  Moving* const begin = list_.moving.data();
  Moving* const end = begin + list_.movingCount;
  Moving* found = std::find_if(begin, end, same);
  if (found == begin + mostMotions) found = std::find_if(begin, end, moveAlike);
  if (found == begin + mostMotions) return atRest;
  if (found == end) *found = {thing.motion, thing.id, Bounds()}, ++list_.movingCount;
  found->around = found->around.with(bounds);
  return static_cast<std::uint8_t>(found - begin);
}

template <class Shape>
void Neighbourhood::enter(const Shape& shape, const Thing& thing, bool moves) const {
  static_assert(sizeof(Shape) <= sizeof(Entry::shape) && alignof(Shape) <= alignof(Convex));
  static_assert(std::is_trivially_destructible_v<Shape>);
  const Bounds bounds = boundsOf(shape);
  const bool near = list_.bounds.touches(bounds) ||
                    (moves && list_.bounds.touches(bounds.grown(comesCloserBy(thing.motion, bounds))));
  if (list_.overflowed || !near) return;
  [[maybe_unused]] Plane* const planes = list_.planes.data() + list_.planeCount;
  if constexpr (std::is_same_v<Shape, Hull>) {
    list_.overflowed = list_.planeCount + shape.planes.size() > list_.planes.size();
    if (list_.overflowed) return;
    std::copy(shape.planes.begin(), shape.planes.end(), planes);
    list_.planeCount += shape.planes.size();
  }
  std::size_t which;
  if (!another(kindOf<Shape>(), thing, which)) return;
  setBox(list_.boxes[0][which / 4], which % 4, bounds.moved(-list_.middle));
  Entry& entry = list_.entries[which];
  if (moves) entry.motion = motionOf(thing, bounds);
  [[maybe_unused]] Shape* const kept = new (entry.shape.data()) Shape(shape);
  if constexpr (std::is_same_v<Shape, Hull>) kept->planes = {planes, shape.planes.size()};
}

void Neighbourhood::enterStill(Span<const Triangle> triangles, const Thing& thing) const {
  for (const Triangle& triangle : triangles) {
    const Bounds bounds = boundsOf(triangle);
    if (!list_.bounds.touches(bounds)) continue;
    std::size_t which;
    if (!another(Kind::triangle, thing, which)) return;
    setBox(list_.boxes[0][which / 4], which % 4, bounds.moved(-list_.middle));
    new (list_.entries[which].shape.data()) Triangle(triangle);
  }
}

void Neighbourhood::enterKept(const Kept& kept) const {
  const Shifted shifted(kept.middle - list_.middle, (list_.bounds.high - list_.bounds.low).lpNorm<Eigen::Infinity>());
  const Thing* last = nullptr;
  bool moves = false;
  for (const std::uint32_t i : kept.which) {
    if (list_.overflowed) return;
    const Thing& thing = kept.thing(i);
    if (&thing != last) last = &thing, moves = thing.motion.moves();
    if (moves) {
      enter(kept.triangles[i], thing, true);
    } else if (std::size_t which; another(Kind::keptTriangle, thing, which)) {
      shifted.set(list_.boxes[0][which / 4], which % 4, kept.boxes[i]);
      new (list_.entries[which].shape.data()) const Triangle*(kept.triangles + i);
    }
  }
}

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
  const Way way(onWay.from() - list_.middle, onWay.direction(), onWay.distance(), radius);
  const Four end = way.end(onWay.distance());
  forEachNear(
      onWay.distance(), [&](const BoxesOfFour& boxes) { return way.enters(boxes, end); }, purpose, visit);
}

Contact Neighbourhood::first(FirstContact& first, double radius, std::uint32_t purpose) const {
  if (list_.cutShort) return noAnswer();
  bool apart = radius > 0;
  forEachOnWay(first, radius, purpose, [&](const auto& shape, const Entry& entry, bool atStart) {
    if (atStart && apart) apart = nearestTo(shape, first.from()).distance > radius + beside;
    first.meet(shape, entry.id);
  });
  Contact contact = first.contact();
  contact.startsApart = apart;
  return contact;
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
  if (list_.cutShort) return noAnswer();
  FirstContact still = whole;
  bool apart = radius > 0;
  forEachOnWay(still, radius, Purpose::camera, [&](const auto& shape, const Entry& entry, bool atStart) {
    if (entry.motion != atRest) return;
    if (atStart && apart) apart = nearestTo(shape, from).distance > radius + beside;
    still.meet(shape, entry.id);
  });
  Contact contact = still.contact();
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
