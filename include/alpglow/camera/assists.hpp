#pragma once
// What turns the view beside the player: lock on; swinging back and idle drift while nothing is locked.
//
//   Assists assists;
//   assists.lockOn(target);
//   look.turnBy(assists.turnToTarget(dt, goalNow, goalThen, look.shown(), {}, design.lock), limits);   // while locked
//   const PoseChange change = assists.swingBack(dt, scene, design.swingBack);                          // otherwise
//
// A trivially copyable value. Every turn is in radians, to be added to the look.

#include "alpglow/assist/idle_drift.hpp"
#include "alpglow/assist/lock_on.hpp"
#include "alpglow/assist/swing_back.hpp"
#include "alpglow/space/obstacles.hpp"

#include <string_view>

namespace alpglow {

/// What swinging back works from at one moment.
struct SwingBackScene {
  Heading movement;
  /// Of the look, radians.
  double yaw = 0;
  /// How the pose differs from the default one.
  PoseChange fromDefault;
};

/// What became of the target in a frame.
struct TargetReport {
  /// The one that is locked on, and the turn that is missing, radians.
  std::uint32_t lock = noTarget;
  double error = 0;
  bool lost = false;
  Rate flick;
};

class Assists {
 public:
  // Lock on

  /// Locks on, goes to another target, or tells where the same one is. True if it is another one than before.
  bool lockOn(const Target& target);
  /// Lets go. False if nothing was locked.
  bool endLock();
  const LockOn& lock() const { return lock_; }
  /// Look input while locked: nudges the view.
  void nudge(const LookAngles& turn, const LockSettings& settings) { lock_.nudge(turn, settings); }
  /// The target goes on at its velocity.
  void targetMoves(double seconds) { lock_.targetMoves(seconds); }
  /// Time passes while locked: the goal goes from one to the other.
  LookAngles turnToTarget(double seconds, const LockGoal& from, const LockGoal& to, const LookAngles& look,
                          const LockPush& push, const LockSettings& settings);
  /// Whether the target is out of range of the eyes, or was hidden for too long; both in the subject's scale. The flick
  /// is taken.
  TargetReport checkTarget(double seconds, const Eigen::Vector3d& eyes, double scale, const Obstacles& obstacles,
                           const LockSettings& settings);

  // Swinging back

  /// Look input: everything stops, and the hold-off begins.
  void handsOn() {
    swingBack_.stop();
    drift_.stop();
  }
  /// Goes back now, hold-off or not, unless something is locked. Where the body faces was told this long ago, seconds.
  void beginSwingBack(const PoseChange& fromDefault, const SwingBackSettings& settings, double sinceTold = 0);
  /// Where the body faces was told: it has turned by this much in these seconds. Returns what that changes.
  PoseChange bodyTold(double turned, double seconds, const SwingBackSettings& settings);
  void endHoldoff(const SwingBackSettings& settings) { swingBack_.endHoldoff(settings); }
  void cancelSwingBack() { swingBack_.cancel(); }
  bool forbidSwingBack(std::string_view reason) { return swingBack_.forbid(reason); }
  void allowSwingBack(std::string_view reason) { swingBack_.allow(reason); }
  bool swingingBack() const { return swingBack_.turning(); }
  double holdoffLeft(const SwingBackSettings& settings) const { return swingBack_.holdoffLeft(settings); }
  /// Whether `swingBack` could turn anything; if not, `rest` does.
  bool maySwingBack(const SwingBackSettings& settings) const {
    return settings.rate > 0 || settings.idle > 0 || swingBack_.turning();
  }

  /// Time passes without anything locked; while the player looks around, nothing turns.
  void rest(double seconds, const LockSettings& settings) { lock_.rest(seconds, settings); }
  void waitForHands(double seconds) { swingBack_.rest(seconds); }
  PoseChange swingBack(double seconds, const SwingBackScene& scene, const SwingBackSettings& settings);
  /// By how much yaw was turned since this was last asked, radians.
  double takeSwungBack();

  // Idle drift

  /// By how much yaw turns while time passes; it waits while swinging back turns.
  double drift(double seconds, bool stands, const IdleDriftSettings& settings) {
    return drift_.step(seconds, stands && !swingBack_.turning(), settings);
  }
  void endDrift() { drift_.stop(); }
  double driftRate() const { return drift_.rate(); }

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset) { lock_.shift(offset); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("swingBack lock drift").part(swingBack_, lock_, drift_);
    fields.named("swungBack").numbers(1e12, swungBack_);
  }

 private:
  SwingBack swingBack_;
  LockOn lock_;
  IdleDrift drift_;
  double swungBack_ = 0;
};

}  // namespace alpglow
