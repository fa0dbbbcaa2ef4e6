#include "alpglow/assist/swing_back.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double arrived = 1e-3;   // radians
constexpr double peak = 15.0 / 8;  // highest rate of a transition over its mean rate

std::uint32_t hashOf(std::string_view name) {
  std::uint32_t hash = 2166136261u;
  for (const char c : name) hash = (hash ^ static_cast<unsigned char>(c)) * 16777619u;
  return hash != 0 ? hash : 1;
}

Eigen::Vector3d vectorOf(const PoseChange& change) { return {change.yaw, change.pitch, change.distance}; }

/// The way back over this time, or longer where that would be too fast.
Transition3 wayBack(const PoseChange& from, double seconds, const SwingBackSettings& settings) {
  const double turn = std::max(std::abs(from.yaw), std::abs(from.pitch));
  const double slowest = settings.poseRate > 0 ? std::max(seconds, peak * turn / settings.poseRate) : 0;
  Transition3 way;
  if (slowest > 0) way.begin(vectorOf(from), slowest);
  return way;
}

}  // namespace

void SwingBack::stopPose() {
  pose_.finish();
  begun_.goesOn = false;
}

void SwingBack::stop() {
  stopPose();
  quiet_ = error_ = 0;
  cancelled_ = false;
}

void SwingBack::endHoldoff(const SwingBackSettings& settings) { quiet_ = std::max(quiet_, settings.holdoff); }

void SwingBack::cancel() {
  stopPose();
  error_ = 0;
  cancelled_ = true;
}

void SwingBack::begin(const PoseChange& fromDefault, double seconds, const SwingBackSettings& settings,
                      double sinceTold) {
  if (forbidden()) return;
  const PoseChange from{fromDefault.yaw, fromDefault.pitch, settings.distance ? fromDefault.distance : 0};
  error_ = 0;
  pose_ = wayBack(from, seconds, settings);
  begun_ = {from, seconds, sinceTold, 0, sinceTold > 0, true};
}

PoseChange SwingBack::told(double bodyTurned, double seconds, const SwingBackSettings& settings) {
  if (!begun_.waits || !(seconds >= begun_.sinceTold)) return {};
  begun_.waits = false;
  const PoseChange& from = begun_.from;
  const double yaw = wrapAngle(from.yaw - bodyTurned * begun_.sinceTold / seconds);
  const PoseChange right{yaw, from.pitch, from.distance};
  Transition3 made = wayBack(from, begun_.time, settings), due = wayBack(right, begun_.time, settings);
  made.advance(begun_.passed);
  due.advance(begun_.passed);
  if (begun_.goesOn) pose_ = due;
  const Eigen::Vector3d change = due.difference() - vectorOf(right) - (made.difference() - vectorOf(from));
  return {change.x(), change.y(), change.z()};
}

bool SwingBack::forbid(std::string_view reason) {
  const std::uint32_t name = hashOf(reason);
  auto* slot = std::find(std::begin(forbidden_), std::end(forbidden_), name);
  if (slot == std::end(forbidden_)) slot = std::find(std::begin(forbidden_), std::end(forbidden_), 0u);
  if (slot == std::end(forbidden_)) return false;
  *slot = name;
  return true;
}

void SwingBack::allow(std::string_view reason) {
  std::replace(std::begin(forbidden_), std::end(forbidden_), hashOf(reason), 0u);
}

bool SwingBack::forbidden() const {
  return std::any_of(std::begin(forbidden_), std::end(forbidden_), [](std::uint32_t name) { return name != 0; });
}

double SwingBack::holdoffLeft(const SwingBackSettings& settings) const {
  return std::max(settings.holdoff - quiet_, 0.0);
}

PoseChange SwingBack::step(double seconds, const Heading& movement, double yaw, const PoseChange& fromDefault,
                           const SwingBackSettings& settings) {
  if (!(seconds > 0)) return {};
  const double before = quiet_;
  quiet_ += seconds;
  if (forbidden()) {
    stopPose();
    error_ = 0;
    return {};
  }
  PoseChange change;
  const bool idleEnds = settings.idle > 0 && before < settings.idle && quiet_ >= settings.idle;
  if (idleEnds && !cancelled_ && pose_.done()) {
    const bool walks = settings.rate > 0 && movement.speed > standingSpeed;
    begin({walks ? 0 : fromDefault.yaw, fromDefault.pitch, fromDefault.distance}, settings.idleTime, settings);
    seconds = quiet_ - settings.idle;
  }
  const Eigen::Vector3d left = pose_.difference();
  pose_.advance(seconds);
  if (begun_.goesOn) begun_.passed += seconds;
  const Eigen::Vector3d passed = pose_.difference() - left;
  change = {passed.x(), passed.y(), passed.z()};
  if (left.x() == 0 && !cancelled_) change.yaw = behind(quiet_ - before, movement, yaw, settings);
  return change;
}

/// The turn toward behind the movement in the step that ends now.
double SwingBack::behind(double seconds, const Heading& movement, double yaw, const SwingBackSettings& settings) {
  const double until = quiet_ - settings.holdoff;
  const double error = turnOnward(movement.yaw, yaw, error_);
  const bool towardCamera = std::abs(error) > pi - settings.cone;
  if (settings.rate <= 0 || until <= 0 || movement.speed <= standingSpeed || towardCamera) {
    error_ = 0;
    return 0;
  }
  const double pace = settings.fullSpeed > 0 ? std::min(movement.speed / settings.fullSpeed, 1.0) : 1.0;
  const double eased = pace * easedTime(until - seconds, until, settings.easeIn);
  const double after = cappedApproach(error, 0, eased, settings.halfLife, settings.rate);
  error_ = std::abs(after) < arrived ? 0 : after;
  return after - error;
}

}  // namespace alpglow
