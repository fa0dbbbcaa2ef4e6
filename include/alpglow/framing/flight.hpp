#pragma once
// How a camera flies that has no subject: the settings of `FlyingCamera`, and the section [flight] of a design.
//
//   FlightSettings flight;
//   flight.topSpeed = 12;

#include "alpglow/framing/framing.hpp"
#include "alpglow/look/look.hpp"

namespace alpglow {

/// What a direction of flight refers to.
enum class FlightFrame {
  world,  ///< ahead: along the ground, whatever the pitch; up: the world's up
  view,   ///< ahead: where the camera looks; up: the screen's up
};

struct FlightSettings {
  /// Of a design: its section [look].
  LookSettings look;
  PitchLimits pitch = {degrees(-90), degrees(90)};
  LensSpec lens;
  double nearPlane = 0.05, farPlane = 5000;
  /// Metres per second, and the factor while the fast key is held.
  double topSpeed = 6, fastFactor = 4;
  /// Half-lives of reaching a speed and of braking, seconds; 0 = at once.
  double accelerateHalfLife = 0.1, brakeHalfLife = 0.08;
  /// Instead of the half-lives: a constant change of velocity, metres per second squared; 0 = by half-life.
  double acceleration = 0, braking = 0;
  FlightFrame ahead = FlightFrame::view;
  FlightFrame up = FlightFrame::world;
};

}  // namespace alpglow
