#pragma once
// A world that can list what is near: the one question that a host has to answer. All others are answered from it by
// the core's own exact shapes.
//
//   class Rooms final : public alpglow::Surroundings {
//     void list(const Bounds& bounds, Found& found) const noexcept override {
//       for (const Wall& wall : physics.overlapping(bounds))
//         found.add(Box{wall.centre, wall.axes, wall.half}, {wall.id});
//     }
//   };
//
// Such a world can be asked by many threads at once, as far as the host's `list` can. A camera asks it some questions a
// frame; `Neighbourhood` lists once a frame and answers them all from that.

#include "alpglow/space/boxes_of_four.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/space/shapes.hpp"

#include <limits>

namespace alpglow {

/// What is known of a listed shape besides its form.
struct Thing {
  ObstacleId id = unnamedObstacle;
  /// What it stops (`Purpose`). What the camera sees through, glass or leaves, stops some of the rest.
  std::uint32_t stops = Purpose::all;
  /// How it moves, as it is drawn in this frame. The camera then makes way in time for what comes toward it.
  RigidMotion motion = {};
};

/// Some of many triangles that are kept in memory beside their bounds.
struct Kept {
  /// These must live until the next frame.
  const Triangle* triangles = nullptr;
  /// Of each triangle, from `middle`, and right to some ten millionths of how far it is from there.
  const BoxOfOne* boxes = nullptr;
  Eigen::Vector3d middle = Eigen::Vector3d::Zero();
  /// One for all triangles or one for each.
  Span<const Thing> things;
  Span<const std::uint32_t> which;

  const Thing& thing(std::size_t i) const { return things.size() == 1 ? things[0] : things[i]; }
};

/// Takes what a world lists. Coordinates are the world's. A shape that is listed twice, or that is not near after all,
/// does no harm but to speed; one that is left out is not there.
class Found {
 public:
  virtual void add(const Triangle& shape, const Thing& thing) noexcept = 0;
  virtual void add(const Capsule& shape, const Thing& thing) noexcept = 0;
  virtual void add(const Box& shape, const Thing& thing) noexcept = 0;
  virtual void add(const Cylinder& shape, const Thing& thing) noexcept = 0;
  virtual void add(const HalfSpace& shape, const Thing& thing) noexcept = 0;
  /// What it refers to must live until the next frame.
  virtual void add(const Convex& shape, const Thing& thing) noexcept = 0;
  /// The planes are read before this returns.
  virtual void add(const Hull& shape, const Thing& thing) noexcept = 0;
  /// Many of one thing at once, which is faster.
  virtual void addEach(Span<const Triangle> shapes, const Thing& thing) noexcept {
    for (const Triangle& shape : shapes) add(shape, thing);
  }
  /// Faster still: nothing is copied and no bounds are measured.
  virtual void addKept(const Kept& kept) noexcept {
    for (const std::uint32_t i : kept.which) add(kept.triangles[i], kept.thing(i));
  }
  /// The triangles near the bounds that were asked for. That a point is inside what is solid is for `isInside` to say.
  void add(const HeightField& field, const Bounds& bounds, const Thing& thing) noexcept {
    forEachTriangle(field, bounds, [&](const Triangle& t) { add(t, thing); });
  }
  /// The list is not complete, because something failed: the camera is told so (`Fault::badObstacles`).
  virtual void incomplete() noexcept = 0;
  /// More has been told than is taken, and what is left need not be: all questions will be asked of the world.
  virtual bool full() const noexcept { return false; }

 protected:
  ~Found() = default;
};

/// The answer of an adapter that could not finish its list: not a number. It sets a fault wherever it arrives.
inline Contact noAnswer() { return {std::numeric_limits<double>::quiet_NaN(), noObstacle}; }

/// Every kind of shape to one callable: `each(shape, thing)`.
template <class Each>
class ForEachFound : public Found {
 public:
  explicit ForEachFound(Each& each) : each_(each) {}
  void add(const Triangle& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void add(const Capsule& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void add(const Box& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void add(const Cylinder& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void add(const HalfSpace& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void add(const Hull& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void add(const Convex& shape, const Thing& thing) noexcept override { each_(shape, thing); }
  void incomplete() noexcept override { complete_ = false; }
  bool complete() const { return complete_; }

 private:
  Each& each_;
  bool complete_ = true;
};

class Surroundings : public Obstacles {
 public:
  /// Everything that touches the bounds, as it is drawn in this frame; and of what moves what will touch them within
  /// a second, if that is known.
  virtual void list(const Bounds& bounds, Found& found) const noexcept = 0;

  /// So many things near by are worth a list; where there are more, its own answers take less time. Without end unless
  /// it knows better.
  virtual std::size_t mostWorthListing() const noexcept { return std::numeric_limits<std::size_t>::max(); }

  /// Whether the point is inside something of which only the surface is listed: a closed mesh, the ground below a
  /// height field. Of shapes that are solid by themselves it is known.
  virtual bool isInside(const Eigen::Vector3d&) const noexcept { return false; }

  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    return first(from, displacement, radius, Purpose::camera);
  }
  /// Lists along longer and longer pieces of the way. Override it if your world answers long rays better.
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return first(from, displacement, 0, purpose);
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override { return room(point, range); }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return first(from, displacement, radius, Purpose::large);
  }
  /// Override it to return false if nothing is large: it saves a list.
  bool anyLarge() const noexcept override { return true; }

 private:
  double room(const Eigen::Vector3d& point, double range) const noexcept;
  Contact first(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                std::uint32_t purpose) const noexcept;
};

}  // namespace alpglow
