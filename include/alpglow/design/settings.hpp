#pragma once
// One description of every setting: key, unit, range, default and help. It drives file reader, checker, reference and
// digest.
//
//   forEachSection(design, [](const char* section, auto& values, auto settings) {
//     for (const auto& setting : settings) use(section, setting.key, setting.value(values));
//   });

#include "alpglow/base/setting.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/input/bindings.hpp"
#include "alpglow/input/preferences.hpp"

namespace alpglow {

template <>
Span<const Setting<LookSettings>> settings<LookSettings>();
template <>
Span<const Setting<ZoomSettings>> settings<ZoomSettings>();
template <>
Span<const Setting<PullInSettings>> settings<PullInSettings>();
template <>
Span<const Setting<FadeSettings>> settings<FadeSettings>();
template <>
Span<const Setting<LeadSettings>> settings<LeadSettings>();
template <>
Span<const Setting<PlatformSettings>> settings<PlatformSettings>();
template <>
Span<const Setting<SwingBackSettings>> settings<SwingBackSettings>();
template <>
Span<const Setting<LockSettings>> settings<LockSettings>();
template <>
Span<const Setting<GuideSettings>> settings<GuideSettings>();
template <>
Span<const Setting<LookPastSettings>> settings<LookPastSettings>();
template <>
Span<const Setting<FreeShoulderSettings>> settings<FreeShoulderSettings>();
template <>
Span<const Setting<IdleDriftSettings>> settings<IdleDriftSettings>();
template <>
Span<const Setting<FlightSettings>> settings<FlightSettings>();
template <>
Span<const Setting<Framing>> settings<Framing>();
template <>
Span<const Setting<BobSettings>> settings<BobSettings>();
template <>
Span<const Setting<DipSettings>> settings<DipSettings>();
template <>
Span<const Setting<BreathSettings>> settings<BreathSettings>();
template <>
Span<const Setting<SteadySettings>> settings<SteadySettings>();
template <>
Span<const Setting<GlanceSettings>> settings<GlanceSettings>();
template <>
Span<const Setting<PushSettings>> settings<PushSettings>();
template <>
Span<const Setting<PushLimits>> settings<PushLimits>();
template <>
Span<const Setting<UnrestSettings>> settings<UnrestSettings>();
template <>
Span<const Setting<CurveSettings>> settings<CurveSettings>();
template <>
Span<const Setting<StickSettings>> settings<StickSettings>();
template <>
Span<const Setting<TriggerSettings>> settings<TriggerSettings>();
template <>
Span<const Setting<KeySettings>> settings<KeySettings>();
template <>
Span<const Setting<PointerSettings>> settings<PointerSettings>();
template <>
Span<const Setting<TouchSettings>> settings<TouchSettings>();

/// Calls visit(name, section, settings) for the sections that a design has once.
template <class Design, class Visit>
void forEachSection(Design& design, Visit&& visit) {
  visit("look", design.look, settings<LookSettings>());
  visit("zoom", design.zoom, settings<ZoomSettings>());
  visit("pull_in", design.pullIn, settings<PullInSettings>());
  visit("large", design.large, settings<LookPastSettings>());
  visit("fade", design.fade, settings<FadeSettings>());
  visit("bob", design.motion.bob, settings<BobSettings>());
  visit("dip", design.motion.dip, settings<DipSettings>());
  visit("breath", design.motion.breath, settings<BreathSettings>());
  visit("steady", design.steady, settings<SteadySettings>());
  visit("glance", design.glance, settings<GlanceSettings>());
  visit("unrest", design.unrest, settings<UnrestSettings>());
  visit("curves", design.curves, settings<CurveSettings>());
  visit("push_limits", design.pushLimits, settings<PushLimits>());
  visit("lead", design.lead, settings<LeadSettings>());
  visit("platform", design.platform, settings<PlatformSettings>());
  visit("swing_back", design.swingBack, settings<SwingBackSettings>());
  visit("lock", design.lock, settings<LockSettings>());
  visit("guide", design.guide, settings<GuideSettings>());
  visit("free_shoulder", design.freeShoulder, settings<FreeShoulderSettings>());
  visit("idle_drift", design.idleDrift, settings<IdleDriftSettings>());
  visit("flight", design.flight, settings<FlightSettings>());
}

/// Likewise for the sections of a bindings.
template <class AnyBindings, class Visit>
void forEachControlSection(AnyBindings& bindings, Visit&& visit) {
  visit("pointer", bindings.pointer, settings<PointerSettings>());
  visit("left_stick", bindings.leftStick, settings<StickSettings>());
  visit("right_stick", bindings.rightStick, settings<StickSettings>());
  visit("triggers", bindings.triggers, settings<TriggerSettings>());
  visit("keys", bindings.keys, settings<KeySettings>());
  visit("touch", bindings.touch, settings<TouchSettings>());
}

/// The setting of what may be a curve, among those of a framing.
const Setting<Framing>& settingOf(Curved what);
constexpr std::size_t curvedCount = 9;
/// Makes a framing's own numbers those of its curves for a subject at rest that looks level, at the framing's distance,
/// with numbers of 0.
void settleCurves(NamedFraming& named);

/// A demand that ties two settings of a framing or section together, broken by these values.
struct BrokenRelation {
  const char* key;
  const char* demand;
};

/// What ties settings together in a section: the first broken relation, or a null key.
BrokenRelation brokenRelation(const Framing& framing);
BrokenRelation brokenRelation(const FadeSettings& fade);
BrokenRelation brokenRelation(const FlightSettings& flight);
BrokenRelation brokenRelation(const StickSettings& stick);
BrokenRelation brokenRelation(const TriggerSettings& triggers);
template <class Section>
BrokenRelation brokenRelation(const Section&) {
  return {nullptr, nullptr};
}

}  // namespace alpglow
