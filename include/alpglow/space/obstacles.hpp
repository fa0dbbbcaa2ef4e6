#pragma once
// What stands in the camera's way. The host owns its world; the core asks through this small interface.
//
// Every query starts at a world position in double and is local from there (a displacement in metres, an answer as a
// distance), so that a single-precision world with a moving origin loses nothing. The subject itself is never an
// obstacle: the host leaves it out. Non-finite queries report nothing.

#include "alpglow/base/span.hpp"
#include "alpglow/space/bounds.hpp"
#include "alpglow/space/rigid_motion.hpp"

#include <Eigen/Core>

#include <cstdint>

namespace alpglow {

/// The host's own number for an obstacle, to name it in views and traces.
using ObstacleId = std::uint32_t;
constexpr ObstacleId noObstacle = 0xffffffff;
/// An obstacle to which the host gave no number.
constexpr ObstacleId unnamedObstacle = 0xfffffffe;

/// What a question is for. A thing may stop some and let others pass: a pane stops shots and not the camera.
struct Purpose {
  enum Bit : std::uint32_t {
    camera = 1,  // where the camera may be: every sweep and clearance
    aim = 2,     // what is under the crosshair, and what a shot meets
    sight = 4,   // whether a target can be seen
    focus = 8,   // how far away the player looks
    all = 15,
    large = 16,  // instead of `camera`: the camera keeps out of it and looks past it (space/look_past.hpp)
    soft = 32,   // instead of `camera`: it lets the camera pass and fades where it hides the subject (view/fading.hpp)
  };
};

/// The first contact along a sweep or ray.
struct Contact {
  /// Way until the contact in metres: the whole length if there is none.
  double distance = 0;
  ObstacleId obstacle = noObstacle;
  /// Unit vector from the obstacle to what touches it; zero where the host does not know, and where there is none.
  Eigen::Vector3d normal = Eigen::Vector3d::Zero();
  /// Where the way begins nothing is within the radius, as far as the host knows without being asked.
  bool startsApart = false;
  bool hit() const { return obstacle != noObstacle; }
};

/// A sphere's way through the world.
struct Sweep {
  Eigen::Vector3d from, displacement;
  double radius = 0;
};

/// A moment ahead, as seen from something that moves: what moves with it is at rest.
struct MomentAhead {
  double seconds = 0;
  RigidMotion from;
};

class Obstacles {
 public:
  virtual ~Obstacles() = default;

  /// Moves a sphere from `from` by `displacement` until it first touches something. A sphere that touches already is
  /// stopped at 0 if it would go deeper, and free to go where it would not. A displacement of at most 1e-8 m stays.
  virtual Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                        double radius) const noexcept = 0;

  /// The first thing on the straight way that stops what is asked for.
  virtual Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                       Purpose::Bit purpose) const noexcept = 0;

  /// Distance to the nearest obstacle, 0 inside one, at most `range` (so that a host may stop looking there).
  virtual double clearance(const Eigen::Vector3d& point, double range) const noexcept = 0;

  /// Several sweeps that do not depend on each other, so that a host may answer them side by side; as many contacts as
  /// sweeps. One after the other unless the host knows better.
  virtual void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept {
    for (const Sweep& each : sweeps) *contacts++ = sweep(each.from, each.displacement, each.radius);
  }

  /// The same as it will be, as far as one knows: what moves has gone on as it does. A thing that will have come to
  /// where the sphere starts is left out, as nobody knows what becomes of that. A host that knows of no motion answers
  /// as of now.
  virtual Contact sweepLater(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                             const MomentAhead&) const noexcept {
    return sweep(from, displacement, radius);
  }
  /// Whether anything nearby is known to move, as seen from something that moves itself.
  virtual bool moves(const RigidMotion&) const noexcept { return false; }

  /// The same as `sweep` among large things only, which `sweep` passes; and whether there may be any. A host that marks
  /// none as large need not know of this.
  virtual Contact sweepLarge(const Eigen::Vector3d&, const Eigen::Vector3d& displacement, double) const noexcept {
    return {displacement.norm(), noObstacle};
  }
  /// Whether a sweep of that kind may hit anything anywhere: spares asking where nothing is large.
  virtual bool anyLarge() const noexcept { return false; }

  /// The questions of a frame are about to come, and all but long rays lie within these bounds. An adapter that answers
  /// from a list makes it now. Empty bounds end the frame: what was listed may have moved when the next question comes.
  virtual void gather(const Bounds&) const noexcept {}
  /// Whether more is near than such a list holds: what is answered stays right, and takes longer.
  virtual bool overflowed() const noexcept { return false; }
  /// Whether it is known that nothing is within the bounds that were gathered: spares looking ahead.
  virtual bool nothingNear() const noexcept { return false; }
};

/// A world without obstacles.
class NoObstacles final : public Obstacles {
 public:
  Contact sweep(const Eigen::Vector3d&, const Eigen::Vector3d& displacement, double) const noexcept override {
    return {displacement.norm(), noObstacle};
  }
  Contact cast(const Eigen::Vector3d&, const Eigen::Vector3d& displacement, Purpose::Bit) const noexcept override {
    return {displacement.norm(), noObstacle};
  }
  double clearance(const Eigen::Vector3d&, double range) const noexcept override { return range; }
  bool nothingNear() const noexcept override { return true; }
};

}  // namespace alpglow
