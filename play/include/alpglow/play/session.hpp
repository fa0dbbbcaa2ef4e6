#pragma once
// What is played, without a window: a rehearsal that goes on for ever and takes live input, with designs that change
// under way, recordings, replays, and the last seconds to go back to.
//
//   play::Session session(stage, std::make_shared<CompiledDesign>(design), standardBindings(), {});
//   session.feed(event);                              // whatever moved since the last frame
//   const io::TraceFrame frame = session.frame(dt);
//   draw(session.view());

#include "alpglow/io/take_file.hpp"
#include "alpglow/io/trace.hpp"
#include "alpglow/stage/rehearsal.hpp"

#include <deque>
#include <memory>
#include <optional>
#include <vector>

namespace alpglow::play {

using Design = std::shared_ptr<const CompiledDesign>;

/// Live input and what came of it; `rehearse` makes the same trace of take and frame times.
struct Recording {
  io::Take take;
  std::vector<double> frameTimes;
  io::Trace trace;
  /// The design, the preferences, the controls, the body or how it is drawn was another one for a part of it.
  bool designChanged = false;
};

class Session {
 public:
  /// How far back one can go, and between which moments, seconds.
  static constexpr double remembered = 12, apart = 0.25;

  /// The stage must outlive the session.
  Session(const stage::Stage& stage, Design design, const Bindings& bindings, const Preferences& preferences,
          double aspect = 1.6);
  Session(const Session&) = delete;
  Session& operator=(const Session&) = delete;

  /// A control moved since the last frame; it counts in the next one. Not while a take is replayed.
  void feed(const ControlEvent& event);
  /// The game does something: flies, slows time, teleports.
  void obey(io::Cue cue);
  /// No time passes: what moved meanwhile is forgotten, but for what is held since then.
  void wait();
  /// The next frame, of so many seconds.
  io::TraceFrame frame(double dt);

  /// Over `seconds` from the design that is shown to another one.
  void use(Design design, double seconds = 0.25);
  void setPreferences(const Preferences& preferences);
  void setBindings(const Bindings& bindings);
  /// Only their numbers, as `PlayerControls::tune` takes them.
  void tune(const Bindings& numbers);
  void setAspect(double aspect);
  /// Of what is recorded without, `rehearse` makes another trace.
  void setInterpolated(bool interpolated);

  /// The character's own numbers changed: of what is recorded `rehearse` makes another trace.
  void bodyChanged();
  /// The stage's ticks changed: everything goes on anew from where the character stands, a replay from its beginning.
  void ticksChanged();

  /// Everything from the beginning: where the level says, or where the character stands and faces now.
  void startOver(bool here = false);
  /// The same, and what follows is recorded.
  void record(bool here = false);
  /// Ends the recording; nothing where there is none.
  std::optional<Recording> stopRecording();
  bool recording() const { return recording_.has_value(); }

  /// Plays a take over and over, until `stopReplay`, which starts over.
  void replay(io::Take take);
  void stopReplay();
  bool replaying() const { return replayed_.has_value(); }
  double replayLength() const { return replayed_ ? replayed_->length : 0; }
  /// To a moment of the replay.
  void seek(double time);

  /// Back by so many seconds, or as far as is remembered: camera, walker and platforms. What is held on devices is
  /// released. How far it went.
  double rewind(double seconds);

  /// Another design beside, on the same input, from here on.
  void playBeside(Design design);
  void stopBeside();
  bool beside() const { return beside_.has_value(); }

  const stage::Rehearsal& rehearsal() const { return rehearsal_; }
  PlayerControls& controls() { return rehearsal_.controls(); }
  const View& view() const { return rehearsal_.view(); }
  /// The last frames of both.
  const io::TraceFrame& shown() const { return shown_; }
  const io::TraceFrame& shownBeside() const { return shownBeside_; }
  double now() const { return rehearsal_.now(); }
  const Design& design() const { return design_; }

 private:
  struct Moment {
    stage::Rehearsal rehearsal;
    Design design;
    std::size_t frames = 0, events = 0, cues = 0;  // recorded until then
  };

  stage::RehearsalOptions options() const;
  stage::Rehearsal fromTheStart(const io::Take& take) const;
  void remember();
  void goBackTo(const Moment& moment);
  void keep(const io::TraceFrame& row, double dt);
  void loop();

  const stage::Stage& stage_;
  Design design_;
  Bindings bindings_;
  Preferences preferences_;
  double aspect_;
  bool interpolated_ = true;
  io::Take live_;  // what has not been performed yet
  std::optional<io::Take> replayed_;
  stage::Rehearsal rehearsal_;
  std::optional<stage::Rehearsal> beside_;
  Design designBeside_;
  std::optional<Recording> recording_;
  std::deque<Moment> moments_;
  io::TraceFrame shown_, shownBeside_;
};

}  // namespace alpglow::play
