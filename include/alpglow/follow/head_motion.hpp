#pragma once
// What moves the eyes besides the player: the bob of walking, the dip of a landing, breathing when still.
//
// A landing kicks a critically damped spring, y = v0·t·e^(−ωt): it dips once to v0/(e·ω) and comes back without
// overshoot. Breathing is a slow sine that fades in when still.
//
//   HeadMotion motion;
//   motion.step({distance, dt, onGround, fallSpeed}, settings);
//   const Eigen::Vector2d offset = motion.offset(settings);

#include "alpglow/base/limits.hpp"
#include "alpglow/follow/head_bob.hpp"

namespace alpglow {

struct DipSettings {
  /// Depth of the dip for each metre per second of the fall, metres; 0 = none.
  double depthPerSpeed = 0;
  /// Deepest dip, metres.
  double deepest = 0.3;
  /// Half-life of coming back, seconds; more than 0.
  double halfLife = 0.14;
};

struct BreathSettings {
  /// Metres up and down; 0 = none.
  double amplitude = 0;
  /// Seconds a breath.
  double period = 4;
};

struct HeadMotionSettings {
  BobSettings bob;
  DipSettings dip;
  BreathSettings breath;

  /// Whether anything moves at all.
  bool any() const { return bob.vertical > 0 || bob.lateral > 0 || dip.depthPerSpeed > 0 || breath.amplitude > 0; }
};

/// A stretch of time in which the subject moved steadily.
struct WalkedStretch {
  /// Metres along the ground, and seconds.
  double distance = 0, seconds = 0;
  /// At its end; for the stretch itself, what held at its start counts.
  bool onGround = true;
  /// Metres per second downward; negative when rising.
  double fallSpeed = 0;
};

class HeadMotion {
 public:
  void step(const WalkedStretch& stretch, const HeadMotionSettings& settings);
  /// Metres to the right and up.
  Eigen::Vector2d offset(const HeadMotionSettings& settings) const;
  /// As of the last step.
  bool onGround() const { return !inAir_; }
  /// Still, as after a cut.
  void cut() { *this = HeadMotion(); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("bob").part(bob_);
    fields.named("dip").numbers(100, dip_);
    fields.named("dipSpeed").numbers(1e9, dipSpeed_);
    fields.named("fastestFall").number(fastestFall_, 0, farthestPosition);
    fields.named("breath").number(breath_, 0, 1);
    fields.named("breathWeight").number(breathWeight_, 0, 1);
    fields.named("inAir").flag(inAir_);
  }

 private:
  HeadBob bob_;
  double dip_ = 0, dipSpeed_ = 0;
  bool inAir_ = false;
  double fastestFall_ = 0;
  double breath_ = 0, breathWeight_ = 0;
};

}  // namespace alpglow
