#pragma once
// Plays an intent over a frame: time passes up to each sample, the sample happens, and the rates change with it.
//
//   HeldRates held;                                   // of one camera, from frame to frame
//   const bool good = playIntent(intent, held, dt,
//       [&](double seconds, const PlayedRates& rates) {
//         look.advance(seconds, rates.turn, rates.turnScale, settings, limits);
//       },
//       [&](const IntentSample& sample) {
//         if (sample.kind == IntentSample::Kind::look) look.displace({sample.x, sample.y}, settings, limits);
//       });

#include "alpglow/base/limits.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/input/movement.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

/// What holds until it changes: length of `turn` at most 1.
struct HeldRates {
  Rate turn;
  double zoomRate = 0;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("turn.x turn.y").numbers(1, turn.x, turn.y);
    fields.named("zoomRate").numbers(1e9, zoomRate);
  }
};

/// The rates that hold during a stretch: length of `turn` at most 1, everything legal.
struct PlayedRates {
  Rate turn;
  Rate turnScale;
  double zoomRate = 0;
};

/// Calls `advance` for the stretches between the samples, `dt` seconds in all, and `onSample` for the samples that are
/// no rates; `held` becomes what holds at the end. What is no legal number (base/limits.hpp) is left out; then it
/// returns false.
template <class Advance, class OnSample>
bool playIntent(const Intent& intent, HeldRates& held, double dt, Advance&& advance, OnSample&& onSample) {
  const auto legal = [](double x, double y) { return legalNumber(x) && legalNumber(y); };
  const Rate turn = intent.turn.value_or(held.turn), scale = intent.turnScale;
  const double zoomRate = intent.zoomRate.value_or(held.zoomRate);
  bool good = legal(turn.x, turn.y) && legal(scale.x, scale.y) && legalNumber(zoomRate);
  PlayedRates rates{limitedToOne(turn), legal(scale.x, scale.y) ? scale : Rate{1, 1},
                    legalNumber(zoomRate) ? zoomRate : 0};
  double now = 0;
  const auto advanceUntil = [&](double time) {
    const double seconds = std::max(time - now, 0.0);
    advance(seconds, static_cast<const PlayedRates&>(rates));
    now += seconds;
  };
  for (const IntentSample& sample : intent.samples) {
    if (!legal(sample.x, sample.y) || !std::isfinite(sample.time)) {
      good = false;
      continue;
    }
    advanceUntil(std::min(sample.time, dt));
    switch (sample.kind) {
      case IntentSample::Kind::turn: rates.turn = limitedToOne({sample.x, sample.y}); break;
      case IntentSample::Kind::zoomRate: rates.zoomRate = sample.x; break;
      case IntentSample::Kind::look:
      case IntentSample::Kind::zoom:
      case IntentSample::Kind::glance:
      case IntentSample::Kind::swapShoulder:
      case IntentSample::Kind::swingBack:
      case IntentSample::Kind::aim:
      case IntentSample::Kind::switchPerspective: onSample(sample); break;
    }
  }
  advanceUntil(dt);
  held = {rates.turn, rates.zoomRate};
  return good;
}

}  // namespace alpglow
