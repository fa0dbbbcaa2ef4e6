#pragma once
// SwingBack: turning back behind the subject by itself, and getting out of the way at once.
//
// While the subject moves and the player has not looked around for the hold-off, yaw turns to behind the direction of
// movement: by half-life, never faster than a rate, slower in a slow walk, starting gently, and not at all in a
// walk toward the camera. After a longer idle time the whole pose goes back to its default. A button does that
// now. Any look input stops all of it and starts the hold-off anew.
//
//   SwingBack swingBack;
//   if (looked) swingBack.stop();
//   const PoseChange change = swingBack.step(dt, {yawOfMovement, speed}, look.yaw, fromDefault, settings);
//   shown.turnBy({change.yaw, change.pitch}, limits);

#include "alpglow/base/transition.hpp"
#include "alpglow/look/look.hpp"

#include <cstdint>
#include <string_view>

namespace alpglow {

struct SwingBackSettings {
  /// Fastest turning while moving, radians per second; 0 = never by itself.
  double rate = 0;
  double halfLife = 0.35;
  /// Quiet time after the last look input, seconds.
  double holdoff = 1.5;
  /// Time in which the turning sets in after that, seconds.
  double easeIn = 0.5;
  /// Speed from which on the rate is full, metres per second.
  double fullSpeed = 3;
  /// Half-angle of the cone, around the direction toward the camera, in which movement turns nothing, radians.
  double cone = degrees(30);
  /// After this time without look input the whole pose goes back, seconds; 0 = never.
  double idle = 0;
  /// Time of going back after idling, and at the press of a button, seconds.
  double idleTime = 2, buttonTime = 0.35;
  /// Fastest turning of either, radians per second.
  double poseRate = degrees(540);
  /// The distance goes back as well.
  bool distance = true;
};

/// Where the subject is going: yaw in radians and speed along the ground in m/s.
struct Heading {
  double yaw = 0, speed = 0;
};

/// Yaw and pitch in radians, distance as a difference of ln(1 + d/0.5 m).
struct PoseChange {
  double yaw = 0, pitch = 0, distance = 0;
};

class SwingBack {
 public:
  /// Look input: everything stops, and the hold-off begins.
  void stop();
  /// Time passes in a frame with look input: nothing turns.
  void rest(double seconds) { quiet_ += seconds; }
  /// The hold-off is over now: turning sets in as if the player had not looked around for that long. A cancelled one
  /// stays cancelled.
  void endHoldoff(const SwingBackSettings& settings);
  /// Goes back from a pose that differs from the default by this much, hold-off or not. Where the body faces was told
  /// `sinceTold` seconds before.
  void begin(const PoseChange& fromDefault, double seconds, const SwingBackSettings& settings, double sinceTold = 0);
  /// Where the body faces was told: it has turned by this much (radians) in these seconds. What `begin` began within
  /// them goes to where it faced at that moment. Returns what that changes in the way so far.
  PoseChange told(double bodyTurned, double seconds, const SwingBackSettings& settings);
  /// Stops turning, and turns no more by itself until the player has looked around.
  void cancel();

  /// Named reasons why nothing turns by itself or by a button; up to four at a time, false if there is no room.
  bool forbid(std::string_view reason);
  void allow(std::string_view reason);
  bool forbidden() const;

  /// By how much the pose changes while `seconds` pass. `fromDefault` is how the pose differs from its default.
  PoseChange step(double seconds, const Heading& movement, double yaw, const PoseChange& fromDefault,
                  const SwingBackSettings& settings);

  /// It changes the pose at this moment.
  bool turning() const { return error_ != 0 || !pose_.done(); }
  /// Until it may turn by itself, seconds.
  double holdoffLeft(const SwingBackSettings& settings) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("pose").part(pose_);
    fields.named("begun.from.yaw begun.from.pitch begun.from.distance error")
        .numbers(1e9, begun_.from.yaw, begun_.from.pitch, begun_.from.distance, error_);
    fields.named("begun.time begun.sinceTold begun.passed quiet")
        .times(begun_.time, begun_.sinceTold, begun_.passed, quiet_);
    fields.named("begun.waits begun.goesOn cancelled").flags(begun_.waits, begun_.goesOn, cancelled_);
    for (std::uint32_t& reason : forbidden_) fields.named("forbidden").ids(reason);
  }

 private:
  double behind(double seconds, const Heading& movement, double yaw, const SwingBackSettings& settings);

  /// A way back that was begun with what was told of the body before.
  struct Begun {
    PoseChange from;
    double time = 0, sinceTold = 0, passed = 0;  // of the way, when it was begun, and since then, seconds
    bool waits = false, goesOn = false;          // for the next telling; nobody has stopped it
  };
  void stopPose();

  Transition3 pose_;
  Begun begun_;
  double quiet_ = 0;  // since the last look input
  double error_ = 0;  // from the yaw behind the movement, while turning there
  bool cancelled_ = false;
  std::uint32_t forbidden_[4] = {0, 0, 0, 0};  // hashes of names
};

}  // namespace alpglow
