#include "alpglow/follow/follow.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double taut = 1e-6;  // of the leash: closer to its end than this it pulls, whatever rounding did

Vector3d freeLag(const Vector3d& lag, const Vector3d& moved, double u) {
  return lag * std::exp(-u) - moved * meanDecay(u);
}

/// The part of the step, in units of u, that passes before the free lag grows beyond the leash; infinite if it does
/// not. With q = 1 − e^(−λt) and w = lag + v/λ the free lag is lag − q·w, so |lag − q·w|² = L² is a quadratic in q.
double decayUntilLeash(const Vector3d& lag, const Vector3d& moved, double u, double leash) {
  const Vector3d w = lag + moved / u;
  const double a = w.squaredNorm();
  const double b = lag.dot(w);
  const double c = std::min(lag.squaredNorm() - leash * leash, 0.0);
  if (a == 0) return std::numeric_limits<double>::infinity();
  const double root = std::sqrt(b * b - a * c);
  const double q = b > 0 ? (b + root) / a : (c == 0 ? 0.0 : -c / (root - b));
  return q < 1 ? -std::log1p(-q) : std::numeric_limits<double>::infinity();
}

/// The velocity of a critically damped point whose target has this one. From rest at the target 2ωL takes it as far as
/// ¾ of the leash, 2L/e; what a jump of the target towed it by beyond that and the target's own speed is no speed to
/// keep. On the leash nothing gets faster by itself, so it does not matter how often this is asked.
Vector3d kept(const Vector3d& velocity, const Vector3d& target, double halfLife, double leash) {
  return limitedTo(velocity, target.norm() + 2 * criticalRate / halfLife * leash);
}

/// A critically damped point of this half-life sets out, ω²e, as hard as a transition of one second at its hardest,
/// 10/√3·e.
const double transitionHalfLife = criticalRate / std::sqrt(10 / std::sqrt(3.0));

/// A critically damped point of this speed v at rest would go v·h/(e·ω·h) far.
const double swingOfSpeed = 1 / (criticalRate * std::exp(1.0));

/// The lag behind a target of constant velocity: v/λ, or 2v/ω; as far as the leash allows.
Vector3d trailing(const Vector3d& velocity, FollowKind kind, double halfLife, double leash) {
  const double seconds =
      halfLife > 0 ? (kind == FollowKind::criticallyDamped ? 2 * halfLife / criticalRate : halfLife / ln2) : 0;
  return limitedTo(-seconds * velocity, leash);
}

struct OneFollow {
  FollowKind kind;
  double halfLife, leash;
};
struct Trailing {
  Vector3d lag, target, point;  // the lag, and the velocities of both
};
struct Retuned {
  Vector3d lag, velocity;
  double swing;
};

/// What trails the target's velocity gets the length that is due to it. What is beyond that, of which the point has its
/// own speed, goes on at that speed, but swings no farther than it would have.
Retuned retuned(const Trailing& now, const OneFollow& before, const OneFollow& after, const HandedOn& most) {
  const Vector3d own = now.point - now.target;
  const double beyond = (now.lag - trailing(now.target, before.kind, before.halfLife, before.leash)).norm();
  const double swing = std::min(beyond + own.norm() * before.halfLife * swingOfSpeed, 2 * before.leash);
  if (after.halfLife <= 0) return {Vector3d::Zero(), now.target, swing};
  const Vector3d velocity = now.target + limitedTo(own, swing * criticalRate / after.halfLife);
  const Vector3d due = trailing(now.target, after.kind, after.halfLife, after.leash);
  if (after.kind == FollowKind::criticallyDamped) {
    // No harder than before or than a transition: what a faster one would make of the rest is left to the caller.
    const double share = after.halfLife / std::min(before.halfLife, transitionHalfLife * most.seconds);
    if (!(share < 1)) return {now.lag, velocity, swing};
    const Vector3d beyondDue = now.lag - trailing(now.target, before.kind, before.halfLife, before.leash);
    const Vector3d handed = now.lag - (due + share * share * beyondDue);
    return {now.lag - limitedTo(handed, most.handed), velocity, swing};
  }
  return {due + limitedTo(-own * (after.halfLife / ln2), swing), velocity, swing};
}

}  // namespace

Vector3d laggedBy(const Vector3d& lag, const Vector3d& moved, double dt, double halfLife, double leash) {
  if (leash <= 0) return Vector3d::Zero();
  if (lag.squaredNorm() == 0 && moved.squaredNorm() == 0) return lag;
  const Vector3d start = limitedTo(lag, leash);
  const double u = decay(halfLife, dt);
  if (u == 0) {
    return limitedTo(start - moved, leash);
  }
  if (std::isinf(u)) return Vector3d::Zero();
  const double before = decayUntilLeash(start, moved, u, leash);
  if (before >= u) return freeLag(start, moved, u);
  const double share = before / u;
  return towed(freeLag(start, moved * share, before), moved * (1 - share), leash);
}

DampedLag dampedLag(const DampedLag& before, const Vector3d& moved, double dt, double halfLife, double leash) {
  if (!(dt > minTimeStep)) {
    return {limitedTo(before.lag - moved, leash), before.velocity};
  }
  const Vector3d v = moved / dt;
  if (halfLife <= 0 || leash <= 0) return {Vector3d::Zero(), v};
  const double omega = criticalRate / halfLife, decayed = std::exp(-omega * dt);
  const Vector3d trailing = 2 * v / omega, y = before.lag + trailing,
                 slope = kept(before.velocity, v, halfLife, leash) - v;
  const Vector3d b = slope + omega * y;
  DampedLag after{-trailing + (y + b * dt) * decayed, v + (slope - omega * dt * b) * decayed};
  const double length = after.lag.norm();
  if (length <= leash) return after;
  const Vector3d outward = after.lag / length;
  after.lag = leash * outward;
  after.velocity -= std::max((after.velocity - v).dot(outward), 0.0) * outward;
  return after;
}

void Follow::cut(const Vector3d& target) {
  target_ = target;
  lag_ = velocity_ = Vector3d::Zero();
}

Vector3d Follow::step(const Vector3d& target, double dt, const FollowSettings& settings, const Vector3d& up) {
  const Vector3d moved = target - target_.vector(), lag = lag_, velocity = velocity_;
  const auto vertical = [&up](const Vector3d& v) { return Vector3d(up.dot(v) * up); };
  const auto along = [&vertical](const Vector3d& v) { return Vector3d(v - vertical(v)); };
  if (settings.kind == FollowKind::criticallyDamped) {
    const DampedLag ground =
        dampedLag({along(lag), along(velocity)}, along(moved), dt, settings.halfLife, settings.leash);
    const DampedLag upward = dampedLag({vertical(lag), vertical(velocity)}, vertical(moved), dt,
                                       settings.verticalHalfLife, settings.verticalLeash);
    lag_ = ground.lag + upward.lag;
    velocity_ = ground.velocity + upward.velocity;
  } else {
    lag_ = laggedBy(along(lag), along(moved), dt, settings.halfLife, settings.leash) +
           laggedBy(vertical(lag), vertical(moved), dt, settings.verticalHalfLife, settings.verticalLeash);
  }
  target_ = target;
  return point();
}

Vector3d Follow::speed(const Vector3d& target, const FollowSettings& settings, const Vector3d& up) const {
  const auto pulled = [](const Vector3d& lag, const Vector3d& speed, double halfLife, double leash) {
    if (halfLife <= 0 || leash <= 0) return speed;
    const double length = lag.norm(), rate = rateConstant(halfLife);
    if (length < leash * (1 - taut)) return Vector3d(-rate * lag);
    const Vector3d toTarget = -lag / length;
    return Vector3d(std::max(rate * length, speed.dot(toTarget)) * toTarget);
  };
  const Vector3d lag = lag_, rising = up.dot(target) * up, lagUp = up.dot(lag) * up;
  if (settings.kind == FollowKind::criticallyDamped) {
    const auto own = [](const Vector3d& point, const Vector3d& towed, double halfLife, double leash) {
      if (halfLife <= 0 || leash <= 0) return towed;
      return kept(point, towed, halfLife, leash);
    };
    const Vector3d velocity = velocity_, upward = up.dot(velocity) * up;
    return own(velocity - upward, target - rising, settings.halfLife, settings.leash) +
           own(upward, rising, settings.verticalHalfLife, settings.verticalLeash);
  }
  return pulled(lag - lagUp, target - rising, settings.halfLife, settings.leash) +
         pulled(lagUp, rising, settings.verticalHalfLife, settings.verticalLeash);
}

double Follow::retune(const Vector3d& targetVelocity, const FollowSettings& before, const FollowSettings& after,
                      const Vector3d& up, const HandedOn& most) {
  const auto vertical = [&up](const Vector3d& v) { return Vector3d(up.dot(v) * up); };
  const auto along = [&vertical](const Vector3d& v) { return Vector3d(v - vertical(v)); };
  const Vector3d pointVelocity = speed(targetVelocity, before, up), lag = lag_;
  const Retuned ground =
      retuned({along(lag), along(targetVelocity), along(pointVelocity)}, {before.kind, before.halfLife, before.leash},
              {after.kind, after.halfLife, after.leash}, most);
  const Retuned upward = retuned({vertical(lag), vertical(targetVelocity), vertical(pointVelocity)},
                                 {before.kind, before.verticalHalfLife, before.verticalLeash},
                                 {after.kind, after.verticalHalfLife, after.verticalLeash}, most);
  lag_ = ground.lag + upward.lag;
  velocity_ = ground.velocity + upward.velocity;
  return ground.swing + upward.swing;
}

void Follow::resettle(const Vector3d& target, const Vector3d& lag, const Vector3d& velocity, const Vector3d& faster,
                      const FollowSettings& settings, const Vector3d& up) {
  constexpr double unleashed = std::numeric_limits<double>::infinity();
  const Vector3d rising = up.dot(faster) * up,
                 goal = lag + trailing(faster - rising, settings.kind, settings.halfLife, unleashed) +
                        trailing(rising, settings.kind, settings.verticalHalfLife, unleashed);
  const Vector3d upward = up.dot(goal) * up;
  lag_ = limitedTo(goal - upward, settings.leash) + limitedTo(upward, settings.verticalLeash);
  target_ = target;
  velocity_ = velocity + faster;
}

}  // namespace alpglow
