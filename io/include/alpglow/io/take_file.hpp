#pragma once
// Takes: recorded or written performances of input over time, as lines of text.
//
//   alpglow take 1
//   0.0        KeyW 1              # pressed
//   0.5..2.0   MouseMove 480 -20   # spread over 1.5 s, 125 events a second, starting and ending gently
//   2.5        PadAxis2 0.5
//   3.0        KeyW 0
//   10.0       end

#include "alpglow/control.hpp"

#include <string>
#include <vector>

namespace alpglow::io {

struct Take {
  /// In order of time.
  std::vector<ControlEvent> events;
  /// Seconds.
  double length = 0;
};

/// Throws InputError with file, line and what is allowed.
Take readTake(const std::string& path);

/// One event a line; reads back to the same take.
std::string writeTake(const Take& take);

/// Frame times in seconds, one a line, comments allowed. Throws InputError.
std::vector<double> readFrameTimes(const std::string& path);

}  // namespace alpglow::io
