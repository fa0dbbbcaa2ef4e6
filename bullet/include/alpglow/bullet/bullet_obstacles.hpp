#pragma once
// Obstacles on a Bullet world. Bullet lists what is near; triangle meshes, boxes and hulls with faces then get the
// exact primitive in double, so that a sweep never comes late. Other shapes (spheres, capsules, hulls without faces, …)
// go through Bullet's own convex sweep.
//
// Use the double-precision build of Bullet and margins of 0. Give a hull its exact faces with `setPolyhedralFeatures`;
// those of `initializePolyhedralFeatures` are rounded by up to 1e-5 of its size. Each collision object's user index is
// its obstacle id.
//
//   const BulletObstacles obstacles(world, [hero](const btCollisionObject& o) { return o.getUserIndex() != hero; });

#include "alpglow/space/obstacles.hpp"

#include <functional>

class btCollisionObject;
class btCollisionWorld;

namespace alpglow::bullet {

class BulletObstacles final : public Obstacles {
 public:
  /// Which objects stand in the camera's way: leave out the subject, and what may be seen through.
  using Filter = std::function<bool(const btCollisionObject&)>;

  /// The world must outlive the obstacles; its objects' bounds must be up to date.
  explicit BulletObstacles(const btCollisionWorld& world, Filter blocks = {})
      : world_(world), blocks_(std::move(blocks)) {}

  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override;
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement) const noexcept override;
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override;

 private:
  template <class Visit>
  void forEachNear(const Eigen::Vector3d& low, const Eigen::Vector3d& high, Visit&& visit) const;

  template <class TriangleContact>
  Contact firstContact(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                       TriangleContact&& contact) const;

  const btCollisionWorld& world_;
  Filter blocks_;
};

}  // namespace alpglow::bullet
