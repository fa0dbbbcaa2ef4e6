#include "camera_core.hpp"

#include "../base/save_state.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/space/guarded_obstacles.hpp"

#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <string>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr std::uint64_t savedVersion = 28 | std::uint64_t{mostFramings} << 32;

bool legalTarget(const Target& target) {
  return legalPosition(target.position) && legalPosition(target.velocity) && target.radius >= 0 &&
         legalNumber(target.radius);
}

std::uint32_t faultsOf(FrameTime time, const Subject& subject, double aspect) {
  return (time.legal() ? 0u : Fault::badTime) | (legalAspect(aspect) ? 0u : Fault::badAspect) |
         (subject.legal() ? 0u : Fault::badSubject);
}

/// Nobody is that tall: numbers of another unit. They count as they are.
bool looksLikeCentimetres(const Subject& s) {
  constexpr double tallest = 20;  // metres of its scale
  return (s.head - s.feet).norm() > tallest * s.frame.scale;
}

/// By a factor of the tangent of half of it, up to what a lens may be anyhow.
double widened(double fieldOfView, double lens) {
  const double wide = 2 * std::atan(std::tan(fieldOfView / 2) * lens);
  return std::min(wide, std::max(fieldOfView, degrees(170)));
}

void show(View& view, const Crosshair& crosshair) {
  view.aimPoint = crosshair.point;
  view.aimObstacle = crosshair.obstacle;
  view.aimDistance = crosshair.distance;
  view.aimError = crosshair.error;
  view.aimKept = crosshair.kept;
}

}  // namespace

CameraCore::CameraCore(const CompiledDesign& design, const Subject& subject)
    : design_(&design),
      parts_{ActiveFraming(design),
             SubjectTracker(subject.legal() ? subject.normalized() : Subject()),
             ViewAngles(LookAngles()),
             {},
             {},
             {},
             {},
             {},
             {},
             {},
             Unrest(design.design().unrest.amount),
             {}} {
  const Subject placed = subject.legal() ? subject.normalized() : Subject();
  const Framing& framing = parts_.framing.settings(design);
  setPose({placed.heading, framing.defaultPitch, {}});
  parts_.framing.inputs().look(framing.defaultPitch);
  PullInPose pose;
  pose.pivot = pose.camera = pose.free = placed.head;
  pose.nearPlane = framing.nearPlane;
  const ShownFraming shown = shownFraming();
  const LookAngles orbit = shownLook(shown.pitch);
  const SteadiedLook look{orbit, {}, {}, orbit};
  parts_.report.showFirst(describe(placed, shown, {{}, pose, look}));
}

View CameraCore::update(FrameTime told, const Subject& drawn, const Obstacles& world, double aspect) {
  applyRequests();
  const FrameTime time = told.counted();
  const Subject subject = drawn.normalized();
  const GuardedObstacles obstacles(world);
  const double untold = parts_.subject.untold(time.world), left = parts_.subject.left(untold);
  if (!parts_.report.begin(faultsOf(time, subject, aspect))) return keepLastView();
  if (looksLikeCentimetres(subject)) parts_.report.faultNow(Fault::badUnits);

  const bool jumped = hasJumped(subject, untold), cut = jumped || parts_.report.cutDue();
  if (cut) cutTo(subject);
  if (!cut) apply(parts_.subject.follow(subject, untold, followSettings(), numbers().motion));

  if (design_->bends()) bend(subject, time.world);
  advanceNumbers(left);
  parts_.framing.setAspect(aspect);
  ShownFraming framing = shownFraming();
  const Pushed pushed = parts_.pushes.shown(design_->pushes());
  if (pushed.lens != 1) framing.pose.fieldOfView = widened(framing.pose.fieldOfView, pushed.lens);
  const TargetReport target = checkTarget(time.world, subject.head, obstacles);
  const Wandered wandered = numbers().unrest.any() ? parts_.unrest.wandered(numbers().unrest) : Wandered();
  const Vector3d eyeMotion = movedEyes(framing, pushed, wandered);
  const PullInPose pose = place(framing, subject, eyeMotion, obstacles, time);

  parts_.angles.advanceSway(time.world, numbers().motion.breath.period);
  const Rotation level = parts_.subject.followed().level();
  const SteadiedLook look = parts_.angles.steadied(shownLook(framing.pitch), framing, pose.camera, level, eyeMotion,
                                                   wandered.turn, obstacles, time.player, numbers());
  for (const Vector3d* point : {&pose.pivot, &pose.camera, &pose.free}) {
    if (!reachablePoint(*point)) return beginAnew(subject);
  }
  View view = describe(subject, framing, {target, pose, look});
  showPushed(view, pushed, framing.pitch);
  view.roll += wandered.roll;
  if (cut) parts_.change = ViewTransition();
  if (parts_.change.done()) {
    show(view, parts_.aim.crosshair(pose, level, look.look, obstacles));
  } else {
    showChange(view, pose, time.player, obstacles);
    PullInPose shown = pose;
    shown.camera = view.position;
    const LookAngles aims{view.yaw - view.pushYaw, view.pitch - view.pushPitch};
    show(view, parts_.aim.crosshair(shown, view.level, aims, obstacles));
  }
  if (parts_.aim.on() && !parts_.framing.blending() && parts_.aim.settled()) parts_.aim.end();

  const Ongoing ongoing{parts_.placement.pulledIn() || pose.headBlocked, pose.headBlocked,
                        parts_.assists.swingingBack()};
  const std::uint32_t events = (cut ? Event::cut : 0u) | (jumped ? Event::teleport : 0u);
  view.interpolable = clearFromLast(view, pose, obstacles);
  judgeEyes(pose, subject, obstacles, time.player);
  judgeShoulder(pose, subject, obstacles, time.player);
  if (obstacles.bad()) parts_.report.faultNow(Fault::badObstacles);
  if (obstacles.overflowed()) parts_.report.faultNow(Fault::costly);
  parts_.report.show(view, ongoing, events);
  return view;
}

View CameraCore::updateWithoutSubject(FrameTime time) {
  applyRequests();
  parts_.subject.untold(time.world);
  parts_.report.begin(Fault::subjectMissing);
  return keepLastView();
}

View CameraCore::keepLastView() {
  parts_.subject.forgetAdvance();
  return view();
}

/// Where numbers have taken the camera out of reach, the last view stays, and the next frame cuts to the subject.
View CameraCore::beginAnew(const Subject& subject) {
  cutTo(subject);
  parts_.report.faultNow(Fault::badSubject);
  parts_.report.cutNext();
  return keepLastView();
}

void CameraCore::tick(double time, const Subject& told) {
  applyRequests();
  const Subject subject = told.normalized();
  if (!legalTime(time) || !subject.legal()) {
    return parts_.report.fault(legalTime(time) ? Fault::badSubject : Fault::badTime);
  }
  const double seconds = countedTime(time);
  parts_.subject.told(seconds);
  advanceNumbers(parts_.subject.left(seconds));
  if (hasJumped(subject, seconds)) {
    parts_.subject.sitOn(subject);
    parts_.report.cutNext();
    parts_.report.event(Event::teleport);
    parts_.subject.forgetAdvance();
  } else {
    apply(parts_.subject.follow(subject, seconds, followSettings(), numbers().motion));
  }
}

bool CameraCore::hasJumped(const Subject& subject, double seconds) const {
  return parts_.subject.jumped(subject, seconds, parts_.framing.settings(*design_).follow.teleportDistance);
}

void CameraCore::cutTo(const Subject& subject) {
  parts_.placement.cut();
  parts_.angles.cutFocus();
  parts_.framing.finish();
  parts_.framing.inputs().cut();
  parts_.aim.end();
  parts_.assists.bodyTold(0, parts_.subject.sinceTold(), numbers().swingBack);  // how it turned there says nothing
  parts_.subject.restart(subject);
}

/// What a step along the subject's path means to look and aim.
void CameraCore::apply(const SubjectStep& step) {
  if (step.boarded) parts_.report.event(Event::platformChanged);
  const PoseChange change = parts_.assists.bodyTold(step.bodyTurned, step.bodySeconds, numbers().swingBack);
  parts_.angles.turnBy({step.carriedYaw + change.yaw, change.pitch}, pitchLimits());
  if (change.distance != 0) parts_.framing.addLogDistance(change.distance, *design_);
}

void CameraCore::changeSubject(const Subject& told) {
  applyRequests();
  const Subject subject = told.normalized();
  if (!subject.legal()) return parts_.report.fault(Fault::badSubject);
  parts_.subject.sitOn(subject);
  parts_.assists.handsOn();
  parts_.report.cutNext();
}

void CameraCore::changeDesign(const CompiledDesign& next, double seconds) {
  if (next.digest() == design_->digest()) return void(design_ = &next);
  applyRequests();
  catchUp();
  const CompiledDesign& before = *design_;
  const FrameFollowSettings followed = followSettings();
  const double anchorHeight = shownFraming().pose.anchorHeight;
  const LookAngles owed = parts_.pushes.owed(before.pushes());
  parts_.angles.turnBy({-owed.yaw, -owed.pitch}, pitchLimits());
  parts_.pushes.cut();
  parts_.aim.end();
  parts_.framing.changeDesign(before, next);
  if (next.baseOf(Perspective::first) < 0) parts_.placement.leaveEyes();
  if (parts_.unrest.goal() == before.design().unrest.amount) parts_.unrest.setAmount(next.design().unrest.amount);
  design_ = &next;
  parts_.subject.retune(followed, followSettings(), 0, anchorHeight);
  parts_.angles.turnBy({}, pitchLimits());
  const View from = view();
  const bool cuts = !(seconds > 0), goesOn = !parts_.change.done();
  parts_.report.changeDesign(parts_.framing.active(), shownFraming().pose.fieldOfView, numbers().pullIn.stoop, cuts);
  if (cuts) {
    parts_.change = ViewTransition();
  } else if (const double most = std::min(seconds, 1e3), since = parts_.subject.sinceFrame(); goesOn) {
    parts_.change.begin(most, since);
  } else {
    parts_.change.begin(from, most, since);
  }
}

void CameraCore::setCondition(std::uint32_t conditions, bool holds) {
  applyRequests();
  parts_.framing.setCondition(conditions, holds);
  applyFraming();
}

void CameraCore::choose(Perspective perspective) {
  applyRequests();
  parts_.framing.choose(perspective, *design_);
  applyFraming();
}

void CameraCore::setShoulder(Shoulder shoulder) {
  applyRequests();
  readPitch();
  beginKeepingAim(parts_.framing.keepCap(*design_));
  parts_.framing.setShoulder(shoulder, *design_);
  goOnKeepingAim();
  parts_.placement.shoulderSwapped();
}

void CameraCore::swingBack() {
  applyRequests();
  parts_.assists.beginSwingBack(fromDefaultPose(), numbers().swingBack, parts_.subject.sinceTold());
}

void CameraCore::lockOn(const Target& target) {
  applyRequests();
  if (!legalTarget(target)) return parts_.report.fault(Fault::badTarget);
  if (parts_.assists.lockOn(target)) parts_.report.event(Event::lockBegan);
}

void CameraCore::endLock() {
  applyRequests();
  if (parts_.assists.endLock()) parts_.report.event(Event::lockEnded);
}

void CameraCore::guide(const GuideGoal& goal) {
  applyRequests();
  const double yaw = goal.yaw.value_or(0), pitch = goal.pitch.value_or(0);
  const bool bad = goal.point && !legalPosition(*goal.point);
  if (bad || !legalNumber(yaw) || !legalNumber(pitch) || !legalNumber(goal.playerShare))
    return parts_.report.fault(Fault::badGuide);
  parts_.guide.begin(goal);
}

void CameraCore::endGuide() {
  applyRequests();
  parts_.guide.end();
}

void CameraCore::push(int kind, double strength, const Vector3d& direction) {
  applyRequests();
  const Span<const PushSettings> kinds = design_->pushes();
  const bool known = kind >= 0 && static_cast<std::size_t>(kind) < kinds.size();
  if (!known || !(std::abs(strength) <= 1e3) || !legalPosition(direction)) return parts_.report.fault(Fault::badPush);
  PushCall call{strength};
  if (const double length = direction.norm(); length > 0) {
    const Vector3d along = parts_.subject.followed().level().conjugate() * Vector3d(direction / length);
    const Eigen::Matrix3d axes = rotationOf(heading(), 0);
    call.right = along.dot(axes.col(0));
    call.back = along.dot(axes.col(2));
  }
  parts_.pushes.push(static_cast<std::size_t>(kind), call, kinds, numbers().pushLimits);
}

void CameraCore::setPose(const CameraPose& pose) {
  for (const std::optional<double>& number : {pose.yaw, pose.pitch, pose.distance}) {
    if (number && !legalNumber(*number)) return;
  }
  applyRequests();
  if (pose.distance) parts_.framing.setDistance(*pose.distance, *design_);
  parts_.aim.end();
  const LookAngles look = parts_.angles.look();
  parts_.angles.face(
      limited({pose.yaw.value_or(look.yaw), pose.pitch.value_or(look.pitch)}, parts_.framing.settings(*design_).pitch));
  parts_.assists.handsOn();
  parts_.pushes.cut();
  parts_.report.cutNext();
}

void CameraCore::shift(const Vector3d& offset) {
  if (!legalPosition(offset) || !legalPosition(offset + parts_.report.lastPosition()) ||
      !legalPosition(offset + parts_.subject.followed().target())) {
    return;
  }
  applyRequests();
  parts_.subject.shift(offset);
  parts_.assists.shift(offset);
  parts_.guide.shift(offset);
  parts_.aim.shift(offset);
  parts_.report.shift(offset);
  parts_.change.shift(offset);
}

CameraCore::Saved CameraCore::save() const { return saved<Saved>(parts_, savedVersion, design_->digest()); }

bool CameraCore::restore(const Saved& saved) {
  Parts parts = parts_;
  if (!restored(parts, saved, savedVersion, design_->digest())) return false;
  const bool possible = parts.framing.legal(*design_) && parts.report.legal(*design_, !parts.change.done()) &&
                        parts.pushes.legal(design_->pushes(), numbers().pushLimits);
  if (possible) parts_ = parts;
  return possible;
}

std::string CameraCore::difference(const Saved& theirs, double tolerance) const {
  return alpglow::difference(parts_, save(), theirs, tolerance);
}

}  // namespace alpglow
