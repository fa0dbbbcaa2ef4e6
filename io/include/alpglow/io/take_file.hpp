#pragma once
// Takes: recorded or written performances of input over time, as lines of text.
//
//   alpglow take 1
//   0.0        KeyW 1              # pressed
//   0.5..2.0   MouseMove 480 -20   # spread over 1.5 s, 125 events a second, starting and ending gently
//   2.0..2.4   MouseTurn 90 -10    # in degrees, right and down, whatever the sensitivity is
//   2.5        PadAxis2 0.5
//   3.0        KeyW 0
//   4.0        block menu look move
//   5.0        unblock menu
//   6.0        lock lantern-3
//   8.0        camera yard 0.8
//   10.0       end

#include "alpglow/input/bindings.hpp"
#include "alpglow/input/control.hpp"
#include "alpglow/io/level.hpp"

#include <Eigen/Core>

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace alpglow::io {

/// What the game does during a take: to the controls, to the camera's assists, and which camera films which subject.
struct Cue {
  enum class Kind {
    block,
    unblock,
    mode,
    lock,
    unlock,
    forbid,
    allow,
    shoulder,
    camera,
    subject,
    set,
    clear,
    push,
    number,
    jump,
    teleport,
    guide,
    unguide,
    slow
  };
  double time = 0;
  Kind kind = Kind::block;
  /// The block's or forbidding reason, or the name of the mode, target, shoulder, camera, subject, condition, push or
  /// number.
  std::string name;
  /// Bits of Blocked, for a block.
  std::uint32_t what = 0;
  /// Time of the transition, for a camera or a subject.
  double seconds = 0;
  /// Of a guide: the share of the hand. Of slow: how fast the world goes from now on, 0 … 4. Of a number: what it is
  /// from now on, 0 … 1. Of a jump: how high, metres. Of a push: its strength, and the way along the ground that it
  /// goes, if any; degrees, 0 along −z, positive left. Of a teleport: where the feet go, metres, and where the
  /// character and its camera face from then on, if that changes.
  double strength = 0;
  std::optional<double> direction = std::nullopt;
  Eigen::Vector3d place = Eigen::Vector3d::Zero();
  /// Of the file that it was read from; 0 for none.
  int line = 0;
};

/// As takes write it.
const char* nameOf(Cue::Kind kind);

/// The hand turns the look by so much, radians, whatever the sensitivity is: right and down positive.
struct Turn {
  double time = 0, right = 0, down = 0;
};

struct Take {
  /// Both in order of time; a cue goes before the events of its moment.
  std::vector<ControlEvent> events;
  std::vector<Cue> cues;
  std::vector<Turn> turns;
  /// Seconds.
  double length = 0;
};

/// Throws InputError with file, line and what is allowed. No more than four million events and cues, of which what is
/// spread over a time makes 125 a second.
Take readTake(const std::string& path);

/// Throws InputError for a cue that names a mode that the controls do not have, or a target, camera or subject that the
/// level does not. `path` is the take's.
void checkNames(const Take& take, const std::string& path, const Level& level, const Bindings& bindings);

/// One event a line; reads back to the same take.
std::string writeTake(const Take& take);

/// Frame times in seconds, one a line, comments allowed, up to twenty million. Throws InputError.
std::vector<double> readFrameTimes(const std::string& path);
/// One line of such a file; reads back to the same number.
std::string frameTimeText(double seconds);

}  // namespace alpglow::io
