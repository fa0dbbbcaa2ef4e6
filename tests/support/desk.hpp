#pragma once
// Controls under test.

#include "alpglow/input/player_controls.hpp"

#include <utility>

namespace alpglow::testing {

/// Controls with few words.
class Desk : public PlayerControls {
 public:
  explicit Desk(Bindings bindings = standardBindings(), const Preferences& preferences = {})
      : PlayerControls(std::move(bindings), preferences) {}
  void on(const char* control, double x = 1, double y = 0) { feed({0, findControl(control), x, y}); }
  void off(const char* control) { on(control, 0); }
  bool held(Action action) const { return state(action).held; }
  /// Counts that the intent looks by.
  Displacement counts() const {
    Displacement sum;
    for (const IntentSample& s : intent().samples) {
      if (s.kind == IntentSample::Kind::look) sum = {sum.x + s.x, sum.y + s.y};
    }
    return sum;
  }
};

inline Binding bound(Action action, const char* control, const char* modifier = "") {
  return {action, Axis::x, findControl(control), 1, findControl(modifier), PressStyle::hold};
}

}  // namespace alpglow::testing
