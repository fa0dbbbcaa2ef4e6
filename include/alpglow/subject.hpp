#pragma once
// The subject: the character being filmed, as it is drawn at this instant.

#include "alpglow/reference_frame.hpp"
#include "alpglow/span.hpp"

#include <Eigen/Core>

namespace alpglow {

struct Subject {
  /// Where it stands, metres.
  Eigen::Vector3d feet = Eigen::Vector3d::Zero();
  /// Its eyes, metres. Clear space is searched from here: keep it at least a near-plane sphere away from walls.
  Eigen::Vector3d head = Eigen::Vector3d(0, 1.7, 0);
  /// Where the body faces: yaw in radians, in the view's level axes (the world's, unless `up` is another).
  double heading = 0;
  /// Metres per second, in the world.
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
  bool onGround = true;
  /// The host moved it here by force: the camera cuts.
  bool teleported = false;
  /// What it stands on, which way is up, and how large it is.
  ReferenceFrame frame;
};

/// The subject at a moment of the frame.
struct SubjectSample {
  /// Seconds since the start of the frame.
  double time = 0;
  Subject subject;
};

/// The way of the subject during one frame, straight between its samples, in order of time; the last one is what is
/// drawn. A host that moves its character at a fixed rate and draws it in between has a bend at each tick inside the
/// frame: stating them makes the lag exact. A single subject does for everybody else.
class SubjectPath {
 public:
  SubjectPath(const Subject& atFrameEnd) : last_(&atFrameEnd) {}
  /// `samples` are the bends inside the frame; `atFrameEnd` comes after them.
  SubjectPath(Span<const SubjectSample> bends, const Subject& atFrameEnd) : bends_(bends), last_(&atFrameEnd) {}

  /// The subject is gone for now: the last view stays.
  static SubjectPath none() { return SubjectPath(); }

  bool missing() const { return last_ == nullptr; }
  Span<const SubjectSample> bends() const { return bends_; }
  /// What is drawn at the end of the frame; only while there is a subject.
  const Subject& last() const { return *last_; }

 private:
  SubjectPath() = default;
  Span<const SubjectSample> bends_;
  const Subject* last_ = nullptr;
};

}  // namespace alpglow
