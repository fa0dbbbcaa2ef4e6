#pragma once
// How a camera comes in before walls and goes out again. Metres are the subject's scale's.

namespace alpglow {

struct PullInSettings {
  /// Coming in as fast as this is calm, m/s: the camera starts so early that it need not be faster.
  double speed = 6.5;
  /// Fastest that it comes in because of what is foreseen, m/s; where that is not enough the last bit is a jump. A
  /// faster one would turn a small jump into a large one.
  double fastest = 9.8;
  /// And while the look turns fast, which moves the whole picture: from 205°/s on, and in between from 175°/s on.
  double fastestInFlicks = 13.3;
  /// How far ahead the motion of subject and look is followed, seconds; 0 = nothing is foreseen.
  double foresight = 0.58;
  /// Quiet time after the last shortening before the camera goes out again, seconds: half of it where it has come in
  /// all the way, up to three and a half times as much the farther out it is; then by this half-life, at this speed at
  /// most, m/s.
  double delay = 0.3, halfLife = 0.054, outSpeed = 8;
  /// Whoever had to come in again soon waits this much longer, each time, up to the most; seconds. Where there is ample
  /// room, less than half of the quiet time and a third of this will do.
  double backOff = 1.05, longestBackOff = 1.5;
  /// Shoulder is given up where that keeps more distance than this much for each metre of it, and moves at this speed
  /// at most, m/s; 0 = the shoulder is never given up.
  double shoulderPrice = 1.5, shoulderSpeed = 1.5;
  /// Where that keeps more distance, the camera orbits up to this much lower than it looks, radians, unless it aims:
  /// the subject moves in the picture, the look does not. 0 = it never does.
  double stoop = 0;
  /// How far the sphere stays from walls, beyond touching.
  double margin = 0;
};

}  // namespace alpglow
