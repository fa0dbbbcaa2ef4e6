#pragma once
// Fingers on glass as controls: a zone on the left that is a movement stick, dragging elsewhere that looks, two fingers
// that pinch. A finger that starts on one of the game's own buttons does neither.
//
//   TouchZones zones(bindings.touch);
//   zones.down(id, x, y, onButton);
//   zones.move(id, x, y, time, aspect, [&](const ControlEvent& event) { controls.feed(event); });

#include "alpglow/input/bindings.hpp"
#include "alpglow/input/control.hpp"

#include <cstdint>
#include <functional>
#include <vector>

namespace alpglow {

class TouchZones {
 public:
  using Out = std::function<void(const ControlEvent&)>;

  explicit TouchZones(const TouchSettings& settings) : settings_(settings) {}

  /// A finger touched; x and y in fractions of the screen's width and height, y down. The game says whether the place
  /// is one of its own buttons.
  void down(std::int64_t finger, double x, double y, bool onButton);
  /// It moved. Time in seconds since the frame began; aspect is width over height.
  void move(std::int64_t finger, double x, double y, double time, double aspect, const Out& out);
  void up(std::int64_t finger, double time, const Out& out);
  /// All fingers are gone: the window lost the focus.
  void cancel(double time, const Out& out);

 private:
  enum class Role { look, move, button };
  struct Finger {
    std::int64_t id;
    Role role;
    double startX, startY, x, y;
  };

  Finger* find(std::int64_t id);
  Finger* otherLooking(const Finger& finger);

  TouchSettings settings_;
  std::vector<Finger> fingers_;
};

}  // namespace alpglow
