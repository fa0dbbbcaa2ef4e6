#include "alpglow/design/settings.hpp"

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

using LP = LookPastSettings;
using LPO = EaseOutSettings;
const Setting<LP> lookPastSettings[] = {
    number<LP, &LP::push>("push_m", "m", 0, 20, 1,
                          "how much farther than it would be the camera gives way to a large thing; 0 = it comes in"),
    number<LP, &LP::backHalfLife>("back_half_life_s", "s", 0, 10, 1, "half-life of coming back from there"),
    number<LP, &LP::out, &LPO::delay>("out_delay_s", "s", 0, 10, 1,
                                      "quiet time before the camera goes out past where a large thing was"),
    number<LP, &LP::out, &LPO::halfLife>("out_half_life_s", "s", 0, 10, 1, "half-life of going out again"),
    number<LP, &LP::opacity>("opacity", "", 0, 1, 1,
                             "how much of a large or soft thing is drawn where it covers the subject"),
    number<LP, &LP::fadeHalfLife>("fade_half_life_s", "s", 0, 5, 1, "half-life of fading"),
};

using U = PullInSettings;
const Setting<U> pullInSettings[] = {
    number<U, &U::horizon>("horizon_s", "s", 0, 2, 1,
                           "how far ahead the motion of subject and look is predicted; 0 = nothing is predicted"),
    number<U, &U::speed>("calm_mps", "m/s", 0.1, 1000, 1,
                         "coming in as fast as this is calm: it starts so early that it need not be faster"),
    number<U, &U::fastest>("fastest_mps", "m/s", 0.1, 1000, 1,
                           "fastest that it comes in because of a prediction; the rest is left to the last moment"),
    number<U, &U::fastestInFlicks>("fastest_in_flicks_mps", "m/s", 0.1, 1000, 1,
                                   "the same while the look turns fast, which moves the whole picture"),
    number<U, &U::wait>("wait_s", "s", 0, 10, 1,
                        "quiet time after a pull-in before the camera goes out again; longer the farther out it is"),
    number<U, &U::waitAfterPump>("wait_after_pump_s", "s", 0, 3, 1,
                                 "how much longer it waits after it had to come in again soon"),
    number<U, &U::outSpeed>("out_mps", "m/s", 0.1, 1000, 1, "fastest that it goes out"),
    number<U, &U::shoulderPrice>(
        "shoulder_price", "m/m", 0, 100, 1,
        "it goes over to the other shoulder where that keeps more distance than this a metre of shoulder"),
    number<U, &U::shoulderSpeed>("shoulder_mps", "m/s", 0, 100, 1,
                                 "fastest that it goes over to the other shoulder; 0 = it never does"),
    number<U, &U::stoop>("stoop_deg", "deg", 0, 30, degree,
                         "orbits up to this much lower than it looks where that keeps more distance; 0 = never"),
    number<U, &U::margin>("margin_m", "m", 0, 1, 1, "how far the camera's sphere stays from walls beyond touching"),
};

using F = FadeSettings;
const Setting<F> fadeSettings[] = {
    number<F, &F::opaqueFrom>("opaque_from_m", "m", 0, 20, 1,
                              "from this distance head to camera on the subject is fully drawn"),
    number<F, &F::invisibleBelow>("invisible_below_m", "m", 0, 20, 1, "closer than this the subject is not drawn"),
    number<F, &F::eyesBelow>("eyes_below_m", "m", 0, 5, 1,
                             "closer than this because of an obstacle the eyes take over; 0 = never"),
    number<F, &F::eyesUntil>("eyes_until_m", "m", 0, 10, 1, "until there is room for this distance again"),
    flag<F, &F::keepBody>("keep_body", "the subject is always drawn, as for a first person that sees its own body"),
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

using V = GlanceSettings;
const Setting<V> glanceSettings[] = {
    number<V, &V::side>("side_deg", "deg", 0, 179, degree, "farthest to either side of the body"),
    number<V, &V::up>("up_deg", "deg", 0, 90, degree, "farthest above the level"),
    number<V, &V::down>("down_deg", "deg", 0, 90, degree, "farthest below the level"),
    number<V, &V::returnHalfLife>("return_half_life_s", "s", 0, 5, 1, "half-life of the return on release; 0 = cut"),
};

using P = PushSettings;
const Setting<P> pushSettings[] = {
    number<P, &P::pitch>("pitch_deg", "deg", -45, 45, degree, "turns up by this at its strongest"),
    number<P, &P::yaw>("yaw_deg", "deg", -45, 45, degree, "turns right where it goes to the right"),
    number<P, &P::roll>("roll_deg", "deg", -45, 45, degree, "rolls to the right where it goes to the right"),
    number<P, &P::right>("right_m", "m", -1, 1, 1, "moves the eye to the right where it goes to the right"),
    number<P, &P::up>("up_m", "m", -1, 1, 1, "moves the eye up"),
    number<P, &P::back>("back_m", "m", -1, 1, 1, "moves the eye back where it goes back"),
    number<P, &P::lens>("lens", "", 0.5, 2, 1, "widens the picture by this, as the tangent of half the field of view"),
    number<P, &P::attack>("attack_half_life_s", "s", 0, 2, 1, "half-life of rising; 0 = at once"),
    number<P, &P::comesBack>("return_half_life_s", "s", 0.005, 10, 1, "half-life of coming back"),
    number<P, &P::spread>("spread", "", 0, 1, 1, "how much of it goes to a side by chance"),
    flag<P, &P::movesAim>("moves_aim",
                          "it turns the look, and the player can fight it; or else only the picture moves"),
};

using O = UnrestSettings;
const Setting<O> unrestSettings[] = {
    number<O, &O::yaw>("yaw_deg", "deg", 0, 10, degree,
                       "farthest that a living hand turns to either side; 0 = not at all"),
    number<O, &O::pitch>("pitch_deg", "deg", 0, 10, degree, "and up and down"),
    number<O, &O::roll>("roll_deg", "deg", 0, 10, degree, "and rolls to either side"),
    number<O, &O::right>("right_m", "m", 0, 0.5, 1, "and moves the eye to either side"),
    number<O, &O::up>("up_m", "m", 0, 0.5, 1, "and moves it up and down"),
    number<O, &O::back>("back_m", "m", 0, 0.5, 1, "and moves it back and forth"),
    number<O, &O::period>("period_s", "s", 0.2, 60, 1, "of the slowest of its five waves"),
    number<O, &O::amount>("amount", "", 0, 1, 1, "how much of it there is before the game says otherwise"),
    number<O, &O::halfLife>("half_life_s", "s", 0, 10, 1, "half-life of a change of that; 0 = at once"),
};

using M = PushLimits;
const Setting<M> pushLimitsSettings[] = {
    number<M, &M::turn>("turn_deg", "deg", 0, 45, degree, "all pushes together turn by less than this"),
    number<M, &M::roll>("roll_deg", "deg", 0, 45, degree, "and roll by less than this"),
    number<M, &M::place>("place_m", "m", 0, 2, 1, "and move the eye by less than this"),
    number<M, &M::lens>("lens", "", 1, 2, 1, "and widen or narrow the picture by less than this"),
};

using N = LensSpec;
using G = FlightSettings;
const char* const flightFrames[] = {"world", "view"};
const Setting<G> flightSettings[] = {
    number<G, &G::topSpeed>("top_speed_mps", "m/s", 0, 1000, 1, "how fast it flies"),
    number<G, &G::fastFactor>("fast_factor", "", 1, 100, 1, "times that while flying fast"),
    number<G, &G::accelerateHalfLife>("accelerate_half_life_s", "s", 0, 5, 1,
                                      "half-life of reaching a speed; 0 = at once"),
    number<G, &G::brakeHalfLife>("brake_half_life_s", "s", 0, 5, 1, "half-life of braking; 0 = at once"),
    number<G, &G::acceleration>("accelerate_mps2", "m/s²", 0, 1000, 1,
                                "constant acceleration instead of the half-life; 0 = none"),
    number<G, &G::braking>("brake_mps2", "m/s²", 0, 1000, 1, "and constant braking; 0 = none"),
    choice<G, &G::ahead>("ahead", flightFrames, "ahead is along the ground, or where the camera looks"),
    choice<G, &G::up>("up", flightFrames, "up is the world's, or the screen's"),
    number<G, &G::pitch, &PitchLimits::low>("pitch_min_deg", "deg", -90, 90, degree, "lowest pitch"),
    number<G, &G::pitch, &PitchLimits::high>("pitch_max_deg", "deg", -90, 90, degree, "highest pitch"),
    number<G, &G::lens, &N::fieldOfView>("fov_deg", "deg", 1, 170, degree, "vertical field of view"),
    number<G, &G::nearPlane>("near_m", "m", 0.005, 10, 1, "near distance"),
    number<G, &G::farPlane>("far_m", "m", 1, 1e6, 1, "far distance"),
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
Span<const Setting<LookPastSettings>> settings<LookPastSettings>() {
  return lookPastSettings;
}
template <>
Span<const Setting<PullInSettings>> settings<PullInSettings>() {
  return pullInSettings;
}
template <>
Span<const Setting<FadeSettings>> settings<FadeSettings>() {
  return fadeSettings;
}
template <>
Span<const Setting<FlightSettings>> settings<FlightSettings>() {
  return flightSettings;
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
Span<const Setting<GlanceSettings>> settings<GlanceSettings>() {
  return glanceSettings;
}

template <>
Span<const Setting<PushSettings>> settings<PushSettings>() {
  return pushSettings;
}

template <>
Span<const Setting<UnrestSettings>> settings<UnrestSettings>() {
  return unrestSettings;
}

template <>
Span<const Setting<CurveSettings>> settings<CurveSettings>() {
  static const Setting<CurveSettings> curveSettings[] = {
      number<CurveSettings, &CurveSettings::speedHalfLife>(
          "speed_half_life_s", "s", 0, 5, 1, "half-life by which curves over a speed follow it; 0 = at once"),
      number<CurveSettings, &CurveSettings::numberHalfLife>("number_half_life_s", "s", 0, 5, 1,
                                                            "and those over a number that the game sets"),
  };
  return curveSettings;
}

template <>
Span<const Setting<PushLimits>> settings<PushLimits>() {
  return pushLimitsSettings;
}

BrokenRelation brokenRelation(const FlightSettings& flight) {
  if (flight.pitch.low > flight.pitch.high) return {"pitch_min_deg", "at most pitch_max_deg"};
  if (flight.nearPlane >= flight.farPlane) return {"near_m", "less than far_m"};
  return {nullptr, nullptr};
}

BrokenRelation brokenRelation(const FadeSettings& fade) {
  if (fade.invisibleBelow > fade.opaqueFrom) return {"invisible_below_m", "at most opaque_from_m"};
  if (fade.eyesUntil < fade.eyesBelow) return {"eyes_until_m", "at least eyes_below_m"};
  return {nullptr, nullptr};
}

}  // namespace alpglow
