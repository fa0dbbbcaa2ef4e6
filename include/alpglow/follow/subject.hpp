#pragma once
// The subject: the character being filmed, as it is drawn in this frame.

#include "alpglow/base/limits.hpp"
#include "alpglow/follow/reference_frame.hpp"

#include <Eigen/Core>

#include <string>

namespace alpglow {

struct Subject {
  /// Where it stands, metres.
  Eigen::Vector3d feet = Eigen::Vector3d::Zero();
  /// Its eyes, metres. Clear space is searched from here: keep it at least a near-plane sphere away from walls.
  Eigen::Vector3d head = Eigen::Vector3d(0, 1.7, 0);
  /// Where the body faces: yaw in radians, 0 along −z, positive to the left (counter-clockwise seen from above), in the
  /// view's level axes (the world's, unless `up` is another). Any finite number.
  double heading = 0;
  /// Metres per second, in the world.
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
  bool onGround = true;
  /// The host moved it here by force: the camera cuts.
  bool teleported = false;
  /// What it stands on, which way is up, and how large it is.
  ReferenceFrame frame;

  /// All numbers are finite and within reason (base/limits.hpp).
  bool legal() const {
    return legalPosition(feet) && legalPosition(head) && legalPosition(velocity) && legalNumber(heading) &&
           frame.legal();
  }

  /// The same, on a frame whose rotation and up have length 1 where they are nearly that.
  Subject normalized() const {
    Subject subject = *this;
    subject.frame = frame.normalized();
    return subject;
  }

  /// The same, on a frame that is rooted.
  Subject rooted() const {
    Subject subject = *this;
    subject.frame = frame.rooted();
    return subject;
  }
};

/// What `legal` objects to, for a log: the field, its value, and what is allowed. Empty for a legal subject. It
/// allocates.
std::string problemOf(const Subject& subject);

}  // namespace alpglow
