#pragma once
// The walker between its last two ticks, drawn one tick late, as the subject of a camera.

#include "alpglow/follow/history.hpp"
#include "alpglow/stage/stage.hpp"

namespace alpglow::stage {

/// The moment that is drawn at a time of the rehearsal.
inline double drawnTime(double time, double tickLength) { return time > tickLength ? time - tickLength : 0; }

/// The reference frame of a platform for a point on it: ids count from 1, −1 is the world.
ReferenceFrame frameOf(const io::Level& level, int platform, double time, const Eigen::Vector3d& point);

class DrawnWalker {
 public:
  explicit DrawnWalker(const Stage& stage) : stage_(stage), walker_(stage) { tell(); }

  void tick(const Eigen::Vector3d& direction, bool run, bool crouch);
  /// With the next tick.
  void jump(double height) { walker_.jump(height); }

  /// Stands there at once: drawn for the first time it has teleported.
  void place(const Eigen::Vector3d& feet, double heading);

  /// At a time of the rehearsal.
  Subject drawn(double time) { return history_.at(drawnTime(time, tickLength())); }
  /// As it is drawn when a tick begins or has begun: before and after `tick` it is drawn at the same time.
  Subject drawnBeforeTick() { return history_.at(ticks_ * tickLength()); }
  Subject drawnAfterTick() { return history_.at((ticks_ - 1) * tickLength()); }
  const Walker& walker() const { return walker_; }

 private:
  double tickLength() const { return stage_.tickLength(); }
  ReferenceFrame frame() const {
    return frameOf(stage_.level(), walker_.platform(), ticks_ * tickLength(), walker_.feet());
  }
  void tell(const Eigen::Vector3d& velocity = {0, 0, 0});

  const Stage& stage_;
  Walker walker_;
  History history_;
  int ticks_ = 0;
};

}  // namespace alpglow::stage
