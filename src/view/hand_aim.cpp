#include "alpglow/view/hand_aim.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/space/guarded_obstacles.hpp"

namespace alpglow {

using Eigen::Vector3d;

HandAim handAim(const View& view, const Vector3d& hand, const Obstacles& obstacles) {
  constexpr double same = 0.02;
  HandAim aim;
  const Vector3d displacement = view.aimPoint - hand;
  const double length = displacement.norm();
  const bool apart = length > 1e-9 && legalPosition(hand);
  aim.direction = apart ? Vector3d(displacement / length) : view.aimDirection();
  aim.difference = apart ? view.aimDifference(hand) : 0;
  aim.point = view.aimPoint;
  aim.obstacle = view.aimObstacle;
  if (!apart) return aim;
  const Contact contact = GuardedObstacles(obstacles).cast(hand, displacement, Purpose::aim);
  if (!contact.hit() || contact.distance > length - same) return aim;
  aim.obstructed = true;
  aim.point = hand + contact.distance * aim.direction;
  aim.obstacle = contact.obstacle;
  return aim;
}

}  // namespace alpglow
