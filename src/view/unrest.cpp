#include "alpglow/view/unrest.hpp"

#include "alpglow/base/angles.hpp"

namespace alpglow {

namespace {

constexpr double ratio = 1.2360679774997896;  // √5 − 1
constexpr double weightRatio = 0.75;

/// A number in [0, 1) for a seed and a place: a hash by multiplication and shifts.
double scattered(std::uint32_t seed, std::uint32_t place) {
  std::uint32_t hash = (seed + 0x9e3779b9u * (place + 1)) * 0x85ebca6bu;
  hash = (hash ^ hash >> 13) * 0xc2b2ae35u;
  return static_cast<double>(hash ^ hash >> 16) / 4294967296.0;
}

}  // namespace

void Unrest::advance(double seconds, const UnrestSettings& settings, double share) {
  double frequency = 1 / settings.period;
  for (double& phase : phases_) {
    phase += seconds * frequency;
    phase -= std::floor(phase);
    frequency *= ratio * ratio;
  }
  amount_ = std::clamp(approach(amount_, goal_ * share, settings.halfLife, seconds), 0.0, 1.0);
}

Wandered Unrest::wandered(const UnrestSettings& settings) const {
  std::uint32_t direction = 0;
  const auto wave = [&](double amplitude) {
    const std::uint32_t first = 5 * direction++;
    if (amplitude == 0 || amount_ == 0) return 0.0;
    double sum = 0, weight = 1, weights = 0;
    for (std::uint32_t i = 0; i < 5; ++i) {
      sum += weight * std::sin(2 * pi * (phases_[i] + scattered(seed_, first + i)));
      weights += weight;
      weight *= weightRatio;
    }
    return amplitude * amount_ * sum / weights;
  };
  Wandered result;
  result.turn.yaw = wave(settings.yaw);
  result.turn.pitch = wave(settings.pitch);
  result.roll = wave(settings.roll);
  for (int axis = 0; axis < 3; ++axis) {
    const double amplitudes[] = {settings.right, settings.up, settings.back};
    result.place[axis] = wave(amplitudes[axis]);
  }
  return result;
}

}  // namespace alpglow
