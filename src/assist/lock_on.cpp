#include "alpglow/assist/lock_on.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/log_scales.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();
constexpr double close = 0.6;  // ahead of the pivot's vertical: nearer than this, yaw turns more slowly; metres
constexpr double flickHalfLife = 0.05;
constexpr double flickOfStick = 1.25;  // flicks that a stick amounts to at its end
constexpr int halvings = 26;

/// A point beside the camera's axis, in the vertical plane through it: range and elevation from the pivot.
struct Polar {
  double range, elevation;
};

Polar polar(double ahead, double up) { return {std::hypot(ahead, up), std::atan2(up, ahead)}; }

/// Pitches at which a point lies between the upper and the lower edge of the chosen part.
PitchLimits pitchesFor(const Polar& point, double edge, double distance, double tilt) {
  const auto reach = [&point](double drop) {
    return drop >= point.range ? infinity : std::asin(std::max(drop / point.range, -1.0));
  };
  return {point.elevation - edge - reach(distance * std::sin(edge + tilt)),
          point.elevation + edge + reach(distance * std::sin(edge - tilt))};
}

PitchLimits both(const PitchLimits& a, const PitchLimits& b) {
  return {std::max(a.low, b.low), std::min(a.high, b.high)};
}

/// The scene seen along the goal's yaw.
struct Profile {
  Polar target, eyes;
  double aside = 0;  // of the eyes from the axis
  bool eyesCount = true;
};

struct Found {
  double pitch;
  bool both;
};

Found pitchAt(const Profile& profile, const LockScene& scene, const LockSettings& settings, double distance,
              double fieldOfView) {
  const double tangent = settings.screenFraction * std::tan(fieldOfView / 2), edge = std::atan(tangent);
  const PitchLimits target = both(pitchesFor(profile.target, edge, distance, scene.tilt), scene.pitch);
  if (target.low > target.high) {  // as near as the limits let it
    const double pitch = std::clamp(profile.target.elevation, scene.pitch.low, scene.pitch.high);
    return {pitch, false};
  }
  if (!profile.eyesCount) return {std::clamp(scene.defaultPitch, target.low, target.high), true};
  const PitchLimits all = both(target, pitchesFor(profile.eyes, edge, distance, scene.tilt));
  if (all.low > all.high) {  // the target first, and then as near as can be to the eyes
    return {std::clamp((all.low + all.high) / 2, target.low, target.high), false};
  }
  const double pitch = std::clamp(scene.defaultPitch, all.low, all.high);
  const double depth = profile.eyes.range * std::cos(profile.eyes.elevation - pitch) + distance * std::cos(scene.tilt);
  return {pitch, std::abs(profile.aside) <= tangent * scene.aspect * depth};
}

/// The least value within low … high that is good, where high is: what is good stays good above.
template <class Good>
double leastGood(double low, double high, Good&& good) {
  for (int i = 0; i < halvings; ++i) {
    const double middle = (low + high) / 2;
    (good(middle) ? high : low) = middle;
  }
  return high;
}

}  // namespace

LockGoal lockGoal(const LockScene& scene, const LockSettings& settings) {
  LockGoal goal;
  const double reach = std::hypot(scene.target.x(), scene.target.z());
  const double ahead = std::sqrt(std::max(reach * reach - scene.shoulder * scene.shoulder, 0.0));
  goal.yaw = reach > 1e-9 ? wrapAngle(std::atan2(-scene.target.x(), -scene.target.z()) +
                                      std::asin(std::clamp(scene.shoulder / reach, -1.0, 1.0)))
                          : scene.presentYaw;
  goal.confidence = std::min(ahead / close, 1.0);

  const Eigen::Matrix3d axes = rotationOf(goal.yaw, 0);
  const Vector3d eyes = scene.eyes - scene.shoulder * axes.col(0);
  const Profile profile{polar(ahead, scene.target.y()), polar(-eyes.dot(axes.col(2)), eyes.y()), eyes.dot(axes.col(0)),
                        scene.range.farthest > 0};
  const double nearPlane = std::clamp(scene.distance, scene.range.nearest, scene.range.farthest);
  const double farPlane = scene.range.farthest, widest = std::max(settings.widest, scene.fieldOfView);
  const auto found = [&](double distance, double lens) { return pitchAt(profile, scene, settings, distance, lens); };
  double distance = nearPlane, lens = scene.fieldOfView;
  if (!found(nearPlane, lens).both && farPlane > nearPlane) {
    distance = farPlane;
    if (found(farPlane, lens).both)
      distance = leastGood(nearPlane, farPlane, [&](double d) { return found(d, lens).both; });
  }
  if (widest > lens && !found(distance, lens).both) {
    const double narrow = lens;
    lens = widest;
    if (found(distance, widest).both)
      lens = leastGood(narrow, widest, [&](double fov) { return found(distance, fov).both; });
  }
  const Found result = found(distance, lens);
  goal.pitch = result.pitch;
  goal.both = result.both;
  goal.extraDistance = logDistance(distance) - logDistance(nearPlane);
  goal.extraFov = lens > scene.fieldOfView ? logTanHalfFov(lens) - logTanHalfFov(scene.fieldOfView) : 0;
  return goal;
}

void LockOn::begin(const Target& target) {
  if (!on_ || target.id != id_) hidden_ = yawError_ = 0;
  if (!on_) flicked_ = {}, armed_ = true;
  on_ = true;
  id_ = target.id;
  position_ = target.position;
  velocity_ = target.velocity;
  radius_ = target.radius;
}

Target LockOn::target() const { return {id_, position_, velocity_, radius_}; }

void LockOn::nudge(const LookAngles& turn, const LockSettings& settings) {
  const auto limited = [&settings](double value) { return std::clamp(value, -settings.nudge, settings.nudge); };
  nudge_ = {limited(nudge_.yaw + turn.yaw), limited(nudge_.pitch + turn.pitch)};
  flicked_ = {flicked_.yaw + turn.yaw, flicked_.pitch + turn.pitch};
  const double size = std::hypot(flicked_.yaw, flicked_.pitch);
  if (armed_ && settings.flick > 0 && size >= settings.flick) {
    flick_ = {-flicked_.yaw / size, flicked_.pitch / size};
    armed_ = false;
  }
  if (size < settings.flick / 2) armed_ = true;
}

/// The nudge toward rate/λ, by half-life; a stick at its end flicks after 0.116 s.
void LockOn::nudgeOn(double seconds, const LockPush& push, const LockSettings& settings) {
  const auto toward = [seconds](double value, double rate, double halfLife) {
    return approach(value, rate * halfLife / ln2, halfLife, seconds);
  };
  nudge_ = {toward(nudge_.yaw, push.rates.yaw, settings.nudgeHalfLife),
            toward(nudge_.pitch, push.rates.pitch, settings.nudgeHalfLife)};
  const auto pushed = [&](double value, double deflection, double scale) {
    return approach(value, std::copysign(flickOfStick, scale) * deflection * settings.flick, flickHalfLife, seconds);
  };
  flicked_ = {pushed(flicked_.yaw, -push.deflection.x, push.scale.x),
              pushed(flicked_.pitch, push.deflection.y, push.scale.y)};
  nudge({0, 0}, settings);
}

LookAngles LockOn::step(double seconds, const LockGoal& from, const LockGoal& to, const LookAngles& look,
                        const LockPush& push, const LockSettings& settings) {
  if (!(seconds > 0)) return {};
  nudgeOn(seconds, push, settings);
  const double u = decay(settings.zoomHalfLife, seconds), left = std::exp(-u), mean = meanDecay(u);
  // By half-life after a goal that moves evenly meanwhile, and may jump where another distance holds both.
  const auto followed = [&](double extra, double goal, double moved) {
    return std::max(goal + (extra - (goal - moved)) * left - moved * mean, 0.0);
  };
  extraDistance_ = followed(extraDistance_, to.extraDistance, to.extraDistance - from.extraDistance);
  extraFov_ = followed(extraFov_, to.extraFov, to.extraFov - from.extraFov);
  const double yawBefore = turnOnward(from.yaw, look.yaw, yawError_), yawMoved = shortestTurn(from.yaw, to.yaw);
  const double cap = settings.cap * std::min(from.confidence, to.confidence);
  yawError_ = cappedApproach(yawBefore, yawMoved, seconds, settings.halfLife, cap);
  const double pitchBefore = look.pitch - from.pitch, pitchMoved = to.pitch - from.pitch;
  const double pitchAfter = cappedApproach(pitchBefore, pitchMoved, seconds, settings.halfLife, settings.cap);
  return {yawError_ + yawMoved - yawBefore, pitchAfter + pitchMoved - pitchBefore};
}

void LockOn::rest(double seconds, const LockSettings& settings) {
  if (!(seconds > 0) || (extraDistance_ == 0 && extraFov_ == 0 && nudge_.yaw == 0 && nudge_.pitch == 0)) return;
  nudgeOn(seconds, {}, settings);
  flick_ = {};
  extraDistance_ = approach(extraDistance_, 0, settings.zoomHalfLife, seconds);
  extraFov_ = approach(extraFov_, 0, settings.zoomHalfLife, seconds);
  constexpr double nothing = 1e-9;
  if (extraDistance_ < nothing && extraFov_ < nothing && std::abs(nudge_.yaw) + std::abs(nudge_.pitch) < nothing)
    extraDistance_ = extraFov_ = 0, nudge_ = {};
}

Rate LockOn::takeFlick() {
  const Rate taken = flick_;
  flick_ = {};
  return taken;
}

bool LockOn::lost(double seconds, bool hidden, const LockSettings& settings) {
  hidden_ = hidden ? hidden_ + seconds : 0;
  return hidden_ > settings.hiddenFor;
}

}  // namespace alpglow
