#pragma once
// Something small of a level, taken into the hand and turned, while the level waits.
//
//   const int which = play::smallThingAhead(level, view);
//   if (which >= 0) hand.emplace(level, which, controls, preferences);

#include "alpglow/camera/inspection.hpp"
#include "alpglow/input/player_controls.hpp"
#include "alpglow/io/level.hpp"

#include <string>

namespace alpglow::play {

/// The object nearest to the middle of the picture, or −1. Counts objects at rest that are in the picture, no longer
/// than 1.2 m and no farther than 15 m.
int smallThingAhead(const io::Level& level, const View& view);

class ThingInHand {
 public:
  ThingInHand(const io::Level& level, int object, const Bindings& bindings, const Preferences& preferences);

  const std::string& name() const { return level_.objects.front().name; }
  /// The thing alone, with its middle at the origin.
  const io::Level& level() const { return level_; }
  /// Looking turns it, zooming brings it closer, and moving sideways rolls it.
  PlayerControls& controls() { return controls_; }
  void setBindings(const Bindings& bindings, const Preferences& preferences) {
    controls_ = PlayerControls(bindings, preferences);
  }
  void feed(const ControlEvent& event) { controls_.feed(event); }
  void frame(double dt);
  View view(double aspect) { return inspection_.view(Eigen::Vector3d::Zero(), aspect); }
  const Inspection& inspection() const { return inspection_; }

 private:
  io::Level level_;
  PlayerControls controls_;
  Inspection inspection_;
};

}  // namespace alpglow::play
