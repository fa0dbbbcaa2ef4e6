#pragma once
// What a host adds on top of a view, kept clear of walls: the shake of an explosion of its own, a rig in a cockpit.
//
//   Shake shake;
//   shake.up = 0.08 * noise, shake.roll = degrees(1) * noise;
//   const View shown = shaken(camera.update(dt, subject, world, aspect), shake, world);
//
// For kicks that the camera knows of itself, see view/push.hpp; for a living hand, view/unrest.hpp.

#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

namespace alpglow {

/// Metres to the camera's right, up and back; radians.
struct Shake {
  double right = 0, up = 0, back = 0;
  double yaw = 0, pitch = 0, roll = 0;
};

/// The view with that on top: the eye point goes as far as the near-plane sphere has room, and not at all where
/// something would come between it and the head, or into what is large. Aim point and heading stay. A number that is
/// not finite shakes nothing.
View shaken(const View& view, const Shake& shake, const Obstacles& obstacles);

}  // namespace alpglow
