// The camera as a composition: a frame of `update`, and what the host may ask for between its calls. How time passes in
// `look`, and how framings change, is in character_camera_look.cpp.

#include "alpglow/camera/character_camera.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/space/checked_obstacles.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

static_assert(std::is_trivially_copyable_v<CharacterCamera>);
static_assert(std::is_trivially_copyable_v<CharacterCamera::Saved>);
static_assert(sizeof(CharacterCamera) <= 3328);

namespace {

constexpr std::uint32_t savedVersion = 5;
constexpr int mostSolves = 16;    // of the aim for where clear space puts the camera
constexpr double settled = 1e-6;  // radians that are not worth another sweep

bool legalSubject(const Subject& s) {
  return legalPosition(s.feet) && legalPosition(s.head) && legalPosition(s.velocity) && legalNumber(s.heading) &&
         s.frame.legal();
}

bool legalTarget(const Target& target) {
  return legalPosition(target.position) && legalPosition(target.velocity) && target.radius >= 0 &&
         legalNumber(target.radius);
}

std::uint32_t faultsOf(FrameTime time, const Subject& subject, double aspect) {
  return (time.legal() ? 0u : Fault::badTime) | (legalAspect(aspect) ? 0u : Fault::badAspect) |
         (legalSubject(subject) ? 0u : Fault::badSubject);
}

void show(View& view, const Crosshair& crosshair) {
  view.aimPoint = crosshair.point;
  view.aimObstacle = crosshair.obstacle;
  view.aimDistance = crosshair.distance;
  view.aimError = crosshair.error;
  view.aimKept = crosshair.kept;
}

double angleBetween(const LookAngles& a, const LookAngles& b) {
  const Vector3d u = rotationOf(a.yaw, a.pitch).col(2), v = rotationOf(b.yaw, b.pitch).col(2);
  return std::atan2(u.cross(v).norm(), u.dot(v));
}

}  // namespace

CharacterCamera::CharacterCamera(const CompiledDesign& design, const Subject& subject)
    : design_(&design),
      parts_{ActiveFraming(design),
             SubjectTracker(legalSubject(subject) ? subject : Subject()),
             ViewAngles(LookAngles()),
             {},
             {},
             {},
             {}} {
  const Subject placed = legalSubject(subject) ? subject : Subject();
  const Framing& framing = parts_.framing.settings(design);
  setPose({placed.heading, framing.defaultPitch, framing.distance});
  PullInPose pose;
  pose.pivot = pose.camera = placed.head;
  pose.nearPlane = framing.nearPlane;
  const ShownFraming shown = shownFraming();
  const LookAngles orbit = shownLook(shown.pitch);
  const SteadiedLook look{orbit, {}, {}, orbit};
  parts_.report.showFirst(describe(placed, shown, {{}, pose, look}));
}

View CharacterCamera::update(FrameTime told, const Subject& subject, const Obstacles& world, double aspect) {
  applyRequests();
  const FrameTime time = told.counted();
  const CheckedObstacles obstacles(world);
  const double untold = parts_.subject.untold(time.world);
  if (!parts_.report.begin(faultsOf(time, subject, aspect))) return keepLastView();

  const bool jumped = hasJumped(subject, untold), cut = jumped || parts_.report.cutDue();
  if (cut) cutTo(subject);
  if (!cut) apply(parts_.subject.follow(subject, untold, followSettings(), numbers().motion));

  parts_.framing.setAspect(aspect);
  const ShownFraming framing = shownFraming();
  const TargetReport target = checkTarget(time.world, subject.head, obstacles);
  const Vector3d eyeMotion = movedEyes(framing);
  const PullInPose pose = place(framing, subject, eyeMotion, obstacles, time.player);

  parts_.angles.advanceSway(time.world, numbers().motion.breath.period);
  const Rotation level = parts_.subject.followed().level();
  const SteadiedLook look = parts_.angles.steadied(shownLook(framing.pitch), framing, pose.camera, level, eyeMotion,
                                                   obstacles, time.player, numbers());
  View view = describe(subject, framing, {target, pose, look});
  show(view, parts_.aim.crosshair(pose, level, look.look, obstacles));
  if (!parts_.framing.blending() && parts_.aim.settled()) parts_.aim.end();

  const Ongoing ongoing{parts_.placement.pulledIn() || pose.headBlocked, pose.headBlocked,
                        parts_.assists.swingingBack()};
  const std::uint32_t events = (cut ? Event::cut : 0u) | (jumped ? Event::teleport : 0u);
  view.interpolable = clearFromLast(view, pose, obstacles);
  judgeEyes(pose, subject, obstacles, time.player);
  if (obstacles.bad()) parts_.report.faultNow(Fault::badObstacles);
  parts_.report.show(view, ongoing, events);
  return view;
}

View CharacterCamera::updateWithoutSubject(FrameTime time) {
  applyRequests();
  parts_.subject.untold(time.world);
  parts_.report.begin(Fault::subjectMissing);
  return keepLastView();
}

View CharacterCamera::keepLastView() {
  parts_.subject.forgetAdvance();
  return view();
}

void CharacterCamera::tick(double time, const Subject& subject) {
  applyRequests();
  if (!legalTime(time) || !legalSubject(subject)) {
    return parts_.report.fault(legalTime(time) ? Fault::badSubject : Fault::badTime);
  }
  const double seconds = countedTime(time);
  parts_.subject.told(seconds);
  if (hasJumped(subject, seconds)) {
    parts_.subject.sitOn(subject);
    parts_.report.cutNext();
    parts_.report.event(Event::teleport);
    parts_.subject.forgetAdvance();
  } else {
    apply(parts_.subject.follow(subject, seconds, followSettings(), numbers().motion));
  }
}

bool CharacterCamera::hasJumped(const Subject& subject, double seconds) const {
  return parts_.subject.jumped(subject, seconds, parts_.framing.settings(*design_).follow.teleportDistance);
}

void CharacterCamera::cutTo(const Subject& subject) {
  parts_.placement.cut();
  parts_.angles.cutFocus();
  parts_.framing.finish();
  parts_.aim.end();
  parts_.subject.restart(subject);
}

/// What a step along the subject's path means to look and aim.
void CharacterCamera::apply(const SubjectStep& step) {
  if (step.boarded) parts_.report.event(Event::platformChanged);
  parts_.angles.turnBy({step.carriedYaw, 0}, pitchLimits());
}

/// Where bob, dip and breathing move the eyes, metres in the world.
Vector3d CharacterCamera::movedEyes(const ShownFraming& framing) const {
  const HeadMotionSettings& settings = numbers().motion;
  if (!settings.any()) return Vector3d::Zero();
  const FrameFollow& followed = parts_.subject.followed();
  const Eigen::Vector2d motion = parts_.subject.headMotion(settings) * followed.scale() * framing.bobScale;
  const Eigen::Matrix3d level = followed.level() * rotationOf(shownLook(framing.pitch).yaw, 0);
  return motion.x() * level.col(0) + motion.y() * level.col(1);
}

/// Through clear space, with the aim kept for where clear space puts the camera. That depends on the look, and so it is
/// tried out: each look from the same limits, of which the last one's count.
PullInPose CharacterCamera::place(const ShownFraming& framing, const Subject& subject, const Vector3d& eyeMotion,
                                  const Obstacles& obstacles, double seconds) {
  const FrameFollow& followed = parts_.subject.followed();
  const Placement limits = parts_.placement;
  const auto placed = [&] {
    const PullInRequest request =
        requestFor(framing.pose, followed, subject, shownLook(framing.pitch), eyeMotion, parts_.framing.aspect());
    parts_.placement = limits;
    return parts_.placement.place(request, obstacles, seconds, numbers().pullIn);
  };
  parts_.aim.look(obstacles);
  keepAim(framing);
  PullInPose pose = placed();
  const bool free = !parts_.placement.limiting();
  if (parts_.aim.on()) keepAimClear(framing, subject.head, eyeMotion, placed, pose);
  if (free && !parts_.aim.on()) {
    parts_.aim.placedFreely();
  } else {
    const AimFrame axis = aimFrameOn(followed, framing.pose);
    const Vector3d right = followed.level() * Vector3d(rotationOf(shownLook(framing.pitch).yaw, 0).col(0));
    parts_.aim.placed(pose.pivot - (axis.anchor + axis.axis.shoulder * right + eyeMotion));
  }
  return pose;
}

/// Solves the look for a camera that is placed anew for each one. Where the turns do not shrink, because something
/// comes in between for one look and not for the next, half of the turn is tried; where that does not help, the point
/// is given up for this frame.
template <class Place>
void CharacterCamera::keepAimClear(const ShownFraming& framing, const Vector3d& head, const Vector3d& eyeMotion,
                                   Place&& placed, PullInPose& pose) {
  const FrameFollow& followed = parts_.subject.followed();
  const AimFrame before = aimFrameOn(followed, parts_.aim.before()), shown = aimFrameOn(followed, framing.pose);
  const LookAngles clear = parts_.aim.clear();
  const auto turn = [&](const LookAngles& by) {
    parts_.angles.turnBy(by, framing.pitch);
    parts_.aim.turned(shownLook(framing.pitch));
  };
  double last = pi;
  for (int i = 0; i < mostSolves; ++i) {
    const LookAngles look = shownLook(framing.pitch);
    LookAngles by = parts_.aim.stepClear(before, aimFramePlaced(shown, pose, head, look, eyeMotion), look);
    const double size = std::hypot(by.yaw, by.pitch);
    if (size < settled) break;
    if (i == mostSolves - 1) {
      parts_.aim.giveUpClear(clear);
      by = parts_.aim.step(before, shown, look);
      parts_.aim.giveUpClear(clear);
    } else if (size > last / 2) {
      by = {by.yaw / 2, by.pitch / 2};
    }
    last = size;
    turn(by);
    pose = placed();
  }
  parts_.aim.remember(before, shownLook(framing.pitch));
}

TargetReport CharacterCamera::checkTarget(double seconds, const Vector3d& eyes, const Obstacles& obstacles) {
  const FrameFollow& followed = parts_.subject.followed();
  TargetReport report = parts_.assists.checkTarget(seconds, eyes, followed.scale(), obstacles, numbers().lock);
  if (report.lost) parts_.report.event(Event::lockLost);
  if (report.lock == noTarget) return report;
  if (report.flick.x != 0 || report.flick.y != 0) parts_.report.event(Event::targetFlick);
  const LockGoal goal = lockGoalFor(followed, shownFraming());
  report.error = angleBetween(parts_.angles.look(), {goal.yaw, goal.pitch});
  return report;
}

/// A view of what everybody knows by now.
View CharacterCamera::describe(const Subject& subject, const ShownFraming& framing, const Placed& placed) {
  const FrameFollow& followed = parts_.subject.followed();
  const PullInPose& pose = placed.pose;
  const double scale = subject.frame.scale;
  const LookAngles rates = turnRates();
  const Eigen::Vector2d motion = parts_.subject.headMotion(numbers().motion) * framing.bobScale;
  View view;
  view.head = subject.head;
  view.pivot = pose.pivot;
  view.position = pose.camera;
  view.velocity = parts_.subject.velocityAt(pose.camera, framing.pose, followSettings());
  view.yawRate = rates.yaw + followed.yawRate();
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
  view.fieldOfView = framing.pose.fieldOfView;
  view.aspect = parts_.framing.aspect();
  view.nearPlane = pose.nearPlane;
  view.farPlane = framing.farPlane * scale;
  view.distance = pose.distance;
  view.freeDistance = framing.pose.distance * scale;
  const double toEyes = (pose.camera - (followed.point() + followed.eyes())).norm();
  view.opacity = opacityAt(std::min((pose.camera - subject.head).norm(), toEyes) / scale, numbers().fade);
  view.obstacle = pose.obstacle;
  view.framing = static_cast<int>(parts_.framing.active());
  view.framingFrom = static_cast<int>(parts_.framing.from());
  view.framingBlend = parts_.framing.progress();
  view.firstPerson = framing.firstPerson;
  view.lookScale = framing.lookScale;
  view.swungBack = parts_.assists.takeSwungBack();
  view.holdoff = parts_.assists.holdoffLeft(numbers().swingBack);
  view.lock = placed.target.lock;
  view.lockError = placed.target.error;
  view.flick = placed.target.flick;
  return view;
}

/// Whether the straight way from the last position is clear, asked only where clear space has a say at either end.
bool CharacterCamera::clearFromLast(const View& view, const PullInPose& pose, const Obstacles& obstacles) const {
  const bool pulled = parts_.placement.limiting() || parts_.report.wasPulledIn();
  if (!pulled) return true;
  const double radius = nearPlaneRadius(pose.nearPlane, view.fieldOfView, view.aspect);
  return clearFraction(obstacles, parts_.report.lastPosition(), view.position, radius).fraction == 1;
}

/// Whether the eyes ought to take over, or give back: a request that the next call applies first.
void CharacterCamera::judgeEyes(const PullInPose& pose, const Subject& subject, const Obstacles& obstacles,
                                double seconds) {
  const FadeSettings& fade = numbers().fade;
  const bool could =
      fade.eyesBelow > 0 && perspective() == Perspective::third && design_->baseOf(Perspective::first) >= 0;
  const bool pulledIn = parts_.placement.pulledIn() || pose.headBlocked;
  const double scale = subject.frame.scale;
  const bool close = pulledIn && (pose.camera - subject.head).norm() < fade.eyesBelow * scale;
  if (!parts_.placement.eyesWanted() && !(could && close)) return;
  const PullInRequest whole = requestFor(parts_.framing.poseIn(Perspective::third, *design_), parts_.subject.followed(),
                                         subject, shownLook(pitchLimits()), Vector3d(0, 0, 0), parts_.framing.aspect());
  parts_.placement.judgeEyes(could, close, whole, scale, obstacles, seconds, numbers());
}

void CharacterCamera::changeSubject(const Subject& subject) {
  applyRequests();
  if (!legalSubject(subject)) return parts_.report.fault(Fault::badSubject);
  parts_.subject.sitOn(subject);
  parts_.assists.handsOn();
  parts_.report.cutNext();
}

void CharacterCamera::setCondition(std::uint32_t conditions, bool holds) {
  applyRequests();
  parts_.framing.setCondition(conditions, holds);
  applyFraming();
}

void CharacterCamera::choose(Perspective perspective) {
  applyRequests();
  parts_.framing.choose(perspective, *design_);
  applyFraming();
}

void CharacterCamera::setShoulder(Shoulder shoulder) {
  applyRequests();
  const Framing& framing = parts_.framing.settings(*design_);
  beginKeepingAim(framing.keeps == Keeps::aim ? framing.keepCap : 0);
  parts_.framing.setShoulder(shoulder, *design_);
}

void CharacterCamera::swingBack() {
  applyRequests();
  parts_.assists.beginSwingBack(fromDefaultPose(), numbers().swingBack);
}

void CharacterCamera::lockOn(const Target& target) {
  applyRequests();
  if (!legalTarget(target)) return parts_.report.fault(Fault::badTarget);
  if (parts_.assists.lockOn(target)) parts_.report.event(Event::lockBegan);
}

void CharacterCamera::endLock() {
  applyRequests();
  if (parts_.assists.endLock()) parts_.report.event(Event::lockEnded);
}

void CharacterCamera::setPose(const CameraPose& pose) {
  if (!legalNumber(pose.yaw) || !legalNumber(pose.pitch) || !legalNumber(pose.distance)) return;
  applyRequests();
  parts_.framing.setDistance(pose.distance, *design_);
  parts_.aim.end();
  parts_.angles.face(limited({pose.yaw, pose.pitch}, parts_.framing.settings(*design_).pitch));
  parts_.assists.handsOn();
  parts_.report.cutNext();
}

void CharacterCamera::shift(const Vector3d& offset) {
  if (!legalPosition(offset)) return;
  applyRequests();
  parts_.subject.shift(offset);
  parts_.assists.shift(offset);
  parts_.aim.shift(offset);
  parts_.report.shift(offset);
}

CharacterCamera::Saved CharacterCamera::save() const {
  Saved saved;
  saved.version = savedVersion;
  saved.designDigest = design_->digest();
  std::memcpy(saved.parts, &parts_, sizeof parts_);
  return saved;
}

bool CharacterCamera::restore(const Saved& saved) {
  if (saved.version != savedVersion || saved.designDigest != design_->digest()) return false;
  std::memcpy(&parts_, saved.parts, sizeof parts_);
  return true;
}

}  // namespace alpglow
