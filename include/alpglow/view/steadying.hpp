#pragma once
// Steadying: while the head bobs, the view turns by the small angle that keeps what is looked at under the crosshair.
// Rotation only, and it never feeds back into look or heading.
//
//   Focus focus;
//   focus.step(contact.hit() ? contact.distance : settings.farFocus, dt, settings);
//   const LookAngles turn = steadied(look, offset, focus.distance(), settings);

#include "alpglow/look/look.hpp"

#include <Eigen/Core>

namespace alpglow {

struct SteadySettings {
  /// Largest turn, radians; 0 = no steadying.
  double cap = degrees(4);
  /// Half-life of the focus in 1/distance, seconds: passing a near post does not jerk the view.
  double focusHalfLife = 0.15;
  /// Focus where nothing is hit, metres.
  double farFocus = 60;
};

/// The distance that is looked at, smoothed. A trivially copyable value.
class Focus {
 public:
  void step(double distance, double seconds, const SteadySettings& settings);
  /// Takes the next distance at once, as after a cut.
  void cut() { inverse_ = -1; }
  double distance() const { return 1 / inverse_; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("inverse").number(inverse_, -1, 1e3);
    fields.require(inverse_ == -1 || inverse_ >= 1e-6);
  }

 private:
  double inverse_ = -1;
};

/// The turn to add to `look`, for an eye that is `offset` metres away from where it would be without motion, so that
/// the point `focus` metres ahead of that place stays in the middle. Fades out near straight up and down.
LookAngles steadied(const LookAngles& look, const Eigen::Vector3d& offset, double focus,
                    const SteadySettings& settings);

}  // namespace alpglow
