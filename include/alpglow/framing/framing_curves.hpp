#pragma once
// Numbers of a framing that are curves: over the pitch, over how fast the subject goes along the ground or up, over the
// distance that the player has chosen, or over a number that the game sets.
//
//   named.curves.push_back({Curved::distance, CurveOver::pitch, {}, Curve({{-1.0, 5.0}, {0.0, 3.2}, {0.9, 1.6}})});
//   named.curves.push_back({Curved::fieldOfView, CurveOver::number, "fear", Curve({{0, 1.0}, {1, 1.3}})});
//
// The framing's plain number is the curve's at pitch, speed or number 0 (or at the framing's own distance); the rest is
// added to it, distance and lens in their logarithms, so that what the player zooms or prefers comes on top. Speeds and
// numbers are eased by half-life, exactly where they are linear between two frames; pitch and distance are taken as
// they are in the frame. So the frame rate makes a difference only where a speed is no straight line between frames: of
// second order in the frame's time.

#include "alpglow/base/curve.hpp"
#include "alpglow/framing/framing_blend.hpp"

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

namespace alpglow {

/// What may be a curve.
enum class Curved : std::uint8_t {
  anchorHeight,
  anchorRise,
  shoulder,
  tilt,
  distance,
  fieldOfView,  ///< vertical; of a lens that is stated otherwise it is the factor that counts
  followHalfLife,
  verticalHalfLife,
  unrest,
};
/// Over what: radians, metres per second of the subject's scale along the ground or up, metres, or 0 … 1.
enum class CurveOver : std::uint8_t { pitch, speed, climb, distance, number };

constexpr std::size_t mostCurveNumbers = 4;

/// As a design says it.
struct FramingCurve {
  Curved what = Curved::distance;
  CurveOver over = CurveOver::pitch;
  /// What the game calls the number that it sets, for `CurveOver::number`.
  std::string number;
  /// In the units of the framing's own number: metres, radians, seconds.
  Curve curve;
};

struct CurveSettings {
  /// Half-lives of following the subject's speed, and the game's numbers, seconds; 0 = at once.
  double speedHalfLife = 0.25, numberHalfLife = 0.15;
};

/// Where the curves are read off. A trivially copyable value.
class CurveInputs {
 public:
  /// What the game says, 0 … 1; not a number changes nothing.
  void set(std::size_t number, double value) {
    if (number < mostCurveNumbers && value == value) goals_[number] = std::clamp(value, 0.0, 1.0);
  }
  /// A frame has passed, with these at its end.
  void advance(double seconds, double speed, double climb, const CurveSettings& settings);
  /// Time passes for the game's numbers: call it up to each moment at which one may be set.
  void advanceNumbers(double seconds, const CurveSettings& settings);
  /// Another design calls the game's numbers this: what has the same name goes on.
  void rename(const std::vector<std::string>& before, const std::vector<std::string>& now);
  /// At once where they are told to be, in the next step.
  void cut() { fresh_ = true; }
  void look(double pitch) { pitch_ = pitch; }

  /// As it has come by now, 0 … 1; 0 where there is none.
  double number(std::size_t number) const { return number < mostCurveNumbers ? numbers_[number] : 0; }
  double at(CurveOver over, std::size_t number, double distance) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("pitch").numbers(10, pitch_);
    fields.named("speed climb toldSpeed toldClimb").numbers(1e15, speed_, climb_, toldSpeed_, toldClimb_);
    for (double& number : numbers_) fields.named("numbers").number(number, 0, 1);
    for (double& goal : goals_) fields.named("goals").number(goal, 0, 1);
    fields.named("fresh").flags(fresh_);
  }

 private:
  double pitch_ = 0, speed_ = 0, climb_ = 0, toldSpeed_ = 0, toldClimb_ = 0;
  double numbers_[mostCurveNumbers] = {}, goals_[mostCurveNumbers] = {};
  bool fresh_ = true;
};

/// Of a compiled design: what a curve adds to which parameter of its framing.
struct CompiledCurve {
  Curved what = Curved::distance;
  CurveOver over = CurveOver::pitch;
  std::size_t number = 0;
  Curve curve;
  /// What the framing's own number is.
  double own = 0;

  /// The parameter, if it is one that blends.
  bool bends(FramingParameter parameter) const;
  /// Of the curve: what is added, in the parameter's space.
  double addedFor(double value) const;
  double added(const CurveInputs& inputs, double distance) const {
    return addedFor(curve.at(inputs.at(over, number, distance)));
  }
};

}  // namespace alpglow
