#pragma once
// How a camera comes in before walls and goes out again. Metres are the subject's scale's.

namespace alpglow {

struct PullInSettings {
  /// How far ahead the motion of subject and look is predicted, seconds; 0 = nothing is predicted.
  double horizon = 0.58;
  /// Coming in as fast as this is calm, m/s: the camera starts so early that it need not be faster.
  double speed = 6.5;
  /// Fastest that it comes in because of a prediction, m/s; where that is not enough the rest is a jump.
  double fastest = 9.8;
  /// The same while the look turns fast, which moves the whole picture.
  double fastestInFlicks = 13.3;
  /// Quiet time before the camera goes out again, seconds: longer the farther out it is.
  double wait = 0.3;
  /// How much longer it waits after it had to come in again soon, seconds.
  double waitAfterPump = 1.5;
  /// Fastest that it goes out, m/s.
  double outSpeed = 8;
  /// The camera goes over to the other shoulder where that keeps more distance than this for each metre of the
  /// shoulder, and moves at this speed at most, m/s; speed 0 = it never does.
  double shoulderPrice = 2, shoulderSpeed = 1.2;
  /// Where that keeps more distance, the camera orbits up to this much lower than it looks, radians, unless it aims.
  /// 0 = it never does.
  double stoop = 0;
  /// How far the sphere stays from walls, beyond touching, metres.
  double margin = 0;
};

}  // namespace alpglow
