#include "alpglow/view/hand_aim.hpp"

namespace alpglow {

using Eigen::Vector3d;

HandAim handAim(const View& view, const Vector3d& hand, const Obstacles& obstacles) {
  constexpr double same = 0.02;
  HandAim aim;
  const Vector3d displacement = view.aimPoint - hand;
  const double length = displacement.norm();
  aim.direction = length > 1e-9 ? Vector3d(displacement / length) : view.forward();
  aim.difference = length > 1e-9 ? view.aimDifference(hand) : 0;
  aim.point = view.aimPoint;
  aim.obstacle = view.aimObstacle;
  const Contact contact = obstacles.cast(hand, displacement);
  if (!contact.hit() || contact.distance > length - same) return aim;
  aim.obstructed = true;
  aim.point = hand + contact.distance * aim.direction;
  aim.obstacle = contact.obstacle;
  return aim;
}

}  // namespace alpglow
