#pragma once
// What to draw between a host's ticks: the subject, an enemy, a target (`History`), a platform, a door, a cart
// (`PlatformHistory`).
//
//   History walked;                                             // one for each thing
//   walked.add(tick * tickLength, subject);                     // after each tick, by the tick's own time
//   walked.add(toldTick * tickLength, toldSubject);             // what the network says of any tick, late or again
//   const Subject drawn = walked.at(now - tickLength);          // in each frame; between the last two ticks
//
//   PlatformHistory lift;                                          // rotation, velocity and yaw rate go along
//   lift.add(tick * tickLength, platform);
//   const ReferenceFrame there = lift.at(now - tickLength);
//
// A time is the tick's number times its length, not when it arrived. Then ticks may come late, twice, in another order,
// several in a frame, at another rate from now on, or not at all. Between two ticks everything goes straight, in the
// axes of what both stand on; a subject that gets on or off meanwhile goes through the world. Beyond the last tick it
// goes on at its velocity for a while, and then stands. The velocity is that of what is drawn.
//
// What was drawn stays drawn. If a tick changes what was shown already (it came late, or corrects an earlier one), the
// difference dies away by half-life: feet, head and heading each, or origin and rotation. A difference beyond the
// settings' limit cuts.

#include "alpglow/base/angles.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/saved_state.hpp"
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
  /// A correction of the feet or the origin beyond this cuts, metres of the thing's scale.
  double cutBeyond = 1.5;
};

/// A reference frame as a tick stores it.
struct StoredFrame {
  StoredVector3 origin, velocity, up = Eigen::Vector3d::UnitY();
  StoredRotation rotation;
  double yawRate = 0, scale = 1;
  std::uint32_t id = 0;

  StoredFrame() = default;
  explicit StoredFrame(const ReferenceFrame& frame);
  ReferenceFrame thing() const;
  const StoredVector3& place() const { return origin; }
  void shift(const Eigen::Vector3d& offset) { origin = origin.vector() + offset; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("origin velocity up").vectors(farthestPoint, origin, velocity, up);
    fields.named("rotation").rotation(rotation);
    fields.named("yawRate").numbers(1e4, yawRate);
    fields.named("scale").number(scale, 1e-3, 1e3);
    fields.named("id").ids(id);
    fields.require(ReferenceFrame::nearlyOne(up.vector().norm()));
  }
};

/// A subject as a tick stores it.
struct StoredSubject {
  StoredVector3 feet, head, velocity;
  double heading = 0;
  bool onGround = true;
  StoredFrame frame;

  StoredSubject() = default;
  explicit StoredSubject(const Subject& subject);
  Subject thing() const;
  const StoredVector3& place() const { return feet; }
  void shift(const Eigen::Vector3d& offset);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("feet head velocity").vectors(farthestPoint, feet, head, velocity);
    fields.named("heading").numbers(pi, heading);
    fields.named("onGround").flag(onGround);
    fields.named("frame").part(frame);
  }
};

/// What is left of corrections: metres, and radians about each axis.
struct Correction {
  StoredVector3 place, head, turn;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("place head turn").vectors(2 * farthestPoint, place, head, turn);
  }
};

/// `Thing` is a Subject or a ReferenceFrame. A trivially copyable value.
template <class Thing, class Stored>
class HistoryOf : public Saveable<HistoryOf<Thing, Stored>> {
 public:
  /// As many ticks are kept, the latest ones.
  static constexpr std::size_t mostTicks = 16;

  HistoryOf() = default;
  explicit HistoryOf(const HistorySettings& settings) : settings_(settings) {}

  /// What it was at a time, seconds; what was told of the same time (to a nanosecond) before is forgotten. `jumped`, or
  /// a subject's own `teleported`, says that it did not go here but was put here. False for bad numbers, a time beyond
  /// 1e12 and a tick before all that are kept: nothing changes then.
  bool add(double time, const Thing& thing, bool jumped = false);
  /// As it is drawn at a time. Times may go back: by more than the longest guess, as in a replay, that cuts; by less,
  /// as when a clock is set, it does not. With no ticks, or at a time that is not finite, what was drawn last.
  Thing at(double time);
  /// Whether it cut in what `at` returned last: the first frame, and the first one after it jumped. A subject's
  /// `teleported` says the same.
  bool cut() const { return cut_; }
  /// Forgets every tick: the next frame cuts.
  void clear() { *this = HistoryOf(settings_); }
  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset);

  std::size_t ticks() const { return count_; }
  /// Of the last one, seconds.
  double lastTick() const { return count_ > 0 ? ticks_[count_ - 1].time : 0; }
  /// How far what is drawn is off what the ticks say by now, metres.
  double correction() const { return off_.place.vector().norm(); }

  static constexpr std::uint64_t savedVersion = 1;
  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("count").whole(count_, mostTicks);
    for (std::size_t i = 0; i < mostTicks; ++i) {
      fields.named("tick").part(ticks_[i]);
      fields.require(i == 0 || i >= count_ || ticks_[i - 1].time < ticks_[i].time);
    }
    fields.named("before shown off").part(before_, shown_, off_);
    fields.named("any cut").flags(any_, cut_);
  }

 private:
  struct Tick {
    double time = 0;
    Stored thing;
    bool jumped = false, cutShown = false;

    template <class Fields>
    void state(Fields& fields) {
      fields.named("time").numbers(latestTime, time);
      fields.named("thing").part(thing);
      fields.named("jumped cutShown").flags(jumped, cutShown);
    }
  };
  static constexpr double latestTime = 1e12;  // seconds
  Thing path(double time) const;
  bool takeCut(double time);

  HistorySettings settings_;
  std::array<Tick, mostTicks> ticks_;
  std::uint64_t count_ = 0;
  Tick before_, shown_;  // as the ticks said it then; and as it was drawn, with corrections
  Correction off_;
  bool any_ = false, cut_ = false;
};

using History = HistoryOf<Subject, StoredSubject>;
/// `velocity` of what is drawn is that of its origin.
using PlatformHistory = HistoryOf<ReferenceFrame, StoredFrame>;

extern template class HistoryOf<Subject, StoredSubject>;
extern template class HistoryOf<ReferenceFrame, StoredFrame>;

}  // namespace alpglow
