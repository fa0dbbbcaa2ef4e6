#include "alpglow/design.hpp"

#include "alpglow/settings.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace alpglow {

namespace {

template <class Section>
void bringIntoRange(Section& section) {
  for (const auto& setting : settings<Section>()) {
    const double value = setting.value(section);
    const double legal = std::isfinite(value) ? std::clamp(value, setting.low, setting.high) : setting.fallback();
    if (!(legal == value)) setting.assign(section, legal);
  }
}

void untangle(Framing& framing) {
  DistanceRange& range = framing.distanceRange;
  range.farthest = std::max(range.nearest, range.farthest);
  framing.distance = std::clamp(framing.distance, range.nearest, range.farthest);
  framing.pitch.high = std::max(framing.pitch.low, framing.pitch.high);
  framing.defaultPitch = std::clamp(framing.defaultPitch, framing.pitch.low, framing.pitch.high);
  framing.far = std::max(framing.far, 2 * framing.near);
}

std::uint64_t hashed(std::uint64_t hash, double value) {
  unsigned char bytes[sizeof value];
  std::memcpy(bytes, &value, sizeof value);
  for (const unsigned char byte : bytes) hash = (hash ^ byte) * 0x100000001b3ULL;
  return hash;
}

std::uint64_t digestOf(const CameraDesign& design) {
  std::uint64_t hash = 0xcbf29ce484222325ULL;
  const auto add = [&hash](const char*, const auto& section, auto settings) {
    for (const auto& setting : settings) hash = hashed(hash, setting.get(section));
  };
  forEachSection(design, add);
  for (const NamedFraming& named : design.framings) add("framing", named.framing, settings<Framing>());
  return hash;
}

/// What the player prefers, on top of the game's numbers.
CameraDesign preferred(CameraDesign design, const Preferences& preferences) {
  if (preferences.fieldOfView > 0 && !design.framings.empty()) {
    LensSettings& lens = design.framings.front().framing.lens;
    lens.kind = LensKind::verticalFieldOfView;
    lens.fieldOfView = preferences.fieldOfView;
  }
  const Comfort& comfort = preferences.comfort;
  design.motion.bob.vertical *= comfort.bob;
  design.motion.bob.lateral *= comfort.bob;
  design.motion.dip.depthPerSpeed *= comfort.dip;
  design.motion.breath.amplitude *= comfort.breath;
  design.lead.time *= comfort.lead;
  for (double* rate : {&design.recentre.rate, &design.recentre.poseRate, &design.lock.cap})
    *rate = std::min(*rate, comfort.autoTurnCap);
  design.steady.cap = std::min(design.steady.cap, comfort.steadyCap);
  return design;
}

}  // namespace

CompiledDesign::CompiledDesign(CameraDesign design, const Preferences& preferences)
    : CompiledDesign(preferred(std::move(design), preferences)) {}

CompiledDesign::CompiledDesign(CameraDesign design) : design_(std::move(design)) {
  if (design_.framings.empty()) design_.framings = CameraDesign().framings;
  forEachSection(design_, [](const char*, auto& section, auto) { bringIntoRange(section); });
  design_.fade.invisibleBelow = std::min(design_.fade.invisibleBelow, design_.fade.opaqueFrom);
  for (NamedFraming& named : design_.framings) {
    bringIntoRange(named.framing);
    untangle(named.framing);
  }
  digest_ = digestOf(design_);
}

}  // namespace alpglow
