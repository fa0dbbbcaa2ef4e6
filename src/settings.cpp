#include "alpglow/settings.hpp"

namespace alpglow {

namespace {

using namespace describe;

using L = LookSettings;
const Setting<L> lookSettings[] = {
    number<L, &L::yawPerCount>("yaw_deg_per_count", "deg/count", 0.0001, 10, degree,
                               "yaw for one count of the pointer; moving right turns right"),
    number<L, &L::pitchPerCount>("pitch_deg_per_count", "deg/count", 0.0001, 10, degree,
                                 "pitch for one count of the pointer; moving away looks up"),
    number<L, &L::yawRate>("yaw_rate_degps", "deg/s", 0, 2000, degree, "yaw rate at full deflection of the look stick"),
    number<L, &L::pitchRate>("pitch_rate_degps", "deg/s", 0, 2000, degree,
                             "pitch rate at full deflection of the look stick"),
    number<L, &L::turnHalfLife>("turn_half_life_s", "s", 0, 2, 1,
                                "half-life of easing into the stick's rates; 0 = at once"),
    number<L, &L::edgeFactor>("edge_factor", "", 1, 5, 1,
                              "the stick's rates are multiplied by this after a dwell at its edge; 1 = never"),
    number<L, &L::edgeDwell>("edge_dwell_s", "s", 0, 5, 1, "how long the stick must be at its edge for that"),
    number<L, &L::smoothing>("smoothing_half_life_s", "s", 0, 1, 1,
                             "half-life by which the pointer's motion shows; 0 = in full in the same frame"),
    flag<L, &L::invertYaw>("invert_yaw", "the pointer and the stick turn the other way"),
    flag<L, &L::invertPitch>("invert_pitch", "the pointer and the stick tilt the other way"),
};

using Z = ZoomSettings;
const Setting<Z> zoomSettings[] = {
    number<Z, &Z::factorPerNotch>("factor_per_notch", "", 1, 4, 1,
                                  "one wheel notch divides or multiplies the distance by this; 1 = no zoom"),
    number<Z, &Z::halfLife>("half_life_s", "s", 0, 5, 1, "half-life by which wheel notches show; 0 = at once"),
    number<Z, &Z::notchesPerSecond>("rate_notches_per_s", "notches/s", 0, 100, 1,
                                    "zoom by a stick or key at full rate, as wheel notches in a second"),
};

using E = EaseOutSettings;
const Setting<E> clearSettings[] = {
    number<E, &E::delay>("ease_out_delay_s", "s", 0, 10, 1,
                         "quiet time after a pull-in before the camera eases out again"),
    number<E, &E::halfLife>("ease_out_half_life_s", "s", 0, 10, 1, "half-life of easing out; 0 = at once"),
};

using F = FadeSettings;
const Setting<F> fadeSettings[] = {
    number<F, &F::opaqueFrom>("opaque_from_m", "m", 0, 20, 1,
                              "from this distance head to camera on the subject is fully drawn"),
    number<F, &F::invisibleBelow>("invisible_below_m", "m", 0, 20, 1, "closer than this the subject is not drawn"),
    flag<F, &F::keepBody>("keep_body", "the subject is always drawn, as for a first person that sees its own body"),
};

using S = StartSettings;
const Setting<S> startSettings[] = {
    number<S, &S::pitch>("pitch_deg", "deg", -90, 90, degree,
                         "pitch of the first view; its yaw is the subject's heading"),
};

using B = BobSettings;
const Setting<B> bobSettings[] = {
    number<B, &B::vertical>("vertical_m", "m", 0, 0.5, 1, "depth of the dip of each step at full speed; 0 = none"),
    number<B, &B::lateral>("lateral_m", "m", 0, 0.5, 1, "sway to either side at full speed; 0 = none"),
    number<B, &B::fullSpeed>("full_speed_mps", "m/s", 0.1, 50, 1,
                             "speed along the ground from which on the bob is full"),
    number<B, &B::stride>("stride_m", "m", 0.1, 10, 1, "length of two steps at a crawl"),
    number<B, &B::strideGrowth>("stride_growth_s", "s", 0, 5, 1,
                                "how much longer the stride is for each metre per second"),
    number<B, &B::blendHalfLife>("blend_half_life_s", "s", 0, 2, 1, "half-life by which the bob follows the speed"),
    number<B, &B::finishTime>("finish_time_s", "s", 0.05, 3, 1,
                              "after stopping, the step is finished within this time"),
};

using D = DipSettings;
const Setting<D> dipSettings[] = {
    number<D, &D::depthPerSpeed>("depth_per_speed_s", "s", 0, 0.5, 1,
                                 "depth of the dip for each m/s of the fall, metres; 0 = none"),
    number<D, &D::deepest>("deepest_m", "m", 0, 2, 1, "deepest dip"),
    number<D, &D::halfLife>("half_life_s", "s", 0.01, 2, 1, "half-life of coming back"),
};

using H = BreathSettings;
const Setting<H> breathSettings[] = {
    number<H, &H::amplitude>("amplitude_m", "m", 0, 0.1, 1, "up and down when still; 0 = none"),
    number<H, &H::period>("period_s", "s", 0.5, 20, 1, "time of a breath"),
};

using Q = SteadySettings;
const Setting<Q> steadySettings[] = {
    number<Q, &Q::cap>("cap_deg", "deg", 0, 30, degree,
                       "largest turn that keeps the focus under the crosshair; 0 = none"),
    number<Q, &Q::focusHalfLife>("focus_half_life_s", "s", 0, 5, 1, "half-life of the focus, in 1/distance"),
    number<Q, &Q::farFocus>("far_focus_m", "m", 1, 1000, 1, "focus where nothing is hit"),
};

using V = FreeLookSettings;
const Setting<V> freeLookSettings[] = {
    number<V, &V::side>("side_deg", "deg", 0, 179, degree, "farthest to either side of the body"),
    number<V, &V::up>("up_deg", "deg", 0, 90, degree, "farthest above the level"),
    number<V, &V::down>("down_deg", "deg", 0, 90, degree, "farthest below the level"),
    number<V, &V::returnHalfLife>("return_half_life_s", "s", 0, 5, 1, "half-life of the return on release; 0 = cut"),
};

using R = Framing;
using N = LensSettings;
using W = FollowSettings;
const char* const lensKinds[] = {"vertical_fov", "horizontal_fov", "focal_length"};
const char* const followKinds[] = {"exponential", "critically_damped"};
const Setting<R> framingSettings[] = {
    number<R, &R::anchorHeight>("anchor_height", "", 0, 2, 1,
                                "where on the subject the anchor sits: 0 = feet, 1 = eyes"),
    number<R, &R::anchorRise>("anchor_rise_m", "m", -10, 10, 1, "further up from there"),
    number<R, &R::shoulder>("shoulder_m", "m", -5, 5, 1,
                            "sideways from the anchor; positive = over the right shoulder"),
    number<R, &R::distance>("distance_m", "m", 0, 100, 1, "starting distance from the pivot; 0 = first person"),
    number<R, &R::distanceRange, &DistanceRange::nearest>("distance_min_m", "m", 0, 100, 1,
                                                          "nearest that zooming goes"),
    number<R, &R::distanceRange, &DistanceRange::farthest>("distance_max_m", "m", 0, 100, 1,
                                                           "farthest that zooming goes"),
    choice<R, &R::lens, &N::kind>("lens", lensKinds, "how the lens is stated"),
    number<R, &R::lens, &N::fieldOfView>("fov_deg", "deg", 1, 170, degree,
                                         "field of view: vertical, or horizontal if lens says so"),
    number<R, &R::lens, &N::aspect>("fov_aspect", "", 0.1, 10, 1,
                                    "width over height for which a horizontal field of view is meant"),
    number<R, &R::lens, &N::focalLength>("focal_length_mm", "mm", 1, 2000, millimetre, "focal length, if lens says so"),
    number<R, &R::lens, &N::sensorHeight>("sensor_height_mm", "mm", 1, 200, millimetre,
                                          "height of the sensor that the focal length refers to"),
    number<R, &R::near>("near_m", "m", 0.005, 10, 1, "near distance; shrinks while the head has less room"),
    number<R, &R::far>("far_m", "m", 1, 1e6, 1, "far distance"),
    number<R, &R::pitch, &PitchLimits::low>("pitch_min_deg", "deg", -90, 90, degree,
                                            "lowest pitch; down to and including -90"),
    number<R, &R::pitch, &PitchLimits::high>("pitch_max_deg", "deg", -90, 90, degree,
                                             "highest pitch; up to and including 90"),
    choice<R, &R::follow, &W::kind>("follow_kind", followKinds,
                                    "how the lag starts: at once, or as softly as it arrives"),
    number<R, &R::follow, &W::halfLife>("follow_half_life_s", "s", 0, 5, 1, "lag along the ground; 0 = none"),
    number<R, &R::follow, &W::verticalHalfLife>("follow_vertical_half_life_s", "s", 0, 5, 1,
                                                "lag in the vertical; 0 = none"),
    number<R, &R::follow, &W::leash>("leash_m", "m", 0, 50, 1, "longest lag along the ground; 0 = none"),
    number<R, &R::follow, &W::verticalLeash>("vertical_leash_m", "m", 0, 50, 1,
                                             "longest lag in the vertical; 0 = none"),
    number<R, &R::eyeHalfLife>("eye_half_life_s", "s", 0, 2, 1,
                               "half-life by which the anchor follows crouching and standing up; 0 = at once"),
    number<R, &R::follow, &W::teleportDistance>(
        "teleport_m", "m", 0.1, 1e6, 1,
        "a jump of the subject by more than this beyond its own speed is cut, not chased"),
};

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
Span<const Setting<LookSettings>> settings<LookSettings>() {
  return lookSettings;
}
template <>
Span<const Setting<ZoomSettings>> settings<ZoomSettings>() {
  return zoomSettings;
}
template <>
Span<const Setting<EaseOutSettings>> settings<EaseOutSettings>() {
  return clearSettings;
}
template <>
Span<const Setting<FadeSettings>> settings<FadeSettings>() {
  return fadeSettings;
}
template <>
Span<const Setting<StartSettings>> settings<StartSettings>() {
  return startSettings;
}
template <>
Span<const Setting<Framing>> settings<Framing>() {
  return framingSettings;
}

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

template <>
Span<const Setting<BobSettings>> settings<BobSettings>() {
  return bobSettings;
}

template <>
Span<const Setting<DipSettings>> settings<DipSettings>() {
  return dipSettings;
}

template <>
Span<const Setting<BreathSettings>> settings<BreathSettings>() {
  return breathSettings;
}

template <>
Span<const Setting<SteadySettings>> settings<SteadySettings>() {
  return steadySettings;
}

template <>
Span<const Setting<FreeLookSettings>> settings<FreeLookSettings>() {
  return freeLookSettings;
}

BrokenRelation brokenRelation(const Framing& framing) {
  if (framing.distanceRange.nearest > framing.distanceRange.farthest)
    return {"distance_min_m", "at most distance_max_m"};
  if (framing.distance < framing.distanceRange.nearest || framing.distance > framing.distanceRange.farthest) {
    return {"distance_m", "between distance_min_m and distance_max_m"};
  }
  if (framing.pitch.low > framing.pitch.high) return {"pitch_min_deg", "at most pitch_max_deg"};
  if (framing.near >= framing.far) return {"near_m", "less than far_m"};
  return {nullptr, nullptr};
}

BrokenRelation brokenRelation(const StickSettings& stick) {
  if (stick.innerEdge >= stick.outerEdge) return {"inner_edge", "less than outer_edge"};
  return {nullptr, nullptr};
}

BrokenRelation brokenRelation(const TriggerSettings& triggers) {
  if (triggers.releaseAt > triggers.pressAt) return {"release_at", "at most press_at"};
  return {nullptr, nullptr};
}

BrokenRelation brokenRelation(const FadeSettings& fade) {
  if (fade.invisibleBelow > fade.opaqueFrom) return {"invisible_below_m", "at most opaque_from_m"};
  return {nullptr, nullptr};
}

}  // namespace alpglow
