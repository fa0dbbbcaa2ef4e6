#include "drawn_walker.hpp"

#include "alpglow/base/angles.hpp"

#include <algorithm>

namespace alpglow::stage {

using Eigen::Vector3d;

ReferenceFrame frameOf(const io::Level& level, int mover, double time, const Vector3d& point) {
  if (mover < 0) return {};
  const io::Mover& moves = level.movers[static_cast<std::size_t>(mover)];
  ReferenceFrame frame = moves.at(time, static_cast<std::uint32_t>(mover) + 1);
  constexpr double moment = 1e-4;
  const ReferenceFrame next = moves.at(time + moment, frame.id);
  frame.yawRate = turnAbout(Vector3d::UnitY(), Rotation(next.rotation * frame.rotation.conjugate())) / moment;
  frame.velocity += frame.yawRate * Vector3d::UnitY().cross(point - frame.origin);
  return frame;
}

void DrawnWalker::tick(const Vector3d& direction, bool run, bool crouch) {
  walker_.tick(direction, run, crouch);
  earlier_ = later_;
  later_ = Pose(walker_);
  segment_ = earlier_.platform == later_.platform ? later_.platform : -1;
  ++ticks_;
}

void DrawnWalker::place(const Vector3d& feet, double heading) {
  walker_.place(feet, heading);
  earlier_ = later_ = Pose(walker_);
  segment_ = later_.platform;
}

Subject DrawnWalker::drawn(double share) const {
  const io::Level& level = stage_.level();
  const double time = std::max(timeOf(share), 0.0);
  // In the axes of what both ticks stand on.
  const auto at = [&](double when, const Vector3d& point) {
    return frameOf(level, segment_, std::max(timeOf(when), 0.0), point);
  };
  const ReferenceFrame first = at(0, earlier_.feet), last = at(1, later_.feet);
  const Vector3d from = first.toLocal(earlier_.feet), to = last.toLocal(later_.feet);
  const auto yawOf = [](const ReferenceFrame& frame) { return turnAbout(Vector3d::UnitY(), frame.rotation); };
  const double fromHeading = earlier_.heading - yawOf(first), toHeading = later_.heading - yawOf(last);

  Subject subject;
  const Vector3d local = from + share * (to - from);
  subject.frame = frameOf(level, segment_, time, Vector3d::Zero());
  subject.feet = subject.frame.toWorld(local);
  subject.frame = frameOf(level, segment_, time, subject.feet);
  subject.head = subject.feet + (earlier_.eyes + share * (later_.eyes - earlier_.eyes)) * Vector3d::UnitY();
  subject.heading = wrapAngle(fromHeading + share * shortestTurn(fromHeading, toHeading) + yawOf(subject.frame));
  subject.velocity = subject.frame.velocity + subject.frame.turnToWorld(to - from) * Walker::ticksPerSecond;
  subject.onGround = share < 1 ? earlier_.onGround : later_.onGround;
  return subject;
}

}  // namespace alpglow::stage
