#pragma once
// Following a subject in its frame of reference: feet, height of the eyes and a lead, on the ground, on a platform that
// moves and turns, or under another gravity.
//
// The lag lives in the axes of the platform. Getting on or off keeps the velocity of the followed point: it goes on
// with the lag that is due to its new velocity, and the difference in place goes to zero as a transition. The level
// axes, in which the camera is upright, turn with `up` the shortest way.
//
// What is followed may rest in a zone around the subject (follow/rest_zone.hpp); what is left once the subject has
// landed, or has stood for long enough, is a transition.
//
// A lead is the negative lag of an exponential follower, so it is as exact as that: it tends to `time` seconds ahead of
// the subject and never beyond `longest`.

#include "alpglow/base/limits.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/base/transition.hpp"
#include "alpglow/follow/follow.hpp"
#include "alpglow/follow/subject.hpp"

namespace alpglow {

struct LeadSettings {
  /// How far ahead of the subject, in seconds of its movement along the ground; 0 = none.
  double time = 0;
  double halfLife = 0.4;
  /// Metres.
  double longest = 0.5;
};

struct PlatformSettings {
  /// The camera turns along with what the subject stands on.
  bool turnsWithPlatform = true;
  /// Time in which getting on and off, and another up, are smoothed, seconds.
  double change = 0.6;
};

struct FrameFollowSettings {
  FollowSettings feet;
  double eyeHalfLife = 0.1;
  LeadSettings lead;
  PlatformSettings platform;
  /// The lead is multiplied by this, 0 … 1.
  double leadScale = 1;
};

class FrameFollow {
 public:
  /// Sits on the subject at once.
  void cut(const Subject& subject);
  /// The subject went straight (in the axes of what it stands on) to where it is now. Sits on it where numbers have
  /// taken the point out of reach.
  void step(const Subject& subject, double seconds, const FrameFollowSettings& settings);

  /// Changes to other settings within `seconds`, with place and speed continuous for an anchor at this height (1 at
  /// the eyes). `subject` is its velocity.
  void retune(const Eigen::Vector3d& subject, const FrameFollowSettings& before, const FrameFollowSettings& after,
              double seconds, double anchorHeight);

  /// Where the feet are after lag and lead; and from there to the eyes.
  Eigen::Vector3d point() const;
  Eigen::Vector3d eyes() const { return turned(eyes_.point()); }
  /// Where the subject's feet and eyes were at the last step.
  Eigen::Vector3d target() const { return toWorld(feet()); }
  Eigen::Vector3d head() const { return toWorld(feet() + eyes_.target()); }
  /// How much higher than the subject's feet that is, in the air, what is followed; metres of its scale.
  double rest() const { return zone_.rise(); }
  /// How far beside them along the ground; metres of its scale.
  double restAside() const { return zone_.aside().norm(); }
  /// How fast `point` moves while the subject goes at this velocity.
  Eigen::Vector3d velocity(const Eigen::Vector3d& subject, const FrameFollowSettings& settings) const;
  /// Where the subject is after `seconds` at this velocity, with its platform going on straight.
  Subject expected(const Eigen::Vector3d& velocity, double seconds) const;
  /// What it will be if the subject goes on at this velocity, and what it stands on at its own.
  FrameFollow predicted(const Eigen::Vector3d& velocity, double seconds, const FrameFollowSettings& settings) const;
  /// How far the subject went since the last step in the axes of what it stands on, in metres of its
  /// scale.
  Eigen::Vector3d displacement(const Subject& to) const;
  /// The length of it along the ground.
  double groundDistance(const Subject& to) const;

  /// Level axes to the world.
  Rotation level() const;
  double scale() const { return scale_; }
  std::uint32_t id() const { return id_; }
  /// By how much the platform turned the camera in the last step, radians.
  double carriedYaw() const { return carried_; }
  /// How fast it turns the camera, radians per second.
  double yawRate() const { return yawRate_; }
  /// How fast the platform itself turns, radians per second.
  double turning() const { return turning_; }
  ReferenceFrame frame() const;

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("feet eyes slow left tipped").part(feet_, eyes_, slow_, left_, tipped_);
    fields.named("leadFactor").number(leadFactor_, 0, 1e6);
    fields.named("id").ids(id_);
    fields.named("origin velocity").vectors(farthestState, origin_, velocity_);
    fields.named("rotation").rotation(rotation_);
    fields.named("level").rotation(level_);
    fields.named("scale").number(scale_, 1e-3, 1e3);
    fields.named("carried yawRate yawRateBefore turning").numbers(1e12, carried_, yawRate_, yawRateBefore_, turning_);
    fields.named("sinceChange").times(sinceChange_);
    fields.named("zone").part(zone_);
    fields.named("airborne").flag(airborne_);
    fields.require(withinReach());
  }

 private:
  bool withinReach() const { return reachablePoint(point()) && reachablePoint(target()) && reachablePoint(head()); }
  void followFeet(const Eigen::Vector3d& feet, const Eigen::Vector3d& up, double seconds,
                  const FollowSettings& settings);
  void settle(bool onGround, double seconds, const RestZoneSettings& settings);
  void ride(const Subject& subject, double seconds, const FrameFollowSettings& settings);
  void change(const Subject& subject, double seconds, const FrameFollowSettings& settings);
  void turnLevel(const Eigen::Vector3d& up, double seconds, double direct);
  void carry(const ReferenceFrame& to, double seconds, const PlatformSettings& settings);
  void keep(const ReferenceFrame& frame);
  Eigen::Vector3d lead() const;
  Eigen::Vector3d up() const;
  Eigen::Vector3d localUp() const;
  Eigen::Vector3d feet() const {
    return zone_.resting() ? Eigen::Vector3d(feet_.target() - zone_.offset(localUp())) : feet_.target();
  }
  Eigen::Vector3d turned(const Eigen::Vector3d& local) const;
  Eigen::Vector3d toWorld(const Eigen::Vector3d& local) const { return origin_.vector() + turned(local); }

  Follow feet_, eyes_, slow_;  // in the platform's axes; `feet_` goes for what rests
  double leadFactor_ = 0;
  std::uint32_t id_ = 0;
  StoredVector3 origin_, velocity_;
  StoredRotation rotation_, level_;
  double scale_ = 1;
  Transition3 left_, tipped_;  // what is left of getting on or off; of turning up
  double carried_ = 0, yawRate_ = 0, yawRateBefore_ = 0, turning_ = 0, sinceChange_ = 1e9;
  RestZone zone_;  // from the feet to what is followed, in the platform's axes
  bool airborne_ = false;
};

}  // namespace alpglow
