#include "alpglow/space/pull_in.hpp"

#include "pull_in_numbers.hpp"

#include "alpglow/base/capped_approach.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;
using pull_in::skin;
using pull_in::spare;
using pull_in::timeOf;

namespace {

// What taking each number out costs: docs/research/pull_in.md.
constexpr int axisHalvings = 5;  // of how far aside the way along the axis is clear
constexpr double axisRate = 4;   // per second, between the line to the head and the camera's axis
constexpr double stoopRate = 3;  // per second, of all that it may stoop
constexpr double early = 0.125;  // of a frame by which a look may be early: one in each frame of about 1/60 s
constexpr double unseen = 1e-3;  // metres
constexpr double hair = 1e-6;    // metres

}  // namespace

PullInPose PullIn::step(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles,
                        double seconds, const PullInSettings& settings) {
  ClearLine line = PullIn::line(request, obstacles, settings);
  advance(plan(request, motion, seconds, settings), line, settings);
  return place(request, line, settings);
}

ClearLine PullIn::line(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings) {
  const double range = request.radius + (settings.margin + spare) * request.scale;
  return {obstacles, request.head, request.nearPlane, request.radius, settings.margin * request.scale, range};
}

double PullIn::room(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings) {
  ClearLine line = PullIn::line(request, obstacles, settings);
  const Vector3d camera = request.camera();
  return line.blocked() ? 0 : line.to(camera).fraction * (camera - request.head).norm();
}

/// From the shoulder that is asked for to the other one.
double PullIn::shoulderOf(const PullInRequest& request, double given) const {
  const double all = std::abs(request.shoulder);
  return std::copysign(1.0, request.shoulder) * std::max(all - given, -all);
}

/// The request `left` seconds before the end of the frame, or a little after it, as seen from what the subject stands
/// on.
PullInRequest PullIn::between(const PullInRequest& request, const PullInMotion& motion, double seconds,
                              double left) const {
  PullInRequest then = request;
  const double share = left / seconds;
  const Vector3d carried = seconds * motion.pace * motion.carried.velocity, toAnchor = request.anchor - request.head;
  then.head -= share * (request.head - last_.head.vector() - carried);
  then.anchor = then.head + toAnchor - share * (toAnchor - last_.toAnchor.vector());
  then.orbit.yaw += share * shortestTurn(request.orbit.yaw, last_.orbit.yaw);
  then.orbit.pitch += share * (last_.orbit.pitch - request.orbit.pitch);
  then.shoulder += share * (last_.shoulder - request.shoulder);
  then.distance = std::max(then.distance + share * (last_.distance - request.distance), 0.0);
  return then;
}

PullIn::Plan PullIn::plan(const PullInRequest& request, const PullInMotion& motion, double seconds,
                          const PullInSettings& settings) const {
  Plan plan;
  plan.request_ = request;
  plan.motion_ = motion;
  plan.seconds_ = std::max(seconds, 0.0);
  plan.untilLook_ = untilLook_;
  if (!(plan.seconds_ > 0)) return plan;
  Prediction prediction = prediction_;
  const double upTo = seconds + early * std::min(seconds, lookEvery);
  double due = untilLook_;
  const double skipped = std::ceil((upTo - due) / lookEvery) - double{Plan::mostLooks};
  due += lookEvery * std::max(skipped, 0.0);
  for (; due <= upTo && plan.count_ < Plan::mostLooks; due += lookEvery) {
    if (!known_) continue;
    Look& look = plan.looks_[plan.count_++];
    look.after = std::min(due, seconds);
    look.asked = between(request, motion, seconds, seconds - due);
    prediction.observe(look.asked, motion, lookEvery);
    look.prediction = prediction;
    for (std::size_t i = 0; settings.horizon > 0 && i < looksAhead; ++i) {
      const double time = timeOf(i, looksAhead, settings.horizon);
      const PullInRequest then = prediction.ahead(look.asked, motion, time);
      const double given = side_.in(2 * std::abs(then.shoulder), settings.shoulderSpeed * then.scale, time);
      const double lower = stoop_.in(settings.stoop, stoopRate * settings.stoop, time);
      look.lines[i] = {then.head - look.asked.head, then.camera(shoulderOf(then, given), lower) - then.head};
    }
  }
  plan.untilLook_ = std::clamp(due - seconds, 0.0, 2 * lookEvery);
  return plan;
}

Bounds PullIn::Plan::reach(const PullInSettings& settings) const {
  const double scale = request_.scale;
  Bounds bounds = Bounds::around(request_.head);
  const auto include = [](Bounds& all, const Vector3d& low, const Vector3d& high) {
    all.low = all.low.cwiseMin(low);
    all.high = all.high.cwiseMax(high);
  };
  const auto withLines = [&](const Bounds& heads, const Bounds& arms) {
    include(bounds, heads.low, heads.high);
    include(bounds, heads.low + arms.low, heads.high + arms.high);
  };
  const auto armsOf = [](const PullInRequest& asked, double lower) {
    const Vector3d toHead = -asked.head;
    const Vector3d one = asked.camera(asked.shoulder, lower) + toHead,
                   other = asked.camera(-asked.shoulder, lower) + toHead;
    return Bounds{one.cwiseMin(other), one.cwiseMax(other)};
  };
  const auto allArmsOf = [&](const PullInRequest& asked) {
    Bounds arms = armsOf(asked, 0);
    if (settings.stoop > 0) {
      const Bounds lower = armsOf(asked, settings.stoop);
      include(arms, lower.low, lower.high);
    }
    return arms;
  };
  double bulge = 0;
  withLines(bounds, allArmsOf(request_));
  for (std::size_t i = 0; i < count_; ++i) {
    Bounds heads = Bounds::around(looks_[i].asked.head), arms = allArmsOf(looks_[i].asked);
    Vector3d before = looks_[i].asked.camera() - looks_[i].asked.head;
    for (const Look::Line& line : looks_[i].lines) {
      const Vector3d head = looks_[i].asked.head + line.walked;
      include(heads, head, head);
      include(arms, line.arm, line.arm);
      // An arc is not farther than that from its chord.
      const double length = std::max(line.arm.norm(), request_.radius);
      bulge = std::max(bulge, (line.arm - before).squaredNorm() / (4 * length));
      before = line.arm;
    }
    withLines(heads, arms);
  }
  return bounds.grown(request_.radius + (settings.margin + spare) * scale + skin + std::min(bulge, request_.distance));
}

void PullIn::advance(const Plan& plan, ClearLine& line, const PullInSettings& settings) {
  const PullInRequest& request = plan.request_;
  const double axis = request.aims ? 1 : 0, rate = axisRate * plan.seconds_;
  alongAxis_ = known_ ? alongAxis_ + std::clamp(axis - alongAxis_, -rate, rate) : axis;
  if (!known_) prediction_.observe(request, plan.motion_, 0);
  if (request.shoulder * last_.shoulder < 0) side_ = GiveWay();  // the other shoulder is asked for
  last_ = {request.head, request.anchor - request.head, request.orbit, request.shoulder, request.distance};
  untilLook_ = plan.untilLook_;
  known_ = true;
  double passed = 0;
  for (std::size_t i = 0; i < plan.count_; ++i) {
    look(plan.looks_[i], plan.motion_, line, settings);
    pass(plan.looks_[i].after - passed, request, settings);
    passed = plan.looks_[i].after;
  }
  pass(plan.seconds_ - passed, request, settings);
}

/// Time passes between two looks, or none: what is given up is never more than the settings of this frame allow.
void PullIn::pass(double seconds, const PullInRequest& request, const PullInSettings& settings) {
  const double scale = request.scale;
  if (seconds > 0) {
    const Vector3d arm = request.camera(shoulderOf(request, side_.given()), stoop_.given()) - request.head;
    const double whole = arm.norm(), length = std::min(length_, whole);
    if (in_.speed() > 0) {
      shorten(length, std::min(in_.speed() * seconds, length), settings, scale);
    } else if (length_ < unlimited) {
      length_ = out_.step(length, {whole, room_, ample_}, seconds, settings, scale);
      if (length_ >= whole - hair * std::max(whole, 1.0) && room_ >= whole) length_ = unlimited;
    }
  }
  side_.move(2 * std::abs(request.shoulder), settings.shoulderSpeed * scale, seconds, hair * scale);
  if (settings.stoop > 0 || stoop_.given() > 0) stoop_.move(settings.stoop, stoopRate * settings.stoop, seconds, hair);
}

void PullIn::shorten(double length, double by, const PullInSettings& settings, double scale) {
  length_ = length - by;
  out_.wentIn(by, settings, scale);
}

PullInPose PullIn::place(const PullInRequest& request, ClearLine& line, const PullInSettings& settings) {
  PullInPose pose;
  pose.nearPlane = line.nearPlane();
  pose.headBlocked = line.blocked();
  pose.free = request.camera();
  if (line.blocked()) {  // no way at all; the camera goes out again
    length_ = room_ = 0;
    out_.wentIn(request.scale, settings, request.scale);
    pulledIn_ = true;
    pose.pivot = pose.camera = request.head;
    return pose;
  }
  const double shoulder = shoulderOf(request, side_.given());
  const Eigen::Matrix3d axes = request.axes(stoop_.given());
  const Vector3d toPivot = request.anchor + shoulder * axes.col(0) - request.head;
  const Vector3d back = request.distance * axes.col(2), arm = toPivot + back;
  const double whole = arm.norm();
  const auto allow = [&](double room) {
    const double length = std::min(length_, whole);
    if (room < length) shorten(length, length - room, settings, request.scale);
  };
  const auto share = [&] { return whole > shortestWay ? std::min(length_ / whole, 1.0) : 1.0; };
  const ClearFraction clear = line.to(request.head + arm);
  if (clear.obstacle != noObstacle) allow(clear.fraction * whole);
  // Coming in along its axis it swings aside as the head sees it, as far as that is clear; the line itself is.
  const double k = share();
  const auto isClear = [&](double axis) {
    const Vector3d aside = request.head + (k + axis * (1 - k)) * toPivot + k * back;
    return clearFraction(line.obstacles(), request.head, aside, line.radius()).fraction == 1;
  };
  if (alongAxis_ > 0 && k < 1 && !isClear(alongAxis_)) {
    double clearAxis = 0, blocked = alongAxis_;
    for (int i = 0; i < axisHalvings; ++i) {
      const double middle = (clearAxis + blocked) / 2;
      (isClear(middle) ? clearAxis : blocked) = middle;
    }
    alongAxis_ = clearAxis;
  }
  const double pivotShare = k + alongAxis_ * (1 - k);
  pose.pivot = request.head + pivotShare * toPivot;
  pose.camera = pose.pivot + k * back;
  pose.distance = k * request.distance;
  pose.clearDistance = std::max(clear.fraction * request.distance, pose.distance);
  pose.shoulder = pivotShare * shoulder;
  pose.obstacle = clear.obstacle;
  pose.foreseen = foreseen_;
  pose.foreseenIn = foreseen_ == noObstacle ? 0 : in_.seconds();
  pose.givenUp = std::abs(request.shoulder - shoulder);
  pose.wait = length_ < unlimited && !(in_.speed() > 0) ? out_.waits(share(), settings) : 0;
  pose.stooped = stoop_.given();
  pulledIn_ = limiting() && (pose.camera - pose.free).norm() > unseen;
  return pose;
}

}  // namespace alpglow
