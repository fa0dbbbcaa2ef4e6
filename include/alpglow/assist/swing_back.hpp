#pragma once
// SwingBack: turning back behind the subject by itself, and getting out of the way at once.
//
// While the subject moves and the player has not looked around for the hold-off, yaw turns to behind the direction of
// movement: by half-life, never faster than a rate, slower for who walks slowly, starting gently, and not at all for
// who walks toward the camera. After a longer idle time the whole pose goes back to its default. A button does that
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
  /// Goes back from a pose that differs from the default by this much, hold-off or not.
  void begin(const PoseChange& fromDefault, double seconds, const SwingBackSettings& settings);
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

 private:
  double behind(double seconds, const Heading& movement, double yaw, const SwingBackSettings& settings);

  Transition3 pose_;
  double quiet_ = 0;  // since the last look input
  double error_ = 0;  // from the yaw behind the movement, while turning there
  bool cancelled_ = false;
  std::uint32_t forbidden_[4] = {0, 0, 0, 0};  // hashes of names
};

}  // namespace alpglow
