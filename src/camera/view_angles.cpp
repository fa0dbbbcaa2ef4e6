#include "alpglow/camera/view_angles.hpp"

#include "alpglow/base/rotation.hpp"

namespace alpglow {

using Eigen::Vector3d;

void ViewAngles::displace(Displacement counts, const LookConditions& conditions) {
  const CameraDesign& design = conditions.design;
  if (glance_.held()) {
    glance_.displace(counts, {look_.shown(), look_.rate(), conditions.body}, design.look, design.glance,
                     conditions.pitch);
  } else if (!conditions.locked) {
    look_.displace(counts, design.look, conditions.pitch, conditions.orbitHalfLife);
  }
}

void ViewAngles::advance(double seconds, Rate deflection, Rate scale, const LookConditions& conditions) {
  const CameraDesign& design = conditions.design;
  const bool looks = !glance_.held() && !conditions.locked;
  look_.advance(seconds, looks ? deflection : Rate(), scale, design.look, conditions.pitch, conditions.orbitHalfLife);
  if (looks && (conditions.opensUp > 0 || conditions.opensDown > 0)) {
    const double asked = turnRatesOf(deflection, scale, design.look).pitch;
    look_.goWithLimit(asked, conditions.pitch, conditions.opensUp, conditions.opensDown);
  }
  glance_.advance(seconds, glance_.held() ? deflection : Rate(), scale, {look_.shown(), look_.rate(), conditions.body},
                  design.look, design.glance, conditions.pitch);
}

LookAngles ViewAngles::orbit(const LookAngles& nudge, const PitchLimits& limits) const {
  const LookAngles look = look_.orbit(), glance = glance_.offset();
  return limited({look.yaw + glance.yaw + nudge.yaw, look.pitch + glance.pitch + nudge.pitch}, limits);
}

SteadiedLook ViewAngles::steadied(const LookAngles& look, const ShownFraming& framing, const Vector3d& camera,
                                  const Rotation& level, const Vector3d& eyeMotion, const LookAngles& wanders,
                                  const Obstacles& obstacles, double seconds, const CameraDesign& design) {
  SteadiedLook shown;
  shown.orbit = look;
  if (design.steady.cap > 0 && design.motion.any())
    shown.steady = steadyTurn(look, camera, level, eyeMotion, obstacles, seconds, design.steady);
  shown.sway = sway_.turn(framing.sway);
  shown.sway = {shown.sway.yaw + wanders.yaw, shown.sway.pitch + wanders.pitch};
  shown.look =
      limited({look.yaw + shown.steady.yaw + shown.sway.yaw, look.pitch + shown.steady.pitch + shown.sway.pitch},
              framing.pitch);
  return shown;
}

LookAngles ViewAngles::steadyTurn(const LookAngles& look, const Vector3d& camera, const Rotation& level,
                                  const Vector3d& eyeMotion, const Obstacles& obstacles, double seconds,
                                  const SteadySettings& settings) {
  double focus = hostFocus_;
  if (focus <= 0) {
    const Vector3d ahead = level * Vector3d(-rotationOf(look.yaw, look.pitch).col(2));
    const Contact contact = obstacles.cast(camera - eyeMotion, ahead * settings.farFocus, Purpose::focus);
    focus = contact.hit() ? contact.distance : settings.farFocus;
  }
  focus_.step(focus, seconds, settings);
  return alpglow::steadied(look, level.conjugate() * eyeMotion, focus_.distance(), settings);
}

}  // namespace alpglow
