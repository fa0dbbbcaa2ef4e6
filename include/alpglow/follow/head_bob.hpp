#pragma once
// Head bob: the phase comes from the distance walked, not from time, so it never runs on the spot.
//
// Over a stride (two steps) of phase φ the head sways once, x = lateral·w·sin 2πφ, and dips twice,
// y = −vertical·w·(1 − cos 4πφ)/2. Both are 0 at φ = 0 and ½. The stride grows with speed; the weight w follows the
// speed by half-life and lets go in the air. When walking stops, the step under way is finished to its neutral point
// along a cubic within a bounded time, and then all is exactly still.
//
//   HeadBob bob;
//   bob.step(distance, dt, onGround, settings);
//   const Eigen::Vector2d offset = bob.offset(settings);     // metres to the right and up

#include <Eigen/Core>

namespace alpglow {

struct BobSettings {
  /// Depth of the dip and half-width of the sway at full speed, metres; 0 = none.
  double vertical = 0;
  double lateral = 0;
  /// Speed along the ground from which on the bob is full, metres per second.
  double fullSpeed = 3.5;
  /// Length of two steps at a crawl, metres, and how much it grows for each metre per second.
  double stride = 0.9;
  double strideGrowth = 0.35;
  /// Half-life by which the bob follows the speed and lets go in the air, seconds.
  double blendHalfLife = 0.12;
  /// When walking stops, the step under way is finished within this time, seconds; more than 0.
  double finishTime = 0.45;
};

class HeadBob {
 public:
  /// `distance` metres were walked along the ground in `seconds`, at a steady speed. Exact however it is cut.
  void step(double distance, double seconds, bool onGround, const BobSettings& settings);

  /// Metres to the right and up; exactly zero when still.
  Eigen::Vector2d offset(const BobSettings& settings) const;
  bool still() const { return gait_ == Gait::still; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("gait").whole(gait_, 2);
    fields.named("phase").number(phase_, 0, 1);
    fields.named("startPhase").number(startPhase_, 0, 1);
    fields.named("weight").number(weight_, 0, 1);
    fields.named("way").number(way_, 0, 1);
    fields.named("rate").numbers(1e30, rate_);
    fields.named("startRate").number(startRate_, 0, 3 / shortestFinish);
    fields.named("duration elapsed").times(duration_, elapsed_);
    fields.require(gait_ != Gait::finishing || duration_ >= shortestFinish);
  }

 private:
  enum class Gait { still, walking, finishing };
  static constexpr double shortestFinish = 1e-12;  // seconds, however fast one walked
  void beginToFinish(const BobSettings& settings);
  double finish(double seconds);

  Gait gait_ = Gait::still;
  double phase_ = 0;  // in strides, [0, 1)
  double rate_ = 0;   // strides per second
  double weight_ = 0;
  // The step that is being finished: the way left when it began, the rate then, how long it takes, how long ago it
  // began.
  double way_ = 0, startRate_ = 0, startPhase_ = 0, duration_ = 0, elapsed_ = 0;
};

}  // namespace alpglow
