#pragma once
// What a host's ticks say of something that is drawn between them: the subject, an enemy, a door, a target.
//
//   History walked;                                             // of each thing one
//   walked.add(tick * tickLength, subject);                     // after each tick, by the tick's own time
//   walked.add(toldTick * tickLength, toldSubject);             // what the network says of any tick, late or again
//   const Subject drawn = walked.at(now - tickLength);          // in each frame; between the last two ticks
//
// A time is the tick's number times its length, never when it arrived: then ticks may come late, twice, in another
// order, several in a frame, at another rate from now on, or not at all. Between two ticks everything goes straight,
// in the axes of what both stand on (who gets on or off goes through the world meanwhile); beyond the last one it goes
// on at its velocity for a while, and then stands. The velocity is that of what is drawn.
//
// What was drawn stays drawn: where a tick changes what was shown already (it came late, or somebody corrected it), the
// difference dies away by half-life, feet, head and heading each; a difference beyond the settings' cuts.

#include "alpglow/base/angles.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/follow/subject.hpp"

#include <array>
#include <cstddef>
#include <cstdint>

namespace alpglow {

struct HistorySettings {
  /// Beyond the last tick it goes on for so long, seconds.
  double longestGuess = 0.1;
  /// By which corrections die away, seconds.
  double halfLife = 0.05;
  /// A correction of the feet beyond this cuts, metres of the subject's scale.
  double cutBeyond = 1.5;
};

/// A trivially copyable value.
class History {
 public:
  /// As many ticks are kept, the latest ones.
  static constexpr std::size_t mostTicks = 16;

  History() = default;
  explicit History(const HistorySettings& settings) : settings_(settings) {}

  /// What it was at a time, seconds; what was told of the same time before is forgotten. `subject.teleported` says that
  /// it did not go here. False for bad numbers, and for a tick before all that are kept: nothing changes then.
  bool add(double time, const Subject& subject);
  /// As it is drawn at a time; `teleported` in the first frame after it jumped. Times may go back: by more than
  /// the longest guess, as in a replay, that cuts; by less, as when a clock is set, it does not. With no ticks, or at a
  /// time that is not finite, what was drawn last.
  Subject at(double time);
  /// Forgets every tick: the next frame cuts.
  void clear() { *this = History(settings_); }
  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset);

  std::size_t ticks() const { return count_; }
  /// Of the last one, seconds.
  double lastTick() const { return count_ > 0 ? ticks_[count_ - 1].time : 0; }
  /// How far what is drawn is off what the ticks say by now, metres.
  double correction() const { return feetOff_.vector().norm(); }

 private:
  struct Tick {
    double time = 0, heading = 0, yawRate = 0, scale = 1;
    StoredVector3 feet, head, velocity, origin, frameVelocity, up;
    StoredRotation rotation;
    std::uint32_t frame = 0;
    bool onGround = true, teleported = false, cutShown = false;
  };
  static Tick tickOf(double time, const Subject& subject);
  static Subject subjectOf(const Tick& tick);
  Subject path(double time) const;
  bool takeCut(double time);

  HistorySettings settings_;
  std::array<Tick, mostTicks> ticks_;
  std::size_t count_ = 0;
  Tick before_, shown_;  // as the ticks said it then; and as it was drawn, with corrections
  StoredVector3 feetOff_, headOff_;
  double headingOff_ = 0;
  bool any_ = false;
};

}  // namespace alpglow
