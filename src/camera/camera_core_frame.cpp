// The steps of a frame of `update`: where the eyes are, placing with the aim kept, the target, the view.

#include "camera_core.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/framing/lens.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double fastestClear = degrees(20);  // a second: what clear space does to a kept aim is turned for so fast
constexpr double widestReach = 1000;          // metres of the subject's scale
constexpr double fastestChange = 1e12, narrowestChange = degrees(1e-4), widestChange = degrees(179.999);
constexpr double fastestForeseen = 100;  // m/s: a faster subject is predicted no farther

double angleBetween(const LookAngles& a, const LookAngles& b) {
  const Vector3d u = rotationOf(a.yaw, a.pitch).col(2), v = rotationOf(b.yaw, b.pitch).col(2);
  return std::atan2(u.cross(v).norm(), u.dot(v));
}

/// What a change of framing will have made of what is asked for, if it goes on, at even times.
void askAhead(const PullInRequest& now, PoseCourse course, double every, Span<AskedAhead> asked) {
  const FramingPose from = course.pose();
  for (AskedAhead& each : asked) {
    course.advance(every);
    const FramingPose to = course.pose();
    each.shoulder = now.shoulder + now.scale * (to.shoulder - from.shoulder);
    each.distance = std::min(now.distance + now.scale * (to.distance - from.distance), longestDistance);
  }
}

}  // namespace

/// Where bob, dip, breathing, pushes and unrest move the eyes, metres in the world.
Vector3d CameraCore::movedEyes(const ShownFraming& framing, const Pushed& pushed, const Wandered& wandered) const {
  const HeadMotionSettings& settings = numbers().motion;
  Vector3d motion = wandered.place + Vector3d(pushed.right, pushed.up, pushed.back);
  if (settings.any()) motion.head<2>() += parts_.subject.headMotion(settings) * framing.bobScale;
  if (motion.isZero(0)) return Vector3d::Zero();
  const FrameFollow& followed = parts_.subject.followed();
  const Eigen::Matrix3d level = followed.level() * rotationOf(shownLook(framing.pitch).yaw, 0);
  motion *= followed.scale();
  return motion.x() * level.col(0) + motion.y() * level.col(1) + motion.z() * level.col(2);
}

/// What moves the picture only; never beyond what the pitch may be.
void CameraCore::showPushed(View& view, const Pushed& pushed, const PitchLimits& pitch) const {
  view.roll = pushed.roll;
  if (pushed.turn.yaw == 0 && pushed.turn.pitch == 0) return;
  const LookAngles shown = limited({view.yaw + pushed.turn.yaw, view.pitch + pushed.turn.pitch}, pitch);
  view.pushYaw = shortestTurn(view.yaw, shown.yaw);
  view.pushPitch = shown.pitch - view.pitch;
  view.yaw = shown.yaw;
  view.pitch = shown.pitch;
}

/// On the way from another design: kept clear as everything else is, on the line from the head, and out of what is
/// large.
void CameraCore::showChange(View& view, const PullInPose& pose, double seconds, const Obstacles& obstacles) {
  const View live = view;
  view = parts_.change.step(seconds, live, &obstacles);
  view.designBlend = parts_.change.progress();
  const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
  const ClearFraction clear = clearFraction(obstacles, view.head, view.position, radius);
  const bool inReason = reachablePoint(view.position) && reachablePoint(view.freePosition) &&
                        view.velocity.norm() < fastestChange && view.fieldOfView > narrowestChange &&
                        view.fieldOfView < widestChange;
  if (!inReason) {  // only for a state that somebody made up
    view = live;
    parts_.change = ViewTransition();
  } else if (pose.headBlocked || clear.fraction == 0) {
    view.position = live.position;
  } else {
    view.position = view.head + clear.fraction * (view.position - view.head);
    const Vector3d off = view.position - live.position;
    if (obstacles.sweepLarge(live.position, off, radius).hit() || touchesLarge(view.position, radius, obstacles)) {
      view.position = touchesLarge(live.position, radius, obstacles) ? view.head : live.position;
    }
  }
  parts_.change.showFrom(view.position);
  if ((view.events & Event::transitionEnded) != 0) parts_.report.event(Event::transitionEnded);
}

/// Where the curves of framings are read off in this frame.
void CameraCore::bend(const Subject& subject, double seconds) {
  constexpr double fastest = 1e9;
  const FrameFollow& followed = parts_.subject.followed();
  const Vector3d walks = (subject.velocity - subject.frame.rooted().velocity) / followed.scale();
  const double climb = walks.dot(followed.level() * Vector3d::UnitY());
  const double speed = std::sqrt(std::max(walks.squaredNorm() - climb * climb, 0.0));
  CurveInputs& inputs = parts_.framing.inputs();
  inputs.advance(seconds, std::min(speed, fastest), std::clamp(climb, -fastest, fastest), numbers().curves);
  inputs.look(parts_.angles.look().pitch);
}

/// Time of the world's clock passes for what the game sets: its numbers, and how much unrest there is.
void CameraCore::advanceNumbers(double seconds) {
  if (design_->bends()) parts_.framing.inputs().advanceNumbers(seconds, numbers().curves);
  if (numbers().unrest.any()) parts_.unrest.advance(seconds, numbers().unrest, parts_.framing.unrestShare(*design_));
}

PullInRequest CameraCore::request(const FramingPose& pose, const Subject& subject, const PitchLimits& pitch,
                                  const Vector3d& eyeMotion) const {
  PullInRequest asked =
      requestFor(pose, parts_.subject.followed(), subject, shownLook(pitch), eyeMotion, parts_.framing.aspect());
  asked.pitch = {pitch.low - pose.tilt, pitch.high - pose.tilt};
  const bool eyes = design_->design().framings[parts_.framing.active()].perspective == Perspective::first;
  asked.aims = !eyes && parts_.framing.settings(*design_).keeps == Keeps::aim;
  asked.keepsShoulder = asked.aims || parts_.aim.on();
  return asked;
}

PullInSettings CameraCore::pullInSettings() const {
  PullInSettings settings = numbers().pullIn;
  const double by = parts_.framing.settings(*design_).pullInScale;
  settings.speed *= by;
  settings.fastest *= by;
  settings.outSpeed *= by;
  if (numbers().freeShoulder.after > 0) settings.shoulderSpeed = 0;  // that one decides about the side
  return settings;
}

PullInMotion CameraCore::motion(const Subject& subject, FrameTime time) const {
  const double most = fastestForeseen * subject.frame.scale;
  Vector3d walks = (subject.velocity - subject.frame.rooted().velocity) * time.pace();
  if (const double speed = walks.norm(); speed > most) walks *= most / speed;
  const FrameFollow& followed = parts_.subject.followed();
  const Vector3d up = followed.level() * Vector3d::UnitY();
  const RigidMotion carried{subject.frame.rooted().velocity, followed.yawRate() * up, subject.feet};
  return {walks, up, subject.onGround, followed.yawRate() * time.pace(), carried, time.pace(), {}, 0};
}

/// Where this frame's questions will be, but for long rays: where clear space will ask, now and ahead, as far as a kept
/// aim may turn that, and back to where the camera was.
Bounds CameraCore::reach(const PullInRequest& first, const PullIn::Plan& plan, const Subject& subject) const {
  constexpr double around = 0.1, hair = 0.01;  // metres
  constexpr double share = 0.05;               // of the distance
  const PullInSettings settings = pullInSettings();
  Bounds bounds = plan.reach(settings);
  bounds = bounds.grown(parts_.aim.on() ? around + share * first.distance : hair);
  if (parts_.placement.eyesWanted()) {
    const PullInRequest whole =
        request(parts_.framing.poseIn(Perspective::third, *design_), subject, pitchLimits(), {0, 0, 0});
    bounds = bounds.with(PullIn().plan(whole, {}, 0, settings).reach(settings));
  }
  const Vector3d last = parts_.report.lastPosition();
  if ((last - subject.head).norm() < first.distance + 2)
    bounds = bounds.with(Bounds::around(last, first.radius + hair));
  return bounds;
}

/// Through clear space, with the aim kept for where clear space puts the camera. That depends on the look, and so the
/// camera is placed for the one, and anew from the same limits for the next.
PullInPose CameraCore::place(const ShownFraming& framing, const Subject& subject, const Vector3d& eyeMotion,
                             const Obstacles& obstacles, FrameTime time) {
  const FrameFollow& followed = parts_.subject.followed();
  if (parts_.aim.look(obstacles) && !canKeepAim()) parts_.angles.turnBy(parts_.aim.takeBack(), framing.pitch);
  keepAim();
  const PullInRequest first = request(framing.pose, subject, framing.pitch, eyeMotion);
  PullInMotion moves = motion(subject, time);
  const PullInSettings settings = pullInSettings();
  std::array<AskedAhead, 8> asked;
  if (parts_.framing.blending() && settings.horizon > 0) {
    moves.asked = asked;
    moves.askedEvery = settings.horizon / static_cast<double>(asked.size());
    askAhead(first, parts_.framing.course(*design_), moves.askedEvery, asked);
  }
  const PullIn::Plan plan = parts_.placement.pullIn().plan(first, moves, time.player, settings);
  const Bounds bounds = reach(first, plan, subject);
  obstacles.gather(bounds);
  if ((bounds.high - bounds.low).maxCoeff() > widestReach * std::max(subject.frame.scale, 1.0))
    parts_.report.faultNow(Fault::costly);
  ClearLine line = PullIn::line(first, obstacles, settings);
  parts_.placement.advance(plan, line, time.player, settings);
  const Placement limits = parts_.placement;
  const auto placed = [&] {
    parts_.placement = limits;
    return parts_.placement.place(request(framing.pose, subject, framing.pitch, eyeMotion), line, settings,
                                  numbers().large);
  };
  PullInPose pose = placed();
  const bool free = !parts_.placement.limiting();
  if (parts_.aim.on()) {
    const AimFrame before = aimFrameOn(followed, parts_.aim.before());
    const LookAngles look = shownLook(framing.pitch);
    parts_.aim.seeClear(before, aimFramePlaced(aimFrameOn(followed, framing.pose), pose, look), look,
                        fastestClear * time.player);
    keepAim();
    pose = placed();
    parts_.aim.remember(before, shownLook(framing.pitch));
  }
  if (free && !parts_.aim.on()) {
    parts_.aim.placedFreely();
  } else {
    const AimFrame axis = aimFrameOn(followed, framing.pose);
    const LookAngles look = shownLook(framing.pitch);
    const Vector3d right = followed.level() * Vector3d(rotationOf(look.yaw, 0).col(0));
    const Vector3d up = followed.level() * Vector3d(rotationOf(look.yaw, look.pitch).col(1));
    const double tilt = axis.axis.tilt, stoops = pose.distance * (std::sin(tilt - pose.stooped) - std::sin(tilt));
    parts_.aim.placed(pose.pivot - (axis.anchor + axis.axis.shoulder * right + eyeMotion) + stoops * up);
  }
  return pose;
}

TargetReport CameraCore::checkTarget(double seconds, const Vector3d& eyes, const Obstacles& obstacles) {
  const FrameFollow& followed = parts_.subject.followed();
  TargetReport report = parts_.assists.checkTarget(seconds, eyes, followed.scale(), obstacles, numbers().lock);
  if (report.lost) parts_.report.event(Event::lockLost);
  if (report.lock == noTarget) return report;
  if (report.flick.x != 0 || report.flick.y != 0) parts_.report.event(Event::targetFlick);
  const LockGoal goal = lockGoalFor(followed, shownFraming());
  report.error = angleBetween(parts_.angles.look(), {goal.yaw, goal.pitch});
  return report;
}

/// How fast a change of framing moves the camera; in a pull-in it does not do so along the line.
Vector3d CameraCore::blendVelocity(const Subject& subject, const ShownFraming& framing,
                                   const PullInPose& placed) const {
  constexpr double soon = 1e-4;  // seconds
  PoseCourse course = parts_.framing.course(*design_);
  FramingPose from = course.pose();
  course.advance(soon);
  const FramingPose to = course.pose();
  if (placed.distance < framing.pose.distance * subject.frame.scale) from.distance = to.distance;
  const LookAngles look = shownLook(framing.pitch);
  const auto camera = [&](const FramingPose& pose) {
    return requestFor(pose, parts_.subject.followed(), subject, look, {0, 0, 0}, parts_.framing.aspect()).camera();
  };
  return (camera(to) - camera(from)) / soon;
}

/// A view of what everybody knows by now.
View CameraCore::describe(const Subject& subject, const ShownFraming& framing, const Placed& placed) {
  const FrameFollow& followed = parts_.subject.followed();
  const PullInPose& pose = placed.pose;
  const double scale = subject.frame.scale;
  const LookAngles rates = turnRates();
  const Eigen::Vector2d motion = parts_.subject.headMotion(numbers().motion) * framing.bobScale;
  View view;
  view.head = subject.head;
  view.pivot = pose.pivot;
  view.position = pose.camera;
  view.freePosition = pose.free;
  view.velocity = parts_.subject.velocityAt(pose.camera, framing.pose, followSettings());
  if (parts_.framing.blending()) {
    const Vector3d velocity = view.velocity + blendVelocity(subject, framing, pose);
    if (velocity.allFinite()) view.velocity = velocity.cwiseMax(-farthestPosition).cwiseMin(farthestPosition);
  }
  view.driftRate = parts_.assists.driftRate();
  view.yawRate = rates.yaw + view.driftRate + followed.yawRate();
  view.pitchRate = rates.pitch;
  view.yaw = placed.look.look.yaw;
  view.pitch = placed.look.look.pitch;
  view.steadyYaw = placed.look.steady.yaw;
  view.steadyPitch = placed.look.steady.pitch;
  view.swayYaw = placed.look.sway.yaw;
  view.swayPitch = placed.look.sway.pitch;
  view.level = followed.level();
  view.heading = heading();
  view.glanceYaw = parts_.angles.glance().yaw;
  view.glancePitch = parts_.angles.glance().pitch;
  view.fromBody = shortestTurn(subject.heading, placed.look.orbit.yaw);
  view.bobRight = motion.x();
  view.bobUp = motion.y();
  view.rest = followed.rest();
  view.restAside = followed.restAside();
  view.fieldOfView = framing.pose.fieldOfView;
  view.aspect = parts_.framing.aspect();
  view.nearPlane = pose.nearPlane;
  view.farPlane = framing.farPlane * scale;
  view.distance = pose.distance;
  view.freeDistance = std::min(framing.pose.distance * scale, longestDistance);
  view.clearDistance = pose.clearDistance;
  const double toEyes = (pose.camera - (followed.point() + followed.eyes())).norm();
  view.opacity = opacityAt(std::min((pose.camera - subject.head).norm(), toEyes) / scale, numbers().fade);
  view.obstacle = pose.obstacle;
  view.covers = parts_.placement.covers();
  view.foreseen = pose.foreseen;
  view.foreseenIn = pose.foreseenIn;
  view.shoulderGivenUp = pose.givenUp;
  view.stooped = pose.stooped;
  view.outIn = pose.wait;
  view.framing = static_cast<int>(parts_.framing.active());
  view.framingFrom = static_cast<int>(parts_.framing.from());
  view.framingBlend = parts_.framing.progress();
  view.firstPerson = framing.firstPerson;
  view.lookScale = framing.lookScale;
  view.handShare = guides() ? parts_.guide.share(numbers().guide) : 1;
  view.swungBack = parts_.assists.takeSwungBack();
  view.holdoff = parts_.assists.holdoffLeft(numbers().swingBack);
  view.lock = placed.target.lock;
  view.lockError = placed.target.error;
  view.flick = placed.target.flick;
  return view;
}

/// Whether the straight way from the last position is clear: a flick may pass a post that is in neither view's way.
bool CameraCore::clearFromLast(const View& view, const PullInPose& pose, const Obstacles& obstacles) const {
  if (obstacles.nothingNear()) return true;
  const View before = parts_.report.view();
  const double radius = std::max(nearPlaneRadius(pose.nearPlane, view.fieldOfView, view.aspect),
                                 nearPlaneRadius(before.nearPlane, before.fieldOfView, before.aspect));
  const Vector3d last = before.position;
  return clearFraction(obstacles, last, view.position, radius).fraction == 1 &&
         !obstacles.sweepLarge(last, view.position - last, radius).hit();
}

/// Whether the eyes ought to take over, or give back: a request that the next call applies first.
void CameraCore::judgeEyes(const PullInPose& pose, const Subject& subject, const Obstacles& obstacles, double seconds) {
  const FadeSettings& fade = numbers().fade;
  const bool could =
      fade.eyesBelow > 0 && perspective() == Perspective::third && design_->baseOf(Perspective::first) >= 0;
  const bool pulledIn = parts_.placement.pulledIn() || pose.headBlocked;
  const double scale = subject.frame.scale;
  const bool close = pulledIn && (pose.camera - subject.head).norm() < fade.eyesBelow * scale;
  if (!parts_.placement.eyesWanted() && !(could && close)) return;
  const PullInRequest whole =
      request(parts_.framing.poseIn(Perspective::third, *design_), subject, pitchLimits(), Vector3d(0, 0, 0));
  parts_.placement.judgeEyes(could, close, whole, scale, obstacles, seconds, numbers());
}

/// Whether the camera goes over to the other shoulder because this one is against a wall. Nobody asks while it is free.
void CameraCore::judgeShoulder(const PullInPose& pose, const Subject& subject, const Obstacles& obstacles,
                               double seconds) {
  const FreeShoulderSettings& settings = numbers().freeShoulder;
  if (!(settings.after > 0)) return;
  const bool barred = perspective() == Perspective::first || parts_.placement.eyesWanted() || pose.headBlocked ||
                      parts_.framing.blending() || (parts_.framing.aims() && !settings.whileAiming);
  const FramingPose whole = parts_.framing.poseIn(Perspective::third, *design_);
  if (barred || whole.shoulder == 0 || !parts_.placement.limiting()) return parts_.placement.restShoulder(seconds);
  const PullInRequest here = request(whole, subject, pitchLimits(), Vector3d(0, 0, 0));
  if (!parts_.placement.judgeShoulder(here, obstacles, seconds, numbers())) return;
  setShoulder(parts_.framing.otherShoulder());
  parts_.report.event(Event::shoulderSwapped);
}

}  // namespace alpglow
