#pragma once
// When and how fast a length grows again after something has shortened it.
//
//   GoOut out;
//   out.wentIn(0.4, settings);                                  // 40 cm were lost
//   length = out.step(length, {3, 3, 0}, dt, settings);         // in every frame that loses nothing
//
// After q quiet seconds the length may be
//
// whole · (q/(wait + b) − 0.4) / (4 − 0.4),
//
// so it leaves soon from close by, where there is most to gain, and late when it is almost out. After a pump (in again
// after it went out) b is the wait after a pump, which halves every 1.5 s. A fifth of that quiet time will do as far as
// there is ample room. It approaches the length it may be by half-life, and never faster than the speed out.

#include "alpglow/space/pull_in_settings.hpp"

namespace alpglow {

/// Metres: what is wanted; what there is room for, now and ahead; what there is ample room for.
struct RoomsOut {
  double whole = 0, room = 0, ample = 0;
};

/// A trivially copyable value.
class GoOut {
 public:
  /// Time passes without a loss. Returns the new length, no longer than there is room for.
  double step(double length, const RoomsOut& rooms, double seconds, const PullInSettings& settings, double scale = 1);
  /// The length lost so much, metres.
  void wentIn(double by, const PullInSettings& settings, double scale = 1);
  /// How long it waits before it goes out from this share of the whole where room is not ample, seconds.
  double waits(double share, const PullInSettings& settings) const;
  /// The same right after it came in, by a pump or not.
  static double waitsAtFirst(double share, bool pumped, const PullInSettings& settings);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("wentIn wentOut").within(0, 1e15, wentIn_, wentOut_);
    fields.named("quiet added").times(quiet_, added_);
  }

 private:
  double wentIn_ = 0, wentOut_ = 0;  // metres: since the quiet time began; since it went in last
  double quiet_ = 0, added_ = 0;     // seconds
};

}  // namespace alpglow
