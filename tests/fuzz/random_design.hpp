#pragma once
// Designs with every setting somewhere in its documented range.

#include "alpglow/design/settings.hpp"
#include "support/random.hpp"

#include <cmath>

namespace alpglow::testing {

/// Half of the numbers keep their default; the others are drawn evenly, toward the low end, or are one of the ends.
template <class Section>
void randomize(Section& section, Random& random) {
  for (const auto& setting : settings<Section>()) {
    const double span = setting.high - setting.low;
    if (setting.kind != SettingKind::number) {
      setting.assign(section, random.whole(0, static_cast<int>(span)));
      continue;
    }
    switch (random.whole(0, 9)) {
      case 0:
      case 1: setting.assign(section, setting.low + span * random.between(0, 1)); break;
      case 2: setting.assign(section, setting.low + span * std::pow(10, -random.between(0, 4))); break;
      case 3: setting.assign(section, setting.low); break;
      case 4: setting.assign(section, setting.high); break;
      default: break;
    }
  }
}

/// Some of its numbers are curves, most over the pitch or a number of the game's.
inline void bend(NamedFraming& named, Random& random) {
  const char* const numbers[] = {"fear", "wind"};
  for (int i = random.whole(0, 3); i > 0; --i) {
    FramingCurve curve;
    curve.what = static_cast<Curved>(random.whole(0, static_cast<int>(curvedCount) - 1));
    curve.over = static_cast<CurveOver>(random.whole(0, 4));
    if (curve.over == CurveOver::number) curve.number = numbers[random.whole(0, 1)];
    const Setting<Framing>& setting = settingOf(curve.what);
    std::vector<CurvePoint> points;
    double x = random.between(-2, 0.5);
    for (int k = random.whole(1, 6); k > 0; --k) {
      const double share = std::pow(10, -random.between(0, 3));
      points.push_back({x, (setting.low + (setting.high - setting.low) * share) * setting.scale});
      x += random.between(0.05, 1.5);
    }
    curve.curve = Curve(Span<const CurvePoint>(points.data(), points.size()));
    named.curves.push_back(curve);
  }
}

inline CameraDesign randomDesign(Random& random) {
  CameraDesign design;
  forEachSection(design, [&](const char*, auto& section, auto) { randomize(section, random); });
  design.pushes.resize(static_cast<std::size_t>(random.whole(0, 3)));
  for (NamedPush& named : design.pushes) randomize(named.push, random);
  design.zoomIntoEyes = random.chance(0.5);
  const char* const conditions[] = {"aiming", "sprinting", "crouched or swimming", "talking", "not aiming and crouched",
                                    ""};
  design.framings.resize(static_cast<std::size_t>(random.whole(1, static_cast<int>(mostFramings))));
  for (std::size_t i = 0; i < design.framings.size(); ++i) {
    NamedFraming& named = design.framings[i];
    named.name = "framing " + std::to_string(i);
    named.when = i < 2 ? "" : conditions[random.whole(0, 5)];
    named.perspective = i == 0 || random.chance(0.6) ? Perspective::third : Perspective::first;
    randomize(named.framing, random);
    if (random.chance(0.3)) bend(named, random);
    if (random.chance(0.1)) named.framing.pitch.high = named.framing.pitch.low;
  }
  return design;
}

}  // namespace alpglow::testing
