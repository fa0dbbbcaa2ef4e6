#pragma once
// The headless stage: a level in a physics world, and a character that walks in it.
//
//   Stage stage(io::readLevel("refuge.level.toml"));
//   Walker walker(stage);
//   walker.tick({0, 0, -1}, false);          // one sixtieth of a second toward −z

#include "alpglow/io/level.hpp"
#include "alpglow/space/surroundings.hpp"

#include <Eigen/Core>

#include <memory>

namespace alpglow::stage {

/// What answers the camera's questions; the walker's are always Bullet's.
enum class WorldKind { bullet, embree, triangles };

class Stage {
 public:
  explicit Stage(io::Level level, WorldKind kind = WorldKind::bullet);
  ~Stage();
  Stage(Stage&&) noexcept;

  const io::Level& level() const { return level_; }
  /// The character's numbers from now on, of every character here.
  void setBody(const io::Body& body) { level_.body = body; }
  /// How often characters tick from now on, 10 to 1000 times a second. Not while one ticks already.
  void setTicksPerSecond(double ticks) { ticksPerSecond_ = ticks; }
  double ticksPerSecond() const { return ticksPerSecond_; }
  /// Seconds.
  double tickLength() const { return 1 / ticksPerSecond_; }
  /// Everything that the camera's questions meet. May be asked by many threads while nothing moves.
  const Surroundings& obstacles() const;
  /// Puts everything that moves where it is at a time. Rehearsals that share a stage take turns.
  void moveTo(double time) const;
  /// The object of this id; empty for none.
  std::string nameOf(ObstacleId id) const;

  struct World;
  const World& world() const { return *world_; }

 private:
  io::Level level_;
  std::unique_ptr<World> world_;
  double ticksPerSecond_ = 60;
};

/// A capsule that walks: ticks at the stage's rate, climbs steps and ramps up to 50°, slides along walls and falls.
class Walker {
 public:
  explicit Walker(const Stage& stage);

  /// One tick; what moves goes to the tick's end, and carries what stands on it. `direction` lies in the ground plane,
  /// of length 1 or less (half a stick is half a walk). A character that crouches under something low stays down until
  /// there is room.
  void tick(const Eigen::Vector3d& direction, bool run, bool crouch = false);

  /// Stands there from now on, at rest, on the ground if that is no more than a step below; out of solids that are
  /// there, the shortest way.
  void place(const Eigen::Vector3d& feet, double heading);
  /// Off the ground with the next tick, so that the feet come this high, metres; in the air nothing happens.
  void jump(double height);

  const Eigen::Vector3d& feet() const { return feet_; }
  /// Relative to what it stands on.
  const Eigen::Vector3d& velocity() const { return velocity_; }
  /// Where the body faces: yaw in radians.
  double heading() const { return heading_; }
  bool onGround() const { return onGround_; }
  /// The platform that it stands on, or −1.
  int platform() const { return platform_; }
  double height() const { return height_; }
  double eyeHeight() const;

 private:
  struct Hit {
    double fraction = 1;
    Eigen::Vector3d normal = Eigen::Vector3d::UnitY();
    Eigen::Vector3d point = Eigen::Vector3d::Zero();
    bool found = false;
    int platform = -1;
  };

  Hit sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement) const;
  bool walkable(const Hit& hit, const Eigen::Vector3d& at) const;
  Eigen::Vector3d slide(Eigen::Vector3d at, Eigen::Vector3d displacement) const;
  bool walkAlong(const Eigen::Vector3d& displacement);
  void fall(const Eigen::Vector3d& displacement);
  void comeOut();
  void ride(double from, double to);
  void standOn(const Hit& ground);

  const Stage& stage_;
  Eigen::Vector3d feet_;
  Eigen::Vector3d velocity_ = Eigen::Vector3d::Zero();
  double heading_;
  double height_;
  bool onGround_ = true;
  int platform_ = -1, ticks_ = 0;
};

}  // namespace alpglow::stage
