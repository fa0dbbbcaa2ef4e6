#pragma once
// What the player wants this frame, as time-ordered samples.
//
// A displacement (mouse, wheel, finger) says how far something moved: it is applied whole, at its moment, and never
// multiplied by time. A rate (stick, key) says how hard to turn: it holds from its moment on and is always integrated
// over time. Two types keep them apart. Because every sample has a time, clamping at a limit does not depend on how
// the input was cut into frames. A rate, a glance and aiming hold until they change, over frames as well.
//
//   const IntentSample samples[] = {IntentSample::look(0.004, {12, -3})};
//   camera.look(dt, Intent{samples});

#include "alpglow/base/span.hpp"

#include <cstdint>
#include <optional>

namespace alpglow {

/// How far a pointer moved, in device counts: x to the right, y down (toward the user).
struct Displacement {
  double x = 0, y = 0;
};

/// How hard a stick or key asks for motion, as a fraction of the full rate: x right, y up (away from the user), length
/// at most 1.
struct Rate {
  double x = 0, y = 0;
};

/// One thing that happened at one moment of the frame.
struct IntentSample {
  enum class Kind { look, turn, zoom, zoomRate, glance, swapShoulder, swingBack, aim, switchPerspective };

  /// Seconds since the start of the frame. Samples stand in order of time; earlier than 0 counts as 0, later than dt as
  /// dt.
  double time = 0;
  Kind kind = Kind::look;
  double x = 0, y = 0;

  /// The pointer moved by this many counts.
  static constexpr IntentSample look(double time, Displacement moved) { return {time, Kind::look, moved.x, moved.y}; }
  /// From now on the stick asks for this fraction of the full turn rate.
  static constexpr IntentSample turn(double time, Rate rate) { return {time, Kind::turn, rate.x, rate.y}; }
  /// The wheel clicked; positive moves the camera closer.
  static constexpr IntentSample zoom(double time, double notches) { return {time, Kind::zoom, notches, 0}; }
  /// From now on a stick or key asks for this fraction of the full zoom rate; positive moves the camera closer.
  static constexpr IntentSample zoomRate(double time, double fraction) { return {time, Kind::zoomRate, fraction, 0}; }
  /// From now on the look is free of the heading, or tied to it again.
  static constexpr IntentSample glance(double time, bool held) { return {time, Kind::glance, held ? 1.0 : 0.0, 0}; }
  /// Over the other shoulder.
  static constexpr IntentSample swapShoulder(double time) { return {time, Kind::swapShoulder, 0, 0}; }
  /// Back behind the subject, now.
  static constexpr IntentSample swingBack(double time) { return {time, Kind::swingBack, 0, 0}; }
  /// From now on the character aims, or does not.
  static constexpr IntentSample aim(double time, bool held) { return {time, Kind::aim, held ? 1.0 : 0.0, 0}; }
  /// First person to third, and back.
  static constexpr IntentSample switchPerspective(double time) { return {time, Kind::switchPerspective, 0, 0}; }
};

struct Intent {
  Intent() = default;
  Intent(Span<const IntentSample> samplesInOrder) : samples(samplesInOrder) {}
  Intent(Span<const IntentSample> samplesInOrder, Rate turnAtStart) : samples(samplesInOrder), turn(turnAtStart) {}

  Span<const IntentSample> samples;
  /// What holds at the start of the frame, until a sample changes it; nothing: what the last frame ended with.
  std::optional<Rate> turn;
  std::optional<double> zoomRate;
  std::optional<bool> glance, aim;
  /// The player's multipliers of both turn rates; negative turns the other way.
  Rate turnScale = {1, 1};
  /// What named blocks stop (bits of Blocked), for the view to say; the samples are already free of it.
  std::uint32_t blocked = 0;

  /// The player looks around at some moment of the frame; `before` is the turn rate that the last one ended with.
  bool looksAround(Rate before = {}) const;
};

inline bool Intent::looksAround(Rate before) const {
  const Rate held = turn.value_or(before);
  bool looks = held.x != 0 || held.y != 0;
  for (const IntentSample& sample : samples) {
    const bool counts = sample.kind == IntentSample::Kind::look || sample.kind == IntentSample::Kind::turn;
    looks = looks || (counts && (sample.x != 0 || sample.y != 0));
  }
  return looks;
}

}  // namespace alpglow
