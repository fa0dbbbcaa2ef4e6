#pragma once
// A rehearsal: a design, a level and a take, run at any frame rate without a window.
//
// Control events and the walker's ticks have times of their own, and a frame is split at them, so neither the walk nor
// the camera depends on the frame rate.
//
//   const io::Trace trace = rehearse(design, stage, take, {});

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/input/player_controls.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/io/trace.hpp"
#include "alpglow/stage/stage.hpp"
#include "alpglow/view/view.hpp"

#include <functional>
#include <memory>
#include <string>
#include <vector>

namespace alpglow::stage {

class Rehearsal;

struct RehearsalOptions {
  /// Frames a second, unless frame times are given.
  double framesPerSecond = 60;
  /// Seconds, used over and over; the last frame ends with the take.
  std::vector<double> frameTimes;
  double aspect = 16.0 / 9.0;
  /// Answers the camera's questions instead of the stage, which the walker meets all the same. Must outlive the
  /// rehearsal.
  const Obstacles* obstacles = nullptr;
  /// What the take's controls mean, and what the player prefers.
  Bindings controls = standardBindings();
  Preferences preferences;
  /// The game's own part: called at each tick of the walker with the camera and the time, to set conditions and
  /// numbers, push or guide.
  std::function<void(CharacterCamera&, double)> game;
  /// Told the time reached after each frame.
  std::function<void(double)> progress;
  /// Shown each frame, while everything in the level is where it is drawn.
  std::function<void(const Rehearsal&)> shown;
};

/// A rehearsal that is run frame by frame, from a take that may still be growing: live input is recorded and performed
/// in one, and its take played back with the same frame times gives the same trace to the bit. A copy is a snapshot,
/// and assignment goes back to one; copies share stage and take.
class Rehearsal {
 public:
  /// Design, stage and take must outlive the rehearsal.
  Rehearsal(const CompiledDesign& design, const Stage& stage, const io::Take& take, const RehearsalOptions& options);
  Rehearsal(const Rehearsal& other);
  Rehearsal& operator=(const Rehearsal& other);
  Rehearsal(Rehearsal&&) noexcept;
  Rehearsal& operator=(Rehearsal&&) noexcept;
  ~Rehearsal();

  /// The next frame, from `now` to `end`; the take must hold all events until then.
  io::TraceFrame frameUntil(double end);
  /// The take was emptied: what it holds from now on has not been performed yet. For live input that is not kept.
  void takeBeginsAnew();

  /// Goes on with another design, or other preferences, over so many seconds (`CharacterCamera::changeDesign`).
  void changeDesign(const CompiledDesign& next, double seconds = 0.4);
  void setPreferences(const Preferences& preferences);
  void setAspect(double aspect);
  /// Off: everything is drawn where the walker's last tick has left it, as by a game that does not interpolate.
  void setInterpolated(bool interpolated);

  double now() const;
  const CharacterCamera& camera() const;
  const View& view() const;
  /// The subject that the character's camera films, as drawn.
  const Subject& subject() const;
  const PlayerControls& controls() const;
  /// To bind controls anew.
  PlayerControls& controls();

 private:
  class Run;
  std::unique_ptr<Run> run_;
};

io::Trace rehearse(const CompiledDesign& design, const Stage& stage, const io::Take& take,
                   const RehearsalOptions& options);

/// What a trace amounts to.
struct Summary {
  double subjectPath = 0, cameraPath = 0;
  double lowestPitch = 0, highestPitch = 0;
  double closest = 0, farthest = 0;
  double leastClearance = 0;
  std::size_t frames = 0, framesPulledIn = 0;
  /// Frames in which the crosshair is on the subject's head (within 0.13 m of it), and in which the subject is less
  /// than half drawn, of those that are not of first person.
  std::size_t framesHeadInTheWay = 0, framesFaded = 0, framesOfThirdPerson = 0;
  double length = 0;
};

Summary summarise(const io::Trace& trace);

}  // namespace alpglow::stage
