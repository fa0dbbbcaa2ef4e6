#include "alpglow/input/player_controls.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

// Indices of the controls with a meaning of their own, found once.
const Control mouseMove = findControl("MouseMove");
const Control touchDrag = findControl("TouchDrag");
const Control pointerLock = findControl("PointerLock");
const Control focus = findControl("Focus");
const Control stickAxes[] = {findControl("PadAxis0"), findControl("PadAxis1"), findControl("PadAxis2"),
                             findControl("PadAxis3")};

constexpr double mouseClaim = 3;     // counts in one event that claim the prompts
constexpr double stickClaim = 0.25;  // shaped deflection that does

bool isPad(Control control) { return std::string_view(nameOf(control)).substr(0, 3) == "Pad"; }
bool isTouch(Control control) { return std::string_view(nameOf(control)).substr(0, 5) == "Touch"; }

}  // namespace

PlayerControls::PlayerControls(Bindings bindings, const Preferences& preferences)
    : bindings_(std::move(bindings)),
      preferences_(preferences),
      values_(controlNames().size(), 0.0),
      down_(controlNames().size(), false) {
  if (bindings_.modes.empty()) bindings_.modes.push_back({"on-foot", {}});
  memory_.resize(builtInActionNames().size() + bindings_.ownActions.size());
  bindingsChanged();
  samples_.reserve(64);
}

void PlayerControls::bindingsChanged() {
  engaged_.assign(modeBindings().size(), false);
  refresh(0);
}

void PlayerControls::beginFrame() {
  for (ActionMemory& action : memory_) action.pressed = action.released = false;
  beginStretch();
}

void PlayerControls::beginStretch() {
  samples_.clear();
  now_ = 0;
  turnAtStart_ = turn_;
  zoomRateAtStart_ = zoomRate_;
  glanceAtStart_ = glance_;
  aimAtStart_ = aim_;
  looked_ = {};
  zoomed_ = 0;
}

void PlayerControls::feed(const ControlEvent& event) {
  if (!event.control.valid() || event.control.index >= values_.size()) return;
  if (!std::isfinite(event.time) || !std::isfinite(event.x) || !std::isfinite(event.y)) return;
  if (waiting_ && captured(event)) return;
  const bool displaced = kindOf(event.control) == ControlKind::displacement;
  if (!displaced) values_[event.control.index] = event.x;
  noteDevice(event);
  now_ = std::max(now_, event.time);
  if (displaced) return displace(event);

  const bool before = isDown(event.control);
  const bool now = kindOf(event.control) == ControlKind::button && pressed(before, event.x, bindings_.triggers);
  down_[event.control.index] = now;
  if (event.control == pointerLock && now != pointerLocked_) {
    pointerLocked_ = discardNext_ = now;
    if (!now && wantsPointerLock()) lockRequested_ = false;  // taken away, not given back for a block
    if (!now) releaseAll();
  }
  if (event.control == focus && !now) releaseAll();
  if (now && !before) press(event.control);
  if (!now && before) release(event.control);
  refresh(event.time);
}

Intent PlayerControls::intent() const {
  Intent intent(samples_, turnAtStart_);
  intent.zoomRate = zoomRateAtStart_;
  intent.glance = glanceAtStart_;
  intent.aim = aimAtStart_;
  const LookPreference& stick = preferences_.stick;
  intent.turnScale = {stick.invertX ? -stick.sensitivityX : stick.sensitivityX,
                      stick.invertY ? -stick.sensitivityY : stick.sensitivityY};
  intent.blocked = blocks_.what();
  return intent;
}

ActionState PlayerControls::state(Action action) const {
  const auto index = static_cast<std::size_t>(action);
  if (index >= memory_.size()) return {};
  return {memory_[index].held, memory_[index].pressed, memory_[index].released};
}

bool PlayerControls::setMode(std::string_view name) {
  const std::size_t mode = bindings_.findMode(std::string(name));
  if (mode >= bindings_.modes.size()) return false;
  if (mode == mode_) return true;
  mode_ = mode;
  bindingsChanged();
  return true;
}

void PlayerControls::block(std::string_view reason, std::uint32_t what, double time) {
  blocks_.begin(reason, what);
  refresh(time);
}

void PlayerControls::unblock(std::string_view reason, double time) {
  blocks_.end(reason);
  refresh(time);
}

void PlayerControls::releaseAll() {
  for (std::size_t i = 0; i < values_.size(); ++i) releaseControl({static_cast<std::uint16_t>(i)});
  refresh(0);
}

void PlayerControls::releasePad() {
  for (std::size_t i = 0; i < values_.size(); ++i) {
    const Control control{static_cast<std::uint16_t>(i)};
    if (isPad(control)) releaseControl(control);
  }
  refresh(0);
}

void PlayerControls::releaseControl(Control control) {
  if (control == pointerLock || control == focus) return;
  values_[control.index] = 0;
  if (!down_[control.index]) return;
  down_[control.index] = false;
  release(control);
}

void PlayerControls::setPreferences(const Preferences& preferences) {
  preferences_ = preferences;
  for (ActionMemory& action : memory_) action.latched = false;
  refresh(0);
}

Device PlayerControls::device() const {
  switch (preferences_.prompts) {
    case PromptPreference::keyboardAndMouse: return Device::keyboardAndMouse;
    case PromptPreference::pad: return Device::pad;
    case PromptPreference::touch: return Device::touch;
    case PromptPreference::lastUsed: break;
  }
  return lastDevice_;
}

void PlayerControls::noteDevice(const ControlEvent& event) {
  if (event.control == pointerLock || event.control == focus) return;
  if (isTouch(event.control)) {
    lastDevice_ = Device::touch;
  } else if (isPad(event.control)) {
    double claim = event.x;
    if (kindOf(event.control) == ControlKind::axis) {
      const Rate stick = stickOf(event.control);
      claim = std::hypot(stick.x, stick.y) >= stickClaim ? 1 : 0;
    }
    if (claim >= bindings_.triggers.pressAt) lastDevice_ = Device::pad;
  } else if (event.control != mouseMove || std::hypot(event.x, event.y) >= mouseClaim) {
    lastDevice_ = Device::keyboardAndMouse;
  }
}

/// A binding with its modifier held goes before those without; one without counts while none of the others does.
bool PlayerControls::applies(const Binding& binding) const {
  if (binding.modifier.valid()) return isDown(binding.modifier);
  return std::none_of(modeBindings().begin(), modeBindings().end(), [&](const Binding& other) {
    return other.control == binding.control && other.modifier.valid() && isDown(other.modifier);
  });
}

PressStyle PlayerControls::styleOf(const Binding& binding) const {
  PressPreference preference = PressPreference::asBound;
  if (binding.action == Action::aim) preference = preferences_.aim;
  if (binding.action == Action::crouch) preference = preferences_.crouch;
  if (binding.action == Action::run) preference = preferences_.run;
  if (preference == PressPreference::asBound) return binding.press;
  return preference == PressPreference::hold ? PressStyle::hold : PressStyle::toggle;
}

/// The shaped stick to which an axis belongs.
Rate PlayerControls::stickOf(Control control) const {
  const bool left = control == stickAxes[0] || control == stickAxes[1];
  const Rate raw{values_[stickAxes[left ? 0 : 2].index], values_[stickAxes[left ? 1 : 3].index]};
  return shaped(raw, left ? bindings_.leftStick : bindings_.rightStick);
}

double PlayerControls::axisValue(Control control) const {
  if (!isPad(control)) return values_[control.index];
  const Rate stick = stickOf(control);
  return control == stickAxes[0] || control == stickAxes[2] ? stick.x : stick.y;
}

/// An action with axes: keys make a vector of length 1 at most, scaled by the slow action, and sticks add to it.
Rate PlayerControls::axes(Action action) const {
  Rate keys, sticks;
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (binding.action != action) continue;
    const ControlKind kind = kindOf(binding.control);
    if (kind == ControlKind::button && engaged_[i]) {
      (binding.axis == Axis::y ? keys.y : keys.x) += binding.scale * values_[binding.control.index];
    } else if (kind == ControlKind::axis && applies(binding)) {
      (binding.axis == Axis::y ? sticks.y : sticks.x) += binding.scale * axisValue(binding.control);
    }
  }
  keys = limitedToOne(keys);
  const double slow = memory_[static_cast<std::size_t>(Action::slow)].held ? bindings_.keys.slowScale : 1;
  return limitedToOne({keys.x * slow + sticks.x, keys.y * slow + sticks.y});
}

void PlayerControls::displace(const ControlEvent& event) {
  for (const Binding& binding : modeBindings()) {
    if (binding.control != event.control || !applies(binding)) continue;
    if (binding.action == Action::look) {
      lookBy(event, binding);
    } else if (binding.action == Action::zoom && !blocks_.stops(Blocked::zoom)) {
      samples_.push_back(IntentSample::zoom(now_, event.x * binding.scale));
      zoomed_ += event.x * binding.scale;
    } else if (axesOf(binding.action) == 0 && event.x * binding.scale > 0) {
      tap(binding.action);
    }
  }
  if (event.control == mouseMove) discardNext_ = false;
}

void PlayerControls::lookBy(const ControlEvent& event, const Binding& binding) {
  if (blocks_.stops(Blocked::look)) return;
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
}

/// A notch that is bound to a pressed action presses and releases it.
void PlayerControls::tap(Action action) {
  if (blocks_.stops(Blocked::actions)) return;
  ActionMemory& memory = memory_[static_cast<std::size_t>(action)];
  memory.pressed = memory.released = true;
}

void PlayerControls::press(Control control) {
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    const bool pressedAction = axesOf(binding.action) == 0;
    if (binding.control != control || !applies(binding)) continue;
    if (pressedAction && blocks_.stops(Blocked::actions)) continue;
    engaged_[i] = true;
    if (binding.action == Action::pointerLock) lockRequested_ = !lockRequested_;
    if (binding.action == Action::swapShoulder) samples_.push_back(IntentSample::swapShoulder(now_));
    if (binding.action == Action::swingBack) samples_.push_back(IntentSample::swingBack(now_));
    if (binding.action == Action::switchPerspective) samples_.push_back(IntentSample::switchPerspective(now_));
    if (!pressedAction || styleOf(binding) == PressStyle::hold) continue;
    ActionMemory& memory = memory_[static_cast<std::size_t>(binding.action)];
    memory.latched = !memory.latched;
  }
}

void PlayerControls::release(Control control) {
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    if (modeBindings()[i].control == control) engaged_[i] = false;
  }
}

/// Works out anew what is held, and says which rates hold from now on.
void PlayerControls::refresh(double time) {
  now_ = std::max(now_, time);  // samples stay in order
  std::vector<bool>& on = scratch_;
  on.assign(memory_.size(), false);
  for (std::size_t i = 0; i < modeBindings().size(); ++i) {
    const Binding& binding = modeBindings()[i];
    if (engaged_[i] && axesOf(binding.action) == 0 && styleOf(binding) == PressStyle::hold) {
      on[static_cast<std::size_t>(binding.action)] = true;
    }
  }
  for (std::size_t i = 0; i < memory_.size(); ++i) {
    ActionMemory& memory = memory_[i];
    const auto action = static_cast<Action>(i);
    const Rate value = axesOf(action) > 0 ? axes(action) : Rate();
    const bool axisBlocked = action == Action::look   ? blocks_.stops(Blocked::look)
                             : action == Action::zoom ? blocks_.stops(Blocked::zoom)
                                                      : blocks_.stops(Blocked::move);
    const bool held = axesOf(action) > 0 ? !axisBlocked && (value.x != 0 || value.y != 0)
                                         : (on[i] || memory.latched) && !blocks_.stops(Blocked::actions);
    if (held && !memory.held) memory.pressed = true;
    if (!held && memory.held) memory.released = true;
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
