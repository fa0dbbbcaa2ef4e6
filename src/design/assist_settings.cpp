#include "alpglow/design/settings.hpp"

namespace alpglow {

using namespace describe;

template <>
Span<const Setting<LeadSettings>> settings<LeadSettings>() {
  using S = LeadSettings;
  static const Setting<S> table[] = {
      number<S, &S::time>("time_s", "s", 0, 2, 1, "how far ahead, in seconds of the subject's movement; 0 = none"),
      number<S, &S::halfLife>("half_life_s", "s", 0.01, 5, 1, "half-life of coming to lead"),
      number<S, &S::longest>("longest_m", "m", 0, 20, 1, "longest lead"),
  };
  return table;
}

template <>
Span<const Setting<PlatformSettings>> settings<PlatformSettings>() {
  using S = PlatformSettings;
  static const Setting<S> table[] = {
      flag<S, &S::turnsWithPlatform>("turns_with_platform", "the camera turns along with what the subject stands on"),
      number<S, &S::change>("change_s", "s", 0, 5, 1, "time in which getting on and off is smoothed"),
  };
  return table;
}

template <>
Span<const Setting<SwingBackSettings>> settings<SwingBackSettings>() {
  using S = SwingBackSettings;
  static const Setting<S> table[] = {
      number<S, &S::rate>("rate_degps", "deg/s", 0, 720, degree,
                          "fastest turning behind the direction of movement; 0 = never by itself"),
      number<S, &S::halfLife>("half_life_s", "s", 0, 5, 1, "half-life of that turning once it is slower"),
      number<S, &S::holdoff>("holdoff_s", "s", 0, 60, 1, "quiet time after the player has looked around"),
      number<S, &S::easeIn>("ease_in_s", "s", 0, 5, 1, "time in which the turning sets in"),
      number<S, &S::fullSpeed>("full_speed_mps", "m/s", 0, 50, 1, "slower movement turns more slowly"),
      number<S, &S::cone>("cone_deg", "deg", 0, 180, degree,
                          "half-angle around the way toward the camera in which walking turns nothing; 0 = none"),
      number<S, &S::idle>("idle_s", "s", 0, 600, 1, "quiet time after which the whole pose goes back; 0 = never"),
      number<S, &S::idleTime>("idle_time_s", "s", 0, 20, 1, "time of going back after that"),
      number<S, &S::buttonTime>("button_time_s", "s", 0, 5, 1, "time of going back when the button asks for it"),
      number<S, &S::poseRate>("pose_rate_degps", "deg/s", 0, 2000, degree, "fastest turning of either; 0 = not at all"),
      flag<S, &S::distance>("restores_distance", "the distance goes back as well"),
  };
  return table;
}

template <>
Span<const Setting<LockSettings>> settings<LockSettings>() {
  using S = LockSettings;
  static const Setting<S> table[] = {
      number<S, &S::halfLife>("half_life_s", "s", 0, 2, 1, "half-life of turning toward subject and target"),
      number<S, &S::cap>("cap_degps", "deg/s", 1, 2000, degree, "fastest turning of yaw, and of pitch"),
      number<S, &S::screenFraction>("screen_fraction", "", 0.1, 1, 1,
                                    "fraction of the screen's width and height that holds both"),
      number<S, &S::zoomHalfLife>("zoom_half_life_s", "s", 0, 5, 1, "half-life of raising distance and lens"),
      number<S, &S::widest>("widest_fov_deg", "deg", 0, 150, degree,
                            "widest vertical field of view it may go to; 0 = the framing's"),
      number<S, &S::range>("range_m", "m", 0.5, 1000, 1, "farther from the eyes the target is lost"),
      number<S, &S::hiddenFor>("hidden_s", "s", 0, 60, 1, "hidden for longer the target is lost"),
      number<S, &S::nudge>("nudge_deg", "deg", 0, 45, degree, "how far look input nudges the view"),
      number<S, &S::nudgeHalfLife>("nudge_half_life_s", "s", 0, 5, 1, "half-life of coming back from that"),
      number<S, &S::flick>("flick_deg", "deg", 0, 180, degree,
                           "a turn of this much within a tenth of a second asks for the next target; 0 = never"),
  };
  return table;
}

template <>
Span<const Setting<GuideSettings>> settings<GuideSettings>() {
  using S = GuideSettings;
  static const Setting<S> table[] = {
      number<S, &S::rate>("rate_degps", "deg/s", 1, 2000, degree,
                          "fastest turning where the game guides the look, of yaw and of pitch"),
      number<S, &S::halfLife>("half_life_s", "s", 0, 5, 1, "half-life of that turning once it is slower"),
      number<S, &S::easeIn>("ease_in_s", "s", 0, 5, 1, "time in which it sets in, and gives the hand back"),
  };
  return table;
}

template <>
Span<const Setting<FreeShoulderSettings>> settings<FreeShoulderSettings>() {
  using S = FreeShoulderSettings;
  static const Setting<S> table[] = {
      number<S, &S::after>("after_s", "s", 0, 10, 1,
                           "the camera goes over once the other shoulder has been freer for so long; 0 = never"),
      number<S, &S::gain>("gain_m", "m", 0.05, 10, 1, "by at least so much distance"),
      number<S, &S::rest>("rest_s", "s", 0, 60, 1, "from one swap to the next, the player's included"),
      flag<S, &S::whileAiming>("while_aiming", "also while aiming"),
  };
  return table;
}

template <>
Span<const Setting<IdleDriftSettings>> settings<IdleDriftSettings>() {
  using S = IdleDriftSettings;
  static const Setting<S> table[] = {
      number<S, &S::rate>("rate_degps", "deg/s", -60, 60, degree,
                          "the orbit goes round by itself this fast, to the left if positive; 0 = never"),
      number<S, &S::after>("after_s", "s", 0, 600, 1, "once nobody has looked around or walked for so long"),
      number<S, &S::halfLife>("half_life_s", "s", 0, 10, 1,
                              "half-life of setting in, and of coming to rest when the subject walks"),
  };
  return table;
}

}  // namespace alpglow
