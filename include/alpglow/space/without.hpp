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
    auto hand = [&](const auto& shape, const Thing& thing) {
      if (!leavesOut(thing)) found.add(shape, thing);
    };
    Others<decltype(hand)> others(hand, *this, found);
    world_.list(bounds, others);
  }
  std::size_t mostWorthListing() const noexcept override { return world_.mostWorthListing(); }
  /// Of what is inside it says nothing about whose it is: let bodies be solid shapes, and not closed meshes.
  bool isInside(const Eigen::Vector3d& point) const noexcept override { return world_.isInside(point); }
  bool anyLarge() const noexcept override { return world_.anyLarge(); }

 private:
  bool leavesOut(const Thing& thing) const { return std::find(ids_.begin(), ids_.end(), thing.id) != ids_.end(); }

  /// Hands on the others, many at once where they come so.
  template <class Hand>
  class Others final : public ForEachFound<Hand> {
   public:
    Others(Hand& hand, const Without& world, Found& found) : ForEachFound<Hand>(hand), world_(world), found_(found) {}
    void addEach(Span<const Triangle> shapes, const Thing& thing) noexcept override {
      if (!world_.leavesOut(thing)) found_.addEach(shapes, thing);
    }
    void addKept(const Kept& kept) noexcept override {
      const bool all = std::none_of(kept.things.begin(), kept.things.end(),
                                    [this](const Thing& thing) { return world_.leavesOut(thing); });
      if (all) return found_.addKept(kept);
      Found::addKept(kept);
    }
    void incomplete() noexcept override { found_.incomplete(); }
    bool full() const noexcept override { return found_.full(); }

   private:
    const Without& world_;
    Found& found_;
  };

  const Surroundings& world_;
  Span<const ObstacleId> ids_;
};

}  // namespace alpglow
