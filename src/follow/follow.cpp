#include "alpglow/follow/follow.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

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

/// Towed along on the tight leash while the target moves by `moved`.
Vector3d towedLag(const Vector3d& lag, const Vector3d& moved, double leash) {
  const double distance = moved.norm();
  const Vector3d ahead = moved / distance;
  const Vector3d toTarget = -lag.normalized();
  const double cosine = std::clamp(toTarget.dot(ahead), -1.0, 1.0);
  const Vector3d across = toTarget - cosine * ahead;  // of length sin θ
  const double halfPerSine = std::exp(-distance / leash) / (1 + cosine);
  const double half = halfPerSine * across.norm();  // tan(θ/2)
  return -leash / (1 + half * half) * ((1 - half * half) * ahead + 2 * halfPerSine * across);
}

}  // namespace

Vector3d laggedBy(const Vector3d& lag, const Vector3d& moved, double dt, double halfLife, double leash) {
  if (leash <= 0) return Vector3d::Zero();
  if (lag.squaredNorm() == 0 && moved.squaredNorm() == 0) return lag;
  const double length = lag.norm();
  const Vector3d start = length > leash ? Vector3d(lag * (leash / length)) : lag;
  const double u = decay(halfLife, dt);
  if (u == 0) {
    const Vector3d left = start - moved;
    return left.norm() > leash ? Vector3d(left * (leash / left.norm())) : left;
  }
  if (std::isinf(u)) return Vector3d::Zero();
  const double before = decayUntilLeash(start, moved, u, leash);
  if (before >= u) return freeLag(start, moved, u);
  const double share = before / u;
  return towedLag(freeLag(start, moved * share, before), moved * (1 - share), leash);
}

DampedLag dampedLag(const DampedLag& before, const Vector3d& moved, double dt, double halfLife, double leash) {
  if (!(dt > minTimeStep)) {
    const Vector3d left = before.lag - moved;
    return {left.norm() > leash ? Vector3d(left * (leash / left.norm())) : left, before.velocity};
  }
  const Vector3d v = moved / dt;
  if (halfLife <= 0 || leash <= 0) return {Vector3d::Zero(), v};
  const double omega = criticalRate / halfLife, decayed = std::exp(-omega * dt);
  const Vector3d trailing = 2 * v / omega, y = before.lag + trailing, slope = before.velocity - v;
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
    if (length < leash * (1 - 1e-9)) return Vector3d(-rate * lag);
    const Vector3d toTarget = -lag / length;
    return Vector3d(std::max(rate * length, speed.dot(toTarget)) * toTarget);
  };
  const Vector3d lag = lag_, rising = up.dot(target) * up, lagUp = up.dot(lag) * up;
  if (settings.kind == FollowKind::criticallyDamped) {
    const Vector3d velocity = velocity_, upward = up.dot(velocity) * up;
    return (settings.halfLife > 0 ? Vector3d(velocity - upward) : Vector3d(target - rising)) +
           (settings.verticalHalfLife > 0 ? upward : rising);
  }
  return pulled(lag - lagUp, target - rising, settings.halfLife, settings.leash) +
         pulled(lagUp, rising, settings.verticalHalfLife, settings.verticalLeash);
}

void Follow::retune(const Vector3d& targetVelocity, const FollowSettings& before, const FollowSettings& after,
                    const Vector3d& up) {
  const Vector3d pointSpeed = speed(targetVelocity, before, up), rising = up.dot(pointSpeed) * up;
  velocity_ = pointSpeed;
  if (after.kind == FollowKind::criticallyDamped) {  // its velocity is its own; only without lag it has none
    const Vector3d lag = lag_, upward = up.dot(lag) * up;
    lag_ = (after.halfLife > 0 ? Vector3d(lag - upward) : Vector3d(0, 0, 0)) +
           (after.verticalHalfLife > 0 ? upward : Vector3d(0, 0, 0));
    return;
  }
  lag_ = -(pointSpeed - rising) * (after.halfLife / ln2) - rising * (after.verticalHalfLife / ln2);
}

void Follow::resettle(const Vector3d& target, const Vector3d& lag, const Vector3d& velocity, const Vector3d& faster,
                      const FollowSettings& settings, const Vector3d& up) {
  // A target of velocity v is trailed by v/λ, or by 2v/ω.
  const bool damped = settings.kind == FollowKind::criticallyDamped;
  const auto trailing = [damped](double halfLife) {
    return halfLife > 0 ? (damped ? 2 * halfLife / criticalRate : halfLife / ln2) : 0.0;
  };
  const auto leashed = [](const Vector3d& v, double leash) {
    const double length = v.norm();
    return length > leash ? Vector3d(v * (leash / length)) : v;
  };
  const Vector3d rising = up.dot(faster) * up, goal = lag - trailing(settings.halfLife) * (faster - rising) -
                                                      trailing(settings.verticalHalfLife) * rising;
  const Vector3d upward = up.dot(goal) * up;
  lag_ = leashed(goal - upward, settings.leash) + leashed(upward, settings.verticalLeash);
  target_ = target;
  velocity_ = velocity + faster;
}

}  // namespace alpglow
