#pragma once
// Glance: while it is held, the look leaves the heading; movement and body stay as they are.
//
// The offset is limited relative to the body, to the sides and up and down. A limit never pushes: where the offset is
// beyond one already, only moving outward is dropped, and moving back works at once. On release it returns by
// half-life, and pressing again takes over from wherever it is.

#include "alpglow/look/look.hpp"

namespace alpglow {

struct GlanceSettings {
  /// Farthest to either side of the body, radians.
  double side = degrees(110);
  /// Farthest above and below the level, radians.
  double up = degrees(70), down = degrees(70);
  /// Half-life of the return, seconds; 0 cuts back.
  double returnHalfLife = 0.12;
};

/// What a glance goes out from: the look without it, how fast that turns, and the body's heading.
struct GlanceBase {
  LookAngles look, rates;
  double body = 0;
};

class Glance {
 public:
  void hold(bool held) { held_ = held; }
  bool held() const { return held_; }

  /// The pointer moved while held.
  void displace(Displacement moved, const GlanceBase& base, const LookSettings& look, const GlanceSettings& settings,
                const PitchLimits& limits);
  /// Time passes: with a stick at this deflection while held, returning otherwise.
  void advance(double seconds, Rate deflection, Rate scale, const GlanceBase& base, const LookSettings& look,
               const GlanceSettings& settings, const PitchLimits& limits);

  /// To add to the look.
  LookAngles offset() const { return offset_; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("offset.yaw").numbers(2 * pi, offset_.yaw);
    fields.named("offset.pitch").numbers(pi, offset_.pitch);
    fields.named("rate.yaw rate.pitch").numbers(1e9, rate_.yaw, rate_.pitch);
    fields.named("held").flag(held_);
  }

 private:
  void keep(const LookAngles& before, const GlanceBase& base, const GlanceSettings& settings,
            const PitchLimits& limits);

  LookAngles offset_;
  LookAngles rate_;
  bool held_ = false;
};

}  // namespace alpglow
