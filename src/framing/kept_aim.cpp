#include "alpglow/framing/kept_aim.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/log_scales.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double inFull = 0.8;                              // of the cap: up to there a turn is followed in full
constexpr double astray = degrees(60), lost = degrees(90);  // turns that nobody wants, and less and less from here on
const double farthest = logDistance(1e6);                   // metres
constexpr double followed = 1e-7;                           // radians that a turn may be off
constexpr double braking = 0.15;                            // seconds in which giving up comes to rest

LookAngles turnBetween(const LookAngles& from, const LookAngles& to) {
  return {shortestTurn(from.yaw, to.yaw), to.pitch - from.pitch};
}

/// Smooth, up to its second derivative where it leaves x.
double capped(double x, double cap) {
  const double full = inFull * cap, rest = cap - full;
  return x <= full || rest <= 0 ? std::min(x, cap) : full + rest * std::tanh((x - full) / rest);
}

}  // namespace

FramingPose PoseCourse::pose() const {
  FramingPose pose;
  const auto metres = [this](std::size_t i) { return std::clamp(at(i), -1e6, 1e6); };
  pose.anchorHeight = metres(0);
  pose.anchorRise = metres(1);
  pose.shoulder = metres(2);
  pose.tilt = at(3);
  pose.distance = distanceFromLog(std::clamp(at(4), 0.0, farthest));
  return pose;
}

void KeptAim::begin(const PoseCourse& course, const AimFrame& frame, const LookAngles& look, const Vector3d& cleared,
                    double distance, double ahead, double cap) {
  const Eigen::Matrix3d heading = frame.level * rotationOf(look.yaw, 0);
  end();
  on_ = guessed_ = solved_ = true;
  course_ = course;
  cleared_ = Vector3d(heading.transpose() * cleared);
  distance_ = distance;
  cap_ = cap;
  rayStart_ = point(frame, look);
  rayDirection_ = Vector3d(frame.level * -rotationOf(look.yaw, look.pitch).col(2));
  ahead_ = ahead;
  const Vector3d seen = frame.level.conjugate() * Vector3d(point(frame, look) - frame.anchor);
  free_ = aimAt(seen, frame.axis).look;
  clear_ = turnBetween(free_, look);
}

void KeptAim::setAhead(double ahead) {
  guessed_ = false;
  ahead_ = ahead;
}

Vector3d KeptAim::point(const AimFrame& before, const LookAngles& look) const {
  const LookAngles held = own(look);
  const Eigen::Matrix3d heading = before.level * rotationOf(held.yaw, 0),
                        axes = before.level * rotationOf(held.yaw, held.pitch);
  const Vector3d pivot = before.anchor + before.axis.shoulder * heading.col(0) + heading * cleared_.vector();
  return pivot + distance_ * std::sin(before.axis.tilt) * axes.col(1) - ahead_ * axes.col(2);
}

LookAngles KeptAim::own(const LookAngles& look) const { return {look.yaw - turn_.yaw, look.pitch - turn_.pitch}; }

void KeptAim::giveUp(const LookAngles& rate) {
  givesUp_ = true;
  solved_ = false;
  const double rates[] = {rate.yaw, rate.pitch};
  for (int i = 0; i < 2; ++i) brakes_[i].beginBraking(-rates[i] * braking / 2, rates[i], 0, braking, braking);
  held_ = {turn_.yaw - brakes_[0].difference(), turn_.pitch - brakes_[1].difference()};
}

LookAngles KeptAim::step(const AimFrame& before, const AimFrame& shown, const LookAngles& look) {
  if (givesUp_) {
    own_ = own(look);
    due_ = {held_.yaw + brakes_[0].difference(), held_.pitch + brakes_[1].difference()};
    return {due_.yaw - turn_.yaw, due_.pitch - turn_.pitch};
  }
  const Vector3d toPoint = shown.level.conjugate() * Vector3d(point(before, look) - shown.anchor);
  const AimSolution free = aimAt(toPoint, shown.axis);
  free_ = free.look;
  return turnTo({free_.yaw + clear_.yaw, free_.pitch + clear_.pitch}, free.authority, look);
}

void KeptAim::seeClear(const AimFrame& before, const AimFrame& placed, const LookAngles& look, double most) {
  if (givesUp_) return;
  const Vector3d toPoint = placed.level.conjugate() * Vector3d(point(before, look) - placed.anchor);
  const AimSolution seen = aimAt(toPoint, placed.axis);
  if (seen.authority < 1) return;
  const LookAngles goal = turnBetween(free_, seen.look), by{goal.yaw - clear_.yaw, goal.pitch - clear_.pitch};
  const double size = std::hypot(by.yaw, by.pitch), part = size > most ? most / size : 1;
  clear_ = {clear_.yaw + part * by.yaw, clear_.pitch + part * by.pitch};
}

LookAngles KeptAim::turnTo(const LookAngles& goal, double authority, const LookAngles& look) {
  own_ = own(look);
  const LookAngles whole = turnBetween(own_, goal);
  const double size = std::hypot(whole.yaw, whole.pitch);
  const double part = authority * (size > 0 ? capped(size, cap_) / size * eased((lost - size) / (lost - astray)) : 1);
  due_ = {part * whole.yaw, part * whole.pitch};
  solved_ = authority == 1 && size <= inFull * cap_;
  return {due_.yaw - turn_.yaw, due_.pitch - turn_.pitch};
}

void KeptAim::turned(const LookAngles& look) {
  turn_ = turnBetween(own_, look);
  if (std::abs(turn_.pitch - due_.pitch) > followed) solved_ = false;  // a limit stopped it
}

}  // namespace alpglow
