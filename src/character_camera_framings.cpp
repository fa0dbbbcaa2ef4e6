// Which framing applies to the character's camera, going over between framings, and keeping the aim point meanwhile.

#include "alpglow/blend_space.hpp"
#include "alpglow/character_camera.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double farAim = 500;       // where the crosshair ends if it hits nothing, metres
constexpr double ladderTime = 0.15;  // seconds from one magnification to the next
constexpr double moved = 1e-7;       // metres by which clear space must move the pivot to count

double smooth(double s) { return s * s * (3 - 2 * s); }

}  // namespace

double CharacterCamera::wanted(FramingNumber number) const {
  const Framing& f = framing();
  switch (number) {
    case FramingNumber::anchorHeight: return f.anchorHeight;
    case FramingNumber::anchorRise: return f.anchorRise;
    case FramingNumber::shoulder: return state_.side * f.shoulder;
    case FramingNumber::tilt: return f.tilt;
    case FramingNumber::distance: return distanceSpace(state_.distance.shown());
    case FramingNumber::lens: return lensSpace(design_->fieldOfView(state_.active, state_.steps[state_.active]));
    case FramingNumber::near: return std::log(f.near);
    case FramingNumber::pitchLow: return f.pitch.low;
    case FramingNumber::pitchHigh: return f.pitch.high;
    case FramingNumber::bobScale: return f.bobScale;
  }
  return 0;
}

void CharacterCamera::setCondition(std::uint32_t conditions, bool holds) {
  const std::uint32_t before = state_.conditions;
  state_.conditions = holds ? before | conditions : before & ~conditions;
  if (state_.conditions != before) applyFraming();
}

void CharacterCamera::choose(Perspective perspective) {
  if (design_->baseOf(perspective) < 0 || perspective == state_.perspective) return;
  state_.perspective = perspective;
  applyFraming();
}

/// Goes over to the framing that applies now, from wherever things are.
void CharacterCamera::applyFraming() {
  const auto next = static_cast<std::uint8_t>(design_->select(state_.perspective, state_.conditions));
  if (next == state_.active) return;
  beginKeepingAim();
  FramingNumbers shown, target;
  for (std::size_t i = 0; i < framingNumbers; ++i) shown[i] = number(static_cast<FramingNumber>(i));
  const FrameFollowSettings before = followSettings();
  rememberHome();
  const bool back = next == state_.home && !state_.blend.done();
  const double full = design_->design().framings[next].framing.transition;
  const double seconds = back ? std::min(state_.blend.underWay(), full) : full;

  state_.remembered[state_.active] = state_.distance.wanted();
  state_.from = state_.active;
  state_.active = next;
  state_.distance = OrbitDistance(state_.remembered[next]);
  for (std::size_t i = 0; i < framingNumbers; ++i) target[i] = wanted(static_cast<FramingNumber>(i));
  state_.blend.begin(shown, target, seconds, lensSpace(design_->narrowest()), lensSpace(design_->widest()));
  state_.follow.retune(state_.velocity, before, followSettings(), full);
  state_.events |= Event::framingChanged;
}

/// Numbers go over and the view turns by itself. While the aim is kept, both turn the look: it is solved in the middle
/// of the stretch and at its end, so that what turns by itself sees the look of the middle (second order).
void CharacterCamera::passFraming(double seconds, double pace, const LookAngles& turning, bool hands) {
  const auto numbers = [&](double part) {
    if (state_.blend.done() && state_.blend.progress() >= 1) return;
    state_.blend.pass(part);
    state_.look.turnBy({}, pitchLimits());
  };
  const auto aim = [&](double ahead) {
    if (state_.keeping) keepAim(state_.follow.predicted(state_.velocity, ahead, followSettings()));
  };
  if (!state_.keeping) {
    numbers(seconds);
    return assist(seconds * pace, turning, hands);
  }
  numbers(seconds / 2);
  aim(state_.ahead + std::min(seconds / 2 * pace, 1.0));
  assist(seconds * pace, turning, hands);
  numbers(seconds / 2);
  aim(state_.ahead);
}

/// From wherever it is now, also in mid-swap.
void CharacterCamera::setShoulder(Shoulder to) {
  const double shown = number(FramingNumber::shoulder);
  rememberHome();
  beginKeepingAim();
  state_.side = to == Shoulder::designed ? 1 : to == Shoulder::centred ? 0 : -1;
  state_.blend.begin(FramingNumber::shoulder, shown - wanted(FramingNumber::shoulder), framing().shoulderSwap);
}

/// Steps the ladder of magnifications, changes the distance, or goes through the door into the eyes and out of them.
void CharacterCamera::zoomBy(double notches) {
  const CameraDesign& design = design_->design();
  if (framing().lens.steps() > 1) return stepLadder(notches > 0 ? 1 : notches < 0 ? -1 : 0);
  const bool third = state_.perspective == Perspective::third;
  const bool base = static_cast<int>(state_.active) == design_->baseOf(state_.perspective);
  const DistanceRange& range = framing().distanceRange;
  if (design.zoomIntoEyes && base) {
    if (third && notches > 0 && state_.distance.wanted() <= range.nearest) return choose(Perspective::first);
    if (!third && notches < 0 && state_.distance.wanted() >= range.farthest) return choose(Perspective::third);
  }
  state_.distance.zoom(notches, design.zoom, range);
}

void CharacterCamera::stepLadder(int steps) {
  std::uint8_t& step = state_.steps[state_.active];
  const double shown = number(FramingNumber::lens);
  const int next = std::clamp(step + steps, 0, framing().lens.steps() - 1);
  if (next == step) return;
  rememberHome();
  step = static_cast<std::uint8_t>(next);
  state_.blend.begin(FramingNumber::lens, shown - wanted(FramingNumber::lens), ladderTime);
}

double CharacterCamera::lookScale() const {
  if (state_.blend.done() && static_cast<int>(state_.active) == design_->baseOf(state_.perspective) &&
      state_.lock.widen() == 0)
    return framing().lookScale.kind == LookScaleKind::fixed ? framing().lookScale.factor : 1;
  const double base = design_->baseFieldOfView(state_.active);
  const double scale = framing().lookScale.at(shownFieldOfView(), base, state_.shown.aspect);
  const double progress = state_.blend.progress();
  if (progress >= 1) return scale;
  const LookScale& before = design_->design().framings[state_.from].framing.lookScale;
  const double from = before.at(shownFieldOfView(), design_->baseFieldOfView(state_.from), state_.shown.aspect);
  return from + (scale - from) * smooth(progress);
}

double CharacterCamera::firstPerson() const {
  const auto first = [this](std::uint8_t i) {
    return design_->design().framings[i].perspective == Perspective::first ? 1.0 : 0.0;
  };
  const double from = first(state_.from), to = first(state_.active);
  return from + (to - from) * smooth(std::min(state_.blend.progress(), 1.0));
}

/// The crosshair stays on what it is on at this moment, if it is on anything: on its axis, as far as it was last seen.
void CharacterCamera::beginKeepingAim() {
  const StoredView& shown = state_.shown;
  if (state_.keeping || shown.aimObstacle == noObstacle || state_.cutNext) return;
  const FrameFollow now = state_.follow.predicted(state_.velocity, state_.ahead, followSettings());
  const LookAngles look = state_.look.shown();
  const Eigen::Matrix3d axes = now.level() * rotationOf(look.yaw, look.pitch);
  const double range = (shown.aimPoint.vector() - shown.pivot.vector()).norm();
  const double above = shownDistance() * now.scale() * std::sin(number(FramingNumber::tilt));
  state_.keeping = true;
  state_.keptAnchor = anchorOf(now);
  state_.keptSide = number(FramingNumber::shoulder) * now.scale();
  state_.keptLook = look;
  state_.kept = state_.keptAnchor.vector() + state_.keptSide * axes.col(0) + above * axes.col(1) -
                std::sqrt(std::max(range * range - above * above, 0.0)) * axes.col(2);
}

/// Turns the look so that the kept point is under the crosshair; the player's own look since then turns the point.
void CharacterCamera::keepAim(const FrameFollow& follow) {
  if (!state_.keeping) return;
  state_.keeping = !state_.blend.done();  // and once more at the very end
  if (state_.lock.on()) return;
  const Rotation level = follow.level();
  const Vector3d anchor = anchorOf(follow);
  const double scale = follow.scale(), side = number(FramingNumber::shoulder) * scale;
  const LookAngles look = state_.look.shown();
  if (look.yaw != state_.keptLook.yaw || look.pitch != state_.keptLook.pitch) {
    const Vector3d before = level.conjugate() * (state_.kept.vector() - state_.keptAnchor.vector());
    state_.kept = state_.keptAnchor.vector() + level * turnedAim(before, state_.keptSide, state_.keptLook, look);
  }
  turnToAim(level.conjugate() * (state_.kept.vector() - anchor), side, shownDistance() * scale);
  state_.keptAnchor = anchor;
  state_.keptSide = side;
}

void CharacterCamera::aimPointMoved(const Vector3d& by) {
  const Vector3d to = state_.kept.vector() + by;
  if (to.allFinite() && to.cwiseAbs().maxCoeff() <= 1e9) state_.kept = to;
}

void CharacterCamera::turnToAim(const Vector3d& fromAnchor, double side, double distance) {
  const AimSolution aim = aimAt(fromAnchor, side, number(FramingNumber::tilt), distance);
  const LookAngles look = state_.look.shown();
  state_.look.turnBy(
      {aim.authority * shortestTurn(look.yaw, aim.look.yaw), aim.authority * (aim.look.pitch - look.pitch)},
      pitchLimits());
  state_.keptLook = state_.look.shown();
}

/// Where clear space moves the pivot while the aim is kept, the look is solved and the way swept once more.
ClearPose CharacterCamera::placeOnAim(const Subject& subject, const Vector3d& eyeMotion, const Obstacles& obstacles,
                                      double dt, double aspect) {
  const ClearPose pose = place(subject, eyeMotion, obstacles, dt, aspect);
  if (!state_.keeping || state_.lock.on() || pose.headBlocked) return pose;
  const Rotation level = state_.follow.level();
  const Vector3d free =
      anchorOf(state_.follow) + eyeMotion +
      level * Vector3d(subject.frame.scale * number(FramingNumber::shoulder) * rotationOf(shownLook().yaw, 0).col(0));
  if ((pose.pivot - free).norm() < moved) return pose;
  const Vector3d way = level.conjugate() * (state_.kept.vector() - (pose.pivot - eyeMotion));
  turnToAim(way, 0, pose.distance);
  return place(subject, eyeMotion, obstacles, 0, aspect);
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
  const Vector3d toKept = state_.kept.vector() - camera;
  shown.aimError = state_.keeping ? std::atan2(ahead.cross(toKept).norm(), ahead.dot(toKept)) : 0;
}

}  // namespace alpglow
