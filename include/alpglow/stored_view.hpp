#pragma once
// The last view as part of a camera's state: the numbers of a View, trivially copyable.

#include "alpglow/look.hpp"
#include "alpglow/plain.hpp"
#include "alpglow/view.hpp"

namespace alpglow {

struct StoredView {
  Plain3 head, pivot, camera, velocity, aimPoint;
  PlainRotation level;
  LookAngles look, rate, steady, sway, freeLook;
  double heading = 0, bobRight = 0, bobUp = 0, fromBody = 0, recentred = 0, holdoff = 0, lockError = 0;
  double framingBlend = 1, firstPerson = 0, lookScale = 1, aimDistance = 0, aimError = 0;
  int framing = 0, framingFrom = 0;
  double fieldOfView = 0, aspect = 16.0 / 9.0, near = 0, far = 0, distance = 0, freeDistance = 0, opacity = 1;
  Rate flick;
  ObstacleId obstacle = noObstacle, aimObstacle = noObstacle;
  std::uint32_t events = 0, lock = noTarget;
  bool aimKept = false, pulledIn = false, headBlocked = false, recentring = false;

  View view(std::uint32_t faults, std::uint32_t blocked) const;
};

}  // namespace alpglow
