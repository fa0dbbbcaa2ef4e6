#include "alpglow/follow/history.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

static_assert(std::is_trivially_copyable_v<History>);

namespace {

constexpr double drawnAgain = 1e-9;  // metres and radians: not worth keeping as a correction
constexpr double rounding = 1e-9;    // seconds: who is so little before a tick means the tick

double yawOf(const ReferenceFrame& frame) { return turnAbout(frame.up, frame.rotation); }

/// How what both stand on goes evenly from one to the other, and there takes who stands at a local point.
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

/// Straight from one to the other, in the axes of what both stand on. Who gets on or off goes through the world
/// meanwhile, and who leaps over from one thing to another goes with the first till then.
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

}  // namespace

History::Tick History::tickOf(double time, const Subject& s) {
  Tick tick;
  tick.time = time;
  tick.heading = wrapAngle(s.heading);
  tick.feet = s.feet, tick.head = s.head, tick.velocity = s.velocity;
  tick.onGround = s.onGround, tick.teleported = s.teleported;
  tick.frame = s.frame.id;
  tick.origin = s.frame.origin, tick.rotation = s.frame.rotation;
  tick.frameVelocity = s.frame.velocity, tick.yawRate = s.frame.yawRate;
  tick.up = s.frame.up, tick.scale = s.frame.scale;
  return tick;
}

Subject History::subjectOf(const Tick& tick) {
  Subject s;
  s.feet = tick.feet, s.head = tick.head, s.velocity = tick.velocity;
  s.heading = tick.heading;
  s.onGround = tick.onGround, s.teleported = tick.teleported;
  s.frame.id = tick.frame;
  s.frame.origin = tick.origin, s.frame.rotation = tick.rotation.rotation();
  s.frame.velocity = tick.frameVelocity, s.frame.yawRate = tick.yawRate;
  s.frame.up = tick.up, s.frame.scale = tick.scale;
  return s;
}

bool History::add(double time, const Subject& told) {
  if (!std::isfinite(time) || !told.legal()) return false;
  const Subject subject = told.normalized();
  Tick* const end = ticks_.data() + count_;
  Tick* at =
      std::lower_bound(ticks_.data(), end, time, [](const Tick& tick, double moment) { return tick.time < moment; });
  if (at != end && at->time == time) {
    const bool shown = at->cutShown;
    *at = tickOf(time, subject);
    at->cutShown = shown;
    return true;
  }
  if (count_ == mostTicks) {
    if (at == ticks_.data()) return false;
    if (ticks_[0].teleported && !ticks_[0].cutShown) ticks_[1].teleported = true, ticks_[1].cutShown = false;
    std::move(ticks_.data() + 1, at, ticks_.data());
    --at;
  } else {
    std::move_backward(at, end, end + 1);
    ++count_;
  }
  *at = tickOf(time, subject);
  return true;
}

/// As the ticks say it at this moment.
Subject History::path(double time) const {
  const Tick *const begin = ticks_.data(), *const end = begin + count_;
  const Tick* next =
      std::upper_bound(begin, end, time + rounding, [](double moment, const Tick& tick) { return moment < tick.time; });
  if (next == begin) {
    Subject first = subjectOf(*begin);
    first.velocity.setZero();
    return first;
  }
  const Tick& last = next[-1];
  Subject drawn = subjectOf(last);
  if (next == end) {
    const double guess = std::max(std::min(time - last.time, settings_.longestGuess), 0.0);
    const Vector3d way = guess * drawn.velocity;
    drawn.frame = drawn.frame.goneOn(drawn.feet, guess);
    drawn.feet += way, drawn.head += way;
    if (guess < time - last.time) drawn.velocity.setZero(), drawn.frame.velocity.setZero(), drawn.frame.yawRate = 0;
    return drawn;
  }
  if (next->teleported) {  // how it got there nobody saw
    drawn.velocity = drawn.frame.velocity;
    return drawn;
  }
  const double seconds = next->time - last.time;
  return between(drawn, subjectOf(*next), std::max(time - last.time, 0.0) / seconds, seconds);
}

/// Whether it has jumped by now without a frame having said so.
bool History::takeCut(double time) {
  bool cuts = false;
  for (std::size_t i = 0; i < count_ && ticks_[i].time <= time + rounding; ++i) {
    cuts = cuts || (ticks_[i].teleported && !ticks_[i].cutShown);
    ticks_[i].cutShown = true;
  }
  return cuts;
}

Subject History::at(double time) {
  if (count_ == 0 || !std::isfinite(time)) return subjectOf(shown_);
  Subject drawn = path(time);
  bool cuts = takeCut(time) || !any_;
  const double passed = time - before_.time;
  if (!cuts && passed >= -settings_.longestGuess) {
    const Subject now = path(before_.time);
    const double left = std::exp(-decay(settings_.halfLife, std::max(passed, 0.0)));
    const auto off = [&](StoredVector3& kept, const Vector3d& change) {
      const Vector3d all = left * (kept.vector() + change);
      kept = all.norm() < drawnAgain ? Vector3d(0, 0, 0) : all;
    };
    const Vector3d changed = before_.feet.vector() - now.feet;
    cuts = (feetOff_.vector() + changed).norm() > settings_.cutBeyond * drawn.frame.scale;
    off(feetOff_, changed);
    off(headOff_, before_.head.vector() - now.head);
    headingOff_ = left * wrapAngle(headingOff_ + shortestTurn(now.heading, before_.heading));
    if (std::abs(headingOff_) < drawnAgain) headingOff_ = 0;
  } else {
    cuts = true;
  }
  if (cuts) feetOff_ = headOff_ = StoredVector3(), headingOff_ = 0;
  before_ = tickOf(time, drawn);
  drawn.feet += feetOff_.vector();
  drawn.head += headOff_.vector();
  drawn.heading = wrapAngle(drawn.heading + headingOff_);
  drawn.teleported = cuts;
  shown_ = tickOf(time, drawn);
  shown_.teleported = false;
  any_ = true;
  return drawn;
}

void History::shift(const Vector3d& offset) {
  if (!legalPosition(offset)) return;
  const auto move = [&](Tick& tick) {
    for (StoredVector3* point : {&tick.feet, &tick.head, &tick.origin}) *point = point->vector() + offset;
  };
  for (Tick& tick : ticks_) move(tick);
  move(before_);
  move(shown_);
}

}  // namespace alpglow
