#include "alpglow/view/push.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

namespace {

constexpr double least = 1e-12;    // of strength 1: less than this is nothing
constexpr double closest = 1.001;  // the rates of rising and returning are at least this far apart

/// Rates per second, and what makes the highest value 1.
struct Shape {
  explicit Shape(const PushSettings& settings)
      : returning(rateConstant(settings.comesBack)),
        rising(std::max(settings.attack > 0 ? rateConstant(settings.attack) : 0, closest * returning)),
        sudden(settings.attack <= 0) {
    const double x = rising / returning;
    gain = sudden ? 1 : 1 / (std::exp(-std::log(x) / (x - 1)) * (1 - 1 / x));
  }
  double strongestAfter() const { return sudden ? 0 : std::log(rising / returning) / (rising - returning); }
  /// The most that it will come to, either way, from now on.
  double most(double slow, double fast) const {
    const double now = std::abs(slow - fast);
    if (sudden || slow * fast <= 0) return gain * now;
    const double after = std::log(rising * fast / (returning * slow)) / (rising - returning);
    if (!(after > 0)) return gain * now;
    return gain * std::max(now, std::abs(slow * std::exp(-returning * after) - fast * std::exp(-rising * after)));
  }

  double returning, rising;
  bool sudden;
  double gain;
};

}  // namespace

double PushSettings::strongestAfter() const { return Shape(*this).strongestAfter(); }

double Pushes::chance() {
  dice_ = dice_ * 1664525u + 1013904223u;
  return static_cast<double>(dice_ >> 8) / 8388608.0 - 1;
}

double Pushes::shown(std::size_t kind, Drive drive, const PushSettings& settings) const {
  const Motion& motion = kinds_[kind][drive];
  return !alive(kind) || motion.slow == motion.fast ? 0 : Shape(settings).gain * (motion.slow - motion.fast);
}

/// As far as those that move the aim, or the others, may come to turn; radians.
double Pushes::turn(Span<const PushSettings> kinds, bool aims) const {
  double turn = 0;
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    if (!alive(i) || kinds[i].movesAim != aims) continue;
    const Shape shape(kinds[i]);
    const auto most = [&](Drive drive) { return shape.most(kinds_[i][drive].slow, kinds_[i][drive].fast); };
    turn += std::hypot(kinds[i].pitch * most(turnUp), kinds[i].yaw * most(turnRight));
  }
  return turn;
}

/// How much of the limits what there is may come to; endless where a limit is 0.
double Pushes::load(Span<const PushSettings> kinds, const PushLimits& limits) const {
  double roll = 0, place = 0, lens = 0;
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    if (!alive(i)) continue;
    const PushSettings& kind = kinds[i];
    const Shape shape(kind);
    const auto most = [&](Drive drive) { return shape.most(kinds_[i][drive].slow, kinds_[i][drive].fast); };
    roll += std::abs(kind.roll) * most(rightward);
    place += std::hypot(kind.right * most(rightward), kind.up * most(anyhow), kind.back * most(backward));
    lens += std::abs(std::log(kind.lens)) * most(anyhow);
  }
  constexpr double endless = std::numeric_limits<double>::infinity();
  const auto share = [](double of, double limit) { return of > 0 ? (limit > 0 ? of / limit : endless) : 0; };
  return std::max({share(turn(kinds, true) + turn(kinds, false), limits.turn), share(roll, limits.roll),
                   share(place, limits.place), share(lens, std::log(limits.lens))});
}

bool Pushes::legal(Span<const PushSettings> kinds, const PushLimits& limits) const {
  return (live_ >> kinds.size()) == 0 && load(kinds, limits) <= 1 + 1e-6;
}

void Pushes::push(std::size_t kind, const PushCall& call, Span<const PushSettings> kinds, const PushLimits& limits) {
  const PushSettings& settings = kinds[kind];
  const double right = std::clamp(call.right + settings.spread * chance(), -1.0, 1.0);
  const bool sudden = settings.attack <= 0;
  const auto add = [&](Pushes& to, Drive drive, double strength) {
    Motion& motion = to.kinds_[kind][drive];
    motion.slow = std::clamp(motion.slow + strength, -farthest, farthest);
    if (!sudden) motion.fast = std::clamp(motion.fast + strength, -farthest, farthest);
  };
  const auto addAll = [&](Pushes& to, double strength) {
    if (!to.alive(kind)) to.kinds_[kind] = {};
    to.live_ |= 1u << kind;
    add(to, anyhow, strength);
    for (const Drive drive : {backward, turnUp}) add(to, drive, strength * call.back);
    for (const Drive drive : {rightward, turnRight}) add(to, drive, strength * right);
  };
  // A tiny one tells how strong one may be that is alone; stronger is as strong as that.
  constexpr double tiny = 1e-3;
  Pushes alone;
  addAll(alone, tiny);
  const double share = alone.load(kinds, limits);
  if (share == 0) return;
  const double most = tiny / share;
  addAll(*this, std::clamp(call.strength, -most, most) * (1 - std::min(load(kinds, limits), 1.0)));
}

LookAngles Pushes::advance(double seconds, Span<const PushSettings> kinds) {
  if (!any() || seconds <= 0) return {};
  const LookAngles before = owed(kinds);
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    if (!alive(i)) continue;
    const Shape shape(kinds[i]);
    const double slow = std::exp(-shape.returning * seconds), fast = std::exp(-shape.rising * seconds);
    bool moves = false;
    for (Motion& motion : kinds_[i]) {
      motion.slow *= slow;
      motion.fast *= fast;
      moves = moves || std::abs(motion.slow) > least || std::abs(motion.fast) > least;
    }
    if (moves) continue;
    kinds_[i] = {};
    live_ &= ~(1u << i);
  }
  const LookAngles after = owed(kinds);
  return {after.yaw - before.yaw, after.pitch - before.pitch};
}

LookAngles Pushes::owed(Span<const PushSettings> kinds) const {
  LookAngles sum;
  for (std::size_t i = 0; i < kinds.size() && any(); ++i) {
    if (!kinds[i].movesAim) continue;
    sum.yaw -= kinds[i].yaw * shown(i, turnRight, kinds[i]);  // positive yaw turns left
    sum.pitch += kinds[i].pitch * shown(i, turnUp, kinds[i]);
  }
  return sum;
}

void Pushes::counter(const LookAngles& by, Span<const PushSettings> kinds, const PushLimits& limits) {
  if (!any() || (by.yaw == 0 && by.pitch == 0)) return;
  counter(-by.yaw, turnRight, &PushSettings::yaw, kinds);
  counter(by.pitch, turnUp, &PushSettings::pitch, kinds);
  // Where one was to cancel another one, of which now less is left, what is to come could be beyond the limit.
  const double aims = turn(kinds, true), room = std::max(limits.turn - turn(kinds, false), 0.0);
  if (aims <= room) return;
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    if (!kinds[i].movesAim) continue;
    for (const Drive drive : {turnUp, turnRight}) {
      kinds_[i][drive].slow *= room / aims;
      kinds_[i][drive].fast *= room / aims;
    }
  }
}

/// Only what is still to be taken back shrinks, never what is still to come.
void Pushes::counter(double by, Drive drive, double PushSettings::*angle, Span<const PushSettings> kinds) {
  double all = 0, along = 0;  // of what is shown; and of that, what goes against the turn
  const auto shownBy = [&](std::size_t i) {
    return kinds[i].movesAim ? kinds[i].*angle * shown(i, drive, kinds[i]) : 0;
  };
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    const double mine = shownBy(i);
    all += mine;
    if (mine * by < 0) along += mine;
  }
  if (all * by >= 0) return;
  const double share = std::min(std::abs(by), std::abs(all)) / std::abs(along);
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    if (shownBy(i) * by >= 0) continue;
    Motion& motion = kinds_[i][drive];
    motion.slow -= share * (motion.slow - motion.fast);
  }
}

Pushed Pushes::shown(Span<const PushSettings> kinds) const {
  Pushed sum;
  if (!any()) return sum;
  double lens = 0;
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    if (!alive(i)) continue;
    const PushSettings& kind = kinds[i];
    if (!kind.movesAim) {
      sum.turn.yaw -= kind.yaw * shown(i, turnRight, kind);
      sum.turn.pitch += kind.pitch * shown(i, turnUp, kind);
    }
    sum.roll -= kind.roll * shown(i, rightward, kind);
    sum.right += kind.right * shown(i, rightward, kind);
    sum.up += kind.up * shown(i, anyhow, kind);
    sum.back += kind.back * shown(i, backward, kind);
    lens += std::log(kind.lens) * shown(i, anyhow, kind);
  }
  sum.lens = std::exp(lens);
  return sum;
}

}  // namespace alpglow
