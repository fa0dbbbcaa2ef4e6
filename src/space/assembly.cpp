#include "alpglow/space/assembly.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Affine3d;
using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

/// Of a part's thing what the part lets it stop; in a part that is large or soft what would stop the camera is that.
std::uint32_t stopsWithin(std::uint32_t part, std::uint32_t thing) {
  std::uint32_t stops = part & thing;
  for (const std::uint32_t kind : {Purpose::large, Purpose::soft}) {
    if ((thing & kind) != 0 || ((part & kind) != 0 && (thing & Purpose::camera) != 0)) stops |= kind;
  }
  return stops;
}

constexpr double infinity = std::numeric_limits<double>::infinity();
constexpr double even = 1e-9;

Bounds boundsOf(const Bounds& bounds, const Affine3d& transform) {
  if (bounds.empty()) return bounds;
  const Vector3d middle = transform * bounds.centre();
  const Vector3d reach = transform.linear().cwiseAbs() * ((bounds.high - bounds.low) / 2);
  return {middle - reach, middle + reach};
}

Vector3d cornerOfUnitBox(const void*, const Vector3d& direction) {
  return {std::copysign(1.0, direction.x()), std::copysign(1.0, direction.y()), std::copysign(1.0, direction.z())};
}

/// Hands shapes on as they are placed.
class Placed final : public Found {
 public:
  Placed(const Affine3d& transform, const Thing& thing, Found& to)
      : transform_(transform), linear_(transform.linear()), thing_(thing), to_(to) {
    const Matrix3d square = linear_.transpose() * linear_;
    const double scale = square.trace() / 3;
    isEven_ = (square - scale * Matrix3d::Identity()).cwiseAbs().maxCoeff() <= even * scale;
    stretch_ = isEven_ ? std::sqrt(scale) : linear_.norm();  // at least the largest
  }

  void add(const Triangle& t, const Thing& thing) noexcept override {
    to_.add(Triangle{transform_ * t.a, transform_ * t.b, transform_ * t.c}, placed(thing));
  }
  void add(const Capsule& c, const Thing& thing) noexcept override {
    to_.add(Capsule{transform_ * c.a, transform_ * c.b, stretch_ * c.radius}, placed(thing));
  }
  void add(const Box& box, const Thing& thing) noexcept override {
    if (isEven_)
      return to_.add(Box{transform_ * box.centre, linear_ * box.axes / stretch_, stretch_ * box.half}, placed(thing));
    const Matrix3d edges = linear_ * box.axes * box.half.asDiagonal();
    const Bounds bounds = boundsOf(alpglow::boundsOf(box), transform_);
    to_.add(Convex{nullptr, cornerOfUnitBox, edges, transform_ * box.centre, 0, bounds}, placed(thing));
  }
  void add(const Cylinder& c, const Thing& thing) noexcept override {
    const Vector3d base = transform_ * c.base, axis = linear_ * c.axis;
    const double size = axis.norm();
    if (isEven_ && size > 0)
      return to_.add(Cylinder{base, axis / size, c.height * size, stretch_ * c.radius, stretch_ * c.topRadius},
                     placed(thing));
    to_.add(Capsule{base, base + c.height * axis, stretch_ * std::max(c.radius, c.topRadius)}, placed(thing));
  }
  void add(const HalfSpace& space, const Thing& thing) noexcept override { to_.add(plane(space), placed(thing)); }
  void add(const Hull& hull, const Thing& thing) noexcept override {
    constexpr std::size_t most = 256;
    Plane planes[most];
    if (hull.planes.size() > most) return to_.incomplete();
    std::transform(hull.planes.begin(), hull.planes.end(), planes, [this](const Plane& p) { return plane(p); });
    to_.add(Hull{{planes, hull.planes.size()}, boundsOf(hull.bounds, transform_)}, placed(thing));
  }
  void add(const Convex& convex, const Thing& thing) noexcept override {
    Convex moved = convex;
    moved.axes = linear_ * convex.axes;
    moved.origin = transform_ * convex.origin;
    moved.rounding *= stretch_;
    moved.bounds = boundsOf(convex.bounds, transform_);
    to_.add(moved, placed(thing));
  }
  void incomplete() noexcept override { to_.incomplete(); }
  bool full() const noexcept override { return to_.full(); }

 private:
  Thing placed(const Thing& thing) const {
    Thing result = thing;
    if (thing_.id != unnamedObstacle) result.id = thing_.id;
    result.stops = stopsWithin(thing_.stops, thing.stops);
    const Vector3d about = transform_ * thing.motion.about, spin = linear_ * thing.motion.spin / stretch_;
    const double mirrored = linear_.determinant() < 0 ? -1 : 1;  // spins the other way
    result.motion = {linear_ * thing.motion.velocity + thing_.motion.velocityAt(about),
                     mirrored * spin + thing_.motion.spin, about};
    return result;
  }
  /// By the inverse transpose, which keeps it on the points that were on it.
  Plane plane(const Plane& p) const {
    const Vector3d normal = linear_.inverse().transpose() * p.normal;
    const double size = normal.norm();
    return {normal / size, p.offset / size + normal.dot(transform_.translation()) / size};
  }

  const Affine3d& transform_;
  Matrix3d linear_;
  const Thing& thing_;
  Found& to_;
  bool isEven_;
  double stretch_;
};

}  // namespace

std::size_t Assembly::add(const Surroundings& part, const Bounds& bounds, const Thing& thing) {
  Part added;
  added.what = &part;
  added.local = added.placed = bounds;
  added.thing = thing;
  parts_.push_back(added);
  return parts_.size() - 1;
}

void Assembly::place(std::size_t index, const Affine3d& transform, const RigidMotion& motion) {
  Part& part = parts_[index];
  part.transform = transform;
  part.inverse = transform.inverse();
  part.placed = boundsOf(part.local, transform);
  part.thing.motion = motion;
  part.comes = motion.moves() && !part.placed.empty() ? comesCloserBy(motion, part.placed) : 0;
  part.fixed = false;
}

void Assembly::listAll(const Bounds& bounds, Found& found) const noexcept {
  for (const Part& part : parts_) {
    if (found.full()) return;
    const Bounds asked = bounds.grown(part.comes);
    if (!part.shown || (!part.placed.empty() && !part.placed.touches(asked))) continue;
    const bool named = part.thing.id != unnamedObstacle || part.thing.stops != Purpose::all;
    if (part.fixed && !named && !part.thing.motion.moves()) {
      part.what->list(bounds, found);
      continue;
    }
    Placed placed(part.transform, part.thing, found);
    part.what->list(part.fixed ? bounds : boundsOf(asked, part.inverse), placed);
  }
}

bool Assembly::anyLarge() const noexcept {
  return std::any_of(parts_.begin(), parts_.end(), [](const Part& part) {
    return part.shown && ((part.thing.stops & Purpose::large) != 0 || part.what->anyLarge());
  });
}

bool Assembly::encloses(const Vector3d& point) const noexcept {
  return std::any_of(parts_.begin(), parts_.end(), [&point](const Part& part) {
    const bool here =
        part.shown && (part.thing.stops & Purpose::camera) != 0 && (part.placed.empty() || part.placed.holds(point));
    return here && part.what->isInside(part.fixed ? point : Vector3d(part.inverse * point));
  });
}

/// By what the part lets its things stop (`stopsWithin`).
Contact Assembly::castWithin(const Part& part, const Vector3d& from, const Vector3d& displacement,
                             Purpose::Bit purpose) {
  const bool stops = (part.thing.stops & purpose) != 0, isKind = (purpose & (Purpose::large | Purpose::soft)) != 0;
  Contact first{displacement.norm(), noObstacle};
  if (stops || isKind) first = part.what->cast(from, displacement, purpose);
  if (!stops || !isKind || std::isnan(first.distance)) return first;
  const Contact other = part.what->cast(from, displacement, Purpose::camera);
  return other.hit() && !(other.distance >= first.distance) ? other : first;
}

Contact Assembly::ray(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept {
  const double length = displacement.norm();
  Contact first{length, noObstacle};
  if (!(length > 0) || !(length < infinity)) return first;
  for (const Part& part : parts_) {
    const Bounds way = Bounds::around(from).with(from + displacement * (first.distance / length));
    if (!part.shown || (!part.placed.empty() && !part.placed.touches(way))) continue;
    Contact contact = castWithin(part, part.inverse * from, part.inverse.linear() * displacement, purpose);
    if (std::isnan(contact.distance)) return noAnswer();
    if (!contact.hit()) continue;
    contact.distance *= length / (part.inverse.linear() * displacement).norm();
    if (!(contact.distance < first.distance)) continue;
    if (part.thing.id != unnamedObstacle) contact.obstacle = part.thing.id;
    contact.normal = (part.inverse.linear().transpose() * contact.normal).normalized();
    first = contact;
  }
  return first;
}

}  // namespace alpglow
