#include "alpglow/input/player_controls.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

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
  for (Mode& mode : bindings_.modes) {
    const auto misfit = [this](const Binding& binding) { return misfitOf(binding, bindings_) != Misfit::none; };
    mode.bindings.erase(std::remove_if(mode.bindings.begin(), mode.bindings.end(), misfit), mode.bindings.end());
  }
  memory_.resize(builtInActionNames().size() + bindings_.ownActions.size());
  moved_.resize(memory_.size());
  bindingsChanged();
  samples_.reserve(64);
  changes_.reserve(64);
}

void PlayerControls::bindingsChanged() {
  bound_.assign(modeBindings().size(), BindingMemory());
  pushSticks(false);
  refresh(0);
}

void PlayerControls::beginFrame() {
  for (ActionMemory& action : memory_) action.pressed = action.released = false;
  std::fill(moved_.begin(), moved_.end(), Displacement());
  changes_.clear();
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
  if (waitingToBind() && event.control != pointerLock && event.control != focus) return whileWaiting(event);
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
  pushSticks(true);
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
  return {true, memory_[index].held, memory_[index].pressed, memory_[index].released};
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
  pushSticks(true);
  refresh(0);
}

void PlayerControls::releasePad() {
  for (std::size_t i = 0; i < values_.size(); ++i) {
    const Control control{static_cast<std::uint16_t>(i)};
    if (isPad(control)) releaseControl(control);
  }
  pushSticks(true);
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

bool PlayerControls::tune(const Bindings& numbers) {
  const auto legal = [](const StickSettings& stick) {
    return stick.innerEdge >= 0 && stick.innerEdge < stick.outerEdge && stick.outerEdge <= 1 && stick.exponent > 0 &&
           std::isfinite(stick.exponent);
  };
  const TriggerSettings& triggers = numbers.triggers;
  const bool good = legal(numbers.leftStick) && legal(numbers.rightStick) && triggers.releaseAt >= 0 &&
                    triggers.releaseAt <= triggers.pressAt && triggers.pressAt <= 1 && numbers.keys.slowScale >= 0 &&
                    numbers.keys.slowScale <= 1 && numbers.touch.moveZone >= 0 && numbers.touch.moveZone <= 1 &&
                    numbers.touch.moveTravel > 0 && std::isfinite(numbers.touch.moveTravel);
  if (!good) return false;
  bindings_.pointer = numbers.pointer;
  bindings_.leftStick = numbers.leftStick;
  bindings_.rightStick = numbers.rightStick;
  bindings_.triggers = triggers;
  bindings_.keys = numbers.keys;
  bindings_.touch = numbers.touch;
  pushSticks(true);
  refresh(now_);
  return true;
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

PlayerControls::Stick PlayerControls::stickAt(std::size_t firstAxis, const StickSettings& settings) const {
  const Rate raw{values_[stickAxes[firstAxis].index], values_[stickAxes[firstAxis + 1].index]};
  return {raw, shaped(raw, settings)};
}

/// The shaped stick to which an axis belongs.
Rate PlayerControls::stickOf(Control control) const {
  const bool left = control == stickAxes[0] || control == stickAxes[1];
  return (left ? leftStick() : rightStick()).shaped;
}

double PlayerControls::axisValue(Control control) const {
  if (!isPad(control)) return values_[control.index];
  const Rate stick = stickOf(control);
  return control == stickAxes[0] || control == stickAxes[2] ? stick.x : stick.y;
}

}  // namespace alpglow
