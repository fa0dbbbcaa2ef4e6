#pragma once
// Takes: recorded or written performances of input over time, as lines of text.
//
//   alpglow take 1
//   0.0        KeyW 1              # pressed
//   0.5..2.0   MouseMove 480 -20   # spread over 1.5 s, 125 events a second, starting and ending gently
//   2.5        PadAxis2 0.5
//   3.0        KeyW 0
//   4.0        block menu look move
//   5.0        unblock menu
//   10.0       end

#include "alpglow/control.hpp"

#include <cstdint>
#include <string>
#include <vector>

namespace alpglow::io {

/// What the game does to the controls during a take.
struct Cue {
  enum class Kind { block, unblock, mode };
  double time = 0;
  Kind kind = Kind::block;
  /// The block's reason or the mode's name.
  std::string name;
  /// Bits of Blocked, for a block.
  std::uint32_t what = 0;
};

struct Take {
  /// Both in order of time; a cue goes before the events of its moment.
  std::vector<ControlEvent> events;
  std::vector<Cue> cues;
  /// Seconds.
  double length = 0;
};

/// Throws InputError with file, line and what is allowed.
Take readTake(const std::string& path);

/// One event a line; reads back to the same take.
std::string writeTake(const Take& take);

/// Frame times in seconds, one a line, comments allowed. Throws InputError.
std::vector<double> readFrameTimes(const std::string& path);
/// One line of such a file; reads back to the same number.
std::string frameTimeText(double seconds);

}  // namespace alpglow::io
