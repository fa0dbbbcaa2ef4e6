// Where the character's camera sits: through clear space, on its aim, steadied; and when the eyes take over.

#include "alpglow/character_camera.hpp"

#include "alpglow/lens.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double farAim = 500;        // where the crosshair ends if it hits nothing, metres
constexpr double nothingAhead = 1e6;  // … and then its direction is kept, metres
constexpr double settled = 1e-6;      // radians that are not worth another sweep
constexpr int mostSolves = 4;

}  // namespace

CharacterCamera::Seat CharacterCamera::shownSeat() const {
  return {number(FramingNumber::anchorHeight),
          number(FramingNumber::anchorRise),
          number(FramingNumber::shoulder),
          number(FramingNumber::tilt),
          shownDistance(),
          state_.blend.done() ? framing().near : std::exp(number(FramingNumber::near)),
          shownFieldOfView()};
}

CharacterCamera::Seat CharacterCamera::seatOf(std::size_t framing) const {
  const Framing& f = design_->design().framings[framing].framing;
  return {f.anchorHeight,
          f.anchorRise,
          state_.side * f.shoulder,
          f.tilt,
          framing == state_.active ? state_.distance.wanted() : state_.remembered[framing],
          f.near,
          design_->fieldOfView(framing, state_.steps[framing])};
}

ClearRequest CharacterCamera::requestFor(const Seat& seat, const Subject& subject, const Vector3d& eyeMotion,
                                         double aspect) const {
  const double scale = subject.frame.scale, near = seat.near * scale;
  const LookAngles look = shownLook();
  const Rotation level = state_.follow.level();
  Eigen::Matrix3d orbit = rotationOf(look.yaw, std::clamp(look.pitch - seat.tilt, -pi / 2, pi / 2));
  if (level.w() != 1) orbit = level * orbit;
  const Vector3d anchor = anchorAt(state_.follow, seat.anchorHeight, seat.anchorRise);
  return {subject.head, anchor + scale * seat.shoulder * orbit.col(0) + eyeMotion,
          orbit.col(2), seat.distance * scale,
          near,         nearPlaneRadius(near, seat.fieldOfView, aspect)};
}

ClearPose CharacterCamera::place(const Subject& subject, const Vector3d& eyeMotion, const Obstacles& obstacles,
                                 double dt, double aspect) {
  return state_.clear.step(requestFor(shownSeat(), subject, eyeMotion, aspect), obstacles, dt, design_->design().clear);
}

/// Keeps the aim for the pivot that clear space allows: where that has moved, the look is solved and the way swept once
/// more. The shoulder turns along with the look, so that a large step takes a few.
ClearPose CharacterCamera::placeOnAim(const Subject& subject, const Vector3d& eyeMotion, const Obstacles& obstacles,
                                      double dt, double aspect) {
  if (state_.aim.guessed()) {
    const Contact contact = obstacles.cast(state_.aim.rayStart(), farAim * state_.aim.rayWay());
    state_.aim.setAhead(contact.hit() ? contact.distance : nothingAhead);
  }
  keepAim(state_.follow);
  ClearPose pose = place(subject, eyeMotion, obstacles, dt, aspect);
  const Rotation level = state_.follow.level();
  for (int i = 0; i < mostSolves && state_.aim.on() && !pose.headBlocked; ++i) {
    const LookAngles turn = state_.aim.stepClear(level, pose.pivot - eyeMotion, pose.distance);
    if (std::hypot(turn.yaw, turn.pitch) < settled) break;
    turnToAim(turn);
    pose = place(subject, eyeMotion, obstacles, 0, aspect);
  }
  state_.cleared = Vector3d::Zero();
  if (!state_.clear.pulledIn() && !pose.headBlocked) return pose;
  const AimFrame free = aimFrame(state_.follow);
  const Vector3d right = level * Vector3d(rotationOf(shownLook().yaw, 0).col(0));
  state_.cleared = pose.pivot - (free.anchor + free.axis.shoulder * right + eyeMotion);
  return pose;
}

LookAngles CharacterCamera::steadyTurn(const Vector3d& camera, const Vector3d& eyeMotion, const Obstacles& obstacles,
                                       double dt) {
  const SteadySettings& settings = design_->design().steady;
  if (settings.cap <= 0 || !design_->design().motion.any()) return {};
  const LookAngles look = shownLook();
  double focus = state_.hostFocus;
  if (focus <= 0) {
    const Vector3d ahead = state_.follow.level() * Vector3d(-rotationOf(look.yaw, look.pitch).col(2));
    const Contact contact = obstacles.cast(camera - eyeMotion, ahead * settings.farFocus);
    focus = contact.hit() ? contact.distance : settings.farFocus;
  }
  state_.focus.step(focus, dt, settings);
  const Vector3d inLevel = state_.follow.level().conjugate() * eyeMotion;
  return steadied(look, inLevel, state_.focus.distance(), settings);
}

/// What is under the crosshair, from beside the pivot on.
void CharacterCamera::castAim(const Obstacles& obstacles) {
  StoredView& shown = state_.shown;
  const Vector3d camera = shown.camera,
                 ahead = shown.level.rotation() * Vector3d(-rotationOf(shown.look.yaw, shown.look.pitch).col(2));
  const double start = std::max((shown.pivot.vector() - camera).dot(ahead), 0.0);
  const Contact contact = obstacles.cast(camera + start * ahead, farAim * ahead);
  shown.aimObstacle = contact.hit() ? contact.obstacle : noObstacle;
  shown.aimDistance = start + (contact.hit() ? contact.distance : farAim);
  shown.aimPoint = camera + shown.aimDistance * ahead;
  const Vector3d toKept = state_.aim.point() - camera;
  shown.aimError = state_.aim.on() ? std::atan2(ahead.cross(toKept).norm(), ahead.dot(toKept)) : 0;
  shown.aimKept = state_.aim.reached();
  if (state_.blend.done()) state_.aim.end();
}

double CharacterCamera::opacityAt(double headToCamera) const {
  const FadeSettings& fade = design_->design().fade;
  if (fade.keepBody) return 1;
  if (headToCamera >= fade.opaqueFrom) return 1;
  if (headToCamera <= fade.invisibleBelow) return 0;
  const double s = (headToCamera - fade.invisibleBelow) / (fade.opaqueFrom - fade.invisibleBelow);
  return s * s * (3 - 2 * s);
}

Perspective CharacterCamera::shownPerspective() const {
  return state_.eyesTookOver ? Perspective::first : state_.perspective;
}

/// Where an obstacle leaves no room behind the head, the eyes take over, and give back once there has been room for
/// the time that easing out waits. Both ask for the whole way of the framing that would apply: being on the way
/// between framings is no reason.
void CharacterCamera::letEyesTakeOver(const Subject& subject, const Obstacles& obstacles, double dt, double aspect) {
  const FadeSettings& fade = design_->design().fade;
  const bool could =
      fade.eyesBelow > 0 && state_.perspective == Perspective::third && design_->baseOf(Perspective::first) >= 0;
  const StoredView& shown = state_.shown;
  const double scale = subject.frame.scale;
  const auto room = [&] {
    const std::size_t third = design_->select(Perspective::third, state_.conditions);
    ClearSpace alone;
    const ClearRequest request = requestFor(seatOf(third), subject, Vector3d(0, 0, 0), aspect);
    const ClearPose pose = alone.step(request, obstacles, 0, design_->design().clear);
    return pose.headBlocked ? 0 : (pose.camera - subject.head).norm() / scale;
  };
  if (state_.eyesTookOver) {
    state_.roomFor = could && room() < fade.eyesUntil ? 0 : state_.roomFor + dt;
    if (could && state_.roomFor < design_->design().clear.delay) return;
  } else {
    const bool close = shown.pulledIn && (shown.camera.vector() - shown.head.vector()).norm() < fade.eyesBelow * scale;
    if (!could || !close || room() >= fade.eyesBelow) return;
  }
  state_.eyesTookOver = !state_.eyesTookOver;
  state_.roomFor = 0;
  state_.events |= state_.eyesTookOver ? Event::eyesTookOver : Event::eyesGaveBack;
  applyFraming();
}

}  // namespace alpglow
