#pragma once
// The distance from the pivot that the player asks for. Each wheel notch scales it by the same factor, so that it feels
// the same near and far; what would go beyond the range is dropped. The shown distance follows by half-life in
// ln(1 + d/0.5 m), which stays finite at the eyes.
//
//   OrbitDistance distance(3.0);
//   distance.zoom(1, settings, range);     // one notch closer
//   distance.pass(dt, settings);           // time goes by
//   distance.shown();

namespace alpglow {

struct ZoomSettings {
  /// One notch toward the subject divides the distance by this factor; at least 1, and 1 switches the wheel off.
  double factorPerNotch = 1.15;
  /// Half-life of the shown distance, seconds; 0 shows it at once.
  double halfLife = 0.08;
};

/// Metres, 0 ≤ nearest ≤ farthest.
struct DistanceRange {
  double nearest = 1.2;
  double farthest = 6.0;
};

class OrbitDistance {
 public:
  OrbitDistance() = default;
  explicit OrbitDistance(double distance) : wanted_(distance), shown_(distance) {}

  /// The wheel turned by `notches`; positive is closer.
  void zoom(double notches, const ZoomSettings& settings, const DistanceRange& range);
  /// Time passes; exact however it is cut.
  void pass(double seconds, const ZoomSettings& settings);

  double wanted() const { return wanted_; }
  double shown() const { return shown_; }

 private:
  double wanted_ = 0;
  double shown_ = 0;
};

}  // namespace alpglow
