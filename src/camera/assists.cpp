#include "alpglow/camera/assists.hpp"

#include <utility>

namespace alpglow {

using Eigen::Vector3d;

bool Assists::lockOn(const Target& target) {
  const bool another = !lock_.on() || lock_.target().id != target.id;
  lock_.begin(target);
  return another;
}

bool Assists::endLock() {
  if (!lock_.on()) return false;
  lock_.end();
  handsOn();
  return true;
}

LookAngles Assists::turnToTarget(double seconds, const LockGoal& from, const LockGoal& to, const LookAngles& look,
                                 const LockPush& push, const LockSettings& settings) {
  handsOn();
  return lock_.step(seconds, from, to, look, push, settings);
}

TargetReport Assists::checkTarget(double seconds, const Vector3d& eyes, double scale, const Obstacles& obstacles,
                                  const LockSettings& settings) {
  TargetReport report;
  if (!lock_.on()) return report;
  const Target target = lock_.target();
  const Vector3d toTarget = target.position - eyes;
  const double distance = toTarget.norm();
  const Contact contact = distance > 0 ? obstacles.cast(eyes, toTarget, Purpose::sight) : Contact();
  const bool hidden = contact.hit() && contact.distance < distance - target.radius;
  report.lost = lock_.lost(seconds, hidden, settings) || distance > settings.range * scale;
  if (report.lost) {
    endLock();
    return report;
  }
  report.lock = target.id;
  report.flick = lock_.takeFlick();
  return report;
}

void Assists::beginSwingBack(const PoseChange& fromDefault, const SwingBackSettings& settings, double sinceTold) {
  if (!lock_.on()) swingBack_.begin(fromDefault, settings.buttonTime, settings, sinceTold);
}

PoseChange Assists::bodyTold(double turned, double seconds, const SwingBackSettings& settings) {
  const PoseChange change = swingBack_.told(turned, seconds, settings);
  swungBack_ += change.yaw;
  return change;
}

PoseChange Assists::swingBack(double seconds, const SwingBackScene& scene, const SwingBackSettings& settings) {
  const PoseChange change = swingBack_.step(seconds, scene.movement, scene.yaw, scene.fromDefault, settings);
  swungBack_ += change.yaw;
  return change;
}

double Assists::takeSwungBack() { return std::exchange(swungBack_, 0.0); }

}  // namespace alpglow
