#include "alpglow/character_camera.hpp"

#include "alpglow/intent_player.hpp"

#include <algorithm>
#include <cmath>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

static_assert(std::is_trivially_copyable_v<CharacterCamera>);
static_assert(std::is_trivially_copyable_v<CharacterCamera::Saved>);
static_assert(sizeof(CharacterCamera) <= 1024);

namespace {

constexpr std::uint32_t savedVersion = 1;
constexpr double farthestPosition = 1e9;
constexpr double unlimited = 1e9;

bool legalTime(double dt) { return std::isfinite(dt) && dt >= 0; }
bool legalPosition(const Vector3d& p) { return p.cwiseAbs().maxCoeff() <= farthestPosition && p.allFinite(); }
bool legalSubject(const Subject& s) {
  return legalPosition(s.feet) && legalPosition(s.head) && legalPosition(s.velocity) && std::isfinite(s.heading);
}
bool legalAspect(double aspect) { return aspect >= 0.05 && aspect <= 20; }

}  // namespace

CharacterCamera::CharacterCamera(const CompiledDesign& design, const Subject& subject) : design_(&design) {
  const double yaw = std::isfinite(subject.heading) ? subject.heading : 0.0;
  setPose({yaw, design.design().start.pitch, framing().distance});
  const Subject placed = legalSubject(subject) ? subject : Subject();
  state_.follow.cut(placed.feet);
  state_.eyes.cut(placed.head - placed.feet);
  state_.body = placed.heading;
  ClearPose pose;
  pose.pivot = pose.camera = placed.head;
  pose.near = framing().near;
  show(placed, state_.shown.aspect, pose, LookAngles(), true, false);
}

void CharacterCamera::look(double dt, const Intent& intent) {
  if (!legalTime(dt)) {
    state_.intentFaults |= Fault::badTime;
    return;
  }
  const CameraDesign& design = design_->design();
  const PitchLimits& limits = framing().pitch;
  Look& look = state_.look;
  FreeLook& free = state_.freeLook;
  free.hold(intent.freeLook);
  state_.blocked = intent.blocked;

  const auto pass = [&](double seconds, const PlayedRates& rates) {
    const Rate tied = free.held() ? Rate() : rates.turn, untied = free.held() ? rates.turn : Rate();
    look.pass(seconds, tied, rates.turnScale, design.look, limits);
    free.pass(seconds, untied, rates.turnScale, look.shown(), state_.body, design.look, design.freeLook, limits);
    state_.distance.pass(seconds, rates.zoomRate, design.zoom, framing().distanceRange);
    state_.shoulder.pass(seconds);
  };
  const auto displace = [&](Displacement moved) {
    if (free.held()) {
      free.displace(moved, look.shown(), state_.body, design.look, design.freeLook, limits);
    } else {
      look.displace(moved, design.look, limits);
    }
  };
  const auto happen = [&](const IntentSample& sample) {
    if (sample.kind == IntentSample::Kind::look) displace({sample.x, sample.y});
    if (sample.kind == IntentSample::Kind::zoom) state_.distance.zoom(sample.x, design.zoom, framing().distanceRange);
    if (sample.kind == IntentSample::Kind::freeLook) free.hold(sample.x > 0);
    if (sample.kind == IntentSample::Kind::swapShoulder) swapShoulder();
  };
  if (!playIntent(intent, dt, pass, happen)) state_.intentFaults |= Fault::badIntent;
}

/// From wherever it is now, also in mid-swap.
void CharacterCamera::swapShoulder() {
  const double shown = shoulder();
  state_.side = -state_.side;
  state_.shoulder.begin(shown - state_.side * framing().shoulder, framing().shoulderSwap);
}

View CharacterCamera::update(FrameTime time, const SubjectPath& path, const Obstacles& obstacles, double aspect) {
  state_.shownFaults = faultsOf(time, path, aspect);
  state_.intentFaults = 0;
  state_.shown.events = 0;
  if ((state_.shownFaults & ~std::uint32_t{Fault::badIntent}) != 0) return view();

  const Subject& subject = path.last();
  const bool jump = jumped(path, time.world);
  const bool cut = state_.cutNext || jump;
  if (cut) {
    state_.clear.cut();
    state_.motion.cut();
    state_.focus.cut();
    state_.shoulder.finish();
  }

  state_.body = subject.heading;
  follow(path, time.world, cut);
  const LookAngles look = shownLook();
  const Eigen::Matrix3d level = rotationOf(look.yaw, 0);
  const Eigen::Vector2d motion = state_.motion.offset(design_->design().motion);
  const Vector3d eyeMotion = motion.x() * level.col(0) + motion.y() * level.col(1);

  const ClearRequest request{subject.head,
                             pivotOver(eyeMotion),
                             rotationOf(look.yaw, look.pitch).col(2),
                             state_.distance.shown(),
                             framing().near,
                             nearPlaneRadius(framing().near, framing().lens.lens().verticalFieldOfView(), aspect)};
  const ClearPose pose = state_.clear.step(request, obstacles, time.player, design_->design().clear);
  const LookAngles steady = steadyTurn(pose.camera, eyeMotion, obstacles, time.player);

  show(subject, aspect, pose, steady, cut, jump);
  state_.cutNext = false;
  return view();
}

std::uint32_t CharacterCamera::faultsOf(const FrameTime& time, const SubjectPath& path, double aspect) const {
  std::uint32_t faults = state_.intentFaults;
  if (!legalTime(time.player) || !legalTime(time.world)) faults |= Fault::badTime;
  if (!legalAspect(aspect)) faults |= Fault::badAspect;
  if (path.missing()) return faults | Fault::subjectMissing;
  bool legal = legalSubject(path.last());
  for (const SubjectSample& bend : path.bends())
    legal = legal && legalSubject(bend.subject) && std::isfinite(bend.time);
  return legal ? faults : faults | Fault::badSubject;
}

bool CharacterCamera::jumped(const SubjectPath& path, double worldDt) const {
  if (path.last().teleported) return true;
  const double chased = framing().follow.teleportDistance;
  Vector3d from = state_.follow.target();
  const auto jumpsTo = [&](const Subject& subject) {
    const double way = (subject.feet - from).norm();
    from = subject.feet;
    return subject.teleported || way - subject.velocity.norm() * worldDt > chased;
  };
  return std::any_of(path.bends().begin(), path.bends().end(),
                     [&](const SubjectSample& s) { return jumpsTo(s.subject); }) ||
         jumpsTo(path.last());
}

LookAngles CharacterCamera::shownLook() const {
  const LookAngles look = state_.look.shown(), free = state_.freeLook.offset();
  return limited({look.yaw + free.yaw, look.pitch + free.pitch}, framing().pitch);
}

/// Feet, eye height and head motion, piece by piece along the subject's path.
void CharacterCamera::follow(const SubjectPath& path, double worldDt, bool cut) {
  const Subject& last = path.last();
  if (cut) {
    state_.follow.cut(last.feet);
    state_.eyes.cut(last.head - last.feet);
    return;
  }
  double now = 0;
  for (const SubjectSample& bend : path.bends()) {
    const double until = std::clamp(bend.time, now, worldDt);
    followTo(bend.subject, until - now);
    now = until;
  }
  followTo(last, worldDt - now);
}

void CharacterCamera::followTo(const Subject& subject, double seconds) {
  const Vector3d moved = subject.feet - state_.follow.target();
  const FollowSettings eyes{
      FollowKind::exponential, framing().eyeHalfLife, framing().eyeHalfLife, unlimited, unlimited, unlimited};
  state_.follow.step(subject.feet, seconds, framing().follow);
  state_.eyes.step(subject.head - subject.feet, seconds, eyes);
  if (!design_->design().motion.any()) return;
  state_.motion.step({std::hypot(moved.x(), moved.z()), seconds, subject.onGround, -subject.velocity.y()},
                     design_->design().motion);
}

Vector3d CharacterCamera::pivotOver(const Vector3d& eyeMotion) const {
  const Vector3d right = rotationOf(shownLook().yaw, 0).col(0);
  const Vector3d anchor = state_.follow.point() + framing().anchorHeight * state_.eyes.point();
  return anchor + framing().anchorRise * Vector3d::UnitY() + shoulder() * right + eyeMotion;
}

LookAngles CharacterCamera::steadyTurn(const Vector3d& camera, const Vector3d& eyeMotion, const Obstacles& obstacles,
                                       double dt) {
  const SteadySettings& settings = design_->design().steady;
  if (settings.cap <= 0 || !design_->design().motion.any()) return {};
  const LookAngles look = shownLook();
  double focus = state_.hostFocus;
  if (focus <= 0) {
    const Vector3d ahead = -rotationOf(look.yaw, look.pitch).col(2);
    const Contact contact = obstacles.cast(camera - eyeMotion, ahead * settings.farFocus);
    focus = contact.hit() ? contact.distance : settings.farFocus;
  }
  state_.focus.step(focus, dt, settings);
  return steadied(look, eyeMotion, state_.focus.distance(), settings);
}

double CharacterCamera::opacityAt(double headToCamera) const {
  const FadeSettings& fade = design_->design().fade;
  if (fade.keepBody) return 1;
  if (headToCamera >= fade.opaqueFrom) return 1;
  if (headToCamera <= fade.invisibleBelow) return 0;
  const double s = (headToCamera - fade.invisibleBelow) / (fade.opaqueFrom - fade.invisibleBelow);
  return s * s * (3 - 2 * s);
}

void CharacterCamera::show(const Subject& subject, double aspect, const ClearPose& pose, const LookAngles& steady,
                           bool cut, bool jump) {
  Shown& shown = state_.shown;
  const bool pulledIn = state_.clear.pulledIn() || pose.headBlocked;
  std::uint32_t events = 0;
  if (cut) events |= Event::cut;
  if (jump) events |= Event::teleport;
  if (pulledIn && !shown.pulledIn) events |= Event::pullInBegan;
  if (!pulledIn && shown.pulledIn) events |= Event::pullInEnded;
  if (pose.headBlocked && !shown.headBlocked) events |= Event::headBlocked;
  if (!pose.headBlocked && shown.headBlocked) events |= Event::headFreed;

  shown.head = subject.head;
  shown.pivot = pose.pivot;
  shown.camera = pose.camera;
  const LookAngles look = shownLook();
  shown.look = limited({look.yaw + steady.yaw, look.pitch + steady.pitch}, framing().pitch);
  shown.steady = steady;
  shown.heading = heading();
  shown.freeLook = state_.freeLook.offset();
  shown.fromBody = shortestTurn(subject.heading, look.yaw);
  const Eigen::Vector2d motion = state_.motion.offset(design_->design().motion);
  shown.bobRight = motion.x();
  shown.bobUp = motion.y();
  shown.fieldOfView = framing().lens.lens().verticalFieldOfView();
  shown.aspect = aspect;
  shown.near = pose.near;
  shown.far = framing().far;
  shown.distance = pose.distance;
  shown.freeDistance = state_.distance.shown();
  shown.opacity = opacityAt((pose.camera - subject.head).norm());
  shown.obstacle = pose.obstacle;
  shown.events = events;
  shown.pulledIn = pulledIn;
  shown.headBlocked = pose.headBlocked;
}

View CharacterCamera::view() const {
  const Shown& shown = state_.shown;
  View view;
  view.position = shown.camera;
  view.yaw = shown.look.yaw;
  view.pitch = shown.look.pitch;
  view.heading = shown.heading;
  view.bobRight = shown.bobRight;
  view.bobUp = shown.bobUp;
  view.steadyYaw = shown.steady.yaw;
  view.steadyPitch = shown.steady.pitch;
  view.freeLookYaw = shown.freeLook.yaw;
  view.freeLookPitch = shown.freeLook.pitch;
  view.fromBody = shown.fromBody;
  view.fieldOfView = shown.fieldOfView;
  view.aspect = shown.aspect;
  view.near = shown.near;
  view.far = shown.far;
  view.head = shown.head;
  view.pivot = shown.pivot;
  view.distance = shown.distance;
  view.freeDistance = shown.freeDistance;
  view.opacity = shown.opacity;
  view.obstacle = shown.obstacle;
  view.pulledIn = shown.pulledIn;
  view.cut = (shown.events & Event::cut) != 0;
  view.events = shown.events;
  view.faults = state_.shownFaults;
  view.blocked = state_.blocked;
  return view;
}

void CharacterCamera::setPose(const CameraPose& pose) {
  if (!std::isfinite(pose.yaw) || !std::isfinite(pose.pitch) || !std::isfinite(pose.distance)) return;
  state_.look = Look(limited({pose.yaw, pose.pitch}, framing().pitch));
  state_.freeLook = FreeLook();
  const DistanceRange& range = framing().distanceRange;
  state_.distance = OrbitDistance(std::clamp(pose.distance, range.nearest, range.farthest));
  state_.cutNext = true;
}

void CharacterCamera::shift(const Vector3d& offset) {
  if (!legalPosition(offset)) return;
  state_.follow.shift(offset);
  for (Plain3* point : {&state_.shown.head, &state_.shown.pivot, &state_.shown.camera})
    *point = point->vector() + offset;
}

CharacterCamera::Saved CharacterCamera::save() const {
  Saved saved;
  saved.version = savedVersion;
  saved.designDigest = design_->digest();
  saved.state = state_;
  return saved;
}

bool CharacterCamera::restore(const Saved& saved) {
  if (saved.version != savedVersion || saved.designDigest != design_->digest()) return false;
  state_ = saved.state;
  return true;
}

}  // namespace alpglow
