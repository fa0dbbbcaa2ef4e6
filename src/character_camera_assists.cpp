// What turns the character's camera beside the player: recentring and lock on.

#include "alpglow/blend_space.hpp"
#include "alpglow/character_camera.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double longestPrediction = 10;  // seconds; whatever the frame time, nothing is foreseen beyond that

double angleBetween(const LookAngles& a, const LookAngles& b) {
  const Vector3d u = rotationOf(a.yaw, a.pitch).col(2), v = rotationOf(b.yaw, b.pitch).col(2);
  return std::atan2(u.cross(v).norm(), u.dot(v));
}

bool legalTarget(const Target& target) {
  const auto legal = [](const Vector3d& p) { return p.allFinite() && p.cwiseAbs().maxCoeff() <= 1e9; };
  return legal(target.position) && legal(target.velocity) && target.radius >= 0;
}

}  // namespace

void CharacterCamera::assist(double seconds, const LookAngles& turning, bool hands) {
  const CameraDesign& design = design_->design();
  if (state_.lock.on()) {
    state_.recentre.stop();
    assistByLock(seconds, turning);
  } else {
    state_.lock.rest(seconds, design.lock);
    if (hands) {
      state_.recentre.rest(seconds);
    } else {
      assistByRecentring(seconds);
    }
  }
  state_.ahead = std::min(state_.ahead + seconds, longestPrediction);
}

void CharacterCamera::assistByRecentring(double seconds) {
  const RecentreSettings& settings = design_->design().recentre;
  if (settings.rate <= 0 && settings.idle <= 0 && !state_.recentre.turning()) return state_.recentre.rest(seconds);
  // On what turns, way and look as they will be in the middle (second order).
  Heading way = movement();
  double yaw = state_.look.shown().yaw;
  if (state_.follow.yawRate() != 0) {
    const double middle = std::min(state_.ahead + seconds / 2, longestPrediction);
    way.yaw = wrapAngle(way.yaw + state_.follow.turning() * middle);
    yaw = wrapAngle(yaw + state_.follow.predicted(state_.velocity, middle, followSettings()).carriedYaw());
  }
  const PoseChange change = state_.recentre.step(seconds, way, yaw, fromDefaultPose(), settings);
  if (change.yaw != 0 || change.pitch != 0) state_.look.turnBy({change.yaw, change.pitch}, pitchLimits());
  if (change.distance != 0) state_.distance.scaleSpace(change.distance, framing().distanceRange);
  state_.recentred += change.yaw;
}

Heading CharacterCamera::movement() const {
  const ReferenceFrame frame = state_.follow.frame();
  const Vector3d own = state_.follow.level().conjugate() * (state_.velocity.vector() - frame.velocity);
  return {std::atan2(-own.x(), -own.z()), std::hypot(own.x(), own.z()) / frame.scale};
}

PoseChange CharacterCamera::fromDefaultPose() const {
  const LookAngles look = state_.look.shown();
  return {shortestTurn(state_.body, look.yaw), look.pitch - framing().defaultPitch,
          distanceSpace(state_.distance.wanted()) - distanceSpace(framing().distance)};
}

void CharacterCamera::recentre() {
  const RecentreSettings& settings = design_->design().recentre;
  if (!state_.lock.on()) state_.recentre.begin(fromDefaultPose(), settings.buttonTime, settings);
}

void CharacterCamera::assistByLock(double seconds, const LookAngles& leanRates) {
  const LockSettings& settings = design_->design().lock;
  const FrameFollowSettings how = followSettings();
  const auto goalAt = [&](double ahead) {
    return goalFrom(state_.follow.predicted(state_.velocity, ahead, how), state_.lock.target(), state_.shown.aspect);
  };
  const double foreseen = std::min(seconds, longestPrediction);
  const LockGoal from = goalAt(state_.ahead);
  state_.lock.targetMoves(foreseen);
  const LockGoal to = goalAt(state_.ahead + foreseen);
  const LookAngles turn = state_.lock.step(seconds, from, to, state_.look.shown(), leanRates, settings);
  state_.look.turnBy(turn, pitchLimits());
}

LockGoal CharacterCamera::goalFrom(const FrameFollow& follow, const Target& target, double aspect) const {
  const Rotation toLevel = follow.level().conjugate();
  const Vector3d anchor = anchorOf(follow);
  const double scale = follow.scale();
  LockScene scene;
  scene.target = toLevel * (target.position - anchor) / scale;
  scene.eyes = toLevel * (follow.head() - anchor) / scale;
  scene.shoulder = number(FramingNumber::shoulder);
  scene.tilt = number(FramingNumber::tilt);
  scene.distance = state_.distance.shown();
  scene.range = framing().distanceRange;
  scene.fieldOfView = fieldOfViewFrom(number(FramingNumber::lens));
  scene.aspect = aspect;
  scene.pitch = pitchLimits();
  scene.defaultPitch = framing().defaultPitch;
  scene.presentYaw = state_.look.shown().yaw;
  return lockGoal(scene, design_->design().lock);
}

void CharacterCamera::lockOn(const Target& target) {
  if (!legalTarget(target)) {
    state_.intentFaults |= Fault::badTarget;
    return;
  }
  if (!state_.lock.on() || state_.lock.target().id != target.id) state_.events |= Event::lockBegan;
  state_.lock.begin(target);
}

void CharacterCamera::endLock() {
  if (!state_.lock.on()) return;
  state_.lock.end();
  state_.recentre.stop();
  state_.events |= Event::lockEnded;
}

/// Loses the target that is too far or was hidden for too long; says how far the view is from its goal.
void CharacterCamera::watchTarget(double worldDt, const Vector3d& head, const Obstacles& obstacles) {
  StoredView& shown = state_.shown;
  shown.lock = noTarget;
  shown.lockError = 0;
  shown.flick = {};
  if (!state_.lock.on()) return;
  const LockSettings& settings = design_->design().lock;
  const Target target = state_.lock.target();
  const Vector3d way = target.position - head;
  const double distance = way.norm(), range = settings.range * state_.follow.scale();
  const Contact contact = distance > 0 ? obstacles.cast(head, way) : Contact();
  const bool hidden = contact.hit() && contact.distance < distance - target.radius;
  if (state_.lock.lost(worldDt, hidden, settings) || distance > range) {
    state_.lock.end();
    state_.recentre.stop();
    state_.events |= Event::lockLost;
    return;
  }
  shown.lock = target.id;
  const LockGoal goal = goalFrom(state_.follow, target, shown.aspect);
  shown.lockError = angleBetween(state_.look.shown(), {goal.yaw, goal.pitch});
  shown.flick = state_.lock.takeFlick();
  if (shown.flick.x != 0 || shown.flick.y != 0) state_.events |= Event::targetFlick;
}

}  // namespace alpglow
