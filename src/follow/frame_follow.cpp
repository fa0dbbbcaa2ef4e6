#include "alpglow/follow/frame_follow.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double unlimited = farthestPosition;
constexpr double mostLeashes = 3;  // however often settings change in mid-swing, it swings no farther
constexpr double nothing = 1e-6;   // metres of rest that are not worth planning anew what is left of something else
constexpr double directly = 0.1;   // up that turns by less in one step, radians, is followed as it is

FollowSettings evenly(double halfLife, double leash) {
  return {FollowKind::exponential, halfLife, halfLife, leash, leash, {}, unlimited};
}

double leashes(const FrameFollowSettings& settings) { return settings.feet.leash + settings.feet.verticalLeash; }

/// The slow follower whose negative lag is the lead: a lag of v/λ times λ·time is v·time ahead.
FollowSettings slowly(const LeadSettings& lead) {
  const double factor = lead.time * rateConstant(lead.halfLife);
  return evenly(lead.halfLife, factor > 0 ? lead.longest / factor : 0);
}

bool same(const LeadSettings& a, const LeadSettings& b) {
  return a.time == b.time && a.halfLife == b.halfLife && a.longest == b.longest;
}

/// How far ahead the point is for each metre that the slow one lags behind.
double leadFactor(const FrameFollowSettings& settings) {
  const LeadSettings& lead = settings.lead;
  return lead.time > 0 ? settings.leadScale * lead.time * rateConstant(lead.halfLife) : 0;
}

}  // namespace

void FrameFollow::cut(const Subject& told) {
  const Subject subject = told.rooted();
  const Rotation level = level_.rotation();
  *this = FrameFollow();
  level_ = StoredRotation(level);
  turnLevel(subject.frame.up, 0, 0);
  tipped_.finish();
  keep(subject.frame);
  turning_ = subject.frame.yawRate;
  airborne_ = !subject.onGround;
  feet_.cut(subject.frame.toLocal(subject.feet));
  slow_.cut(feet_.target());
  eyes_.cut(subject.frame.turnToLocal(subject.head - subject.feet));
}

void FrameFollow::step(const Subject& told, double seconds, const FrameFollowSettings& settings) {
  const Subject subject = told.rooted();
  left_.advance(seconds);
  tipped_.advance(seconds);
  if (subject.frame.id == id_) {
    carry(subject.frame, seconds, settings.platform);
    ride(subject, seconds, settings);
  } else {
    change(subject, seconds, settings);
  }
  if (!withinReach()) cut(subject);
}

void FrameFollow::ride(const Subject& subject, double seconds, const FrameFollowSettings& settings) {
  const ReferenceFrame& frame = subject.frame;
  turnLevel(frame.up, settings.platform.change, directly);
  if (frame.scale != scale_) {
    for (Follow* follow : {&feet_, &slow_}) follow->scale(scale_ / frame.scale);
    zone_.scale(scale_ / frame.scale);
  }
  keep(frame);
  const Vector3d up = frame.untouched() ? frame.up : Vector3d(frame.rotation.conjugate() * frame.up);
  const Vector3d feet = frame.toLocal(subject.feet);
  leadFactor_ = leadFactor(settings);
  airborne_ = airborne_ || !subject.onGround;
  followFeet(feet, up, seconds, settings.feet);
  settle(subject.onGround, seconds, settings.feet.rest);
  if (settings.lead.time > 0) slow_.step(feet, seconds, slowly(settings.lead), up);
  const double eyes = settings.eyeHalfLife;
  eyes_.step(frame.turnToLocal(subject.head - subject.feet), seconds, evenly(eyes, unlimited), up);
}

void FrameFollow::followFeet(const Vector3d& feet, const Vector3d& up, double seconds, const FollowSettings& settings) {
  const bool rests = settings.rest.aside() || (airborne_ && settings.rest.above + settings.rest.below > 0);
  const Vector3d from = feet_.target() - zone_.offset(up), moved = feet - from;
  const bool jumps = moved.norm() > settings.teleportDistance;
  if (jumps) zone_ = RestZone();
  if (jumps || (!rests && !zone_.resting())) {
    feet_.step(feet, seconds, settings, up);
    return;
  }
  zone_.step(moved, up, !airborne_, seconds, settings.rest,
             [&](const Vector3d& way, double piece) { feet_.step(feet_.target() + way, piece, settings, up); });
}

/// What rests above or below goes where it stands within the time, and so does what rests beside a subject that has
/// stood for long.
void FrameFollow::settle(bool onGround, double seconds, const RestZoneSettings& settings) {
  const bool lands = onGround && zone_.rise() != 0;
  const double due = zone_.due(settings);
  if (onGround) airborne_ = false;
  if (!lands && due < 0) return;
  Vector3d left = Vector3d::Zero();
  if (lands) left += zone_.rise() * localUp();
  if (due >= 0) left += zone_.aside();
  if (lands) zone_.land();
  if (due >= 0) zone_.gather();
  feet_.shift(-left);
  if (left.norm() <= nothing) return;
  left_.begin(left_.difference() + turned(left), settings.catchUp);
  if (due > 0) left_.advance(std::min(due, seconds));  // more, if it has become due by another framing
}

/// The way there was a straight line in the world, in the axes of what it left, which went on as it did.
void FrameFollow::change(const Subject& subject, double seconds, const FrameFollowSettings& settings) {
  ReferenceFrame before = frame();
  before.yawRate = turning_;
  before = before.goneOn(target(), seconds);
  Subject leaving = subject;
  leaving.frame = before;
  leaving.frame.up = level_.rotation() * Vector3d::UnitY();
  carry(leaving.frame, seconds, settings.platform);
  ride(leaving, seconds, settings);

  const ReferenceFrame& after = subject.frame;
  const bool flies = !subject.onGround;
  const Vector3d shown = point(), eyes = this->eyes(), up = after.rotation.conjugate() * after.up;
  const Vector3d feet = after.toLocal(subject.feet), faster = after.turnToLocal(before.velocity - after.velocity);
  const auto moved = [&](Follow& follow, const FollowSettings& how) {
    const auto turned = [&](const Vector3d& v) { return after.turnToLocal(before.turnToWorld(v)); };
    follow.resettle(feet, turned(follow.lag()), turned(follow.velocity()), faster, how, up);
  };
  moved(feet_, settings.feet);
  if (settings.lead.time > 0) moved(slow_, slowly(settings.lead));
  const Vector3d eyesNow = after.turnToLocal(subject.head - subject.feet);
  const FollowSettings still = evenly(settings.eyeHalfLife, unlimited);
  eyes_.resettle(eyesNow, after.turnToLocal(eyes) - eyesNow, Vector3d::Zero(), Vector3d::Zero(), still, up);

  zone_ = RestZone();
  airborne_ = flies;
  yawRateBefore_ = yawRate_;
  turning_ = after.yawRate;
  sinceChange_ = 0;
  const Vector3d leftBefore = left_.difference();
  keep(after);
  turnLevel(after.up, settings.platform.change, 0);
  left_.begin(shown - (point() - leftBefore), settings.platform.change);
}

void FrameFollow::retune(const Vector3d& subject, const FrameFollowSettings& before, const FrameFollowSettings& after,
                         double seconds, double anchorHeight) {
  const ReferenceFrame on = frame();
  const Vector3d local = on.turnToLocal(subject - on.velocity), axis = on.rotation.conjugate() * on.up;
  const FollowSettings eyesBefore = evenly(before.eyeHalfLife, unlimited),
                       eyesAfter = evenly(after.eyeHalfLife, unlimited);
  const Vector3d still = Vector3d::Zero(), leftBefore = left_.difference(), leftSpeed = left_.speed();
  const auto shown = [&] { return Vector3d(point() + anchorHeight * eyes()); };
  const auto speed = [&](const FrameFollowSettings& how, const FollowSettings& eyes) {
    return Vector3d(velocity(subject, how) + anchorHeight * turned(eyes_.speed(still, eyes, axis)));
  };
  const Vector3d placeBefore = shown(), speedBefore = speed(before, eyesBefore), leadBefore = lead();
  leadFactor_ = leadFactor(after);
  if (!same(before.lead, after.lead)) {  // as if it had always been this one
    slow_.cut(feet_.target());
    slow_.retune(local, evenly(0, 0), slowly(after.lead), axis, {});
  }
  const double led = (lead() - leadBefore).norm();
  const Vector3d offset = zone_.offset(axis);
  zone_.limit(after.feet.rest);
  feet_.shift(zone_.offset(axis) - offset);
  // What is handed on, along the ground and vertically, leaves room for as long a lag again.
  const double leash = scale_ * std::max(leashes(before), leashes(after));
  const HandedOn most{seconds, std::max((mostLeashes - 1) * leash - leftBefore.norm(), 0.0) / (2 * scale_)};
  const double swing = feet_.retune(local, before.feet, after.feet, axis, most) +
                       anchorHeight * eyes_.retune(still, eyesBefore, eyesAfter, axis, {});
  // The leash may shorten the lag: its part of the difference counts as well.
  feet_.step(feet_.target(), 0, after.feet, axis);
  const double room = (swing + led) * scale_ + leftBefore.norm() + left_.swing();
  left_.begin(placeBefore - (shown() - leftBefore), speedBefore - (speed(after, eyesAfter) - leftSpeed), seconds, room,
              mostLeashes * leash);
}

/// The yaw of the platform since the last step. After a change the rate blends from the one before.
void FrameFollow::carry(const ReferenceFrame& to, double seconds, const PlatformSettings& settings) {
  carried_ = 0;
  if (!settings.turnsWithPlatform || (to.id == 0 && yawRateBefore_ == 0)) return;
  const double turned = turnAbout(to.up, Rotation(to.rotation * rotation_.rotation().conjugate()));
  const bool timed = seconds > minTimeStep;
  const double rate = timed ? turned / seconds : 0;
  if (to.yawRate != 0 || timed) turning_ = to.yawRate != 0 ? to.yawRate : rate;
  const bool settled = sinceChange_ >= settings.change;
  const double fresh = settled ? seconds : easedTime(sinceChange_, sinceChange_ + seconds, settings.change);
  carried_ = timed ? rate * fresh + yawRateBefore_ * (seconds - fresh) : turned;
  if (!settled) sinceChange_ += seconds;
  const double weight = settings.change > 0 ? eased(sinceChange_ / settings.change) : 1.0;
  if (timed) yawRate_ = weight * (to.yawRate != 0 ? to.yawRate : rate) + (1 - weight) * yawRateBefore_;
  if (weight >= 1) yawRateBefore_ = 0;
}

void FrameFollow::turnLevel(const Vector3d& up, double seconds, double direct) {
  const Vector3d from = this->up();
  if (from == up) return;
  const Rotation before = level_.rotation();
  Rotation turn;
  turn.setFromTwoVectors(from, up);
  const Rotation shown = level();
  level_ = StoredRotation((turn * before).normalized());
  if (std::acos(std::clamp(from.dot(up), -1.0, 1.0)) < direct) return;
  tipped_.begin(rotationVector(Rotation(shown * level_.rotation().conjugate())), seconds);
}

Rotation FrameFollow::level() const {
  if (tipped_.done()) return level_.rotation();
  return (rotationBy(tipped_.difference()) * level_.rotation()).normalized();
}

Vector3d FrameFollow::lead() const {
  if (leadFactor_ == 0) return Vector3d::Zero();
  const Vector3d up = rotation_.rotation().conjugate() * this->up();
  const Vector3d ahead = -leadFactor_ * slow_.lag();
  return ahead - up.dot(ahead) * up;
}

Vector3d FrameFollow::point() const {
  const Vector3d settled = toWorld(feet_.point() + lead());
  return left_.done() ? settled : Vector3d(settled + left_.difference());
}

Vector3d FrameFollow::turned(const Vector3d& local) const {
  return rotation_.w == 1 && scale_ == 1 ? local : Vector3d(rotation_.rotation() * (local * scale_));
}

Vector3d FrameFollow::up() const {
  return level_.w == 1 ? Vector3d::UnitY() : Vector3d(level_.rotation() * Vector3d::UnitY());
}

Subject FrameFollow::expected(const Vector3d& velocity, double seconds) const {
  Subject subject;
  subject.frame = frame();
  subject.velocity = velocity;
  subject.onGround = !airborne_;
  if (turning_ == 0) {
    subject.frame.origin += subject.frame.velocity * seconds;
    subject.feet = target() + velocity * seconds;
    subject.head = subject.feet + (head() - target());
    return subject;
  }
  ReferenceFrame& turned = subject.frame;
  const Vector3d own = turned.turnToLocal(velocity - turned.velocity), spin = turning_ * up();
  turned.yawRate = turning_;
  turned = turned.goneOn(target(), seconds);
  turned.yawRate = 0;
  const Vector3d feet = this->feet() + own * seconds;
  subject.feet = turned.toWorld(feet);
  subject.head = turned.toWorld(feet + eyes_.target());
  turned.velocity += spin.cross(turned.turnToWorld(own * seconds));
  subject.velocity = turned.velocity + turned.turnToWorld(own);
  return subject;
}

FrameFollow FrameFollow::predicted(const Vector3d& velocity, double seconds,
                                   const FrameFollowSettings& settings) const {
  FrameFollow ahead = *this;
  ahead.step(expected(velocity, seconds), seconds, settings);
  return ahead;
}

Vector3d FrameFollow::velocity(const Vector3d& subject, const FrameFollowSettings& settings) const {
  const Rotation turn = rotation_.rotation();
  const bool plain = rotation_.w == 1 && scale_ == 1;
  const Vector3d frame = velocity_, own = subject - frame, up = plain ? this->up() : turn.conjugate() * this->up();
  const Vector3d local = plain ? own : Vector3d(turn.conjugate() * own / scale_);
  Vector3d point = feet_.speed(zone_.velocity(local, up, !airborne_, settings.feet.rest), settings.feet, up);
  if (leadFactor_ > 0) {
    const Vector3d slow = slow_.speed(local, slowly(settings.lead), up), ahead = leadFactor_ * (local - slow);
    point += ahead - up.dot(ahead) * up;
  }
  return frame + turned(point) + (left_.done() ? Vector3d(0, 0, 0) : left_.speed());
}

Vector3d FrameFollow::displacement(const Subject& to) const {
  const ReferenceFrame frame = to.frame.rooted();
  if (frame.id != id_) return frame.turnToLocal(to.feet - target());
  return frame.toLocal(to.feet) - feet() * (scale_ / frame.scale);
}

double FrameFollow::groundDistance(const Subject& to) const {
  const Vector3d went = displacement(to);
  const ReferenceFrame frame = to.frame.rooted();
  const Vector3d up = frame.untouched() ? frame.up : Vector3d(frame.rotation.conjugate() * frame.up);
  return (went - up.dot(went) * up).norm();
}

void FrameFollow::keep(const ReferenceFrame& frame) {
  id_ = frame.id;
  origin_ = frame.origin;
  velocity_ = frame.velocity;
  rotation_ = StoredRotation(frame.rotation);
  scale_ = frame.scale;
}

Vector3d FrameFollow::localUp() const {
  return rotation_.w == 1 ? up() : Vector3d(rotation_.rotation().conjugate() * up());
}

ReferenceFrame FrameFollow::frame() const {
  ReferenceFrame frame;
  frame.id = id_;
  frame.origin = origin_;
  frame.velocity = velocity_;
  frame.rotation = rotation_.rotation();
  frame.scale = scale_;
  frame.up = up();
  return frame;
}

void FrameFollow::shift(const Vector3d& offset) {
  if (id_ != 0) {
    origin_ = origin_.vector() + offset;
  } else {
    for (Follow* follow : {&feet_, &slow_}) follow->shift(rotation_.rotation().conjugate() * offset / scale_);
  }
}

}  // namespace alpglow
