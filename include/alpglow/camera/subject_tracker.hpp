#pragma once
// The subject as the camera follows it: its path piece by piece, told at ticks and at the end of each frame; the motion
// of its head; and where it will be.
//
//   SubjectTracker tracker(subject);
//   tracker.lookAhead(dt);                                           // time in which nobody told where it is
//   const FrameFollow soon = tracker.predicted(0.1, settings);       // 0.1 s from then
//   tracker.follow(subject, dt, settings, motion);                   // now it was told
//   const Vector3d anchor = anchorOn(tracker.followed(), pose);
//
// Three clocks of the world, in seconds: looked ahead since it was told last; told by ticks of this frame; and gone
// along with already of what is next to be told. A trivially copyable value.

#include "alpglow/assist/swing_back.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/follow/frame_follow.hpp"
#include "alpglow/follow/head_motion.hpp"
#include "alpglow/framing/shown_framing.hpp"

namespace alpglow {

/// What a step along the subject's path did to the look.
struct SubjectStep {
  /// By how much what it stands on turned the camera, radians.
  double carriedYaw = 0;
  /// It got on or off something.
  bool boarded = false;
  /// It was told where the body faces: by how much it turned beside that, radians, in this time, seconds.
  double bodyTurned = 0, bodySeconds = 0;
};

/// The anchor of a pose on what is followed, metres.
Eigen::Vector3d anchorOn(const FrameFollow& follow, const FramingPose& pose);

class SubjectTracker {
 public:
  /// Sits on it, at rest.
  explicit SubjectTracker(const Subject& subject);
  /// Sits on it at once; what is known of its speed stays until it is told anew.
  void sitOn(const Subject& subject) { follow_.cut(subject); }
  /// Sits on it at once as told at the end of a frame: the clocks begin anew, and the head is still.
  void restart(const Subject& subject);

  /// It went straight to where it is now, in `seconds`; what was gone along with already is left out.
  SubjectStep follow(const Subject& subject, double seconds, const FrameFollowSettings& settings,
                     const HeadMotionSettings& motion);
  /// Goes along to the present moment of looking ahead, so that what changes there changes at its time. Nothing to do
  /// if `behind` is false.
  SubjectStep catchUp(const FrameFollowSettings& settings, const HeadMotionSettings& motion);
  bool behind() const;
  /// Another framing follows otherwise: place and speed of its anchor go on.
  void retune(const FrameFollowSettings& before, const FrameFollowSettings& after, double seconds,
              double anchorHeight) {
    follow_.retune(velocity_, before, after, seconds, anchorHeight);
  }
  /// It moved farther than its own speed explains, by more than this many metres.
  bool jumped(const Subject& subject, double seconds, double farthest) const;

  /// Time passes in which nobody tells where it is.
  void lookAhead(double seconds);
  /// A tick told this much of the frame.
  void told(double seconds) { told_ += seconds; }
  /// The frame ends: what of its `seconds` no tick told.
  double untold(double seconds);
  /// Of these `seconds` up to now, those that were not gone along with yet.
  double left(double seconds) const;
  /// The frame could not be used: what was gone along with counts for nothing.
  void forgetAdvance() { advanced_ = 0; }

  const FrameFollow& followed() const { return follow_; }
  /// As followed `seconds` after the present moment of looking ahead.
  FrameFollow predicted(double seconds, const FrameFollowSettings& settings) const {
    return follow_.predicted(velocity_, ahead_ + seconds, settings);
  }
  double ahead() const { return ahead_; }
  /// How much of the frame has gone by, seconds.
  double sinceFrame() const { return told_ + advanced_ + ahead_; }
  /// How long ago somebody told where it is, seconds.
  double sinceTold() const { return sinceTold_; }
  /// Where it goes, in level axes, relative to what it stands on.
  Heading movement() const;
  /// The same `seconds` after the present moment, as what it stands on will have turned.
  Heading movementIn(double seconds) const;
  /// Where its body faces, radians.
  double body() const { return body_; }
  /// How fast a camera there moves with it: as the anchor of its pose does, and around that as the platform turns.
  Eigen::Vector3d velocityAt(const Eigen::Vector3d& camera, const FramingPose& pose,
                             const FrameFollowSettings& settings) const;
  /// Where bob, dip and breathing have moved the eyes, to the right and up, metres of its scale.
  Eigen::Vector2d headMotion(const HeadMotionSettings& settings) const { return motion_.offset(settings); }

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset) { follow_.shift(offset); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("follow motion").part(follow_, motion_);
    fields.named("velocity").vectors(farthestPosition, velocity_);
    fields.named("body").numbers(1e9, body_);
    fields.named("ahead told advanced sinceTold").times(ahead_, told_, advanced_, sinceTold_);
  }

 private:
  SubjectStep step(const Subject& subject, double seconds, const FrameFollowSettings& settings,
                   const HeadMotionSettings& motion);

  FrameFollow follow_;
  HeadMotion motion_;
  StoredVector3 velocity_;
  double body_ = 0;
  double ahead_ = 0, told_ = 0, advanced_ = 0, sinceTold_ = 0;
};

}  // namespace alpglow
