#include "alpglow/look/glance.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

namespace {

/// `value` kept within low … high, or within where it was if that is outside: a limit stops, but never pushes.
double stopped(double value, double before, double low, double high) {
  return std::clamp(value, std::min(low, before), std::max(high, before));
}

/// Of an offset that a limit has stopped: as fast as that makes way, which `baseRate` takes along.
double stoppedRate(double rate, double baseRate) {
  return rate > 0 ? std::clamp(-baseRate, 0.0, rate) : std::clamp(-baseRate, rate, 0.0);
}

}  // namespace

void Glance::displace(Displacement moved, const GlanceBase& base, const LookSettings& look,
                      const GlanceSettings& settings, const PitchLimits& limits) {
  const LookAngles before = offset_;
  const LookAngles turn = turnOf(moved, look);
  offset_ = {offset_.yaw + turn.yaw, offset_.pitch + turn.pitch};
  keep(before, base, settings, limits);
}

void Glance::advance(double seconds, Rate deflection, Rate scale, const GlanceBase& base, const LookSettings& look,
                     const GlanceSettings& settings, const PitchLimits& limits) {
  constexpr double free = std::numeric_limits<double>::infinity();
  if (!(seconds > 0)) return;
  if (!held_ && offset_.yaw == 0 && offset_.pitch == 0) return;
  if (!held_) {
    const double left = std::exp(-decay(settings.returnHalfLife, seconds));
    offset_ = {offset_.yaw * left, offset_.pitch * left};
    rate_ = {};
    if (std::abs(offset_.yaw) + std::abs(offset_.pitch) < 1e-7) offset_ = {};
    return;
  }
  const LookAngles before = offset_;
  const LookAngles goal = turnRatesOf(deflection, scale, look);
  const EasedAngle yaw = turnedToward({offset_.yaw, rate_.yaw}, goal.yaw, seconds, look.turnHalfLife, -free, free);
  const EasedAngle pitch =
      turnedToward({offset_.pitch, rate_.pitch}, goal.pitch, seconds, look.turnHalfLife, -free, free);
  offset_ = {yaw.angle, pitch.angle};
  rate_ = {yaw.rate, pitch.rate};
  keep(before, base, settings, limits);
}

void Glance::keep(const LookAngles& before, const GlanceBase& base, const GlanceSettings& settings,
                  const PitchLimits& limits) {
  const double fromBody = shortestTurn(base.body, base.look.yaw), pitch = base.look.pitch;
  const LookAngles goal = offset_;
  offset_.yaw = stopped(goal.yaw, before.yaw, -settings.side - fromBody, settings.side - fromBody);
  offset_.pitch = stopped(goal.pitch, before.pitch, -settings.down - pitch, settings.up - pitch);
  offset_.pitch = std::clamp(offset_.pitch, limits.low - pitch, limits.high - pitch);
  if (offset_.yaw != goal.yaw) rate_.yaw = stoppedRate(rate_.yaw, base.rates.yaw);
  if (offset_.pitch != goal.pitch) rate_.pitch = stoppedRate(rate_.pitch, base.rates.pitch);
}

}  // namespace alpglow
