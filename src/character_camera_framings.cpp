// Which framing applies to the character's camera, going over between framings, and keeping the aim point meanwhile.

#include "alpglow/blend_space.hpp"
#include "alpglow/character_camera.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double ladderTime = 0.15;  // seconds from one magnification to the next
constexpr double finest = 0.005;     // seconds of turning at one look scale

}  // namespace

double CharacterCamera::wanted(FramingNumber number) const {
  const Framing& f = framing();
  switch (number) {
    case FramingNumber::anchorHeight: return f.anchorHeight;
    case FramingNumber::anchorRise: return f.anchorRise;
    case FramingNumber::shoulder: return state_.side * f.shoulder;
    case FramingNumber::tilt: return f.tilt;
    case FramingNumber::distance: return distanceSpace(state_.distance.shown());
    case FramingNumber::lens: return lensSpace(design_->fieldOfView(state_.active, state_.steps[state_.active]));
    case FramingNumber::near: return std::log(f.near);
    case FramingNumber::pitchLow: return f.pitch.low;
    case FramingNumber::pitchHigh: return f.pitch.high;
    case FramingNumber::bobScale: return f.bobScale;
    case FramingNumber::sway: return f.sway;
    case FramingNumber::firstPerson: return namedFraming().perspective == Perspective::first ? 1 : 0;
    case FramingNumber::lookScale: return 0;
  }
  return 0;
}

void CharacterCamera::setCondition(std::uint32_t conditions, bool holds) {
  const std::uint32_t before = state_.conditions;
  state_.conditions = holds ? before | conditions : before & ~conditions;
  if (state_.conditions != before) applyFraming();
}

void CharacterCamera::choose(Perspective perspective) {
  if (design_->baseOf(perspective) < 0 || perspective == state_.perspective) return;
  state_.perspective = perspective;
  applyFraming();
}

/// Goes over to the framing that applies now, from wherever things are.
void CharacterCamera::applyFraming() {
  const auto next = static_cast<std::uint8_t>(design_->select(shownPerspective(), state_.conditions));
  if (next == state_.active) return;
  followToNow();
  beginKeepingAim();
  const double scaleBefore = lookScale(), fieldOfView = shownFieldOfView();
  FramingNumbers shown, target;
  for (std::size_t i = 0; i < framingNumbers; ++i) shown[i] = number(static_cast<FramingNumber>(i));
  const FrameFollowSettings before = followSettings();
  rememberHome();
  const bool back = next == state_.home && !state_.blend.done();
  const double full = design_->design().framings[next].framing.transition;
  const double seconds = back ? std::min(state_.blend.underWay(), full) : full;

  state_.remembered[state_.active] = state_.distance.wanted();
  state_.from = state_.active;
  state_.active = next;
  state_.distance = OrbitDistance(state_.remembered[next]);
  for (std::size_t i = 0; i < framingNumbers; ++i) target[i] = wanted(static_cast<FramingNumber>(i));
  shown[placeOf(FramingNumber::lookScale)] = std::log(scaleBefore / ruledLookScale(fieldOfView));
  easeIntoLimits(shown, target);
  state_.blend.begin(shown, target, seconds, lensSpace(design_->narrowest()), lensSpace(design_->widest()));
  state_.follow.retune(state_.velocity, before, followSettings(), full, shown[placeOf(FramingNumber::anchorHeight)]);
  state_.events |= Event::framingChanged | (full > 0 ? 0u : Event::cut);
}

/// A limit that the pitch is already beyond begins there, at rest, and takes it along; nobody sees it come.
void CharacterCamera::easeIntoLimits(FramingNumbers& shown, const FramingNumbers& target) {
  const double pitch = state_.look.shown().pitch;
  const auto ease = [&](FramingNumber limit, double outward) {
    const auto i = placeOf(limit);
    const double beyond = outward * (pitch - target[i]), room = outward * (shown[i] - pitch);
    if (beyond <= 0 || room < 1e-9) return;
    shown[i] = pitch;
    state_.blend.halt(limit);
  };
  ease(FramingNumber::pitchLow, -1);
  ease(FramingNumber::pitchHigh, 1);
}

/// The next piece of a stretch: up to where everything has gone over. While anything turns meanwhile, short pieces,
/// each at the look scale of its middle.
double CharacterCamera::pieceOf(double seconds, bool turns) const {
  if (state_.blend.done()) return seconds;
  const double piece = std::min(seconds, std::max(state_.blend.left(), 1e-9));
  return turns ? std::min(piece, finest) : piece;
}

void CharacterCamera::passNumbers(double seconds) {
  if (state_.blend.done() && state_.blend.progress() >= 1) return;
  state_.blend.pass(seconds);
  state_.look.turnBy({}, pitchLimits());
}

/// From wherever it is now, also in mid-swap.
void CharacterCamera::setShoulder(Shoulder to) {
  const double shown = number(FramingNumber::shoulder);
  rememberHome();
  beginKeepingAim();
  state_.side = to == Shoulder::designed ? 1 : to == Shoulder::centred ? 0 : -1;
  state_.blend.begin(FramingNumber::shoulder, shown - wanted(FramingNumber::shoulder), framing().shoulderSwap);
}

/// Steps the ladder of magnifications, changes the distance, or goes through the door into the eyes and out of them.
void CharacterCamera::zoomBy(double notches) {
  const CameraDesign& design = design_->design();
  if (framing().lens.steps() > 1) return stepLadder(notches > 0 ? 1 : notches < 0 ? -1 : 0);
  const bool third = state_.perspective == Perspective::third;
  const bool base = static_cast<int>(state_.active) == design_->baseOf(state_.perspective);
  const DistanceRange& range = framing().distanceRange;
  if (design.zoomIntoEyes && base) {
    if (third && notches > 0 && state_.distance.wanted() <= range.nearest) return choose(Perspective::first);
    if (!third && notches < 0 && state_.distance.wanted() >= range.farthest) return choose(Perspective::third);
  }
  state_.distance.zoom(notches, design.zoom, range);
}

void CharacterCamera::stepLadder(int steps) {
  std::uint8_t& step = state_.steps[state_.active];
  const double shown = number(FramingNumber::lens);
  const int next = std::clamp(step + steps, 0, framing().lens.steps() - 1);
  if (next == step) return;
  rememberHome();
  step = static_cast<std::uint8_t>(next);
  state_.blend.begin(FramingNumber::lens, shown - wanted(FramingNumber::lens), ladderTime);
}

double CharacterCamera::ruledLookScale(double fieldOfView) const {
  return framing().lookScale.at(fieldOfView, design_->baseFieldOfView(state_.active), state_.shown.aspect);
}

/// The framing's rule for the lens as it is now; where the rule itself changes, what it is off goes over.
double CharacterCamera::lookScale() const {
  const bool base = static_cast<int>(state_.active) == design_->baseOf(namedFraming().perspective);
  if (base && state_.blend.done() && state_.lock.widen() == 0)
    return framing().lookScale.kind == LookScaleKind::fixed ? framing().lookScale.factor : 1;
  const double scale = ruledLookScale(shownFieldOfView());
  const double off = number(FramingNumber::lookScale);
  return off == 0 ? scale : scale * std::exp(off);
}

AimFrame CharacterCamera::aimFrame(const FrameFollow& follow) const {
  const double scale = follow.scale();
  return {follow.level(),
          anchorOf(follow),
          {number(FramingNumber::shoulder) * scale, number(FramingNumber::tilt), shownDistance() * scale}};
}

/// The crosshair stays on what it is on at this moment. How far that is along its ray is what was seen last, until
/// `update` looks there again.
void CharacterCamera::beginKeepingAim() {
  const StoredView& shown = state_.shown;
  if (state_.aim.on() || state_.cutNext || state_.lock.on()) return;
  const FrameFollow now = state_.follow.predicted(state_.velocity, state_.ahead, followSettings());
  const double ahead = (shown.aimPoint.vector() - shown.pivot.vector()).norm();
  state_.aim.begin(aimFrame(now), carriedLook(now.carriedYaw()), state_.cleared, shown.distance, ahead);
  state_.aim.foresee(now.carriedYaw());
}

/// Turns the look so that the kept point is under the crosshair; the player's own look since then turns the point. A
/// platform will have turned the look by what is foreseen.
void CharacterCamera::keepAim(const FrameFollow& follow, double foreseen) {
  if (!state_.aim.on()) return;
  if (state_.lock.on()) return state_.aim.end();
  state_.aim.carriedTo(foreseen);
  turnToAim(state_.aim.step(aimFrame(follow), carriedLook(foreseen), pitchLimits()), foreseen);
}

/// For the subject as it will be, up to where everything has gone over.
void CharacterCamera::keepAimAhead(double seconds) {
  if (!state_.aim.on()) return;
  const FrameFollow ahead = state_.follow.predicted(state_.velocity, state_.ahead + seconds, followSettings());
  keepAim(ahead, ahead.carriedYaw());
  if (state_.blend.done()) state_.aim.end();
}

void CharacterCamera::turnToAim(const LookAngles& turn, double foreseen) {
  state_.look.turnBy(turn, pitchLimits());
  state_.aim.turned(carriedLook(foreseen));
}

LookAngles CharacterCamera::carriedLook(double foreseen) const {
  const LookAngles look = shownLook();
  return {wrapAngle(look.yaw + foreseen), look.pitch};
}

void CharacterCamera::aimPointMoved(const Vector3d& by) {
  const Vector3d to = state_.aim.point() + by;
  if (to.allFinite() && to.cwiseAbs().maxCoeff() <= 1e9) state_.aim.pointMoved(by);
}

}  // namespace alpglow
