#include "alpglow/camera/active_framing.hpp"

#include "alpglow/base/limits.hpp"
#include "alpglow/base/log_scales.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

ActiveFraming::ActiveFraming(const CompiledDesign& design) {
  const std::vector<NamedFraming>& framings = design.design().framings;
  for (std::size_t i = 0; i < framings.size(); ++i) remembered_[i] = framings[i].framing.distance;
  perspective_ = framings.front().perspective;
  active_ = from_ = home_ = static_cast<std::uint8_t>(applying(design));
  distance_ = OrbitDistance(settings(design).distance);
}

bool ActiveFraming::legal(const CompiledDesign& design) const {
  const std::vector<NamedFraming>& framings = design.design().framings;
  for (const std::size_t framing : {active_, from_, home_}) {
    if (framing >= framings.size()) return false;
  }
  const auto within = [](double distance, const DistanceRange& range) {
    return distance >= range.nearest - 1e-9 && distance <= range.farthest + 1e-9;
  };
  for (std::size_t i = 0; i < framings.size(); ++i) {
    const Framing& framing = framings[i].framing;
    if (steps_[i] >= framing.lens.steps() || !within(remembered_[i], framing.distanceRange)) return false;
  }
  const DistanceRange& range = settings(design).distanceRange;
  return design.baseOf(perspective_) >= 0 && (!eyes_ || design.baseOf(Perspective::first) >= 0) &&
         within(distance_.target(), range) && within(distance_.shown(), range);
}

void ActiveFraming::changeDesign(const CompiledDesign& from, const CompiledDesign& to) {
  rememberDistance(from);
  const ActiveFraming before = *this;
  blend_.finish();
  pushed_ = toStep_ = 0;
  inputs_.rename(from.numbers(), to.numbers());
  conditions_ &= Condition::aiming | Condition::sprinting | Condition::crouched;
  for (const std::string& flag : from.flags()) {
    if ((before.conditions_ & from.flag(flag)) != 0) conditions_ |= to.flag(flag);
  }
  const std::vector<NamedFraming>&old = from.design().framings, &now = to.design().framings;
  for (std::size_t i = 0; i < now.size(); ++i) {
    const Framing& framing = now[i].framing;
    remembered_[i] = framing.distance;
    steps_[i] = 0;
    const auto same =
        std::find_if(old.begin(), old.end(), [&](const NamedFraming& each) { return each.name == now[i].name; });
    if (same == old.end()) continue;
    const auto k = static_cast<std::size_t>(same - old.begin());
    steps_[i] = static_cast<std::uint8_t>(std::min<int>(before.steps_[k], framing.lens.steps() - 1));
    if (before.remembered_[k] != same->framing.distance)
      remembered_[i] = std::clamp(before.remembered_[k], framing.distanceRange.nearest, framing.distanceRange.farthest);
  }
  if (to.baseOf(perspective_) < 0) perspective_ = now.front().perspective;
  eyes_ = eyes_ && to.baseOf(Perspective::first) >= 0;
  active_ = std::numeric_limits<std::uint8_t>::max();  // none, so that what is remembered counts for all
  const std::size_t next = applying(to);
  distance_ = OrbitDistance(chosenDistance(next, to));
  active_ = from_ = home_ = static_cast<std::uint8_t>(next);
}

void ActiveFraming::choose(Perspective perspective, const CompiledDesign& design) {
  if (design.baseOf(perspective) >= 0) perspective_ = perspective;
}

FramingChange ActiveFraming::change(const CompiledDesign& design, const LockExtras& extras, double pitch) {
  const std::size_t next = applying(design);
  const double fieldOfView = shownFieldOfView(design, extras.fov);
  const double scaleBefore = lookScale(design, extras);
  FramingParameters shownBefore;
  for (std::size_t i = 0; i < framingParameterCount; ++i)
    shownBefore[i] = shown(static_cast<FramingParameter>(i), design);
  rememberHome();
  const bool back = next == home_ && !blend_.done();
  const double full = design.design().framings[next].framing.transition;
  // Back in the time that it was under way would brake five times as hard as the change does.
  const double seconds = back ? std::sqrt(std::min(blend_.underWay(), full) * full) : full;

  rememberDistance(design);
  const double distance = chosenDistance(next, design);
  from_ = active_;
  active_ = static_cast<std::uint8_t>(next);
  distance_ = OrbitDistance(distance);
  const FramingParameters targets = this->targets(design);
  shownBefore[indexOf(FramingParameter::lookScale)] = std::log(scaleBefore / ruledLookScale(design, fieldOfView));
  easeIntoLimits(shownBefore, targets, pitch);
  blend_.begin(shownBefore, targets, seconds, design.ranges());
  return {from_, active_, full, shownBefore[indexOf(FramingParameter::anchorHeight)]};
}

/// A limit that the pitch is already beyond begins there, at rest, and takes it along; nobody sees it come.
void ActiveFraming::easeIntoLimits(FramingParameters& shown, const FramingParameters& target, double pitch) {
  const auto ease = [&](FramingParameter limit, double outward) {
    const auto i = indexOf(limit);
    const double beyond = outward * (pitch - target[i]), room = outward * (shown[i] - pitch);
    if (beyond <= 0 || room < 1e-9) return;
    shown[i] = pitch;
    blend_.halt(limit);
  };
  ease(FramingParameter::pitchLow, -1);
  ease(FramingParameter::pitchHigh, 1);
}

double ActiveFraming::unrestShare(const CompiledDesign& design) const {
  double share = settings(design).unrestScale;
  for (const CompiledCurve& curve : design.curves(active_)) {
    if (curve.what == Curved::unrest) share += curve.added(inputs_, distance_.shown());
  }
  return std::clamp(share, 0.0, 1.0);
}

FrameFollowSettings ActiveFraming::followSettings(const CompiledDesign& design) const {
  const Framing& framing = settings(design);
  FrameFollowSettings result{framing.follow, framing.eyeHalfLife, design.design().lead, design.design().platform,
                             framing.leadScale};
  for (const CompiledCurve& curve : design.curves(active_)) {
    if (curve.what == Curved::followHalfLife) result.feet.halfLife += curve.added(inputs_, distance_.shown());
    if (curve.what == Curved::verticalHalfLife) result.feet.verticalHalfLife += curve.added(inputs_, distance_.shown());
  }
  RestZoneSettings& rest = result.feet.rest;
  if (rest.screen > 0) {
    const double half = distance_.shown() * std::tan(shownFieldOfView(design, 0) / 2);
    rest.radius = std::max(rest.radius, rest.screen * half);
  }
  return result;
}

void ActiveFraming::setShoulder(Shoulder shoulder, const CompiledDesign& design) {
  const double before = shown(FramingParameter::shoulder, design);
  rememberHome();
  side_ = shoulder == Shoulder::designed ? 1 : shoulder == Shoulder::centred ? 0 : -1;
  beginAlone(FramingParameter::shoulder, before, settings(design).shoulderSwap, design);
}

void ActiveFraming::beginAlone(FramingParameter parameter, double before, double seconds,
                               const CompiledDesign& design) {
  blend_.begin(parameter, before, target(parameter, design), seconds, design.ranges()[indexOf(parameter)]);
}

/// Within its range, whatever rounding does to a blend.
double ActiveFraming::shown(FramingParameter parameter, const CompiledDesign& design) const {
  const double end = target(parameter, design);
  if (blend_.done()) return end;
  const ParameterRange range = design.ranges()[indexOf(parameter)];
  return std::clamp(end + blend_.difference(parameter), range.low, range.high);
}

PitchLimits ActiveFraming::pitchLimits(const CompiledDesign& design) const {
  if (blend_.done()) return settings(design).pitch;
  const double low = shown(FramingParameter::pitchLow, design), high = shown(FramingParameter::pitchHigh, design);
  if (low <= high) return {low, high};
  return {(low + high) / 2, (low + high) / 2};
}

PitchLimits ActiveFraming::pitchLimitsIn(double seconds, const CompiledDesign& design) const {
  ActiveFraming then = *this;
  then.advance(seconds);
  return then.pitchLimits(design);
}

double ActiveFraming::piece(double seconds, bool turns) const {
  if (blend_.done()) return seconds;
  const double piece = std::min(seconds, std::max(blend_.left(), 1e-9));
  return turns ? std::min(piece, finestTurn) : piece;
}

bool ActiveFraming::lensBends(const CompiledDesign& design) const {
  const auto& curves = design.curves(active_);
  return std::any_of(curves.begin(), curves.end(),
                     [](const CompiledCurve& curve) { return curve.bends(FramingParameter::lens); });
}

bool ActiveFraming::advance(double seconds) {
  if (blend_.done() && blend_.progress() >= 1) return false;
  blend_.advance(seconds);
  return true;
}

double ActiveFraming::target(FramingParameter parameter, const CompiledDesign& design) const {
  return bent(parameter, plain(parameter, design), active_, design);
}

/// With what the framing's curves add to it.
double ActiveFraming::bent(FramingParameter parameter, double value, std::size_t framing,
                           const CompiledDesign& design) const {
  for (const CompiledCurve& curve : design.curves(framing)) {
    if (!curve.bends(parameter)) continue;
    const double added = curve.added(inputs_, distance_.shown());
    value += parameter == FramingParameter::shoulder ? side_ * added : added;
    if (parameter == FramingParameter::distance) value = std::clamp(value, 0.0, logDistance(longestDistance));
  }
  return value;
}

/// The number that stands in the framing, as the player has changed it.
double ActiveFraming::plain(FramingParameter parameter, const CompiledDesign& design) const {
  const Framing& f = settings(design);
  switch (parameter) {
    case FramingParameter::anchorHeight: return f.anchorHeight;
    case FramingParameter::anchorRise: return f.anchorRise;
    case FramingParameter::shoulder: return side_ * f.shoulder;
    case FramingParameter::tilt: return f.tilt;
    case FramingParameter::distance: return logDistance(distance_.shown());
    case FramingParameter::farthest: return logDistance(f.distanceRange.farthest);
    case FramingParameter::lens: return logTanHalfFov(design.fieldOfView(active_, steps_[active_]));
    case FramingParameter::nearPlane: return std::log(f.nearPlane);
    case FramingParameter::pitchLow: return f.pitch.low;
    case FramingParameter::pitchHigh: return f.pitch.high;
    case FramingParameter::bobScale: return f.bobScale;
    case FramingParameter::sway: return f.sway;
    case FramingParameter::firstPerson:
      return design.design().framings[active_].perspective == Perspective::first ? 1 : 0;
    case FramingParameter::lookScale: return 0;
  }
  return 0;
}

FramingParameters ActiveFraming::targets(const CompiledDesign& design) const {
  FramingParameters targets;
  for (std::size_t i = 0; i < framingParameterCount; ++i) targets[i] = target(static_cast<FramingParameter>(i), design);
  return targets;
}

double ActiveFraming::keepCap(const CompiledDesign& design) const {
  double cap = 0, widest = 0;
  for (const std::size_t end : {std::size_t{active_}, applying(design)}) {
    const Framing& framing = design.design().framings[end].framing;
    if (framing.keeps == Keeps::aim) cap = std::max(cap, framing.keepCap);
    widest = std::max(widest, design.fieldOfView(end, steps_[end]));
  }
  return cap * std::min(std::tan(widest / 2) / std::tan(degrees(60) / 2), 1.0);
}

ShownFraming ActiveFraming::shown(const CompiledDesign& design, const LockExtras& extras) const {
  ShownFraming result = isPlain(design) ? settled(design) : blended(design);
  result.pose.distance = shownDistance(design, extras.distance);
  result.pose.fieldOfView = shownFieldOfView(design, extras.fov);
  result.lookScale = lookScale(design, extras);
  return result;
}

/// The framing's own numbers, without distance, lens and what depends on it.
ShownFraming ActiveFraming::settled(const CompiledDesign& design) const {
  const NamedFraming& named = design.design().framings[active_];
  const Framing& f = named.framing;
  return {{f.anchorHeight, f.anchorRise, side_ * f.shoulder, f.tilt, 0, f.nearPlane, 0},
          f.farPlane,
          f.pitch,
          f.bobScale,
          f.sway,
          named.perspective == Perspective::first ? 1.0 : 0.0,
          1};
}

ShownFraming ActiveFraming::blended(const CompiledDesign& design) const {
  const auto number = [&](FramingParameter parameter) { return shown(parameter, design); };
  return {{number(FramingParameter::anchorHeight), number(FramingParameter::anchorRise),
           number(FramingParameter::shoulder), number(FramingParameter::tilt), 0,
           std::min(std::exp(number(FramingParameter::nearPlane)), settings(design).farPlane / 2), 0},
          settings(design).farPlane,
          pitchLimits(design),
          number(FramingParameter::bobScale),
          number(FramingParameter::sway),
          number(FramingParameter::firstPerson),
          1};
}

double ActiveFraming::shownDistance(const CompiledDesign& design, double extraDistance) const {
  const double distance =
      isPlain(design) ? distance_.shown() : std::max(distanceFromLog(shown(FramingParameter::distance, design)), 0.0);
  if (extraDistance == 0) return distance;
  const double own = logDistance(distance), farthest = shown(FramingParameter::farthest, design);
  return distanceFromLog(std::clamp(own + extraDistance, own, std::max(own, farthest)));
}

double ActiveFraming::ownFieldOfView(const CompiledDesign& design) const {
  return fieldOfViewFromLog(shown(FramingParameter::lens, design));
}

double ActiveFraming::shownFieldOfView(const CompiledDesign& design, double extraFov) const {
  const double fieldOfView = isPlain(design) ? design.fieldOfView(active_, steps_[active_])
                                             : std::clamp(ownFieldOfView(design), design.narrowest(), design.widest());
  if (extraFov == 0) return fieldOfView;
  return std::min(fieldOfViewFromLog(logTanHalfFov(fieldOfView) + extraFov),
                  std::max(fieldOfView, design.design().lock.widest));
}

/// The framing's rule for the lens as it is now; where the rule itself changes, what it is off blends away.
double ActiveFraming::lookScale(const CompiledDesign& design, const LockExtras& extras) const {
  const NamedFraming& named = design.design().framings[active_];
  const bool base = static_cast<int>(active_) == design.baseOf(named.perspective);
  const LookScale& rule = named.framing.lookScale;
  if (base && isPlain(design) && extras.fov == 0) return rule.kind == LookScaleKind::fixed ? rule.factor : 1;
  const double scale = ruledLookScale(design, shownFieldOfView(design, extras.fov));
  const double off = shown(FramingParameter::lookScale, design);
  if (off == 0) return scale;
  const ParameterRange most = design.lookScales();
  return std::clamp(scale * std::exp(off), most.low, most.high);
}

double ActiveFraming::ruledLookScale(const CompiledDesign& design, double fieldOfView) const {
  return settings(design).lookScale.at(fieldOfView, design.baseFieldOfView(active_), aspect_);
}

FramingPose ActiveFraming::poseIn(Perspective perspective, const CompiledDesign& design) const {
  const std::size_t index = design.select(perspective, conditions());
  const Framing& f = design.design().framings[index].framing;
  const auto number = [&](FramingParameter parameter, double value) { return bent(parameter, value, index, design); };
  FramingPose pose{number(FramingParameter::anchorHeight, f.anchorHeight),
                   number(FramingParameter::anchorRise, f.anchorRise),
                   number(FramingParameter::shoulder, side_ * f.shoulder),
                   number(FramingParameter::tilt, f.tilt),
                   chosenDistance(index, design),
                   f.nearPlane,
                   design.fieldOfView(index, steps_[index])};
  if (design.curves(index).empty()) return pose;
  pose.distance = distanceFromLog(number(FramingParameter::distance, logDistance(pose.distance)));
  pose.fieldOfView = fieldOfViewFromLog(number(FramingParameter::lens, logTanHalfFov(pose.fieldOfView)));
  return pose;
}

}  // namespace alpglow
