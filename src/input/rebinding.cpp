// Bindings that change while the game runs.

#include "alpglow/input/player_controls.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

const Control focus = findControl("Focus");

constexpr double bindAxisAt = 0.6;  // deflection that counts as "moved" when binding
constexpr double bindMouseAt = 20;  // counts that do

}  // namespace

BindAnswer PlayerControls::bind(std::string_view modeName, const Binding& binding) {
  const std::size_t mode = bindings_.findMode(std::string(modeName));
  if (mode >= bindings_.modes.size()) return {Bound::noMode, {}};
  if (misfitOf(binding, bindings_) != Misfit::none) return {Bound::misfit, {}};
  std::vector<Binding>& list = bindings_.modes[mode].bindings;
  if (std::find(list.begin(), list.end(), binding) != list.end()) return {Bound::already, {}};
  const auto inTheWay = std::find_if(list.begin(), list.end(), [&](const Binding& b) { return conflict(b, binding); });
  if (inTheWay != list.end()) return {Bound::conflict, *inTheWay};
  list.push_back(binding);
  if (mode == mode_) {
    bound_.emplace_back();
    pushSticks(false);
  }
  refresh(0);
  return {Bound::yes, {}};
}

bool PlayerControls::unbind(std::string_view modeName, Action action, Control control) {
  return control.valid() && remove(modeName, action, control);
}

bool PlayerControls::unbindAll(std::string_view modeName, Action action) { return remove(modeName, action, Control()); }

/// All controls of the action, if none is named.
bool PlayerControls::remove(std::string_view modeName, Action action, Control control) {
  const std::size_t mode = bindings_.findMode(std::string(modeName));
  if (mode >= bindings_.modes.size()) return false;
  std::vector<Binding>& list = bindings_.modes[mode].bindings;
  bool found = false;
  for (std::size_t i = list.size(); i-- > 0;) {
    if (list[i].action != action || (control.valid() && list[i].control != control)) continue;
    const auto at = static_cast<std::ptrdiff_t>(i);
    list.erase(list.begin() + at);
    if (mode == mode_) bound_.erase(bound_.begin() + at);
    found = true;
  }
  if (found) memory_[static_cast<std::size_t>(action)].latched = false;
  refresh(0);
  return found;
}

void PlayerControls::bindNext(std::string_view modeName, const Binding& binding, std::vector<Control> cancelledBy) {
  Binding probe = binding;
  probe.control = focus;  // any one that exists
  waitingMode_ = std::string(modeName);
  waitingBinding_ = binding;
  cancelling_ = cancelledBy.empty() ? std::vector<Control>{findControl("Escape")} : std::move(cancelledBy);
  boundNext_ = {bindings_.findMode(waitingMode_) >= bindings_.modes.size() ? Bound::noMode
                : misfitOf(probe, bindings_) != Misfit::none               ? Bound::misfit
                                                                           : Bound::waiting,
                {}};
}

void PlayerControls::cancelBindNext() {
  if (waitingToBind()) boundNext_ = {Bound::cancelled, {}};
}

/// What is let go ends; nothing else acts. A decisive motion becomes the binding, and acts when it moves anew.
void PlayerControls::whileWaiting(const ControlEvent& event) {
  double& value = values_[event.control.index];
  const ControlKind kind = kindOf(event.control);
  if (kind == ControlKind::button && isDown(event.control) && !pressed(true, event.x, bindings_.triggers)) {
    now_ = std::max(now_, event.time);
    releaseControl(event.control);
    return refresh(event.time);
  }
  if (captured(event) && kind == ControlKind::button) {
    down_[event.control.index] = true;
    value = event.x;
  }
  if (kind != ControlKind::axis || std::abs(event.x) >= std::abs(value)) return;
  value = event.x;
  refresh(event.time);
}

bool PlayerControls::captured(const ControlEvent& event) {
  const ControlKind kind = kindOf(event.control);
  const bool both = valuesOf(event.control) == 2;
  const double moved = both ? std::hypot(event.x, event.y) : std::abs(event.x);
  const double decisive = both                          ? bindMouseAt
                          : kind == ControlKind::axis   ? bindAxisAt
                          : kind == ControlKind::button ? bindings_.triggers.pressAt
                                                        : 1e-9;
  if (moved < decisive) return false;
  if (std::find(cancelling_.begin(), cancelling_.end(), event.control) != cancelling_.end()) {
    cancelBindNext();
    return true;
  }
  Binding binding = waitingBinding_;
  binding.control = event.control;
  if (both) binding.axis = Axis::both;
  if (!both && kind != ControlKind::button && event.x < 0) binding.scale = -binding.scale;
  if (misfitOf(binding, bindings_) != Misfit::none) return false;  // a pointer passes by
  boundNext_ = bind(waitingMode_, binding);
  return true;
}

}  // namespace alpglow
