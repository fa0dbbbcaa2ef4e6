#include "alpglow/character_camera.hpp"

#include "alpglow/blend_space.hpp"
#include "alpglow/half_life.hpp"
#include "alpglow/intent_player.hpp"

#include <algorithm>
#include <cmath>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

static_assert(std::is_trivially_copyable_v<CharacterCamera>);
static_assert(std::is_trivially_copyable_v<CharacterCamera::Saved>);
static_assert(sizeof(CharacterCamera) <= 3328);

namespace {

constexpr std::uint32_t savedVersion = 4;
constexpr double farthestPosition = 1e9;
constexpr double fastestPace = 1e9;  // of the world's clock over the player's, so that no time times it is not a number

bool legalTime(double dt) { return std::isfinite(dt) && dt >= 0; }
bool legalPosition(const Vector3d& p) { return p.cwiseAbs().maxCoeff() <= farthestPosition && p.allFinite(); }
bool legalSubject(const Subject& s) {
  return legalPosition(s.feet) && legalPosition(s.head) && legalPosition(s.velocity) && std::isfinite(s.heading) &&
         s.frame.legal();
}
bool legalAspect(double aspect) { return aspect >= 0.05 && aspect <= 20; }

}  // namespace

CharacterCamera::CharacterCamera(const CompiledDesign& design, const Subject& subject) : design_(&design) {
  const Subject placed = legalSubject(subject) ? subject : Subject();
  const std::vector<NamedFraming>& framings = design.design().framings;
  for (std::size_t i = 0; i < framings.size(); ++i) state_.remembered[i] = framings[i].framing.distance;
  state_.perspective = framings.front().perspective;
  state_.active = state_.from = static_cast<std::uint8_t>(design.select(state_.perspective, 0));
  setPose({placed.heading, framing().defaultPitch, framing().distance});
  state_.follow.cut(placed);
  state_.body = placed.heading;
  ClearPose pose;
  pose.pivot = pose.camera = placed.head;
  pose.near = framing().near;
  show(placed, state_.shown.aspect, pose, LookAngles(), true, false);
}

void CharacterCamera::look(FrameTime time, const Intent& intent) {
  if (!legalTime(time.player) || !legalTime(time.world)) {
    state_.intentFaults |= Fault::badTime;
    return;
  }
  const CameraDesign& design = design_->design();
  const double orbit = framing().orbitHalfLife,
               pace = time.player > 0 ? std::min(time.world / time.player, fastestPace) : 0;
  Look& look = state_.look;
  FreeLook& free = state_.freeLook;
  free.hold(intent.freeLook);
  state_.blocked = intent.blocked;
  const bool hands = intent.looksAround() || free.held();
  if (hands) state_.recentre.stop();

  setCondition(Condition::aiming, intent.aim);

  const auto pass = [&](double seconds, const PlayedRates& rates) {
    const bool tied = !free.held() && !state_.lock.on();
    const bool pushed = rates.turn.x != 0 || rates.turn.y != 0;
    const bool turns = pushed || look.rate().yaw != 0 || look.rate().pitch != 0 || state_.recentre.turning();
    // While things go over: half of that, then turning, then the other half (second order).
    if (state_.blend.done()) keepAimAhead(0);  // over a cut
    for (double left = seconds; left > 0;) {
      const double part = pieceOf(left, turns);
      passNumbers(part / 2);
      keepAimAhead(std::min(part / 2 * pace, 1.0));
      const double scale = lookScale();
      const Rate scaled{rates.turnScale.x * scale, rates.turnScale.y * scale};
      look.pass(part, tied ? rates.turn : Rate(), scaled, design.look, pitchLimits(), orbit);
      free.pass(part, free.held() ? rates.turn : Rate(), scaled, look.shown(), state_.body, design.look,
                design.freeLook, pitchLimits());
      state_.distance.pass(part, rates.zoomRate, design.zoom, framing().distanceRange);
      assist(part * pace, free.held() ? LookAngles() : turnRatesOf(rates.turn, scaled, design.look), hands);
      passNumbers(part / 2);
      keepAimAhead(0);
      left -= part;
    }
    if (free.held() || pushed) state_.recentre.stop();
  };
  const auto displace = [&](Displacement counts) {
    const double scale = lookScale();
    const Displacement moved{counts.x * scale, counts.y * scale};
    if (free.held()) {
      free.displace(moved, look.shown(), state_.body, design.look, design.freeLook, pitchLimits());
    } else if (state_.lock.on()) {
      state_.lock.lean(turnOf(moved, design.look), design.lock);
    } else {
      look.displace(moved, design.look, pitchLimits(), orbit);
    }
    if (moved.x != 0 || moved.y != 0) state_.recentre.stop();
  };
  const auto happen = [&](const IntentSample& sample) {
    if (sample.kind == IntentSample::Kind::look) displace({sample.x, sample.y});
    if (sample.kind == IntentSample::Kind::zoom) zoomBy(sample.x);
    if (sample.kind == IntentSample::Kind::freeLook) free.hold(sample.x > 0);
    if (sample.kind == IntentSample::Kind::swapShoulder) swapShoulder();
    if (sample.kind == IntentSample::Kind::recentre) recentre();
    if (sample.kind == IntentSample::Kind::aim) setCondition(Condition::aiming, sample.x > 0);
    if (sample.kind == IntentSample::Kind::switchPerspective) switchPerspective();
  };
  if (!playIntent(intent, time.player, pass, happen)) state_.intentFaults |= Fault::badIntent;
  if (time.player == 0) assist(time.world, {}, hands);
}

void CharacterCamera::changeSubject(const Subject& subject) {
  if (!legalSubject(subject)) {
    state_.intentFaults |= Fault::badSubject;
    return;
  }
  state_.follow.cut(subject);
  state_.recentre.stop();
  state_.cutNext = true;
}

View CharacterCamera::update(FrameTime time, const SubjectPath& path, const Obstacles& obstacles, double aspect) {
  state_.shownFaults = faultsOf(time, path, aspect);
  state_.intentFaults = 0;
  state_.shown.events = 0;
  const double worldLeft = std::max(time.world - state_.watched, 0.0);
  state_.watched = 0;
  if ((state_.shownFaults & ~std::uint32_t{Fault::badIntent | Fault::badTarget}) != 0) {
    state_.advanced = 0;
    return view();
  }

  const Subject& subject = path.last();
  const bool jump = jumped(path, worldLeft);
  const bool cut = state_.cutNext || jump;
  if (cut) {
    state_.clear.cut();
    state_.motion.cut();
    state_.focus.cut();
    state_.blend.finish();
    state_.aim.end();
  }

  follow(path, worldLeft, cut);
  watchTarget(time.world, subject.head, obstacles);
  state_.sway.pass(time.world, design_->design().motion.breath.period);
  const Vector3d eyeMotion = movedEyes(subject.frame.scale);
  const ClearPose pose = placeOnAim(subject, eyeMotion, obstacles, time.player, aspect);
  const LookAngles steady = steadyTurn(pose.camera, eyeMotion, obstacles, time.player);

  show(subject, aspect, pose, steady, cut, jump);
  castAim(obstacles);
  state_.cutNext = false;
  letEyesTakeOver(subject, obstacles, time.player, aspect);
  return view();
}

void CharacterCamera::watch(double seconds, const Subject& subject) {
  if (!legalTime(seconds) || !legalSubject(subject)) {
    state_.intentFaults |= legalTime(seconds) ? Fault::badSubject : Fault::badTime;
    return;
  }
  state_.watched += seconds;
  if (jumped(subject, seconds)) {
    state_.follow.cut(subject);
    state_.cutNext = true;
    state_.events |= Event::teleport;
  } else {
    followTo(subject, std::max(seconds - state_.advanced, 0.0));
  }
  state_.advanced = 0;
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
  const auto jumps = [&](const Subject& subject, const Vector3d& way) {
    const Vector3d own = subject.velocity - subject.frame.velocity;
    return subject.teleported || way.norm() - own.norm() * worldDt / subject.frame.scale > chased;
  };
  if (path.bends().empty()) return jumps(path.last(), state_.follow.way(path.last()));
  const Subject* from = nullptr;
  const auto jumpsTo = [&](const Subject& subject) {
    const ReferenceFrame& frame = subject.frame;
    const bool same = from != nullptr && from->frame.id == frame.id;
    const Vector3d way = from == nullptr ? state_.follow.way(subject)
                         : same          ? Vector3d(frame.toLocal(subject.feet) - from->frame.toLocal(from->feet))
                                         : frame.turnToLocal(subject.feet - from->feet);
    from = &subject;
    return jumps(subject, way);
  };
  return std::any_of(path.bends().begin(), path.bends().end(),
                     [&](const SubjectSample& s) { return jumpsTo(s.subject); }) ||
         jumpsTo(path.last());
}

LookAngles CharacterCamera::shownLook() const {
  const LookAngles look = state_.look.orbit(), free = state_.freeLook.offset(), lean = state_.lock.leaning();
  return limited({look.yaw + free.yaw + lean.yaw, look.pitch + free.pitch + lean.pitch}, pitchLimits());
}

double CharacterCamera::shownDistance() const {
  const double raise = state_.lock.raise();
  const double distance =
      state_.blend.done() ? state_.distance.shown() : std::max(distanceFrom(number(FramingNumber::distance)), 0.0);
  if (raise == 0) return distance;
  return std::clamp(distanceFrom(distanceSpace(distance) + raise), distance,
                    std::max(distance, framing().distanceRange.farthest));
}

double CharacterCamera::shownFieldOfView() const {
  const double widen = state_.lock.widen(), own = design_->fieldOfView(state_.active, state_.steps[state_.active]);
  const double fieldOfView = state_.blend.done() ? own
                                                 : std::clamp(fieldOfViewFrom(number(FramingNumber::lens)),
                                                              design_->narrowest(), design_->widest());
  if (widen == 0) return fieldOfView;
  return std::min(fieldOfViewFrom(lensSpace(fieldOfView) + widen),
                  std::max(fieldOfView, design_->design().lock.widest));
}

FrameFollowSettings CharacterCamera::followSettings() const {
  return {framing().follow, framing().eyeHalfLife, design_->design().lead, design_->design().platform};
}

/// Feet, eye height and head motion, piece by piece along the subject's path.
void CharacterCamera::follow(const SubjectPath& path, double worldDt, bool cut) {
  const Subject& last = path.last();
  state_.body = last.heading;
  if (cut) {
    state_.follow.cut(last);
    state_.velocity = last.velocity;
    state_.ahead = state_.advanced = 0;
    return;
  }
  double now = std::min(state_.advanced, worldDt);
  state_.advanced = 0;
  for (const SubjectSample& bend : path.bends()) {
    const double until = std::clamp(bend.time, now, worldDt);
    followTo(bend.subject, until - now);
    now = until;
  }
  followTo(last, worldDt - now);
}

void CharacterCamera::followTo(const Subject& subject, double seconds) {
  if (subject.frame.id != state_.follow.id()) state_.events |= Event::platformChanged;
  const double along = state_.follow.wayAlong(subject);
  state_.follow.step(subject, seconds, followSettings());
  state_.look.turnBy({state_.follow.carriedYaw(), 0}, pitchLimits());
  state_.aim.carried(state_.follow.carriedYaw());
  state_.body = subject.heading;
  state_.velocity = subject.velocity;
  state_.ahead = 0;
  if (!design_->design().motion.any()) return;
  const double falling = -subject.frame.up.dot(subject.velocity - subject.frame.velocity) / subject.frame.scale;
  state_.motion.step({along, seconds, subject.onGround, falling}, design_->design().motion);
}

/// Goes along with the subject to the present moment of `look`, so that what changes there changes at its time.
void CharacterCamera::followToNow() {
  const double seconds = state_.ahead;
  if (seconds <= instant || state_.cutNext) return;
  Subject now = state_.follow.expected(state_.velocity, seconds);
  now.heading = state_.body;
  now.onGround = state_.motion.onGround();
  followTo(now, seconds);
  state_.advanced += seconds;
}

Vector3d CharacterCamera::anchorOf(const FrameFollow& follow) const {
  return anchorAt(follow, number(FramingNumber::anchorHeight), number(FramingNumber::anchorRise));
}

Vector3d CharacterCamera::anchorAt(const FrameFollow& follow, double height, double rise) const {
  const Vector3d up = follow.level() * Vector3d::UnitY();
  return follow.point() + height * follow.eyes() + rise * follow.scale() * up;
}

/// Where bob, dip and breathing move the eyes.
Vector3d CharacterCamera::movedEyes(double scale) const {
  if (!design_->design().motion.any()) return Vector3d::Zero();
  const Eigen::Vector2d motion =
      state_.motion.offset(design_->design().motion) * scale * number(FramingNumber::bobScale);
  const Eigen::Matrix3d level = state_.follow.level() * rotationOf(shownLook().yaw, 0);
  return motion.x() * level.col(0) + motion.y() * level.col(1);
}

/// Of the camera: its anchor's, and around it as the platform turns.
Vector3d CharacterCamera::velocity(const ClearPose& pose) const {
  const FrameFollow& follow = state_.follow;
  const Vector3d along = follow.velocity(state_.velocity, followSettings());
  if (follow.yawRate() == 0) return along;
  const Vector3d turning = follow.yawRate() * (follow.level() * Vector3d::UnitY());
  return along + turning.cross(pose.camera - anchorOf(follow));
}

std::uint32_t CharacterCamera::eventsOf(const ClearPose& pose, bool cut, bool jump) const {
  const StoredView& before = state_.shown;
  const bool pulledIn = state_.clear.pulledIn() || pose.headBlocked;
  const bool recentring = state_.recentre.turning();
  std::uint32_t events = state_.events;
  const auto add = [&events](bool happened, Event::Bit bit) { events |= happened ? bit : 0u; };
  add(cut, Event::cut);
  add(jump, Event::teleport);
  add(pulledIn && !before.pulledIn, Event::pullInBegan);
  add(!pulledIn && before.pulledIn, Event::pullInEnded);
  add(pose.headBlocked && !before.headBlocked, Event::headBlocked);
  add(!pose.headBlocked && before.headBlocked, Event::headFreed);
  add(recentring && !before.recentring, Event::recentreBegan);
  add(!recentring && before.recentring, Event::recentreEnded);
  return events;
}

void CharacterCamera::show(const Subject& subject, double aspect, const ClearPose& pose, const LookAngles& steady,
                           bool cut, bool jump) {
  StoredView& shown = state_.shown;
  shown.events = eventsOf(pose, cut, jump);
  state_.events = 0;
  shown.rate = {turnRates().yaw + state_.follow.yawRate(), turnRates().pitch};
  shown.head = subject.head;
  shown.pivot = pose.pivot;
  shown.camera = pose.camera;
  shown.velocity = velocity(pose);
  const LookAngles look = shownLook();
  const LookAngles sway = state_.sway.turn(number(FramingNumber::sway));
  shown.look = limited({look.yaw + steady.yaw + sway.yaw, look.pitch + steady.pitch + sway.pitch}, pitchLimits());
  shown.sway = sway;
  shown.level = state_.follow.level();
  shown.steady = steady;
  shown.heading = heading();
  shown.freeLook = state_.freeLook.offset();
  shown.fromBody = shortestTurn(subject.heading, look.yaw);
  const Eigen::Vector2d motion = state_.motion.offset(design_->design().motion) * number(FramingNumber::bobScale);
  shown.bobRight = motion.x();
  shown.bobUp = motion.y();
  shown.fieldOfView = shownFieldOfView();
  shown.aspect = aspect;
  shown.near = pose.near;
  shown.far = framing().far * subject.frame.scale;
  shown.distance = pose.distance;
  shown.freeDistance = shownDistance() * subject.frame.scale;
  shown.opacity = opacityAt((pose.camera - subject.head).norm() / subject.frame.scale);
  shown.obstacle = pose.obstacle;
  shown.framing = state_.active;
  shown.framingFrom = state_.from;
  shown.framingBlend = state_.blend.progress();
  shown.firstPerson = std::clamp(number(FramingNumber::firstPerson), 0.0, 1.0);
  shown.lookScale = lookScale();
  shown.pulledIn = state_.clear.pulledIn() || pose.headBlocked;
  shown.headBlocked = pose.headBlocked;
  shown.recentring = state_.recentre.turning();
  shown.recentred = state_.recentred;
  shown.holdoff = state_.recentre.holdoffLeft(design_->design().recentre);
  state_.recentred = 0;
}

View CharacterCamera::view() const { return state_.shown.view(state_.shownFaults, state_.blocked); }

void CharacterCamera::setPose(const CameraPose& pose) {
  if (!std::isfinite(pose.yaw) || !std::isfinite(pose.pitch) || !std::isfinite(pose.distance)) return;
  state_.blend.finish();
  state_.aim.end();
  state_.look = Look(limited({pose.yaw, pose.pitch}, framing().pitch));
  state_.freeLook = FreeLook();
  state_.recentre.stop();
  const DistanceRange& range = framing().distanceRange;
  state_.distance = OrbitDistance(std::clamp(pose.distance, range.nearest, range.farthest));
  state_.cutNext = true;
}

void CharacterCamera::shift(const Vector3d& offset) {
  if (!legalPosition(offset)) return;
  state_.follow.shift(offset);
  state_.lock.shift(offset);
  state_.aim.shift(offset);
  for (Plain3* point : {&state_.shown.head, &state_.shown.pivot, &state_.shown.camera, &state_.shown.aimPoint})
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
