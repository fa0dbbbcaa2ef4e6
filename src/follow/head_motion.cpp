#include "alpglow/follow/head_motion.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double breathHalfLife = 0.6;
constexpr double landings = 4;  // that follow each other at most add up to so many of the deepest dip

}  // namespace

void HeadMotion::step(const WalkedStretch& stretch, const HeadMotionSettings& settings) {
  bob_.step(stretch.distance, stretch.seconds, !inAir_, settings.bob);
  const double goal = bob_.still() && !inAir_ ? 1 : 0;
  breathWeight_ = approach(breathWeight_, goal, breathHalfLife, stretch.seconds);
  breath_ = std::fmod(breath_ + stretch.seconds / settings.breath.period, 1.0);

  const double omega = criticalRate / settings.dip.halfLife, kick = omega * std::exp(1.0);
  const double fastest = landings * settings.dip.deepest * kick;
  dipSpeed_ = std::clamp(dipSpeed_, -fastest, fastest);
  const double b = dipSpeed_ + omega * dip_, decayed = std::exp(-omega * stretch.seconds);
  dip_ = (dip_ + b * stretch.seconds) * decayed;
  dipSpeed_ = b * decayed - omega * dip_;

  if (!stretch.onGround) {
    inAir_ = true;
    fastestFall_ = std::min(std::max(fastestFall_, stretch.fallSpeed), farthestPosition);
  } else if (inAir_) {
    const double depth =
        std::min(settings.dip.depthPerSpeed * std::max(fastestFall_, stretch.fallSpeed), settings.dip.deepest);
    dipSpeed_ = std::max(dipSpeed_ - depth * kick, -fastest);
    inAir_ = false;
    fastestFall_ = 0;
  }
}

Eigen::Vector2d HeadMotion::offset(const HeadMotionSettings& settings) const {
  Eigen::Vector2d offset = bob_.offset(settings.bob);
  offset.y() += dip_ + settings.breath.amplitude * breathWeight_ * std::sin(2 * pi * breath_);
  return offset;
}

}  // namespace alpglow
