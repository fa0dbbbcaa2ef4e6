#pragma once
// A limit that shortens at once and lengthens gently: after a delay, by half-life.
//
//   EaseOut room;
//   const double shown = room.step(target, allowed, dt, settings);   // allowed: no limit = infinity

#include <limits>

namespace alpglow {

struct EaseOutSettings {
  /// Quiet time after the last shortening before it lengthens again, seconds.
  double delay = 0.25;
  /// Half-life of lengthening, seconds.
  double halfLife = 0.2;
};

class EaseOut {
 public:
  /// The value to show: never above `target` or `allowed`. Exact over `dt` for resting values.
  double step(double target, double allowed, double dt, const EaseOutSettings& settings);

  /// Nothing is allowed at this moment: the limit is 0, and the quiet time begins anew.
  void close() { limit_ = quiet_ = 0; }
  /// Forgets the limit.
  void release() { *this = EaseOut(); }
  /// Whether the last step showed less than its target.
  bool limiting() const { return limit_ < std::numeric_limits<double>::infinity(); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("limit").number(limit_, 0, std::numeric_limits<double>::infinity());
    fields.named("quiet").times(quiet_);
  }

 private:
  double limit_ = std::numeric_limits<double>::infinity();
  double quiet_ = 0;
};

}  // namespace alpglow
