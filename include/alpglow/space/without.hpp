#pragma once
// A world without some things: a player's own body is in the way of every other player's camera, and not of its own.
//
//   const Without others(rooms, {&bodyId, 1});       // refers to `rooms` and to the ids
//   Neighbourhood near(others);                      // one for each player; the adapter is one for all
//   View view = camera.update(dt, subject, near, aspect);

#include "alpglow/base/span.hpp"
#include "alpglow/space/surroundings.hpp"

#include <algorithm>

namespace alpglow {

/// Of all that a world lists, what has none of these ids. Questions beyond a list are answered from lists as well.
class Without final : public Surroundings {
 public:
  Without(const Surroundings& world, Span<const ObstacleId> ids) : world_(world), ids_(ids) {}

  void list(const Bounds& bounds, Found& found) const noexcept override {
    Others others(*this, found);
    world_.list(bounds, others);
  }
  std::size_t mostWorthListing() const noexcept override { return world_.mostWorthListing(); }
  /// Of what is inside it says nothing about whose it is: let bodies be solid shapes, and not closed meshes.
  bool isInside(const Eigen::Vector3d& point) const noexcept override { return world_.isInside(point); }
  bool anyLarge() const noexcept override { return world_.anyLarge(); }

 private:
  bool leavesOut(const Thing& thing) const { return std::find(ids_.begin(), ids_.end(), thing.id) != ids_.end(); }

  /// Hands on the others.
  class Others final : public Found {
   public:
    Others(const Without& world, Found& found) : world_(world), found_(found) {}
    void add(const Triangle& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void add(const Capsule& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void add(const Box& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void add(const Cylinder& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void add(const HalfSpace& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void add(const Convex& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void add(const Hull& shape, const Thing& thing) noexcept override { hand(shape, thing); }
    void addEach(Span<const Triangle> shapes, const Thing& thing) noexcept override {
      if (!world_.leavesOut(thing)) found_.addEach(shapes, thing);
    }
    void addKept(const Kept& kept) noexcept override {
      const bool all = std::none_of(kept.things.begin(), kept.things.end(),
                                    [this](const Thing& thing) { return world_.leavesOut(thing); });
      if (all) return found_.addKept(kept);
      for (const std::uint32_t i : kept.which) hand(kept.triangles[i], kept.thing(i));
    }
    void incomplete() noexcept override { found_.incomplete(); }
    bool full() const noexcept override { return found_.full(); }

   private:
    template <class Shape>
    void hand(const Shape& shape, const Thing& thing) {
      if (!world_.leavesOut(thing)) found_.add(shape, thing);
    }
    const Without& world_;
    Found& found_;
  };

  const Surroundings& world_;
  Span<const ObstacleId> ids_;
};

}  // namespace alpglow
