#pragma once
// From the character's hand or eye to what the player aims at: the crosshair's ray begins at the camera, a shot does
// not. Converge along `way`; where something is in between, show its mark.
//
//   const HandAim hand = handAim(view, muzzle, obstacles);
//   if (hand.obstructed) drawMark(hand.point);

#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

namespace alpglow {

struct HandAim {
  /// Unit vector from the hand to the aim point; along the crosshair's ray if they are the same point.
  Eigen::Vector3d direction = -Eigen::Vector3d::UnitZ();
  /// The angle between that and the crosshair's ray, radians.
  double difference = 0;
  /// What a straight shot from the hand meets first, and where; the aim point unless something is in between.
  Eigen::Vector3d point = Eigen::Vector3d::Zero();
  ObstacleId obstacle = noObstacle;
  bool obstructed = false;
};

/// One cast. A contact within 2 cm of the aim point is the aim point.
HandAim handAim(const View& view, const Eigen::Vector3d& hand, const Obstacles& obstacles);

}  // namespace alpglow
