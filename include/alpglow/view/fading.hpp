#pragma once
// What hides a subject is drawn less and less while it does, and comes back: foliage, grilles, what is soft. Soft
// things let the camera pass, so that they neither pull it in nor stop it.
//
//   Fading fading;                                           // one per camera
//   const auto body = bodyPoints(subject, view.position);
//   fading.update(whatHides(view.position, body, world, Purpose::soft), dt, design.large);
//   for (const Covering& each : fading.all()) draw(each.thing, each.opacity);   // all others are drawn fully
//
// Seven rays a frame: do not ask where nothing soft is near.

#include "alpglow/base/span.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/space/look_past.hpp"
#include "alpglow/view/hiding.hpp"

#include <array>
#include <cstdint>

namespace alpglow {

/// A trivially copyable value.
class Fading {
 public:
  /// Time passes by `dt` seconds: what hides comes to the settings' opacity with their half-life, everything else comes
  /// back. A time that is negative or not finite is none.
  void update(const Hiding& hiding, double dt, const LookPastSettings& settings);
  /// Behind a cut everything is at once as it will be: from the next update.
  void cut() { cut_ = true; }
  /// What is not fully drawn, each thing once.
  Span<const Covering> all() const { return {things_.data(), count_}; }
  /// How much of a thing is drawn, 0 … 1.
  double opacityOf(ObstacleId thing) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    for (Covering& each : things_) {
      fields.named("things.thing").ids(each.thing);
      fields.named("things.opacity").number(each.opacity, 0, 1);
    }
    fields.named("count").whole(count_, Hiding::most);
    fields.named("cut").flags(cut_);
  }

 private:
  std::array<Covering, Hiding::most> things_{};
  std::uint32_t count_ = 0;
  bool cut_ = true;
};

}  // namespace alpglow
