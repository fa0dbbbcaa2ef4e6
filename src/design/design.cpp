#include "alpglow/design/design.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/log_scales.hpp"
#include "alpglow/design/settings.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <initializer_list>
#include <limits>

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
  framing.farPlane = std::max(framing.farPlane, 2 * framing.nearPlane);
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
  for (const NamedFraming& named : design.framings) {
    add("framing", named.framing, settings<Framing>());
    for (const char c : named.when) hash = hashed(hash, c);
    for (const FramingCurve& curve : named.curves) {
      hash = hashed(hashed(hash, static_cast<double>(curve.what)), static_cast<double>(curve.over));
      for (const char c : curve.number) hash = hashed(hash, c);
      for (const CurvePoint& point : curve.curve.points()) hash = hashed(hashed(hash, point.x), point.y);
    }
    hash = hashed(hash, named.perspective == Perspective::first ? 1 : 0);
  }
  for (const NamedPush& named : design.pushes) add("push", named.push, settings<PushSettings>());
  hash = hashed(hash, design.zoomIntoEyes ? 1 : 0);
  return hash;
}

/// The same lens as a magnification over this base, both as they were designed.
LensSpec relative(const LensSpec& lens, const LensSpec& base) {
  if (lens.kind == LensKind::magnification) return lens;
  const auto slope = [](const LensSpec& of) { return std::tan(of.lens().verticalFieldOfView() / 2); };
  LensSpec result = lens;
  result.kind = LensKind::magnification;
  result.magnification = slope(base) / slope(lens);
  result.magnification2 = result.magnification3 = 0;
  return result;
}

/// The curve of a lens by the factor by which the player's field of view is wider than the designed one.
Curve magnified(const Curve& curve, const LensSpec& designed, const Preferences& preferences) {
  const double factor = logTanHalfFov(preferences.fieldOfView) - logTanHalfFov(designed.lens().verticalFieldOfView());
  return curve.mapped([factor](double fieldOfView) {
    return fieldOfViewFromLog(logTanHalfFov(std::clamp(fieldOfView, degrees(1), degrees(170))) + factor);
  });
}

/// What moves the aim stays: it is the game's.
void scale(PushSettings& push, double by) {
  if (!push.movesAim) push.pitch *= by, push.yaw *= by;
  for (double* part : {&push.roll, &push.right, &push.up, &push.back}) *part *= by;
  push.lens = std::pow(push.lens, by);
}

/// What the player prefers, on top of the game's numbers.
CameraDesign preferred(CameraDesign design, const Preferences& preferences) {
  for (NamedFraming& named : design.framings) settleCurves(named);
  const std::vector<NamedFraming> designed = design.framings;
  for (NamedFraming& named : design.framings) {
    named.framing.sway *= preferences.comfort.breath;
    if (preferences.fieldOfView <= 0) continue;
    if (!named.when.empty()) {
      const auto base = std::find_if(designed.begin(), designed.end(), [&](const NamedFraming& other) {
        return other.when.empty() && other.perspective == named.perspective;
      });
      if (base != designed.end()) named.framing.lens = relative(named.framing.lens, base->framing.lens);
      continue;
    }
    for (FramingCurve& curve : named.curves) {
      if (curve.what == Curved::fieldOfView) curve.curve = magnified(curve.curve, named.framing.lens, preferences);
    }
    named.framing.lens.kind = LensKind::verticalFieldOfView;
    named.framing.lens.fieldOfView = preferences.fieldOfView;
  }
  const Comfort& comfort = preferences.comfort;
  for (NamedPush& named : design.pushes) scale(named.push, comfort.push);
  design.motion.bob.vertical *= comfort.bob;
  design.motion.bob.lateral *= comfort.bob;
  design.motion.dip.depthPerSpeed *= comfort.dip;
  design.motion.breath.amplitude *= comfort.breath;
  UnrestSettings& unrest = design.unrest;
  for (double* part : {&unrest.yaw, &unrest.pitch, &unrest.roll, &unrest.right, &unrest.up, &unrest.back})
    *part *= comfort.unrest;
  design.lead.time *= comfort.lead;
  for (double* rate : {&design.swingBack.rate, &design.swingBack.poseRate, &design.lock.cap, &design.guide.rate})
    *rate = std::min(*rate, comfort.autoTurnCap);
  design.steady.cap = std::min(design.steady.cap, comfort.steadyCap);
  return design;
}

}  // namespace

CompiledDesign::CompiledDesign(CameraDesign design, const Preferences& preferences)
    : CompiledDesign(preferred(std::move(design), preferences)) {}

CompiledDesign::CompiledDesign(CameraDesign design) : design_(std::move(design)) {
  if (design_.framings.empty()) design_.framings = CameraDesign().framings;
  if (design_.framings.size() > mostFramings) design_.framings.resize(mostFramings);
  if (design_.pushes.size() > mostPushes) design_.pushes.resize(mostPushes);
  forEachSection(design_, [](const char*, auto& section, auto) { bringIntoRange(section); });
  for (NamedPush& named : design_.pushes) {
    bringIntoRange(named.push);
    pushes_.push_back(named.push);
  }
  if (brokenRelation(design_.flight).key != nullptr) design_.flight = FlightSettings();
  design_.flight.look = design_.look;
  design_.fade.invisibleBelow = std::min(design_.fade.invisibleBelow, design_.fade.opaqueFrom);
  design_.fade.eyesUntil = std::max(design_.fade.eyesUntil, design_.fade.eyesBelow);
  for (NamedFraming& named : design_.framings) {
    bringIntoRange(named.framing);
    untangle(named.framing);
    compileCurves(named);
    int& base = bases_[named.perspective == Perspective::first ? 1 : 0];
    if (named.when.empty() && base < 0) base = static_cast<int>(when_.size());
    when_.push_back(named.when.empty() ? When() : parseWhen(named.when, flags_).when);
  }
  for (std::size_t i = 0; i < design_.framings.size(); ++i) {
    const LensSpec& lens = design_.framings[i].framing.lens;
    std::array<double, 3> steps{};
    for (int step = 0; step < lens.steps(); ++step) {
      const double fieldOfView = lens.lens(baseFieldOfView(i), step).verticalFieldOfView();
      steps[static_cast<std::size_t>(step)] = fieldOfView;
      narrowest_ = std::min(narrowest_, fieldOfView);
      widest_ = std::max(widest_, fieldOfView);
      for (const CompiledCurve& curve : curves(i)) {
        if (curve.what != Curved::fieldOfView) continue;
        const auto bent = [&](double to) {
          return fieldOfViewFromLog(logTanHalfFov(fieldOfView) + curve.addedFor(to));
        };
        narrowest_ = std::min(narrowest_, bent(curve.curve.least()));
        widest_ = std::max(widest_, bent(curve.curve.largest()));
      }
    }
    fieldsOfView_.push_back(steps);
  }
  spanRanges();
  digest_ = digestOf(design_);
}

void CompiledDesign::spanRanges() {
  constexpr double infinity = std::numeric_limits<double>::infinity();
  constexpr double aspects[] = {0.05, 20};
  ranges_.fill({infinity, -infinity});
  lookScales_ = {infinity, 0};
  const auto spans = [&](FramingParameter parameter, std::initializer_list<double> values) {
    ParameterRange& range = ranges_[indexOf(parameter)];
    range = {std::min(range.low, std::min(values)), std::max(range.high, std::max(values))};
  };
  for (std::size_t i = 0; i < design_.framings.size(); ++i) {
    const Framing& f = design_.framings[i].framing;
    spans(FramingParameter::anchorHeight, {f.anchorHeight});
    spans(FramingParameter::anchorRise, {f.anchorRise});
    spans(FramingParameter::shoulder, {-f.shoulder, f.shoulder});
    spans(FramingParameter::tilt, {f.tilt});
    spans(FramingParameter::distance, {logDistance(f.distanceRange.nearest), logDistance(f.distanceRange.farthest)});
    spans(FramingParameter::farthest, {logDistance(f.distanceRange.farthest)});
    for (const CompiledCurve& curve : curves(i)) {
      const double low = curve.curve.least(), high = curve.curve.largest();
      const double far = logDistance(longestDistance);
      switch (curve.what) {
        case Curved::anchorHeight: spans(FramingParameter::anchorHeight, {low, high}); break;
        case Curved::anchorRise: spans(FramingParameter::anchorRise, {low, high}); break;
        case Curved::shoulder: spans(FramingParameter::shoulder, {low, high, -low, -high}); break;
        case Curved::tilt: spans(FramingParameter::tilt, {low, high}); break;
        case Curved::distance: spans(FramingParameter::distance, {0, far}); break;
        default: break;
      }
    }
    spans(FramingParameter::nearPlane, {std::log(f.nearPlane)});
    spans(FramingParameter::pitchLow, {f.pitch.low});
    spans(FramingParameter::pitchHigh, {f.pitch.high});
    spans(FramingParameter::bobScale, {f.bobScale});
    spans(FramingParameter::sway, {f.sway});
    for (const double aspect : aspects) {
      for (const double fieldOfView : {narrowest_, widest_, std::max(widest_, design_.lock.widest)}) {
        const double scale = f.lookScale.at(fieldOfView, baseFieldOfView(i), aspect);
        lookScales_ = {std::min(lookScales_.low, scale), std::max(lookScales_.high, scale)};
      }
    }
  }
  lookScales_ = {std::max(lookScales_.low, leastLookScale), std::min(lookScales_.high, 1 / leastLookScale)};
  const double scales = std::log(lookScales_.high / lookScales_.low);
  ranges_[indexOf(FramingParameter::lens)] = {logTanHalfFov(narrowest_), logTanHalfFov(widest_)};
  ranges_[indexOf(FramingParameter::firstPerson)] = {0, 1};
  ranges_[indexOf(FramingParameter::lookScale)] = {-scales, scales};
}

/// Those that mean something, each thing once.
void CompiledDesign::compileCurves(NamedFraming& named) {
  std::vector<FramingCurve> kept;
  for (FramingCurve& curve : named.curves) {
    const auto same = [&](const FramingCurve& other) { return other.what == curve.what; };
    if (curve.curve.empty() || std::any_of(kept.begin(), kept.end(), same)) continue;
    const bool itself = curve.over == CurveOver::distance || named.framing.distanceRange.farthest == 0;
    if (curve.what == Curved::distance && itself) continue;
    if (curve.over == CurveOver::number && number(curve.number) < 0) {
      if (numbers_.size() == mostCurveNumbers) continue;
      numbers_.push_back(curve.number);
    }
    const Setting<Framing>& setting = settingOf(curve.what);
    curve.curve = curve.curve.mapped([&setting](double value) {
      return std::clamp(value, setting.low * setting.scale, setting.high * setting.scale);
    });
    kept.push_back(curve);
  }
  named.curves = kept;
  settleCurves(named);
  curveRanges_.push_back({curves_.size(), kept.size()});
  for (const FramingCurve& curve : kept) {
    const auto number = static_cast<std::size_t>(std::max(this->number(curve.number), 0));
    curves_.push_back({curve.what, curve.over, number, curve.curve, settingOf(curve.what).get(named.framing)});
  }
  untangle(named.framing);
}

int CompiledDesign::number(std::string_view name) const {
  const auto found = std::find(numbers_.begin(), numbers_.end(), name);
  return found == numbers_.end() ? -1 : static_cast<int>(found - numbers_.begin());
}

int CompiledDesign::push(std::string_view name) const {
  for (std::size_t i = 0; i < design_.pushes.size(); ++i) {
    if (design_.pushes[i].name == name) return static_cast<int>(i);
  }
  return -1;
}

std::size_t CompiledDesign::select(Perspective perspective, std::uint32_t conditions) const {
  for (std::size_t i = 0; i < when_.size(); ++i) {
    if (design_.framings[i].perspective == perspective && when_[i].holds(conditions)) return i;
  }
  const int base = baseOf(perspective);
  return base >= 0 ? static_cast<std::size_t>(base) : 0;
}

double CompiledDesign::baseFieldOfView(std::size_t framing) const {
  const int base = baseOf(design_.framings[framing].perspective);
  const LensSpec& lens = design_.framings[base >= 0 ? static_cast<std::size_t>(base) : 0].framing.lens;
  return lens.kind == LensKind::magnification ? degrees(60) : lens.lens().verticalFieldOfView();
}

}  // namespace alpglow
