#pragma once
// Which framing applies, and how it is shown: conditions, perspective and shoulder; each framing's own distance and
// step of its ladder; and the blend from the one before.
//
//   ActiveFraming framing(design);
//   framing.setCondition(Condition::aiming, true);
//   if (framing.changeDue(design)) {
//     const FramingChange change = framing.change(design, {}, pitch);   // for following the subject
//     report(change.from, change.to, change.seconds);
//   }
//   framing.advance(dt);
//   const ShownFraming shown = framing.shown(design, {});
//
// A trivially copyable value; the design comes along with each call, and must be the same one every time.

#include "alpglow/assist/lock_on.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/framing/framing_blend.hpp"
#include "alpglow/framing/orbit_distance.hpp"
#include "alpglow/framing/pose_course.hpp"
#include "alpglow/framing/shown_framing.hpp"

#include <cstddef>
#include <cstdint>
#include <initializer_list>

namespace alpglow {

/// What a change of framing means to following the subject.
struct FramingChange {
  /// Positions in the design.
  std::size_t from = 0, to = 0;
  /// Time of the transition, seconds; 0 cuts.
  double seconds = 0;
  /// Of the anchor as it was shown at that moment, 0 at the feet, 1 at the eyes.
  double anchorHeight = 1;
};

/// Seconds of turning at one look scale.
constexpr double finestTurn = 0.005;

class ActiveFraming {
 public:
  /// The base of the perspective that the design starts in.
  explicit ActiveFraming(const CompiledDesign& design);

  /// Goes on in another design: framings, flags and numbers of the game are matched by name. A distance that the player
  /// has chosen stays, within what the framing allows. Nothing blends.
  void changeDesign(const CompiledDesign& from, const CompiledDesign& to);

  // What decides which one applies

  /// Conditions hold from now on, or no more: bits of Condition, or CompiledDesign::flag.
  void setCondition(std::uint32_t conditions, bool holds) {
    conditions_ = holds ? conditions_ | conditions : conditions_ & ~conditions;
  }
  /// It aims while either this or `setCondition` says so.
  void aim(bool holds) { aims_ = holds; }
  /// The other perspective, if the design has it; otherwise nothing changes.
  void choose(Perspective perspective, const CompiledDesign& design);
  Perspective chosen() const { return perspective_; }
  /// The eyes show, whatever perspective is chosen.
  void showEyes(bool show) { eyes_ = show; }
  bool showsEyes() const { return eyes_; }
  /// The wheel: steps the ladder of magnifications, changes the distance, or chooses the other perspective at the near
  /// end. Positive notches come closer.
  void zoom(double notches, const CompiledDesign& design);

  /// Another framing applies than the one that is active.
  bool changeDue(const CompiledDesign& design) const { return applying(design) != active_; }
  /// The largest turn by which the change that is due, or one within the framing, keeps the aim, radians; 0 where it
  /// keeps the look. The framings at both of its ends count; through lenses of less than 60° it is as much smaller as
  /// the picture shows less.
  double keepCap(const CompiledDesign& design) const;
  /// Makes it the active one, with a blend from what is shown. A pitch limit that `pitch` is already beyond begins
  /// there and takes it along.
  FramingChange change(const CompiledDesign& design, const LockExtras& extras, double pitch);

  /// The active one and the one before it, as positions in the design.
  std::size_t active() const { return active_; }
  std::size_t from() const { return from_; }
  /// Where its curves are read off.
  CurveInputs& inputs() { return inputs_; }
  const CurveInputs& inputs() const { return inputs_; }
  const Framing& settings(const CompiledDesign& design) const { return design.design().framings[active_].framing; }
  FrameFollowSettings followSettings(const CompiledDesign& design) const;

  // What moves inside it

  /// To a shoulder within the framing's time, from wherever it is.
  void setShoulder(Shoulder shoulder, const CompiledDesign& design);
  /// The side that it is not on.
  bool aims() const { return aims_; }
  std::uint32_t conditions() const { return conditions_ | (aims_ ? Condition::aiming : 0u); }
  Shoulder otherShoulder() const { return side_ > 0 ? Shoulder::other : Shoulder::designed; }
  /// A distance at once, metres, brought into the framing's range; blends end.
  void setDistance(double distance, const CompiledDesign& design);
  /// `seconds` with a stick or key asking for this fraction of the full zoom rate. Where zooming goes by steps, it
  /// returns the notches (1 or −1) of a wheel that has turned as fast, the first one at once; otherwise 0.
  int zoomAtRate(double seconds, double rate, const CompiledDesign& design);
  /// Until it makes the next step, or comes to the end from where it would, seconds.
  double untilZoomSteps(double rate, const CompiledDesign& design) const;
  /// Somebody else than the player changes the distance, in ln(1 + d/0.5 m).
  void addLogDistance(double change, const CompiledDesign& design);
  const OrbitDistance& distance() const { return distance_; }
  /// What it is where nobody has changed it, metres.
  double defaultDistance(const CompiledDesign& design) const;

  /// Width over height of the screen, which some look scales depend on.
  void setAspect(double aspect) { aspect_ = aspect; }
  double aspect() const { return aspect_; }

  // Time

  /// The next piece of `seconds`: up to where everything has arrived; where something turns meanwhile, a short one.
  double piece(double seconds, bool turns) const;
  /// Blends go on; false where nothing blends.
  bool advance(double seconds);
  bool blending() const { return !blend_.done(); }
  /// How far the last change has come in time, 0 … 1.
  double progress() const { return blend_.progress(); }
  /// Ends every blend, as at a cut.
  void finish() { blend_.finish(); }

  // As it is shown

  ShownFraming shown(const CompiledDesign& design, const LockExtras& extras) const;
  /// How much of the unrest the framing that applies lets through, 0 … 1.
  double unrestShare(const CompiledDesign& design) const;
  /// The parts of it that look input asks for, in every piece of a frame.
  double lookScale(const CompiledDesign& design, const LockExtras& extras) const;
  PitchLimits pitchLimits(const CompiledDesign& design) const;
  /// After this much more of the blend, seconds.
  PitchLimits pitchLimitsIn(double seconds, const CompiledDesign& design) const;
  /// The lens is a curve, so the look scale changes with what it is read off at.
  bool lensBends(const CompiledDesign& design) const;
  /// The vertical field of view without what lock on adds, radians.
  double ownFieldOfView(const CompiledDesign& design) const;
  /// How the pose would go on if nothing changed any more.
  PoseCourse course(const CompiledDesign& design) const { return {blend_, targets(design)}; }
  /// Where the framing that a perspective would have now puts the camera once everything has arrived.
  FramingPose poseIn(Perspective perspective, const CompiledDesign& design) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("blend distance inputs").part(blend_, distance_, inputs_);
    for (double& distance : remembered_) fields.named("remembered").number(distance, 0, 1e6);
    for (std::uint8_t& step : steps_) fields.named("steps").whole(step, 255);
    fields.named("active").whole(active_, mostFramings - 1);
    fields.named("from").whole(from_, mostFramings - 1);
    fields.named("home").whole(home_, mostFramings - 1);
    fields.named("perspective").whole(perspective_, 1);
    fields.named("eyes aims atEnd").flags(eyes_, aims_, atEnd_);
    fields.named("conditions").ids(conditions_);
    fields.named("pushed").numbers(1, pushed_);
    fields.named("toStep").number(toStep_, 0, 1);
    fields.named("side").number(side_, -1, 1);
    fields.named("aspect").number(aspect_, narrowestAspect, widestAspect);
  }

  /// Whether it can be one of this design.
  bool legal(const CompiledDesign& design) const;

 private:
  std::size_t applying(const CompiledDesign& design) const {
    return design.select(eyes_ ? Perspective::first : perspective_, conditions());
  }
  bool leadsOn(double notches, const CompiledDesign& design) const;
  bool zoomSteps(double notches, const CompiledDesign& design) const;
  double notchesToEnd(double way, const CompiledDesign& design) const;
  double chosenDistance(std::size_t framing, const CompiledDesign& design) const;
  void rememberDistance(const CompiledDesign& design);
  double target(FramingParameter parameter, const CompiledDesign& design) const;
  /// Nothing blends or bends: the numbers are those that stand in the framing.
  bool isPlain(const CompiledDesign& design) const { return blend_.done() && design.curves(active_).empty(); }
  double plain(FramingParameter parameter, const CompiledDesign& design) const;
  double bent(FramingParameter parameter, double value, std::size_t framing, const CompiledDesign& design) const;
  FramingParameters targets(const CompiledDesign& design) const;
  double shown(FramingParameter parameter, const CompiledDesign& design) const;
  void beginAlone(FramingParameter parameter, double before, double seconds, const CompiledDesign& design);
  ShownFraming settled(const CompiledDesign& design) const;
  ShownFraming blended(const CompiledDesign& design) const;
  double shownDistance(const CompiledDesign& design, double extraDistance) const;
  double shownFieldOfView(const CompiledDesign& design, double extraFov) const;
  double ruledLookScale(const CompiledDesign& design, double fieldOfView) const;
  void easeIntoLimits(FramingParameters& shown, const FramingParameters& target, double pitch);
  void rememberHome() {
    if (blend_.done()) home_ = active_;
  }
  void stepLadder(int steps, const CompiledDesign& design);

  FramingBlend blend_;
  OrbitDistance distance_;
  CurveInputs inputs_;
  double remembered_[mostFramings] = {};           // distances, by framing
  std::uint8_t steps_[mostFramings] = {};          // of the ladders
  std::uint8_t active_ = 0, from_ = 0, home_ = 0;  // home: the one in which everything was at rest last
  Perspective perspective_ = Perspective::third;
  bool eyes_ = false, aims_ = false, atEnd_ = false;  // atEnd: a held zoom has come to the end of the distances
  std::uint32_t conditions_ = 0;
  double pushed_ = 0, toStep_ = 0;  // which way a held zoom goes; how much of the next step it has made
  double side_ = 1;                 // of the shoulder: 1 as designed, −1 the other one
  double aspect_ = 16.0 / 9.0;
};

}  // namespace alpglow
