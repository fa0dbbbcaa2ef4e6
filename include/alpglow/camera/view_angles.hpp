#pragma once
// Which way the view faces: the look, a glance away from it, the sway of a hand, and steadying on top.
//
//   ViewAngles angles({subject.heading, 0});
//   angles.displace({12, -3}, {design, limits});          // in full, at once
//   angles.advance(dt, stick, {1, 1}, {design, limits});
//   angles.heading();                                     // what movement refers to: never with glance or sway
//
// A trivially copyable value.

#include "alpglow/design/design.hpp"
#include "alpglow/framing/shown_framing.hpp"
#include "alpglow/look/glance.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/steadying.hpp"
#include "alpglow/view/sway.hpp"

namespace alpglow {

/// What look input meets at one moment.
struct LookConditions {
  const CameraDesign& design;
  PitchLimits pitch;
  /// Half-life by which the orbit trails behind the look, seconds.
  double orbitHalfLife = 0;
  /// Where the subject's body faces, radians.
  double body = 0;
  /// Something else than the player has the look; only a glance is the player's then.
  bool locked = false;
  /// How fast the pitch limits open up and down, radians per second, 0 or more.
  double opensUp = 0, opensDown = 0;
};

/// The look as it is shown, what steadying and the hand's sway have in it, and where the camera orbits without them.
struct SteadiedLook {
  LookAngles look, steady, sway, orbit;
};

class ViewAngles {
 public:
  explicit ViewAngles(const LookAngles& look) : look_(look) {}
  /// Faces this way from now on; no glance.
  void face(const LookAngles& look) {
    look_ = Look(look);
    glance_ = Glance();
  }

  /// While it is held, look input moves the glance and not the look.
  void holdGlance(bool held) { glance_.hold(held); }
  bool glancing() const { return glance_.held(); }
  LookAngles glance() const { return glance_.offset(); }

  /// The pointer moved; counts, already scaled.
  void displace(Displacement counts, const LookConditions& conditions);
  /// Time passes with the stick at this deflection, length 0 … 1; `scale` multiplies its rates.
  void advance(double seconds, Rate deflection, Rate scale, const LookConditions& conditions);
  /// Somebody else than the player turned the look.
  void turnBy(const LookAngles& turn, const PitchLimits& limits) { look_.turnBy(turn, limits); }

  /// The look, with the heading as its yaw; and the turn rates that a stick causes, radians per second.
  LookAngles look() const { return look_.shown(); }
  LookAngles rates() const { return look_.rate(); }
  double heading() const { return look_.shown().yaw; }
  /// Where the camera orbits and looks: with the glance and what else nudges it, within the limits.
  LookAngles orbit(const LookAngles& nudge, const PitchLimits& limits) const;

  /// Time passes for the hand that sways; `period` in seconds of a breath.
  void advanceSway(double seconds, double period) { sway_.advance(seconds, period); }

  /// Steadying keeps what is this many metres ahead; 0 or less, or not a number: what a ray hits.
  void setFocus(double distance) { hostFocus_ = distance > 0 ? distance : 0; }
  /// Takes the next focus at once.
  void cutFocus() { focus_.cut(); }
  /// What is shown of a look: with sway, and with the turn that keeps the focus under the crosshair of a camera whose
  /// pivot `eyeMotion` (metres, in the world) has moved. What else `wanders` goes to the sway.
  SteadiedLook steadied(const LookAngles& look, const ShownFraming& framing, const Eigen::Vector3d& camera,
                        const Rotation& level, const Eigen::Vector3d& eyeMotion, const LookAngles& wanders,
                        const Obstacles& obstacles, double seconds, const CameraDesign& design);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("look glance sway focus").part(look_, glance_, sway_, focus_);
    fields.named("hostFocus").number(hostFocus_, 0, std::numeric_limits<double>::infinity());
  }

 private:
  LookAngles steadyTurn(const LookAngles& look, const Eigen::Vector3d& camera, const Rotation& level,
                        const Eigen::Vector3d& eyeMotion, const Obstacles& obstacles, double seconds,
                        const SteadySettings& settings);

  Look look_;
  Glance glance_;
  Sway sway_;
  Focus focus_;
  double hostFocus_ = 0;
};

}  // namespace alpglow
