// How time passes in `look`: the player's input, assists and blends in one order; and how framings change in between.

#include "camera_core.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/log_scales.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double finestPush = 0.005;  // seconds of the world in which one turns against a push
constexpr double finestLock = 0.005;  // seconds of the world in which a target close by is turned to …
constexpr double closeTarget = 2;     // … on the ground, metres of the subject's scale
constexpr int mostPieces = 1500;      // of a call of `look`: what is left of a longer one passes at once

}  // namespace

void CameraCore::look(FrameTime told, const Intent& intent) {
  if (!told.legal()) return parts_.report.fault(Fault::badTime);
  const FrameTime time = told.counted();
  applyRequests();
  const double pace = time.pace();
  if (intent.glance) parts_.angles.holdGlance(*intent.glance);
  parts_.report.block(intent.blocked);
  const bool hands = intent.looksAround(parts_.held.turn) || parts_.angles.glancing();
  if (hands) parts_.assists.handsOn();
  if (intent.aim) aim(*intent.aim);

  int pieces = 0;
  const bool good = playIntent(
      intent, parts_.held, time.player,
      [&](double seconds, const PlayedRates& rates) { advance(seconds, pace, rates, hands, pieces); },
      [&](const IntentSample& sample) { onSample(sample); });
  if (!good) parts_.report.fault(Fault::badIntent);
  if (time.player == 0) {
    advancePushes(time.world);
    assist(time.world, {}, hands, {});
  }
}

void CameraCore::onSample(const IntentSample& sample) {
  switch (sample.kind) {
    case IntentSample::Kind::look: return displace({sample.x, sample.y});
    case IntentSample::Kind::zoom: parts_.framing.zoom(sample.x, *design_); return applyFraming();
    case IntentSample::Kind::glance: return parts_.angles.holdGlance(sample.x > 0);
    case IntentSample::Kind::swapShoulder: return setShoulder(parts_.framing.otherShoulder());
    case IntentSample::Kind::swingBack: return swingBack();
    case IntentSample::Kind::aim: return aim(sample.x > 0);
    case IntentSample::Kind::switchPerspective: return switchPerspective();
    case IntentSample::Kind::turn:
    case IntentSample::Kind::zoomRate: return;  // rates, which playIntent holds
  }
}

void CameraCore::aim(bool holds) {
  parts_.framing.aim(holds);
  applyFraming();
}

LookConditions CameraCore::lookConditions() const {
  return {numbers(), pitchLimits(), parts_.framing.settings(*design_).orbitHalfLife, parts_.subject.body(), locked()};
}

/// `later` seconds of the world after this moment, with the look at this pitch: a lens that is a curve scales the look.
double CameraCore::lookScale(double pitch, double later) const {
  const LockExtras extras = parts_.assists.lock().extras();
  if (!parts_.framing.lensBends(*design_)) return parts_.framing.lookScale(*design_, extras);
  ActiveFraming then = parts_.framing;
  then.inputs().look(pitch);
  then.inputs().advanceNumbers(parts_.subject.ahead() + later, numbers().curves);
  return then.lookScale(*design_, extras);
}

/// What multiplies the rates of a stick in a piece of time: as it is in the middle.
Rate CameraCore::scaleOf(const PlayedRates& rates, double piece, double pace) const {
  const double share = guides() ? parts_.guide.meanShare(piece * pace, numbers().guide) : 1;
  const auto scaled = [&](double pitch, double later) {
    const double factor = lookScale(pitch, later) * share;
    return Rate{rates.turnScale.x * factor, rates.turnScale.y * factor};
  };
  const double pitch = parts_.angles.look().pitch;
  if (!parts_.framing.lensBends(*design_)) return scaled(pitch, 0);
  ViewAngles middle = parts_.angles;
  middle.advance(piece / 2, rates.turn, scaled(pitch, 0), lookConditions());
  return scaled(middle.look().pitch, piece / 2 * pace);
}

/// With limits that open as wide as they will be by then.
LookConditions CameraCore::conditionsIn(double seconds) const {
  LookConditions result = lookConditions();
  const PitchLimits now = result.pitch, then = parts_.framing.pitchLimitsIn(seconds, *design_);
  result.pitch = {std::min(now.low, then.low), std::max(now.high, then.high)};
  result.opensUp = (result.pitch.high - now.high) / seconds;
  result.opensDown = (now.low - result.pitch.low) / seconds;
  return result;
}

void CameraCore::displace(Displacement counts) {
  const double scale = lookScale(parts_.angles.look().pitch, 0) * (guides() ? parts_.guide.share(numbers().guide) : 1);
  const Displacement moved{counts.x * scale, counts.y * scale};
  const LookAngles before = parts_.angles.look();
  parts_.angles.displace(moved, lookConditions());
  countered(before);
  if (locked() && !parts_.angles.glancing()) parts_.assists.nudge(turnOf(moved, numbers().look), numbers().lock);
  if (moved.x != 0 || moved.y != 0) parts_.assists.handsOn();
}

/// `seconds` of the player's clock go by with these rates; the world's clock goes `pace` times as fast. `pieces` counts
/// those of the whole call.
void CameraCore::advance(double seconds, double pace, const PlayedRates& rates, bool hands, int& pieces) {
  const LookAngles turning = turnRates();
  const bool pushed = rates.turn.x != 0 || rates.turn.y != 0;
  const bool turns = pushed || turning.yaw != 0 || turning.pitch != 0 || parts_.assists.swingingBack() || guides();
  if (!parts_.framing.blending()) keepAim();  // over a cut
  // While something blends: half of that, then turning, then the other half (second order).
  const double finest = closeToTarget() ? finestLock / pace : seconds;
  for (double left = seconds; left > 0;) {
    double piece = std::min(parts_.framing.piece(left, turns), parts_.framing.untilZoomSteps(rates.zoomRate, *design_));
    // The scale changes with the pitch, or a glance meets limits that turn along.
    if (turns && (parts_.framing.lensBends(*design_) || parts_.angles.glancing())) piece = std::min(piece, finestTurn);
    piece = std::min(piece, finest);
    if (turns && parts_.pushes.any() && piece * pace > finestPush) piece = finestPush / pace;
    if (parts_.aim.on() && parts_.aim.left() > 0) piece = std::min(piece, std::max(parts_.aim.left(), 1e-9));
    if (++pieces >= mostPieces && piece < left) {
      piece = left;
      parts_.report.fault(Fault::costly);
    }
    advanceFraming(piece / 2);
    keepAim();
    const Rate scale = scaleOf(rates, piece, pace);
    advancePushes(piece / 2 * pace);
    const LookAngles before = parts_.angles.look();
    const bool limitsMove = parts_.framing.blending() && rates.turn.y != 0;
    parts_.angles.advance(piece, rates.turn, scale, limitsMove ? conditionsIn(piece / 2) : lookConditions());
    countered(before);
    const LookAngles turned = parts_.angles.look();
    const LookAngles byPlayer{shortestTurn(before.yaw, turned.yaw), turned.pitch - before.pitch};
    advancePushes(piece / 2 * pace);
    const int notches = parts_.framing.zoomAtRate(piece, rates.zoomRate, *design_);
    const LockPush push{turnRatesOf(rates.turn, scale, numbers().look), rates.turn, scale};
    assist(piece * pace, parts_.angles.glancing() ? LockPush() : push, hands, byPlayer);
    advanceFraming(piece / 2);
    keepAim();
    if (notches != 0) onSample(IntentSample::zoom(0, notches));
    left -= piece;
  }
  if (parts_.angles.glancing() || pushed) parts_.assists.handsOn();
}

/// Past a target close by the goal turns fast, and slower the closer it comes to the pivot's vertical.
bool CameraCore::closeToTarget() const {
  if (!locked()) return false;
  const FrameFollow& followed = parts_.subject.followed();
  const Vector3d away = followed.level().conjugate() * Vector3d(target().position - followed.point());
  return std::hypot(away.x(), away.z()) < closeTarget * followed.scale();
}

/// What a pitch limit keeps a push from is not taken back either.
void CameraCore::advancePushes(double seconds) {
  if (!parts_.pushes.any()) return;
  const LookAngles turn = parts_.pushes.advance(seconds, design_->pushes());
  if (turn.yaw == 0 && turn.pitch == 0) return;
  const double before = parts_.angles.look().pitch;
  parts_.angles.turnBy(turn, pitchLimits());
  parts_.pushes.counter({0, parts_.angles.look().pitch - before - turn.pitch}, design_->pushes(), numbers().pushLimits);
}

/// The player turned the look from there.
void CameraCore::countered(const LookAngles& before) {
  if (!parts_.pushes.any()) return;
  const LookAngles now = parts_.angles.look();
  parts_.pushes.counter({shortestTurn(before.yaw, now.yaw), now.pitch - before.pitch}, design_->pushes(),
                        numbers().pushLimits);
}

void CameraCore::advanceFraming(double seconds) {
  if (parts_.aim.on()) parts_.aim.advance(seconds);
  if (!parts_.framing.advance(seconds)) return;
  const double before = parts_.angles.look().pitch;
  parts_.angles.turnBy({}, pitchLimits());
  if (parts_.angles.look().pitch != before)
    parts_.aim.end();  // a limit that moves took the look along: nothing is kept
}

/// What turns beside the player.
void CameraCore::assist(double seconds, const LockPush& push, bool hands, const LookAngles& byPlayer) {
  if (locked()) {
    turnToTarget(seconds, push);
  } else {
    parts_.assists.rest(seconds, numbers().lock);
    if (guides()) {
      parts_.assists.handsOn();
      guideBy(seconds, byPlayer);
    } else if (hands || !parts_.assists.maySwingBack(swingBackSettings())) {
      parts_.assists.waitForHands(seconds);
    } else {
      swingBackBy(seconds);
    }
    if (numbers().idleDrift.rate != 0 || parts_.assists.driftRate() != 0) driftBy(seconds, hands);
  }
  parts_.subject.lookAhead(seconds);
}

/// As the framing that applies has them.
SwingBackSettings CameraCore::swingBackSettings() const {
  SwingBackSettings settings = numbers().swingBack;
  settings.rate *= parts_.framing.settings(*design_).swingBackScale;
  return settings;
}

void CameraCore::swingBackBy(double seconds) {
  SwingBackScene scene{parts_.subject.movement(), parts_.angles.heading(), fromDefaultPose()};
  // On what turns, movement and look as they will be in the middle (second order).
  if (parts_.subject.followed().yawRate() != 0) {
    const double carried = parts_.subject.predicted(seconds / 2, followSettings()).carriedYaw();
    scene.movement = parts_.subject.movementIn(seconds / 2);
    scene.yaw = wrapAngle(scene.yaw + carried);
  }
  const PoseChange change = parts_.assists.swingBack(seconds, scene, swingBackSettings());
  if (change.yaw != 0 || change.pitch != 0) parts_.angles.turnBy({change.yaw, change.pitch}, pitchLimits());
  parts_.framing.addLogDistance(change.distance, *design_);
}

/// Eyes do not drift, and nothing drifts from under a crosshair that aims.
void CameraCore::driftBy(double seconds, bool hands) {
  if (hands || guides() || parts_.framing.aims() || perspective() == Perspective::first)
    return parts_.assists.endDrift();
  const bool stands = parts_.subject.movement().speed <= standingSpeed;
  parts_.angles.turnBy({parts_.assists.drift(seconds, stands, numbers().idleDrift), 0}, pitchLimits());
}

PoseChange CameraCore::fromDefaultPose() const {
  const LookAngles look = parts_.angles.look();
  const Framing& framing = parts_.framing.settings(*design_);
  return {shortestTurn(parts_.subject.body(), look.yaw), look.pitch - framing.defaultPitch,
          logDistance(parts_.framing.distance().target()) - logDistance(parts_.framing.defaultDistance(*design_))};
}

void CameraCore::turnToTarget(double seconds, const LockPush& push) {
  const ShownFraming framing = shownFraming();
  const double ahead = std::min(seconds, longestPrediction);
  const FrameFollow now = parts_.subject.predicted(0, followSettings()),
                    then = parts_.subject.predicted(ahead, followSettings());
  const LockGoal from = lockGoalFor(now, framing);
  parts_.assists.targetMoves(ahead);
  LockGoal to = lockGoalFor(then, framing);
  // What turns under the camera takes the look along, once that is told: the goal stays behind by as much.
  to.yaw -= then.carriedYaw() - now.carriedYaw();
  const LookAngles look{parts_.angles.look().yaw + now.carriedYaw(), parts_.angles.look().pitch};
  const LookAngles turn = parts_.assists.turnToTarget(seconds, from, to, look, push, numbers().lock);
  parts_.angles.turnBy(turn, framing.pitch);
}

void CameraCore::guideBy(double seconds, const LookAngles& byPlayer) {
  const ShownFraming framing = shownFraming();
  LookAngles look = parts_.angles.look(), from = parts_.guide.direction(look), to = from;
  double authority = 1;
  if (const std::optional<Vector3d> point = parts_.guide.point()) {
    const FrameFollow now = parts_.subject.predicted(0, followSettings()),
                      then = parts_.subject.predicted(std::min(seconds, longestPrediction), followSettings());
    const auto toward = [&](const FrameFollow& follow) {
      const AimFrame frame = aimFrameOn(follow, framing.pose);
      const AimSolution solved = aimAt(frame.level.conjugate() * Vector3d(*point - frame.anchor), frame.axis);
      authority = std::min(authority, solved.authority);
      return solved.look;
    };
    from = toward(now), to = toward(then);
    to.yaw -= then.carriedYaw() - now.carriedYaw();
    look.yaw += now.carriedYaw();
  }
  for (LookAngles* goal : {&from, &to}) goal->pitch = std::clamp(goal->pitch, framing.pitch.low, framing.pitch.high);
  const LookAngles turn = parts_.guide.step(seconds, from, to, look, byPlayer, numbers().guide);
  parts_.angles.turnBy({authority * turn.yaw, authority * turn.pitch}, framing.pitch);
}

LockGoal CameraCore::lockGoalFor(const FrameFollow& follow, const ShownFraming& framing) const {
  const Rotation toLevel = follow.level().conjugate();
  const Vector3d anchor = anchorOn(follow, framing.pose);
  const double scale = follow.scale();
  const Framing& settings = parts_.framing.settings(*design_);
  LockScene scene;
  scene.target = toLevel * (target().position - anchor) / scale;
  scene.eyes = toLevel * (follow.head() - anchor) / scale;
  scene.shoulder = framing.pose.shoulder;
  scene.tilt = framing.pose.tilt;
  scene.distance = parts_.framing.distance().shown();
  scene.range = settings.distanceRange;
  scene.fieldOfView = parts_.framing.ownFieldOfView(*design_);
  scene.aspect = parts_.framing.aspect();
  scene.pitch = framing.pitch;
  scene.defaultPitch = settings.defaultPitch;
  scene.presentYaw = heading();
  return lockGoal(scene, numbers().lock);
}

void CameraCore::applyRequests() {
  const bool eyes = parts_.placement.eyesWanted();
  if (eyes == parts_.framing.showsEyes()) return;
  parts_.framing.showEyes(eyes);
  parts_.report.event(eyes ? Event::eyesTookOver : Event::eyesGaveBack);
  applyFraming();
}

/// To the framing that applies now, from wherever things are: everyone hears of it in turn.
void CameraCore::applyFraming() {
  if (!parts_.framing.changeDue(*design_)) return;
  catchUp();
  readPitch();
  beginKeepingAim(parts_.framing.keepCap(*design_));
  const FrameFollowSettings before = followSettings();
  const FramingChange change =
      parts_.framing.change(*design_, parts_.assists.lock().extras(), parts_.angles.look().pitch);
  parts_.subject.retune(before, followSettings(), change.seconds, change.anchorHeight);
  if (!(change.seconds > 0)) parts_.angles.turnBy({}, pitchLimits());
  parts_.report.event(Event::framingChanged | (change.seconds > 0 ? 0u : Event::cut));
  goOnKeepingAim();
}

/// Curves over the pitch are read off at the look of this moment.
void CameraCore::readPitch() { parts_.framing.inputs().look(parts_.angles.look().pitch); }

/// Goes along with the subject to the present moment of `look`, so that what changes there changes at its time.
void CameraCore::catchUp() {
  if (!parts_.subject.behind() || parts_.report.cutDue()) return;
  advanceNumbers(parts_.subject.ahead());
  apply(parts_.subject.catchUp(followSettings(), numbers().motion));
}

/// The crosshair stays on what it is on at this moment, as far as a turn of `cap` allows.
void CameraCore::beginKeepingAim(double cap) {
  if (cap <= 0 || parts_.aim.on() || parts_.report.cutDue() || locked()) return;
  const ShownFraming framing = shownFraming();
  const FrameFollow now = parts_.subject.predicted(0, followSettings());
  parts_.aim.begin(parts_.framing.course(*design_), aimFrameOn(now, framing.pose),
                   shownLook(framing.pitch, now.carriedYaw()), cap);
}

/// To the end of the change, if nothing comes in the way.
bool CameraCore::canKeepAim() const {
  return parts_.aim.canKeep(parts_.subject.followed(), parts_.framing.course(*design_), shownLook(pitchLimits()),
                            parts_.framing.settings(*design_).pitch);
}

/// Another change on top may ask for too much.
void CameraCore::goOnKeepingAim() {
  if (!parts_.aim.known() || canKeepAim()) return;
  parts_.aim.giveUp(parts_.subject.followed(), parts_.framing.course(*design_), shownLook(pitchLimits()));
}

/// With the glance and what nudges it; and what the platform is yet to turn it by.
LookAngles CameraCore::shownLook(const PitchLimits& pitch, double predictedYaw) const {
  const LookAngles look = parts_.angles.orbit(parts_.assists.lock().nudged(), pitch);
  return predictedYaw == 0 ? look : LookAngles{wrapAngle(look.yaw + predictedYaw), look.pitch};
}

/// Turns the look so that the kept point is under the crosshair.
void CameraCore::keepAim() {
  if (!parts_.aim.on()) return;
  if (locked()) return parts_.aim.end();
  const ShownFraming framing = shownFraming();
  const FrameFollow& followed = parts_.subject.followed();
  const LookAngles turn = parts_.aim.step(aimFrameOn(followed, parts_.aim.before()), aimFrameOn(followed, framing.pose),
                                          shownLook(framing.pitch));
  parts_.angles.turnBy(turn, framing.pitch);
  parts_.aim.turned(shownLook(framing.pitch));
  if (!parts_.framing.blending() && parts_.aim.settled()) parts_.aim.end();
}

}  // namespace alpglow
