// The settings of a framing, what ties them together, and which of them may be curves.

#include "alpglow/design/settings.hpp"

#include <algorithm>
#include <iterator>
#include <string_view>

namespace alpglow {

namespace {

using namespace describe;

using R = Framing;
using N = LensSpec;
using W = FollowSettings;
using Rest = RestZoneSettings;
const char* const lensKinds[] = {"vertical_fov", "horizontal_fov", "focal_length", "magnification"};
const char* const lookScaleKinds[] = {"screen", "fixed"};
const char* const keepsKinds[] = {"look", "aim"};
const char* const followKinds[] = {"exponential", "critically_damped"};
const Setting<R> framingSettings[] = {
    number<R, &R::anchorHeight>("anchor_height", "", 0, 2, 1,
                                "where on the subject the anchor sits: 0 = feet, 1 = eyes"),
    number<R, &R::anchorRise>("anchor_rise_m", "m", -10, 10, 1, "further up from there"),
    number<R, &R::shoulder>("shoulder_m", "m", -5, 5, 1,
                            "sideways from the anchor; positive = over the right shoulder"),
    number<R, &R::shoulderSwap>("shoulder_swap_s", "s", 0, 5, 1,
                                "time of the transition to the other shoulder; 0 = at once"),
    number<R, &R::distance>("distance_m", "m", 0, 100, 1, "starting distance from the pivot; 0 = first person"),
    number<R, &R::distanceRange, &DistanceRange::nearest>("distance_min_m", "m", 0, 100, 1,
                                                          "nearest that zooming goes"),
    number<R, &R::distanceRange, &DistanceRange::farthest>("distance_max_m", "m", 0, 100, 1,
                                                           "farthest that zooming goes"),
    number<R, &R::distanceScale>("distance_scale", "", 0, 10, 1,
                                 "over a base: times the distance that the player has there; 0 = one of its own"),
    choice<R, &R::lens, &N::kind>("lens", lensKinds, "how the lens is stated"),
    number<R, &R::lens, &N::fieldOfView>("fov_deg", "deg", 1, 170, degree,
                                         "field of view: vertical, or horizontal if lens says so"),
    number<R, &R::lens, &N::aspect>("fov_aspect", "", 0.1, 10, 1,
                                    "width over height for which a horizontal field of view is meant"),
    number<R, &R::lens, &N::focalLength>("focal_length_mm", "mm", 1, 2000, millimetre, "focal length, if lens says so"),
    number<R, &R::lens, &N::sensorHeight>("sensor_height_mm", "mm", 1, 200, millimetre,
                                          "height of the sensor that the focal length refers to"),
    number<R, &R::lens, &N::magnification>("magnification", "", 0.1, 100, 1,
                                           "over the base framing's field of view, if lens says so"),
    number<R, &R::lens, &N::magnification2>("magnification_2", "", 0, 100, 1, "second step of zooming in; 0 = none"),
    number<R, &R::lens, &N::magnification3>("magnification_3", "", 0, 100, 1, "third step; 0 = none"),
    number<R, &R::nearPlane>("near_m", "m", 0.005, 10, 1, "near distance; shrinks while the head has less room"),
    number<R, &R::farPlane>("far_m", "m", 1, 1e6, 1, "far distance"),
    number<R, &R::pitch, &PitchLimits::low>("pitch_min_deg", "deg", -90, 90, degree,
                                            "lowest pitch; down to and including -90"),
    number<R, &R::pitch, &PitchLimits::high>("pitch_max_deg", "deg", -90, 90, degree,
                                             "highest pitch; up to and including 90"),
    number<R, &R::defaultPitch>("pitch_deg", "deg", -90, 90, degree,
                                "pitch of the first view, and where swinging back goes back to"),
    number<R, &R::tilt>(
        "tilt_deg", "deg", -60, 60, degree,
        "the camera orbits this much lower than it looks; positive = the subject is lower in the screen"),
    choice<R, &R::follow, &W::kind>("follow_kind", followKinds,
                                    "how the lag starts: at once, or as softly as it arrives"),
    number<R, &R::follow, &W::halfLife>("follow_half_life_s", "s", 0, 5, 1, "lag along the ground; 0 = none"),
    number<R, &R::follow, &W::verticalHalfLife>("follow_vertical_half_life_s", "s", 0, 5, 1,
                                                "lag in the vertical; 0 = none"),
    number<R, &R::follow, &W::leash>("leash_m", "m", 0, 50, 1, "longest lag along the ground; 0 = none"),
    number<R, &R::follow, &W::verticalLeash>("vertical_leash_m", "m", 0, 50, 1,
                                             "longest lag in the vertical; 0 = none"),
    number<R, &R::follow, &W::rest, &Rest::above>("rest_above_m", "m", 0, 20, 1,
                                                  "in the air the subject may be this much higher before the camera "
                                                  "rises; 0 = it goes along at once"),
    number<R, &R::follow, &W::rest, &Rest::below>("rest_below_m", "m", 0, 20, 1, "and this much lower before it sinks"),
    number<R, &R::follow, &W::rest, &Rest::radius>("rest_radius_m", "m", 0, 20, 1,
                                                   "along the ground the subject may go this far before the camera "
                                                   "goes along; 0 = at once"),
    number<R, &R::follow, &W::rest, &Rest::screen>("rest_screen", "", 0, 0.9, 1,
                                                   "the same as a share of half of the picture's height, at the "
                                                   "subject's distance; the larger of the two counts"),
    number<R, &R::follow, &W::rest, &Rest::after>("rest_after_s", "s", 0, 60, 1,
                                                  "beside a subject that stands for so long the camera makes up for "
                                                  "it; 0 = never"),
    number<R, &R::follow, &W::rest, &Rest::catchUp>("catch_up_s", "s", 0, 5, 1,
                                                    "time of making up after landing, or then; 0 = a cut"),
    number<R, &R::orbitHalfLife>("orbit_half_life_s", "s", 0, 2, 1,
                                 "half-life by which the orbit trails behind the look and the heading; 0 = not at all"),
    number<R, &R::eyeHalfLife>("eye_half_life_s", "s", 0, 2, 1,
                               "half-life by which the anchor follows crouching and standing up; 0 = at once"),
    choice<R, &R::lookScale, &LookScale::kind>("look_scale", lookScaleKinds,
                                               "look input moves the screen by the same pixels, or by a fixed factor"),
    number<R, &R::lookScale, &LookScale::atFraction>("look_scale_at", "", 0, 1, 1,
                                                     "where it does: 0 = at the centre, 1 = at the edge of the screen"),
    number<R, &R::lookScale, &LookScale::factor>("look_factor", "", 0.01, 10, 1, "the fixed factor"),
    number<R, &R::bobScale>("bob_scale", "", 0, 2, 1, "bob, dip and breathing are multiplied by this"),
    number<R, &R::unrestScale>(
        "unrest_scale", "", 0,
        1, 1, "of the unrest that the game asks for, as much as this; changes by the half-life of [unrest]"),
    number<R, &R::leadScale>("lead_scale", "", 0, 1, 1, "the lead is multiplied by this"),
    number<R, &R::swingBackScale>("swing_back_scale", "", 0, 10, 1,
                                  "the rate of swinging back by itself is multiplied by this"),
    number<R, &R::pullInScale>("pull_in_scale", "", 0.1, 10, 1,
                               "how fast clear space brings the camera in, and out again, is multiplied by this"),
    number<R, &R::sway>(
        "sway_deg", "deg", 0, 10, degree,
        "how far the hand sways the view while this framing applies, as through a scope; 0 = not at all"),
    number<R, &R::transition>("transition_s", "s", 0, 10, 1, "time of the transition into this framing; 0 = a cut"),
    choice<R, &R::keeps>("keeps", keepsKinds,
                         "what a change into, out of or within this framing keeps: the look, or the point under the "
                         "crosshair"),
    number<R, &R::keepCap>(
        "keep_cap_deg", "deg", 0, 45, degree,
        "largest turn of the look that keeping the aim causes, through a lens of 60°; a change that needs more "
        "turns nothing"),
    number<R, &R::follow, &W::teleportDistance>(
        "teleport_m", "m", 0.1, 1e6, 1,
        "a jump of the subject by more than this beyond its own speed is cut, not chased"),
};

}  // namespace

template <>
Span<const Setting<Framing>> settings<Framing>() {
  return framingSettings;
}

const Setting<Framing>& settingOf(Curved what) {
  static const char* const keys[] = {
      "anchor_height", "anchor_rise_m", "shoulder_m",         "tilt_deg",
      "distance_m",    "fov_deg",       "follow_half_life_s", "follow_vertical_half_life_s",
      "unrest_scale"};
  static_assert(std::size(keys) == curvedCount);
  const std::string_view key = keys[static_cast<std::size_t>(what)];
  return *std::find_if(std::begin(framingSettings), std::end(framingSettings),
                       [key](const Setting<Framing>& setting) { return setting.key == key; });
}

/// The distance first, as others may be read off there.
void settleCurves(NamedFraming& named) {
  for (const bool distance : {true, false}) {
    for (const FramingCurve& curve : named.curves) {
      if ((curve.what == Curved::distance) != distance) continue;
      const double at = curve.over == CurveOver::distance ? named.framing.distance : 0;
      settingOf(curve.what).set(named.framing, curve.curve.at(at));
    }
  }
}

BrokenRelation brokenRelation(const Framing& framing) {
  if (framing.distanceRange.nearest > framing.distanceRange.farthest)
    return {"distance_min_m", "at most distance_max_m"};
  if (framing.distance < framing.distanceRange.nearest || framing.distance > framing.distanceRange.farthest) {
    return {"distance_m", "between distance_min_m and distance_max_m"};
  }
  if (framing.pitch.low > framing.pitch.high) return {"pitch_min_deg", "at most pitch_max_deg"};
  if (framing.defaultPitch < framing.pitch.low || framing.defaultPitch > framing.pitch.high)
    return {"pitch_deg", "between pitch_min_deg and pitch_max_deg"};
  if (framing.lens.magnification3 > 0 && framing.lens.magnification2 <= 0)
    return {"magnification_3", "0 unless magnification_2 is given"};
  if (framing.nearPlane >= framing.farPlane) return {"near_m", "less than far_m"};
  return {nullptr, nullptr};
}

}  // namespace alpglow
