#include "alpglow/follow/history.hpp"

#include "../base/save_state.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

static_assert(std::is_trivially_copyable_v<History> && std::is_trivially_copyable_v<PlatformHistory>);

namespace {

constexpr double drawnAgain = 1e-9;  // metres and radians: not worth keeping as a correction
constexpr double rounding = 1e-9;    // seconds: times no farther apart mean the same tick

double yawOf(const ReferenceFrame& frame) { return turnAbout(frame.up, frame.rotation); }

/// How what both stand on goes evenly from one to the other, and where it takes a subject at a local point.
ReferenceFrame between(const ReferenceFrame& a, const ReferenceFrame& b, double share, double seconds,
                       const Vector3d& local) {
  ReferenceFrame frame = share < 1 ? a : b;
  const Rotation turned = b.rotation * a.rotation.conjugate();
  frame.origin = a.origin + share * (b.origin - a.origin);
  frame.rotation = Rotation(a.rotation.slerp(share, b.rotation)).normalized();
  frame.scale = a.scale + share * (b.scale - a.scale);
  const Vector3d spin = rotationVector(turned) / seconds;
  frame.velocity = (b.origin - a.origin) / seconds + spin.cross(frame.turnToWorld(local));
  frame.yawRate = turnAbout(frame.up, turned) / seconds;
  return frame;
}

/// Straight from one to the other, in the axes of what both stand on. A subject that gets on or off goes through the
/// world meanwhile. One that leaps from one thing to another goes with the first until then.
Subject between(const Subject& a, const Subject& b, double share, double seconds) {
  Subject drawn = share < 1 ? a : b;
  const bool rides = a.frame.id != 0 && a.frame.id == b.frame.id;
  if (!rides) {
    drawn.feet = a.feet + share * (b.feet - a.feet);
    drawn.head = a.head + share * (b.head - a.head);
    drawn.heading = wrapAngle(a.heading + share * shortestTurn(a.heading, b.heading));
    drawn.velocity = (b.feet - a.feet) / seconds;
    if (share < 1) {
      if (b.frame.id == 0) drawn.frame.id = 0;
      drawn.frame = drawn.frame.goneOn(a.feet, share * seconds);
    }
    drawn.frame.scale = a.frame.scale + share * (b.frame.scale - a.frame.scale);
    return drawn;
  }
  const auto carried = [&](const Vector3d& from, const Vector3d& to) {
    const Vector3d start = a.frame.toLocal(from);
    return Vector3d(start + share * (b.frame.toLocal(to) - start));
  };
  const Vector3d feet = carried(a.feet, b.feet);
  drawn.frame = between(a.frame, b.frame, share, seconds, feet);
  drawn.feet = drawn.frame.toWorld(feet);
  drawn.head = drawn.frame.toWorld(carried(a.head, b.head));
  const double from = a.heading - yawOf(a.frame), to = b.heading - yawOf(b.frame);
  drawn.heading = wrapAngle(from + share * shortestTurn(from, to) + yawOf(drawn.frame));
  const Vector3d walks = b.frame.toLocal(b.feet) - a.frame.toLocal(a.feet);
  drawn.velocity = drawn.frame.velocity + drawn.frame.turnToWorld(walks) / seconds;
  return drawn;
}

/// The same for a platform, whose velocity is that of its origin.
ReferenceFrame between(const ReferenceFrame& a, const ReferenceFrame& b, double share, double seconds) {
  return between(a, b, share, seconds, Vector3d(0, 0, 0));
}

/// Beyond the last tick: on at its velocity, or it stands by now.
Subject goneOn(Subject subject, double seconds, bool stands) {
  const Vector3d way = seconds * subject.velocity;
  subject.frame = subject.frame.goneOn(subject.feet, seconds);
  subject.feet += way, subject.head += way;
  if (stands) subject.velocity.setZero(), subject.frame.velocity.setZero(), subject.frame.yawRate = 0;
  return subject;
}
ReferenceFrame goneOn(const ReferenceFrame& frame, double seconds, bool stands) {
  ReferenceFrame later = frame.goneOn(frame.origin, seconds);
  if (stands) later.velocity.setZero(), later.yawRate = 0;
  return later;
}

bool teleports(const Subject& subject) { return subject.teleported; }
bool teleports(const ReferenceFrame&) { return false; }
void sayCut(Subject& subject, bool cut) { subject.teleported = cut; }
void sayCut(ReferenceFrame&, bool) {}
/// At a tick from which it jumps: it is not known to walk.
void stay(Subject& subject) { subject.velocity = subject.frame.velocity; }
void stay(ReferenceFrame& frame) { frame.velocity.setZero(), frame.yawRate = 0; }
void rest(Subject& subject) { subject.velocity.setZero(); }
void rest(ReferenceFrame& frame) { frame.velocity.setZero(), frame.yawRate = 0; }
double scaleOf(const Subject& subject) { return subject.frame.scale; }
double scaleOf(const ReferenceFrame& frame) { return frame.scale; }

/// Ticks far apart within no time would be faster than anything may be.
ReferenceFrame limitedSpeed(ReferenceFrame frame) {
  frame.velocity = limitedTo(frame.velocity, farthestPosition);
  frame.yawRate = std::clamp(frame.yawRate, -1e4, 1e4);
  return frame;
}
Subject limitedSpeed(Subject subject) {
  subject.velocity = limitedTo(subject.velocity, farthestPosition);
  subject.frame = limitedSpeed(subject.frame);
  return subject;
}

/// From what the ticks say now to what was drawn.
Correction correctionOf(const StoredSubject& drawn, const Subject& now) {
  return {drawn.feet.vector() - now.feet, drawn.head.vector() - now.head,
          Vector3d(0, shortestTurn(now.heading, drawn.heading), 0)};
}
Correction correctionOf(const StoredFrame& drawn, const ReferenceFrame& now) {
  return {drawn.origin.vector() - now.origin, {}, rotationVector(drawn.rotation.rotation() * now.rotation.conjugate())};
}
void correct(Subject& subject, const Correction& off) {
  subject.feet += off.place.vector();
  subject.head += off.head.vector();
  subject.heading = wrapAngle(subject.heading + off.turn.y);
}
void correct(ReferenceFrame& frame, const Correction& off) {
  frame.origin += off.place.vector();
  frame.rotation = (rotationBy(off.turn) * frame.rotation).normalized();
}

}  // namespace

StoredFrame::StoredFrame(const ReferenceFrame& f)
    : origin(f.origin),
      velocity(f.velocity),
      up(f.up),
      rotation(f.rotation),
      yawRate(f.yawRate),
      scale(f.scale),
      id(f.id) {}

ReferenceFrame StoredFrame::thing() const {
  ReferenceFrame frame;
  frame.id = id;
  frame.origin = origin, frame.velocity = velocity, frame.up = up;
  frame.rotation = rotation.rotation();
  frame.yawRate = yawRate, frame.scale = scale;
  return frame;
}

StoredSubject::StoredSubject(const Subject& s)
    : feet(s.feet),
      head(s.head),
      velocity(s.velocity),
      heading(wrapAngle(s.heading)),
      onGround(s.onGround),
      frame(s.frame) {}

Subject StoredSubject::thing() const {
  Subject s;
  s.feet = feet, s.head = head, s.velocity = velocity;
  s.heading = heading;
  s.onGround = onGround;
  s.frame = frame.thing();
  return s;
}

void StoredSubject::shift(const Vector3d& offset) {
  feet = feet.vector() + offset;
  head = head.vector() + offset;
  frame.shift(offset);
}

template <class Thing, class Stored>
bool HistoryOf<Thing, Stored>::add(double time, const Thing& told, bool jumped) {
  if (!(std::abs(time) <= latestTime) || !told.legal()) return false;
  const Tick tick{time, Stored(told.normalized()), jumped || teleports(told), false};
  Tick* const end = ticks_.data() + count_;
  Tick* at = std::lower_bound(ticks_.data(), end, time - rounding,
                              [](const Tick& t, double moment) { return t.time < moment; });
  if (at != end && at->time <= time + rounding) {
    const Tick before = *at;
    *at = tick;
    at->time = before.time, at->cutShown = before.cutShown;
    return true;
  }
  if (count_ == mostTicks) {
    if (at == ticks_.data()) return false;
    if (ticks_[0].jumped && !ticks_[0].cutShown) ticks_[1].jumped = true, ticks_[1].cutShown = false;
    std::move(ticks_.data() + 1, at, ticks_.data());
    --at;
  } else {
    std::move_backward(at, end, end + 1);
    ++count_;
  }
  *at = tick;
  return true;
}

/// As the ticks say it at this moment.
template <class Thing, class Stored>
Thing HistoryOf<Thing, Stored>::path(double time) const {
  const Tick *const begin = ticks_.data(), *const end = begin + count_;
  const Tick* next =
      std::upper_bound(begin, end, time + rounding, [](double moment, const Tick& tick) { return moment < tick.time; });
  if (next == begin) {
    Thing first = begin->thing.thing();
    rest(first);
    return first;
  }
  const Tick& last = next[-1];
  Thing drawn = last.thing.thing();
  if (next == end) {
    const double guess = std::max(std::min(time - last.time, settings_.longestGuess), 0.0);
    return goneOn(drawn, guess, guess < time - last.time);
  }
  if (next->jumped) {  // nobody saw how it got there
    stay(drawn);
    return drawn;
  }
  const double seconds = next->time - last.time;
  const double share = std::max(time - last.time, 0.0) / seconds;
  return limitedSpeed(between(drawn, next->thing.thing(), share, seconds));
}

/// Whether it has jumped by now without a frame having said so.
template <class Thing, class Stored>
bool HistoryOf<Thing, Stored>::takeCut(double time) {
  bool cuts = false;
  for (std::size_t i = 0; i < count_ && ticks_[i].time <= time + rounding; ++i) {
    cuts = cuts || (ticks_[i].jumped && !ticks_[i].cutShown);
    ticks_[i].cutShown = true;
  }
  return cuts;
}

template <class Thing, class Stored>
Thing HistoryOf<Thing, Stored>::at(double time) {
  if (count_ == 0 || !(std::abs(time) <= latestTime)) return shown_.thing.thing();
  Thing drawn = path(time);
  cut_ = takeCut(time) || !any_;
  const double passed = time - before_.time;
  if (!cut_ && passed >= -settings_.longestGuess) {
    const Correction changed = correctionOf(before_.thing, path(before_.time));
    const double left = std::exp(-decay(settings_.halfLife, std::max(passed, 0.0)));
    cut_ = (off_.place.vector() + changed.place.vector()).norm() > settings_.cutBeyond * scaleOf(drawn);
    const auto die = [&](StoredVector3& kept, const StoredVector3& change) {
      const Vector3d all = left * (kept.vector() + change.vector());
      kept = all.norm() < drawnAgain ? Vector3d(0, 0, 0) : all;
    };
    die(off_.place, changed.place);
    die(off_.head, changed.head);
    // Radians about an axis do not add up, but turns do, one after the other.
    const Vector3d turned = rotationVector(rotationBy(off_.turn) * rotationBy(changed.turn)) - off_.turn.vector();
    die(off_.turn, changed.turn.vector().isZero(0) ? Vector3d(0, 0, 0) : turned);
  } else {
    cut_ = true;
  }
  if (cut_) off_ = Correction();
  before_ = {time, Stored(drawn), false, false};
  correct(drawn, off_);
  shown_ = {time, Stored(drawn), false, false};
  any_ = true;
  sayCut(drawn, cut_);
  return drawn;
}

template <class Thing, class Stored>
void HistoryOf<Thing, Stored>::shift(const Vector3d& offset) {
  if (!legalPosition(offset)) return;
  for (Tick& tick : ticks_) tick.thing.shift(offset);
  before_.thing.shift(offset);
  shown_.thing.shift(offset);
}

template class HistoryOf<Subject, StoredSubject>;
template class HistoryOf<ReferenceFrame, StoredFrame>;
template class Saveable<History>;
template class Saveable<PlatformHistory>;

}  // namespace alpglow
