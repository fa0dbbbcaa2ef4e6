#pragma once
// The distance from the pivot that the player asks for. Each wheel notch scales it by the same factor, so that it feels
// the same near and far; a stick or key scales it at a rate. What would go beyond the range is dropped. What the wheel
// did shows by half-life in ln d; a rate shows at once, so that no filter follows a filter.
//
//   OrbitDistance distance(3.0);
//   distance.zoom(1, settings, range);          // one notch closer
//   distance.advance(dt, 0, settings, range);      // time goes by
//   distance.shown();

namespace alpglow {

struct ZoomSettings {
  /// One notch toward the subject divides the distance by this factor; at least 1, and 1 switches the wheel off.
  double factorPerNotch = 1.15;
  /// Half-life by which notches show, seconds; 0 shows them at once.
  double halfLife = 0.08;
  /// Notches per second at the full rate of a stick or key.
  double notchesPerSecond = 8;
};

/// Metres, 0 ≤ nearest ≤ farthest.
struct DistanceRange {
  double nearest = 1.2;
  double farthest = 6.0;
};

class OrbitDistance {
 public:
  OrbitDistance() = default;
  explicit OrbitDistance(double distance) : target_(distance), shown_(distance) {}

  /// The wheel turned by `notches`; positive is closer.
  void zoom(double notches, const ZoomSettings& settings, const DistanceRange& range);
  /// Time passes with a stick or key asking for this fraction of the full rate; exact however it is cut.
  void advance(double seconds, double rate, const ZoomSettings& settings, const DistanceRange& range);

  /// Somebody else than the player changes it, in ln(1 + d/0.5 m).
  void addLogDistance(double change, const DistanceRange& range);

  double target() const { return target_; }
  double shown() const { return shown_; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("target").number(target_, 0, 1e6);
    fields.named("shown").number(shown_, 0, 1e6);
  }

 private:
  double target_ = 0;
  double shown_ = 0;
};

}  // namespace alpglow
