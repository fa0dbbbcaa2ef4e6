#include "alpglow/stored_view.hpp"

namespace alpglow {

View StoredView::view(std::uint32_t faults, std::uint32_t blocked) const {
  View view;
  view.position = camera;
  view.yaw = look.yaw;
  view.pitch = look.pitch;
  view.level = level.rotation();
  view.velocity = velocity;
  view.yawRate = rate.yaw;
  view.pitchRate = rate.pitch;
  view.heading = heading;
  view.fieldOfView = fieldOfView;
  view.aspect = aspect;
  view.near = near;
  view.far = far;
  view.head = head;
  view.pivot = pivot;
  view.distance = distance;
  view.freeDistance = freeDistance;
  view.bobRight = bobRight;
  view.bobUp = bobUp;
  view.steadyYaw = steady.yaw;
  view.steadyPitch = steady.pitch;
  view.swayYaw = sway.yaw;
  view.swayPitch = sway.pitch;
  view.freeLookYaw = freeLook.yaw;
  view.freeLookPitch = freeLook.pitch;
  view.fromBody = fromBody;
  view.recentred = recentred;
  view.holdoff = holdoff;
  view.lock = lock;
  view.lockError = lockError;
  view.flick = flick;
  view.framing = framing;
  view.framingFrom = framingFrom;
  view.framingBlend = framingBlend;
  view.firstPerson = firstPerson;
  view.lookScale = lookScale;
  view.aimPoint = aimPoint;
  view.aimObstacle = aimObstacle;
  view.aimDistance = aimDistance;
  view.aimError = aimError;
  view.aimKept = aimKept;
  view.opacity = opacity;
  view.obstacle = obstacle;
  view.pulledIn = pulledIn;
  view.cut = (events & Event::cut) != 0;
  view.events = events;
  view.faults = faults;
  view.blocked = blocked;
  return view;
}

}  // namespace alpglow
