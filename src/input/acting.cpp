// What moves becomes what acts: keys, sticks and wheels drive actions.

#include "alpglow/input/player_controls.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

const Control mouseMove = findControl("MouseMove"), touchDrag = findControl("TouchDrag");
constexpr double wholeNotch = 1 - 1e-9;
constexpr int mostNotches = 16;  // of one event that press something

}  // namespace

/// Keys make a vector of length 1 at most, scaled by the slow action, and sticks add to it.
Rate PlayerControls::axes(Action action) const {
  Rate keys, sticks;
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (binding.action != action) continue;
    const ControlKind kind = kindOf(binding.control);
    if (kind == ControlKind::button && bound_[i].engaged) {
      (binding.axis == Axis::y ? keys.y : keys.x) += binding.scale * values_[binding.control.index];
    } else if (kind == ControlKind::axis && applies(binding)) {
      (binding.axis == Axis::y ? sticks.y : sticks.x) += binding.scale * axisValue(binding.control);
    }
  }
  keys = limitedToOne(keys);
  const bool slowed = axesOf(action) > 0 && memory_[static_cast<std::size_t>(Action::slow)].held;
  const double slow = slowed ? bindings_.keys.slowScale : 1;
  return limitedToOne({keys.x * slow + sticks.x, keys.y * slow + sticks.y});
}

bool PlayerControls::blocked(Action action) const {
  if (axesOf(action) == 0) return blocks_.stops(Blocked::actions);
  return blocks_.stops(action == Action::look ? Blocked::look : action == Action::zoom ? Blocked::zoom : Blocked::move);
}

Rate PlayerControls::value(Action action) const {
  const auto index = static_cast<std::size_t>(action);
  if (index >= memory_.size() || blocked(action)) return {};
  const Rate value = axes(action);
  const bool toggled = axesOf(action) == 0 && memory_[index].latched;
  return toggled && value.x == 0 && value.y == 0 ? Rate{1, 0} : value;
}

Displacement PlayerControls::displaced(Action action) const {
  const auto index = static_cast<std::size_t>(action);
  return index < moved_.size() ? moved_[index] : Displacement();
}

void PlayerControls::displace(const ControlEvent& event) {
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (binding.control != event.control || !applies(binding) || blocked(binding.action)) continue;
    Displacement& moved = moved_[static_cast<std::size_t>(binding.action)];
    const double x = event.x * binding.scale, y = event.y * binding.scale;
    if (binding.action == Action::look) {
      lookBy(event, binding);
      continue;
    }
    if (valuesOf(binding.control) == 2) {
      moved = {moved.x + x, moved.y + y};
      continue;
    }
    (binding.axis == Axis::y ? moved.y : moved.x) += x;
    if (binding.action == Action::zoom) {
      samples_.push_back(IntentSample::zoom(now_, x));
      zoomed_ += x;
    } else if (axesOf(binding.action) == 0) {
      turnWheel(i, x);
    }
  }
  if (event.control == mouseMove) discardNext_ = false;
}

void PlayerControls::lookBy(const ControlEvent& event, const Binding& binding) {
  if (event.control == mouseMove) {
    const PointerSettings& pointer = bindings_.pointer;
    if (discardNext_ || (pointer.look == PointerLook::locked && !pointerLocked_)) return;
    if (pointer.look == PointerLook::dragging && !isDown(pointer.dragButton)) return;
  }
  const LookPreference& player = event.control == touchDrag ? preferences_.touch : preferences_.mouse;
  const double x = event.x * binding.scale * player.sensitivityX * (player.invertX ? -1 : 1);
  const double y = event.y * binding.scale * player.sensitivityY * (player.invertY ? -1 : 1);
  const Displacement moved{binding.axis == Axis::y ? 0 : x, binding.axis == Axis::x ? 0 : y};
  samples_.push_back(IntentSample::look(now_, moved));
  looked_ = {looked_.x + moved.x, looked_.y + moved.y};
  Displacement& total = moved_[static_cast<std::size_t>(Action::look)];
  total = {total.x + moved.x, total.y + moved.y};
}

/// Each whole notch presses and releases, as often as it comes; parts of one add up.
void PlayerControls::turnWheel(std::size_t binding, double notches) {
  double& sum = bound_[binding].notches;
  sum = (notches > 0) == (sum > 0) ? sum + notches : notches;
  for (int i = 0; i < mostNotches && sum >= wholeNotch; ++i, sum -= 1) {
    const Action action = modeBindings()[binding].action;
    engage(binding);
    bound_[binding].engaged = false;
    ActionMemory& memory = memory_[static_cast<std::size_t>(action)];
    if (memory.held || styleOf(modeBindings()[binding]) == PressStyle::toggle) {
      refresh(now_);
      continue;
    }
    memory.pressed = memory.released = true;
    note(action, true);
    note(action, false);
  }
  sum = std::min(sum, wholeNotch);
}

void PlayerControls::press(Control control) {
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (binding.control != control || !applies(binding)) continue;
    if (axesOf(binding.action) == 0 && blocked(binding.action)) continue;
    engage(i);
  }
}

/// Sticks press what is only pressed, at the same deflection as triggers do.
void PlayerControls::pushSticks(bool act) {
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (kindOf(binding.control) != ControlKind::axis || axesOf(binding.action) > 0) continue;
    const bool before = bound_[i].pushed;
    bound_[i].pushed = pressed(before, binding.scale * axisValue(binding.control), bindings_.triggers);
    if (!bound_[i].pushed) bound_[i].engaged = false;
    if (act && bound_[i].pushed && !before && applies(binding) && !blocked(binding.action)) engage(i);
  }
}

void PlayerControls::engage(std::size_t index) {
  const Binding& binding = modeBindings()[index];
  bound_[index].engaged = true;
  if (binding.action == Action::pointerLock) lockRequested_ = !lockRequested_;
  if (binding.action == Action::swapShoulder) samples_.push_back(IntentSample::swapShoulder(now_));
  if (binding.action == Action::swingBack) samples_.push_back(IntentSample::swingBack(now_));
  if (binding.action == Action::switchPerspective) samples_.push_back(IntentSample::switchPerspective(now_));
  if (axesOf(binding.action) > 0 || styleOf(binding) == PressStyle::hold) return;
  ActionMemory& memory = memory_[static_cast<std::size_t>(binding.action)];
  memory.latched = !memory.latched;
}

void PlayerControls::release(Control control) {
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    if (modeBindings()[i].control == control) bound_[i].engaged = false;
  }
}

void PlayerControls::note(Action action, bool began) { changes_.push_back({now_, action, began}); }

/// Works out anew what is held, and says which rates hold from now on.
void PlayerControls::refresh(double time) {
  now_ = std::max(now_, time);  // samples stay in order
  std::vector<bool>& on = scratch_;
  on.assign(memory_.size(), false);
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (bound_[i].engaged && axesOf(binding.action) == 0 && styleOf(binding) == PressStyle::hold) {
      on[static_cast<std::size_t>(binding.action)] = true;
    }
  }
  for (std::size_t i = 0; i < memory_.size(); ++i) {
    ActionMemory& memory = memory_[i];
    const auto action = static_cast<Action>(i);
    const Rate value = axesOf(action) > 0 ? axes(action) : Rate();
    const bool moves = axesOf(action) > 0 ? value.x != 0 || value.y != 0 : on[i] || memory.latched;
    const bool held = moves && !blocked(action);
    if (held && !memory.held) memory.pressed = true;
    if (!held && memory.held) memory.released = true;
    if (held != memory.held) note(action, held);
    memory.held = held;
  }

  const Rate turn = blocks_.stops(Blocked::look) ? Rate() : axes(Action::look);
  if (turn.x != turn_.x || turn.y != turn_.y) samples_.push_back(IntentSample::turn(now_, turn));
  turn_ = turn;
  const double zoomRate = blocks_.stops(Blocked::zoom) ? 0 : axes(Action::zoom).x;
  if (zoomRate != zoomRate_) samples_.push_back(IntentSample::zoomRate(now_, zoomRate));
  zoomRate_ = zoomRate;
  const bool glance = state(Action::glance).held;
  if (glance != glance_) samples_.push_back(IntentSample::glance(now_, glance));
  glance_ = glance;
  const bool aim = state(Action::aim).held;
  if (aim != aim_) samples_.push_back(IntentSample::aim(now_, aim));
  aim_ = aim;
}

}  // namespace alpglow
