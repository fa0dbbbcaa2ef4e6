#pragma once
// One description of every setting: key, unit, range, default and help. It drives file reader, checker, reference and
// digest.
//
//   forEachSection(design, [](const char* section, auto& values, auto settings) {
//     for (const auto& setting : settings) use(section, setting.key, setting.value(values));
//   });

#include "alpglow/design.hpp"
#include "alpglow/setting.hpp"

namespace alpglow {

template <>
Span<const Setting<LookSettings>> settings<LookSettings>();
template <>
Span<const Setting<ZoomSettings>> settings<ZoomSettings>();
template <>
Span<const Setting<EaseOutSettings>> settings<EaseOutSettings>();
template <>
Span<const Setting<FadeSettings>> settings<FadeSettings>();
template <>
Span<const Setting<StartSettings>> settings<StartSettings>();
template <>
Span<const Setting<Framing>> settings<Framing>();

/// Calls visit(name, section, settings) for the sections that a design has once.
template <class Design, class Visit>
void forEachSection(Design& design, Visit&& visit) {
  visit("look", design.look, settings<LookSettings>());
  visit("zoom", design.zoom, settings<ZoomSettings>());
  visit("clear", design.clear, settings<EaseOutSettings>());
  visit("fade", design.fade, settings<FadeSettings>());
  visit("start", design.start, settings<StartSettings>());
}

/// A demand that ties two settings of a framing or section together, broken by these values.
struct BrokenRelation {
  const char* key;
  const char* demand;
};

/// What ties settings together in a section: the first broken relation, or a null key.
BrokenRelation brokenRelation(const Framing& framing);
BrokenRelation brokenRelation(const FadeSettings& fade);
template <class Section>
BrokenRelation brokenRelation(const Section&) {
  return {nullptr, nullptr};
}

}  // namespace alpglow
