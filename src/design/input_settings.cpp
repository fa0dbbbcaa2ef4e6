// The settings of controls and preferences; those of designs are in settings.cpp.

#include "alpglow/design/settings.hpp"

namespace alpglow {

namespace {

using namespace describe;

using P = Preferences;
using A = LookPreference;
const char* const pressPreferences[] = {"as_bound", "hold", "toggle"};
const char* const promptPreferences[] = {"last_used", "keyboard_and_mouse", "pad", "touch"};
const Setting<P> preferenceSettings[] = {
    number<P, &P::mouse, &A::sensitivityX>("mouse_sensitivity_x", "", 0.05, 20, 1,
                                           "multiplies mouse look sideways; larger is faster"),
    number<P, &P::mouse, &A::sensitivityY>("mouse_sensitivity_y", "", 0.05, 20, 1, "multiplies mouse look up and down"),
    flag<P, &P::mouse, &A::invertX>("mouse_invert_x", "mouse look turns the other way"),
    flag<P, &P::mouse, &A::invertY>("mouse_invert_y", "mouse look tilts the other way"),
    number<P, &P::stick, &A::sensitivityX>("stick_sensitivity_x", "", 0.05, 20, 1,
                                           "multiplies the stick's turn rate sideways"),
    number<P, &P::stick, &A::sensitivityY>("stick_sensitivity_y", "", 0.05, 20, 1,
                                           "multiplies the stick's turn rate up and down"),
    flag<P, &P::stick, &A::invertX>("stick_invert_x", "the stick turns the other way"),
    flag<P, &P::stick, &A::invertY>("stick_invert_y", "the stick tilts the other way"),
    number<P, &P::touch, &A::sensitivityX>("touch_sensitivity_x", "", 0.05, 20, 1,
                                           "multiplies looking by finger sideways"),
    number<P, &P::touch, &A::sensitivityY>("touch_sensitivity_y", "", 0.05, 20, 1,
                                           "multiplies looking by finger up and down"),
    flag<P, &P::touch, &A::invertX>("touch_invert_x", "the finger turns the other way"),
    flag<P, &P::touch, &A::invertY>("touch_invert_y", "the finger tilts the other way"),
    choice<P, &P::aim>("aim_press", pressPreferences, "whether aiming is held or toggled"),
    choice<P, &P::crouch>("crouch_press", pressPreferences, "whether crouching is held or toggled"),
    choice<P, &P::run>("run_press", pressPreferences, "whether running is held or toggled"),
    choice<P, &P::prompts>("prompts", promptPreferences, "which device's prompts the game shows"),
    number<P, &P::fieldOfView>("fov_deg", "deg", 0, 120, degree,
                               "vertical field of view of the base framing; 0 = the design's"),
    number<P, &P::comfort, &Comfort::bob>("bob_scale", "", 0, 1, 1, "scales head bob; 0 = none"),
    number<P, &P::comfort, &Comfort::dip>("dip_scale", "", 0, 1, 1, "scales the dip of landings; 0 = none"),
    number<P, &P::comfort, &Comfort::breath>("breath_scale", "", 0, 1, 1, "scales breathing; 0 = none"),
    number<P, &P::comfort, &Comfort::push>("push_scale", "", 0, 1, 1,
                                           "scales pushes, but not how they turn the aim; 0 = none"),
    number<P, &P::comfort, &Comfort::unrest>("unrest_scale", "", 0, 1, 1,
                                             "scales the unrest of a living hand; 0 = none"),
    number<P, &P::comfort, &Comfort::lead>("lead_scale", "", 0, 1, 1,
                                           "scales the lead in the direction of movement, where a design has one"),
    number<P, &P::comfort, &Comfort::steadyCap>("steady_cap_deg", "deg", 0, 15, degree,
                                                "largest steadying turn; 0 = none"),
    number<P, &P::comfort, &Comfort::autoTurnCap>("auto_turn_cap_degps", "deg/s", 0, 720, degree,
                                                  "fastest automatic turning, where a design has any"),
};

using K = StickSettings;
const Setting<K> stickSettings[] = {
    number<K, &K::innerEdge>("inner_edge", "", 0, 0.9, 1, "deflection up to which nothing happens"),
    number<K, &K::outerEdge>("outer_edge", "", 0.1, 1, 1, "deflection from which on it counts as full"),
    number<K, &K::exponent>("exponent", "", 0.2, 5, 1, "response: 1 = straight, more = finer in the middle"),
};

using T = TriggerSettings;
const Setting<T> triggerSettings[] = {
    number<T, &T::pressAt>("press_at", "", 0.01, 1, 1, "a trigger counts as pressed from here on"),
    number<T, &T::releaseAt>("release_at", "", 0.01, 1, 1, "and as released when it falls below this"),
};

using Y = KeySettings;
const Setting<Y> keySettings[] = {
    number<Y, &Y::slowScale>("slow_scale", "", 0, 1, 1, "what the slow action leaves of movement and look by keys"),
};

using O = PointerSettings;
const char* const pointerLooks[] = {"always", "locked", "dragging"};
const Setting<O> pointerSettings[] = {
    choice<O, &O::look>("look", pointerLooks,
                        "when the pointer looks: always, while it is locked, while a button is held"),
};

using U = TouchSettings;
const Setting<U> touchSettings[] = {
    number<U, &U::moveZone>("move_zone", "", 0, 1, 1,
                            "share of the width, from the left, in which a finger moves; 0 = none"),
    number<U, &U::moveTravel>("move_travel", "1/1000 height", 10, 1000, 1, "travel of the finger for full deflection"),
};

}  // namespace

template <>
Span<const Setting<Preferences>> settings<Preferences>() {
  return preferenceSettings;
}

template <>
Span<const Setting<StickSettings>> settings<StickSettings>() {
  return stickSettings;
}

template <>
Span<const Setting<TriggerSettings>> settings<TriggerSettings>() {
  return triggerSettings;
}

template <>
Span<const Setting<KeySettings>> settings<KeySettings>() {
  return keySettings;
}

template <>
Span<const Setting<PointerSettings>> settings<PointerSettings>() {
  return pointerSettings;
}

template <>
Span<const Setting<TouchSettings>> settings<TouchSettings>() {
  return touchSettings;
}

BrokenRelation brokenRelation(const StickSettings& stick) {
  if (stick.innerEdge >= stick.outerEdge) return {"inner_edge", "less than outer_edge"};
  return {nullptr, nullptr};
}

BrokenRelation brokenRelation(const TriggerSettings& triggers) {
  if (triggers.releaseAt > triggers.pressAt) return {"release_at", "at most press_at"};
  return {nullptr, nullptr};
}

}  // namespace alpglow
