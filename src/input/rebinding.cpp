// Bindings that change while the game runs.

#include "alpglow/input/player_controls.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

const Control pointerLock = findControl("PointerLock"), focus = findControl("Focus");

constexpr double bindAxisAt = 0.6;  // deflection that counts as "moved" when binding
constexpr double bindMouseAt = 20;  // counts that do

}  // namespace

const Binding* PlayerControls::bind(std::string_view modeName, const Binding& binding) {
  const bool current = modeName == mode();
  std::vector<Binding>& list = bindings_.mode(std::string(modeName)).bindings;
  if (std::find(list.begin(), list.end(), binding) != list.end()) return nullptr;
  const auto inTheWay = std::find_if(list.begin(), list.end(), [&](const Binding& b) { return conflict(b, binding); });
  if (inTheWay != list.end()) return &*inTheWay;
  list.push_back(binding);
  if (current) engaged_.push_back(false);
  refresh(0);
  return nullptr;
}

bool PlayerControls::unbind(std::string_view modeName, Action action, Control control) {
  const bool current = modeName == mode();
  std::vector<Binding>& list = bindings_.mode(std::string(modeName)).bindings;
  bool found = false;
  for (std::size_t i = list.size(); i-- > 0;) {
    if (list[i].action != action || (control.valid() && list[i].control != control)) continue;
    list.erase(list.begin() + static_cast<std::ptrdiff_t>(i));
    if (current) engaged_.erase(engaged_.begin() + static_cast<std::ptrdiff_t>(i));
    found = true;
  }
  if (found && static_cast<std::size_t>(action) < memory_.size())
    memory_[static_cast<std::size_t>(action)].latched = false;
  refresh(0);
  return found;
}

void PlayerControls::unbindAll(std::string_view modeName, Action action) { unbind(modeName, action, Control()); }

void PlayerControls::bindNext(std::string_view modeName, const Binding& binding) {
  waiting_ = true;
  bound_ = false;
  waitingMode_ = std::string(modeName);
  waitingBinding_ = binding;
}

/// While waiting, a decisive motion becomes the binding and everything else is passed over.
bool PlayerControls::captured(const ControlEvent& event) {
  if (event.control == pointerLock || event.control == focus) return false;
  const ControlKind kind = kindOf(event.control);
  const bool both = valuesOf(event.control) == 2;
  const double moved = both ? std::hypot(event.x, event.y) : std::abs(event.x);
  const double decisive = both                          ? bindMouseAt
                          : kind == ControlKind::axis   ? bindAxisAt
                          : kind == ControlKind::button ? bindings_.triggers.pressAt
                                                        : 1e-9;
  const bool fits = !both || axesOf(waitingBinding_.action) == 2;
  if (moved < decisive || !fits) {
    if (kind == ControlKind::button && event.x == 0) releaseControl(event.control);  // a release is never missed
    return true;
  }
  Binding binding = waitingBinding_;
  binding.control = event.control;
  if (both) binding.axis = Axis::both;
  if (!both && kind != ControlKind::button && event.x < 0) binding.scale = -binding.scale;
  waiting_ = false;
  bound_ = bind(waitingMode_, binding) == nullptr;
  if (kind == ControlKind::button) down_[event.control.index] = true;  // it acts only when it is pressed anew
  values_[event.control.index] = kind == ControlKind::button ? event.x : values_[event.control.index];
  return true;
}

}  // namespace alpglow
