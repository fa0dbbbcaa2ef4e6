#pragma once
// What stands in the camera's way. The host owns its world; the core asks through this small interface.
//
// Every query starts at a world position in double and is local from there (a displacement in metres, an answer as a
// distance), so that a single-precision world with a moving origin loses nothing. The subject itself is never an
// obstacle: the host leaves it out. Non-finite queries report nothing.

#include <Eigen/Core>

#include <cstdint>

namespace alpglow {

/// The host's own number for an obstacle, to name it in views and traces.
using ObstacleId = std::uint32_t;
constexpr ObstacleId noObstacle = 0xffffffff;
/// An obstacle to which the host gave no number.
constexpr ObstacleId unnamedObstacle = 0xfffffffe;

/// The first contact along a sweep or ray.
struct Contact {
  /// Way until the contact in metres: the whole length if there is none.
  double distance = 0;
  ObstacleId obstacle = noObstacle;
  bool hit() const { return obstacle != noObstacle; }
};

class Obstacles {
 public:
  virtual ~Obstacles() = default;

  /// Moves a sphere from `from` by `displacement` until it first touches something. A sphere that touches already is
  /// stopped at 0 if it would go deeper, and free to go where it would not. A displacement of at most 1e-8 m stays.
  virtual Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                        double radius) const noexcept = 0;

  /// The first thing on the straight way.
  virtual Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement) const noexcept = 0;

  /// Distance to the nearest obstacle, 0 inside one, at most `range` (so that a host may stop looking there).
  virtual double clearance(const Eigen::Vector3d& point, double range) const noexcept = 0;
};

/// A world without obstacles.
class NoObstacles final : public Obstacles {
 public:
  Contact sweep(const Eigen::Vector3d&, const Eigen::Vector3d& displacement, double) const noexcept override {
    return {displacement.norm(), noObstacle};
  }
  Contact cast(const Eigen::Vector3d&, const Eigen::Vector3d& displacement) const noexcept override {
    return {displacement.norm(), noObstacle};
  }
  double clearance(const Eigen::Vector3d&, double range) const noexcept override { return range; }
};

}  // namespace alpglow
