#pragma once
// A framing: one way to sit relative to the subject. First person is a framing at distance 0.

#include "alpglow/follow/follow.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/framing/orbit_distance.hpp"
#include "alpglow/look/look.hpp"

namespace alpglow {

/// How the lens is stated. A magnification is over the player's preferred field of view, that of the base framing:
/// tan(fov/2) = tan(base/2)/magnification.
enum class LensKind { verticalFieldOfView, horizontalFieldOfView, focalLength, magnification };

struct LensSpec {
  LensKind kind = LensKind::verticalFieldOfView;
  /// Radians, for the first two kinds.
  double fieldOfView = degrees(60);
  /// Width over height at which a horizontal field of view is meant.
  double aspect = 16.0 / 9.0;
  /// Metres, for the third kind.
  double focalLength = 0.024;
  double sensorHeight = 0.024;
  /// For the fourth kind: up to three steps of a ladder, chosen by zooming; 0 = no such step.
  double magnification = 2, magnification2 = 0, magnification3 = 0;

  /// `base` is the vertical field of view that a magnification refers to, radians; `step` counts from 0.
  Lens lens(double base = degrees(60), int step = 0) const;
  /// How many steps there are; 1 where zooming changes the distance.
  int steps() const;
};

/// What look input is multiplied by under another lens than the base framing's.
enum class LookScaleKind {
  screen,  ///< so that the hand moves the screen by the same pixels, at its centre or at `atFraction` of its
           ///< half-width
  fixed,   ///< by `factor`
};

struct LookScale {
  LookScaleKind kind = LookScaleKind::screen;
  /// For `screen`: where on the screen, from 0 at its centre to 1 at its edge; 0 … 1.
  double atFraction = 0;
  /// For `fixed`: more than 0.
  double factor = 1;

  /// For a vertical field of view shown, and that of the base framing, radians. At a fraction x of the half-width it is
  /// atan(x·tan(h/2))/atan(x·tan(h0/2)) of the horizontal fields of view; at the centre tan(v/2)/tan(v0/2).
  double at(double fieldOfView, double base, double aspect) const;
};

/// What a change into a framing, out of it or within it keeps.
enum class Keeps {
  look,  ///< nothing turns
  aim,   ///< the crosshair stays on the point that it is on
};

struct Framing {
  /// Where on the subject the anchor sits: 0 at the feet, 1 at the eyes.
  double anchorHeight = 1.0;
  /// Further up from there, metres.
  double anchorRise = 0.1;
  /// Sideways from the anchor in the yaw frame, metres; positive puts the camera over the right shoulder.
  double shoulder = 0.55;
  /// Time of the transition to the other shoulder, seconds; 0 cuts.
  double shoulderSwap = 0.4;
  /// Starting distance from the pivot, metres.
  double distance = 3.0;
  DistanceRange distanceRange;
  /// Of a framing over a base: its distance is the base's, as the player has chosen it, times this, brought into the
  /// range above; zooming in it chooses for the base as well. 0 = a distance of its own.
  double distanceScale = 0;
  LensSpec lens;
  /// Near and far distance, metres.
  double nearPlane = 0.06;
  double farPlane = 2000;
  PitchLimits pitch;
  /// Pitch of the first view, and the one that swinging back goes back to, radians.
  double defaultPitch = degrees(-10);
  /// The camera orbits this much lower than it looks up: positive puts the subject lower in the screen, radians.
  double tilt = 0;
  FollowSettings follow;
  /// Half-life by which the orbit trails behind the look, seconds; neither look nor heading wait for it.
  double orbitHalfLife = 0;
  /// Half-life by which the anchor follows the height of the eyes (crouching, standing up), seconds.
  double eyeHalfLife = 0.1;
  LookScale lookScale;
  /// Bob, dip and breathing are multiplied by this.
  double bobScale = 1;
  /// The amount of unrest (0 … 1), the lead, the rate of swinging back by itself, and how fast clear space brings the
  /// camera in and out again are multiplied by these.
  double unrestScale = 1, leadScale = 1, swingBackScale = 1, pullInScale = 1;
  /// How far the hand sways the view, radians; in the period of a breath.
  double sway = 0;
  /// Time of the transition into this framing, seconds; 0 cuts.
  double transition = 0.35;
  /// What changes keep, and by how much keeping the aim may turn the look, radians.
  Keeps keeps = Keeps::look;
  double keepCap = degrees(10);
};

}  // namespace alpglow
