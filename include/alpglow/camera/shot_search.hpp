#pragma once
// A still shot that shows two things at once, searched among clear places: the blow that ends a duel, two friends
// that meet.
//
//   if (const std::optional<Shot> shot = searchShot({hero, 0.6}, {rival, 0.6}, look, rooms, aspect, settings)) {
//     cut(shot->position, shot->look, shot->fieldOfView);
//   }
//
// Candidates look from all around, at a few pitches, each from where one lens holds both (framing/group_fit.hpp). Those
// count whose near plane is clear and that see both. The best one shows them side by side, from near, and turns little
// from a look: what speaks against it is a sum of three shares, and ties go to the smaller turn.

#include "alpglow/framing/group_fit.hpp"
#include "alpglow/space/obstacles.hpp"

#include <optional>

namespace alpglow {

struct ShotSettings {
  /// Vertical, radians; and the share of the half picture that stays free at each edge, 0 … 0.9.
  double fieldOfView = degrees(40), margin = 0.15;
  /// Steps all around.
  int directions = 24;
  /// From the lowest to the highest pitch in three steps, radians.
  double lowest = degrees(-25), highest = degrees(8);
  /// No farther than this, metres; and the near plane.
  double farthest = 14, nearPlane = 0.1;
  /// What it costs to have one behind the other, to be as far as may be, and to turn half around.
  double overlap = 1, distance = 0.5, turn = 0.3;
};

struct Shot {
  Eigen::Vector3d position = Eigen::Vector3d::Zero();
  LookAngles look;
  double fieldOfView = degrees(40);
  /// What speaks against it.
  double cost = 0;
};

/// Nothing where no place is clear and sees both, or a number is bad. Asks for a clearance and two sights for each
/// candidate that could be better than the best so far.
std::optional<Shot> searchShot(const Ball& one, const Ball& other, const LookAngles& from, const Obstacles& obstacles,
                               double aspect, const ShotSettings& settings = {});

}  // namespace alpglow
