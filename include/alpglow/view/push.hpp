#pragma once
// Pushes: short displacements by the game that come and go by themselves: recoil, a flinch, a landing, a blast.
//
//   const PushSettings recoil[] = {recoilOfTheFlareGun};      // up to `mostPushes` kinds
//   Pushes pushes;
//   pushes.push(0, {1}, recoil, PushLimits());                // strength 1; again and again as it fires
//   look.turnBy(pushes.advance(dt, recoil), limits);          // what moves the aim turns the look ...
//   pushes.counter(turnOfThePlayer, recoil, PushLimits());    // ... and what the player fought is not taken back
//   const Pushed shown = pushes.shown(recoil);                // everything else moves the picture
//
// One push of strength 1 rises and returns as K·(e^(−λr·t) − e^(−λa·t)), with the rates of two half-lives and K such
// that its highest value is 1: with x = λa/λr that is after ln(x)/(λa − λr) and K = 1/(x^(−1/(x−1))·(1 − 1/x)). The two
// terms obey linear equations, so any number of pushes of a kind are two numbers for each direction, and cutting time
// in pieces changes nothing.

#include "alpglow/base/angles.hpp"
#include "alpglow/base/span.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/look/look.hpp"

#include <array>
#include <cstddef>
#include <cstdint>

namespace alpglow {

/// How many kinds of pushes a design holds at most.
constexpr std::size_t mostPushes = 6;

/// A kind of push: what one of strength 1 does where it is strongest.
struct PushSettings {
  /// Up, radians, where it goes back, toward the camera, or nowhere; and to the right and rolling to the right where it
  /// goes to the right.
  double pitch = 0, yaw = 0, roll = 0;
  /// The eye: to the right where it goes there, up anyhow, and back where it goes back; metres of the subject's scale.
  double right = 0, up = 0, back = 0;
  /// Times the field of view, as the tangent of half of it.
  double lens = 1;
  /// Half-lives of rising and of returning, seconds.
  double attack = 0.01, comesBack = 0.12;
  /// How much of it goes to a side by chance, 0 … 1.
  double spread = 0;
  /// It turns the look: the crosshair leaves what it was on, and the player can fight that. Otherwise only the picture
  /// moves.
  bool movesAim = false;

  /// When it is strongest, seconds after it began.
  double strongestAfter() const;
};

/// As far as all pushes together go; the closer to that, the less another one adds.
struct PushLimits {
  double turn = degrees(20), roll = degrees(12), place = 0.3, lens = 1.4;
};

/// One push. It goes to the right and back by these shares, −1 … 1; without a direction, back by 1.
struct PushCall {
  double strength = 1;
  double right = 0, back = 1;
};

/// What all pushes amount to at a moment: radians, metres of the subject's scale to the right, up and back, and what
/// the tangent of half of the field of view is multiplied by.
struct Pushed {
  LookAngles turn;
  double roll = 0, right = 0, up = 0, back = 0, lens = 1;
};

/// A trivially copyable value.
class Pushes {
 public:
  Pushes() = default;

  /// A push begins. `kind` is less than the count of `kinds`.
  void push(std::size_t kind, const PushCall& call, Span<const PushSettings> kinds, const PushLimits& limits);
  /// Time passes. What those that move the aim turn the look by, radians.
  LookAngles advance(double seconds, Span<const PushSettings> kinds);
  /// Somebody turned the look against what pushes have turned it by: that much of it is not taken back.
  void counter(const LookAngles& by, Span<const PushSettings> kinds, const PushLimits& limits);
  /// What moves the picture only.
  Pushed shown(Span<const PushSettings> kinds) const;
  /// What the look owes to pushes at this moment, and they are going to take back.
  LookAngles owed(Span<const PushSettings> kinds) const;

  /// Some push has not died away yet: to 1e-12 of strength 1.
  bool any() const { return live_ != 0; }
  /// The same chances follow from the same seed.
  void seed(std::uint32_t seed) { dice_ = seed; }
  void cut() { *this = Pushes(dice_); }
  /// These kinds could have come to this within these limits.
  bool legal(Span<const PushSettings> kinds, const PushLimits& limits) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    for (auto& kind : kinds_) {
      for (Motion& motion : kind) fields.named("kinds.slow kinds.fast").numbers(farthest, motion.slow, motion.fast);
    }
    fields.named("live").whole(live_, (1u << mostPushes) - 1);
    fields.named("dice").ids(dice_);
  }

 private:
  explicit Pushes(std::uint32_t dice) : dice_(dice) {}

  /// Of which the difference shows, times K.
  struct Motion {
    double slow = 0, fast = 0;
  };
  /// What a push drives, each with a life of its own: what it does anyhow, to the back and to the right; and its turns,
  /// which may be fought.
  enum Drive : std::uint8_t { anyhow, backward, rightward, turnUp, turnRight };
  static constexpr std::size_t drives = 5;
  static constexpr double farthest = 1e9;  // where there is no effect to limit it

  bool alive(std::size_t kind) const { return (live_ >> kind & 1) != 0; }
  double chance();
  double shown(std::size_t kind, Drive drive, const PushSettings& settings) const;
  double turn(Span<const PushSettings> kinds, bool aims) const;
  double load(Span<const PushSettings> kinds, const PushLimits& limits) const;
  void counter(double by, Drive drive, double PushSettings::*angle, Span<const PushSettings> kinds);

  std::array<std::array<Motion, drives>, mostPushes> kinds_{};
  std::uint32_t live_ = 0, dice_ = 1;
};

}  // namespace alpglow
