#pragma once
// The walker between its last two ticks, drawn one tick late, as the subject of a camera.

#include "alpglow/follow/subject.hpp"
#include "alpglow/stage/stage.hpp"

namespace alpglow::stage {

constexpr double tickLength = 1 / Walker::ticksPerSecond;

/// The moment that is drawn at a time of the rehearsal.
inline double drawnTime(double time) { return time > tickLength ? time - tickLength : 0; }

/// The reference frame of a mover for a point on it: ids count from 1, −1 is the world.
ReferenceFrame frameOf(const io::Level& level, int mover, double time, const Eigen::Vector3d& point);

class DrawnWalker {
 public:
  explicit DrawnWalker(const Stage& stage)
      : stage_(stage), walker_(stage), earlier_(walker_), later_(walker_), segment_(walker_.platform()) {}

  void tick(const Eigen::Vector3d& direction, bool run, bool crouch);
  /// With the next tick.
  void jump(double height) { walker_.jump(height); }

  /// Stands there at once.
  void place(const Eigen::Vector3d& feet, double heading);

  /// `share` of the way from the tick before the last one to the last one. Who gets on or off something goes straight
  /// through the world meanwhile.
  Subject drawn(double share) const;
  const Walker& walker() const { return walker_; }

 private:
  struct Pose {
    explicit Pose(const Walker& walker)
        : feet(walker.feet()),
          heading(walker.heading()),
          eyes(walker.eyeHeight()),
          onGround(walker.onGround()),
          platform(walker.platform()) {}
    Eigen::Vector3d feet;
    double heading, eyes;
    bool onGround;
    int platform;
  };
  double timeOf(double share) const { return (ticks_ - 1 + share) * tickLength; }

  const Stage& stage_;
  Walker walker_;
  Pose earlier_, later_;
  int segment_, ticks_ = 0;
};

}  // namespace alpglow::stage
