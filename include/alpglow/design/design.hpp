#pragma once
// A design: all tunable numbers of one character camera, as plain data, and its compiled, immutable form.
//
//   CameraDesign design;
//   design.framings[0].framing.distance = 4;
//   const CompiledDesign compiled(design);       // brings every number into its range
//   CharacterCamera camera(compiled, subject);   // `compiled` must outlive the camera

#include "alpglow/assist/free_shoulder.hpp"
#include "alpglow/assist/guide.hpp"
#include "alpglow/assist/idle_drift.hpp"
#include "alpglow/assist/lock_on.hpp"
#include "alpglow/assist/swing_back.hpp"
#include "alpglow/design/when.hpp"
#include "alpglow/follow/frame_follow.hpp"
#include "alpglow/follow/head_motion.hpp"
#include "alpglow/framing/flight.hpp"
#include "alpglow/framing/framing.hpp"
#include "alpglow/framing/framing_blend.hpp"
#include "alpglow/framing/framing_curves.hpp"
#include "alpglow/framing/orbit_distance.hpp"
#include "alpglow/input/preferences.hpp"
#include "alpglow/look/glance.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/space/look_past.hpp"
#include "alpglow/space/pull_in_settings.hpp"
#include "alpglow/view/push.hpp"
#include "alpglow/view/steadying.hpp"
#include "alpglow/view/unrest.hpp"

#include <array>
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace alpglow {

/// The subject fades as the camera comes close to its head.
struct FadeSettings {
  /// Distance head to camera, metres, from which on the subject is fully drawn.
  double opaqueFrom = 0.5;
  /// Distance below which it is not drawn at all.
  double invisibleBelow = 0.25;
  /// Closer than this because of an obstacle the framing of the eyes applies, if the design has one, until the chosen
  /// perspective has room for the other distance; metres, 0 = never.
  double eyesBelow = 0.25, eyesUntil = 0.6;
  /// The subject is always drawn, as for a first person that sees its own body.
  bool keepBody = false;
};

/// Whose eyes one looks with.
enum class Perspective { third, first };

/// Which shoulder the camera looks over; `designed` is the framing's own side.
enum class Shoulder { designed, centred, other };

/// A kind of push, by the name that the game calls it with.
struct NamedPush {
  std::string name;
  PushSettings push;
};

/// A framing and when it applies. Without a condition it is the base of its perspective; the first such one counts.
/// With one it stands over the base: the first whose condition holds.
struct NamedFraming {
  std::string name;
  Framing framing;
  /// A condition (design/when.hpp) of "aiming", "sprinting", "crouched" and flags of the game; empty for a base. One
  /// that cannot be read never holds.
  std::string when;
  /// In which perspective it applies, and whose eyes it shows.
  Perspective perspective = Perspective::third;
  /// Numbers of the framing that are curves, each at most once.
  std::vector<FramingCurve> curves = {};
};

#ifndef ALPGLOW_MOST_FRAMINGS
#define ALPGLOW_MOST_FRAMINGS 8
#endif
/// How many framings a design holds at most: 8, or what the build says (CMake: ALPGLOW_MOST_FRAMINGS, 1 … 64). The size
/// of a camera depends on it, and states are not restored by a build that says otherwise.
constexpr std::size_t mostFramings = ALPGLOW_MOST_FRAMINGS;
static_assert(mostFramings >= 1 && mostFramings <= 64);

struct CameraDesign {
  std::string name = "camera";
  LookSettings look;
  ZoomSettings zoom;
  PullInSettings pullIn;
  LookPastSettings large;
  FadeSettings fade;
  HeadMotionSettings motion;
  SteadySettings steady;
  GlanceSettings glance;
  UnrestSettings unrest;
  CurveSettings curves;
  LeadSettings lead;
  PlatformSettings platform;
  SwingBackSettings swingBack;
  LockSettings lock;
  GuideSettings guide;
  FreeShoulderSettings freeShoulder;
  IdleDriftSettings idleDrift;
  /// Of a camera that flies (`FlyingCamera`); its look is the section of that name, once compiled.
  FlightSettings flight;
  /// How far all pushes together go, and their kinds; at most `mostPushes`.
  PushLimits pushLimits;
  std::vector<NamedPush> pushes;
  /// Zooming in beyond the nearest distance is a transition to first person, and zooming out leaves it again.
  bool zoomIntoEyes = false;
  /// The first one is what the camera starts with. At most `mostFramings`.
  std::vector<NamedFraming> framings = {{"base", {}, {}, Perspective::third}};
};

/// A design whose numbers are all finite and in range, with a digest. Immutable; copies are equal.
class CompiledDesign {
 public:
  /// Values out of range are brought to the nearest legal one, non-finite ones to their default.
  explicit CompiledDesign(CameraDesign design);
  /// With the player's preferences on top.
  CompiledDesign(CameraDesign design, const Preferences& preferences);

  const CameraDesign& design() const { return design_; }
  /// The bit of a condition by its name, those of the game included; 0 if no framing asks for it.
  std::uint32_t flag(std::string_view name) const { return conditionBit(name, flags_); }
  /// The game's own flags that its framings ask for.
  const std::vector<std::string>& flags() const { return flags_; }
  /// The kinds of pushes, and the place of one by its name; −1 if there is none.
  Span<const PushSettings> pushes() const { return pushes_; }
  int push(std::string_view name) const;
  /// What bends a framing's numbers; and the place of a number that the game sets, by its name, −1 if no curve asks.
  Span<const CompiledCurve> curves(std::size_t framing) const {
    const CurveRange range = curveRanges_[framing];
    return {curves_.data() + range.first, range.count};
  }
  bool bends() const { return !curves_.empty(); }
  int number(std::string_view name) const;
  /// The names of these numbers; at most `mostCurveNumbers`.
  const std::vector<std::string>& numbers() const { return numbers_; }
  /// When a framing over its base applies.
  const When& when(std::size_t framing) const { return when_[framing]; }
  /// The framing that applies, by its place.
  std::size_t select(Perspective perspective, std::uint32_t conditions) const;
  /// The base framing of a perspective; −1 if there is none.
  int baseOf(Perspective perspective) const { return bases_[perspective == Perspective::first ? 1 : 0]; }
  /// Vertical field of view of a framing at a step of its ladder, and of the base framing that it refers to; radians.
  double fieldOfView(std::size_t framing, int step = 0) const {
    return fieldsOfView_[framing][static_cast<std::size_t>(step)];
  }
  double baseFieldOfView(std::size_t framing) const;
  /// The narrowest and the widest of all, radians.
  double narrowest() const { return narrowest_; }
  double widest() const { return widest_; }
  /// What all framings span together, parameter by parameter; and what look scales they can ask for.
  const FramingRanges& ranges() const { return ranges_; }
  ParameterRange lookScales() const { return lookScales_; }

  /// A number that differs when any setting differs (64-bit FNV-1a over all values).
  std::uint64_t digest() const { return digest_; }

 private:
  CameraDesign design_;
  std::vector<std::string> flags_;                   // the game's own
  std::vector<std::array<double, 3>> fieldsOfView_;  // by framing and step
  std::vector<PushSettings> pushes_;
  struct CurveRange {
    std::size_t first = 0, count = 0;
  };
  std::vector<CompiledCurve> curves_;
  std::vector<CurveRange> curveRanges_;  // by framing
  std::vector<std::string> numbers_;
  std::vector<When> when_;   // by framing; never for a base
  int bases_[2] = {-1, -1};  // third, first
  double narrowest_ = pi, widest_ = 0;
  FramingRanges ranges_;
  ParameterRange lookScales_{1, 1};
  std::uint64_t digest_;

  void compileCurves(NamedFraming& named);
  void spanRanges();
};

}  // namespace alpglow
