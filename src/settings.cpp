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
    flag<L, &L::invertYaw>("invert_yaw", "the pointer and the stick turn the other way"),
    flag<L, &L::invertPitch>("invert_pitch", "the pointer and the stick tilt the other way"),
};

using Z = ZoomSettings;
const Setting<Z> zoomSettings[] = {
    number<Z, &Z::factorPerNotch>("factor_per_notch", "", 1, 4, 1,
                                  "one wheel notch divides or multiplies the distance by this; 1 = no zoom"),
    number<Z, &Z::halfLife>("half_life_s", "s", 0, 5, 1, "half-life of the shown distance; 0 = at once"),
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
};

using S = StartSettings;
const Setting<S> startSettings[] = {
    number<S, &S::pitch>("pitch_deg", "deg", -90, 90, degree,
                         "pitch of the first view; its yaw is the subject's heading"),
};

using R = Framing;
using N = LensSettings;
using W = FollowSettings;
const char* const lensKinds[] = {"vertical_fov", "horizontal_fov", "focal_length"};
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
    number<R, &R::follow, &W::halfLife>("follow_half_life_s", "s", 0, 5, 1, "lag along the ground; 0 = none"),
    number<R, &R::follow, &W::verticalHalfLife>("follow_vertical_half_life_s", "s", 0, 5, 1,
                                                "lag in the vertical; 0 = none"),
    number<R, &R::follow, &W::leash>("leash_m", "m", 0, 50, 1, "longest lag along the ground; 0 = none"),
    number<R, &R::follow, &W::verticalLeash>("vertical_leash_m", "m", 0, 50, 1,
                                             "longest lag in the vertical; 0 = none"),
    number<R, &R::follow, &W::teleportDistance>(
        "teleport_m", "m", 0.1, 1e6, 1,
        "a jump of the subject by more than this beyond its own speed is cut, not chased"),
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

BrokenRelation brokenRelation(const FadeSettings& fade) {
  if (fade.invisibleBelow > fade.opaqueFrom) return {"invisible_below_m", "at most opaque_from_m"};
  return {nullptr, nullptr};
}

}  // namespace alpglow
