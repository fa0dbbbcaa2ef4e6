#include "alpglow/camera/subject_tracker.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

/// As fast as legal velocities are, along each axis.
Vector3d nothingBeyond(const Vector3d& velocity) {
  return velocity.cwiseMax(-farthestPosition).cwiseMin(farthestPosition);
}

}  // namespace

Vector3d anchorOn(const FrameFollow& follow, const FramingPose& pose) {
  const Vector3d up = follow.level() * Vector3d::UnitY();
  return follow.point() + pose.anchorHeight * follow.eyes() + pose.anchorRise * follow.scale() * up;
}

SubjectTracker::SubjectTracker(const Subject& subject) : body_(subject.heading) { follow_.cut(subject); }

void SubjectTracker::restart(const Subject& subject) {
  motion_.cut();
  follow_.cut(subject);
  velocity_ = subject.velocity;
  body_ = subject.heading;
  ahead_ = advanced_ = sinceTold_ = 0;
}

SubjectStep SubjectTracker::follow(const Subject& subject, double seconds, const FrameFollowSettings& settings,
                                   const HeadMotionSettings& motion) {
  const double left = this->left(seconds);
  advanced_ = 0;
  const double turned = shortestTurn(body_, subject.heading);
  SubjectStep result = step(subject, left, settings, motion);
  result.bodyTurned = wrapAngle(turned - result.carriedYaw);
  result.bodySeconds = std::exchange(sinceTold_, 0.0);
  return result;
}

bool SubjectTracker::behind() const { return ahead_ > minTimeStep; }

SubjectStep SubjectTracker::catchUp(const FrameFollowSettings& settings, const HeadMotionSettings& motion) {
  const double seconds = ahead_;
  Subject now = follow_.expected(velocity_, seconds);
  now.heading = body_;
  advanced_ += seconds;
  const SubjectStep result = step(now, seconds, settings, motion);
  body_ = wrapAngle(body_ + result.carriedYaw);
  return result;
}

SubjectStep SubjectTracker::step(const Subject& subject, double seconds, const FrameFollowSettings& settings,
                                 const HeadMotionSettings& motion) {
  const bool boarded = subject.frame.id != follow_.id();
  const double along = follow_.groundDistance(subject);
  follow_.step(subject, seconds, settings);
  body_ = subject.heading;
  velocity_ = subject.velocity;
  ahead_ = 0;
  if (motion.any()) {
    const double falling =
        -subject.frame.up.dot(subject.velocity - subject.frame.rooted().velocity) / subject.frame.scale;
    motion_.step({along, seconds, subject.onGround, falling}, motion);
  }
  SubjectStep result;
  result.carriedYaw = follow_.carriedYaw();
  result.boarded = boarded;
  return result;
}

bool SubjectTracker::jumped(const Subject& subject, double seconds, double farthest) const {
  const Vector3d own = subject.velocity - subject.frame.rooted().velocity;
  const double explained = own.norm() * seconds / subject.frame.scale;
  return subject.teleported || follow_.displacement(subject).norm() - explained > farthest;
}

void SubjectTracker::lookAhead(double seconds) {
  ahead_ = std::min(ahead_ + seconds, longestPrediction);
  sinceTold_ += seconds;
}

double SubjectTracker::left(double seconds) const { return countedTime(std::max(seconds - advanced_, 0.0)); }

double SubjectTracker::untold(double seconds) {
  const double left = countedTime(std::max(seconds - told_, 0.0));
  told_ = 0;
  return left;
}

Heading SubjectTracker::movement() const {
  const ReferenceFrame frame = follow_.frame();
  const Vector3d own = follow_.level().conjugate() * (velocity_.vector() - frame.velocity);
  return {std::atan2(-own.x(), -own.z()), std::hypot(own.x(), own.z()) / frame.scale};
}

Heading SubjectTracker::movementIn(double seconds) const {
  Heading heading = movement();
  const double middle = std::min(ahead_ + seconds, longestPrediction);
  heading.yaw = wrapAngle(heading.yaw + follow_.turning() * middle);
  return heading;
}

Vector3d SubjectTracker::velocityAt(const Vector3d& camera, const FramingPose& pose,
                                    const FrameFollowSettings& settings) const {
  Vector3d along = follow_.velocity(velocity_, settings);
  if (follow_.yawRate() == 0) return nothingBeyond(along);
  const Vector3d turning = follow_.yawRate() * (follow_.level() * Vector3d::UnitY());
  return nothingBeyond(along + turning.cross(camera - anchorOn(follow_, pose)));
}

}  // namespace alpglow
