#pragma once
// Several surroundings as one, each where it is placed, and free to move: a level and its doors, lifts and cabins.
//
//   Assembly world;
//   world.add(level, {});
//   const std::size_t door = world.add(doorMesh, doorMesh.bounds(), {doorId});
//   world.place(door, frame, motion);                       // as it is drawn in this frame
//   Neighbourhood near(world);

#include "alpglow/space/surroundings.hpp"

#include <Eigen/Geometry>

#include <vector>

namespace alpglow {

class Assembly final : public Surroundings {
 public:
  /// A part, in its own space, and the bounds of all of it there; it must outlive this. A thing with an id names
  /// everything in the part, and its `stops` is what the part stops at most (one that is large or soft makes that what
  /// would stop the camera); without an id each keeps its own. Returns the part's number.
  std::size_t add(const Surroundings& part, const Bounds& bounds, const Thing& thing = Thing());
  /// A part as it stands in the world: it never moves.
  std::size_t add(const Surroundings& part) { return add(part, Bounds()); }

  /// Puts a part somewhere: turned, mirrored and scaled as one likes. Triangles, boxes, hulls and anything that tells
  /// how far it reaches stay exact whatever the transform; capsules and cylinders do where it keeps right angles and
  /// scales evenly, and become the smallest that hold them where not.
  void place(std::size_t part, const Eigen::Affine3d& transform, const RigidMotion& motion = {});
  /// There or not: an open hatch, what has been destroyed.
  void show(std::size_t part, bool shown) { parts_[part].shown = shown; }

  void list(const Bounds& bounds, Found& found) const noexcept override { listAll(bounds, found); }
  bool isInside(const Eigen::Vector3d& point) const noexcept override { return encloses(point); }
  /// Of each part that the way passes; those that do not move answer by themselves.
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return ray(from, displacement, purpose);
  }
  bool anyLarge() const noexcept override;

 private:
  struct Part {
    const Surroundings* what;
    Bounds local, placed;
    Thing thing;
    double comes = 0;  // metres closer, soon
    Eigen::Affine3d transform = Eigen::Affine3d::Identity(), inverse = Eigen::Affine3d::Identity();
    bool fixed = true, shown = true;
  };

  void listAll(const Bounds& bounds, Found& found) const noexcept;
  bool encloses(const Eigen::Vector3d& point) const noexcept;
  static Contact castWithin(const Part& part, const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                            Purpose::Bit purpose);
  Contact ray(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, Purpose::Bit purpose) const noexcept;

  std::vector<Part> parts_;
};

}  // namespace alpglow
