#pragma once
// Unrest: what a living hand does to a camera that it holds. Turn, roll and place wander, smoothly and never twice the
// same way.
//
//   Unrest unrest;
//   unrest.setAmount(0.4);                              // by the game: fear, wind, a heartbeat
//   unrest.advance(dt, settings);
//   const Wandered shown = unrest.wandered(settings);   // of the picture; neither look nor heading know of it
//
// Each direction is Σ wᵢ·sin(2π(φᵢ + offset)) over five waves. Their frequencies have ratios of 1 to the powers of
// √5 − 1, which is irrational, so that they never meet again. The weights fall with frequency and add up to 1, so it
// stays within its amplitude. The offsets follow from the seed. A phase is a linear function of time and the amount is
// exponential, so cutting time in pieces changes nothing.

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/look/look.hpp"

#include <Eigen/Core>

#include <algorithm>
#include <cmath>
#include <cstdint>

namespace alpglow {

struct UnrestSettings {
  /// Farthest to either side: radians, and metres of the subject's scale to the right, up and back.
  double yaw = 0, pitch = 0, roll = 0;
  double right = 0, up = 0, back = 0;
  /// Of the slowest wave, seconds.
  double period = 4;
  /// How much of it there is before the game says otherwise, 0 … 1; and the half-life of changes, seconds.
  double amount = 1, halfLife = 0.3;

  bool any() const { return yaw != 0 || pitch != 0 || roll != 0 || right != 0 || up != 0 || back != 0; }
};

/// Radians, and metres of the subject's scale to the right, up and back.
struct Wandered {
  LookAngles turn;
  double roll = 0;
  Eigen::Vector3d place = Eigen::Vector3d::Zero();
};

/// A trivially copyable value.
class Unrest {
 public:
  explicit Unrest(double amount = 1) : amount_(amount), goal_(amount) {}
  void seed(std::uint32_t seed) { seed_ = seed; }
  /// From now on, 0 … 1, within the settings' half-life; not a number changes nothing.
  void setAmount(double amount) {
    if (!std::isnan(amount)) goal_ = std::clamp(amount, 0.0, 1.0);
  }
  double amount() const { return amount_; }
  double goal() const { return goal_; }

  /// Of the amount as much as this, 0 … 1, by the same half-life.
  void advance(double seconds, const UnrestSettings& settings, double share = 1);
  Wandered wandered(const UnrestSettings& settings) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    for (double& phase : phases_) fields.named("phases").number(phase, 0, 1);
    fields.named("amount goal").within(0, 1, amount_, goal_);
    fields.named("seed").ids(seed_);
  }

 private:
  double phases_[5] = {};  // of a period, 0 … 1
  double amount_ = 1, goal_ = 1;
  std::uint32_t seed_ = 1;
};

}  // namespace alpglow
