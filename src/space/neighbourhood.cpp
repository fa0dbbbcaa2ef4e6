#include "alpglow/space/neighbourhood.hpp"

#include "four_boxes.hpp"

#include <algorithm>
#include <new>
#include <type_traits>

namespace alpglow {

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

template <class Shape, class... Shapes>
constexpr bool isOneOf = (std::is_same_v<Shape, Shapes> || ...);

template <class Shape>
constexpr Neighbourhood::Kind Neighbourhood::kindOf() {
  if (std::is_same_v<Shape, Triangle>) return Kind::triangle;
  if (std::is_same_v<Shape, Capsule>) return Kind::capsule;
  if (std::is_same_v<Shape, Box>) return Kind::box;
  if (std::is_same_v<Shape, Cylinder>) return Kind::cylinder;
  if (std::is_same_v<Shape, HalfSpace>) return Kind::halfSpace;
  if (std::is_same_v<Shape, Hull>) return Kind::hull;
  static_assert(isOneOf<Shape, Triangle, Capsule, Box, Cylinder, HalfSpace, Hull, Convex>, "a shape without a kind");
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

}  // namespace alpglow
