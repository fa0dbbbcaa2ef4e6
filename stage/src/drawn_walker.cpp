#include "drawn_walker.hpp"

#include "alpglow/base/angles.hpp"

#include <algorithm>

namespace alpglow::stage {

using Eigen::Vector3d;

ReferenceFrame frameOf(const io::Level& level, int platform, double time, const Vector3d& point) {
  if (platform < 0) return {};
  const io::MovingPlatform& moves = level.platforms[static_cast<std::size_t>(platform)];
  ReferenceFrame frame = moves.at(time, static_cast<std::uint32_t>(platform) + 1);
  constexpr double moment = 1e-4;
  const ReferenceFrame next = moves.at(time + moment, frame.id);
  frame.yawRate = turnAbout(Vector3d::UnitY(), Rotation(next.rotation * frame.rotation.conjugate())) / moment;
  frame.velocity += frame.yawRate * Vector3d::UnitY().cross(point - frame.origin);
  return frame;
}

/// What the last tick says, with the velocity relative to what it stands on.
void DrawnWalker::tell(const Vector3d& velocity) {
  Subject subject;
  subject.frame = frame();
  subject.feet = walker_.feet();
  subject.head = subject.feet + walker_.eyeHeight() * Vector3d::UnitY();
  subject.heading = walker_.heading();
  subject.velocity = subject.frame.velocity + velocity;
  subject.onGround = walker_.onGround();
  history_.add(ticks_ * tickLength(), subject);
}

void DrawnWalker::tick(const Vector3d& direction, bool run, bool crouch) {
  const int platform = walker_.platform();
  const Vector3d world = walker_.feet(), local = frame().toLocal(world);
  walker_.tick(direction, run, crouch);
  ++ticks_;
  const Vector3d walked = walker_.platform() == platform ? frame().turnToWorld(frame().toLocal(walker_.feet()) - local)
                                                         : Vector3d(walker_.feet() - world);
  tell(walked * stage_.ticksPerSecond());
}

void DrawnWalker::place(const Vector3d& feet, double heading) {
  walker_.place(feet, heading);
  history_.clear();
  tell();
}

}  // namespace alpglow::stage
