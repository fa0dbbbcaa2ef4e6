#pragma once
// The camera of one character: a copyable value that refers to an immutable design.
//
//   const CompiledDesign design{CameraDesign()};
//   CharacterCamera camera(design, subject);              // looks where the subject faces
//   for (;;) {
//     camera.look(dt, intent);                            // first: the heading is known ...
//     moveCharacter(camera.heading());                    // ... before the host moves the character
//     const View view = camera.update(dt, subject, obstacles, aspect);
//   }
//
// A copy is a snapshot and assignment is a restore. `look` and `update` allocate nothing, throw nothing and never
// return a non-finite number: bad input leaves the last good view and says so in its faults.

#include "alpglow/assist/guide.hpp"
#include "alpglow/base/saved_state.hpp"
#include "alpglow/camera/active_framing.hpp"
#include "alpglow/camera/aim_keeper.hpp"
#include "alpglow/camera/assists.hpp"
#include "alpglow/camera/placement.hpp"
#include "alpglow/camera/report.hpp"
#include "alpglow/camera/subject_tracker.hpp"
#include "alpglow/camera/view_angles.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/follow/subject.hpp"
#include "alpglow/input/intent_player.hpp"
#include "alpglow/view/view.hpp"
#include "alpglow/view/view_transition.hpp"

#include <algorithm>
#include <cstdint>
#include <optional>
#include <string>

namespace alpglow {

/// How long the frame took: on the player's clock (look, zoom, easing) and on the world's (lag, swinging back, lock
/// on), seconds. The two differ in slow motion; in a pause the world's is 0.
struct FrameTime {
  FrameTime(double both) : player(both), world(both) {}
  FrameTime(double playerSeconds, double worldSeconds) : player(playerSeconds), world(worldSeconds) {}

  /// Both can pass (base/limits.hpp): 0 … 1e6 seconds.
  bool legal() const { return legalTime(player) && legalTime(world); }
  /// With less than a nanosecond counted as no time.
  FrameTime counted() const { return {countedTime(player), countedTime(world)}; }
  /// How fast the world's clock goes by the player's: 0 … 1e9, so that no time times it is not a number.
  double pace() const { return player > 0 ? std::min(world / player, 1e9) : 0; }
  double player;
  double world;
};

/// A pose relative to the subject. What is not said stays as it is.
struct CameraPose {
  /// Radians; brought into the limits.
  std::optional<double> yaw, pitch;
  /// Metres; brought into the framing's range.
  std::optional<double> distance;
};

class CharacterCamera {
  struct Parts;

 public:
  /// Sits behind the subject at the design's starting pitch and distance. The first update cuts. The design must
  /// outlive the camera and every copy of it.
  CharacterCamera(const CompiledDesign& design, const Subject& subject);
  CharacterCamera(const CompiledDesign&& temporary, const Subject& subject) = delete;

  /// Turns and zooms, and lets swinging back and lock on turn. Call it any number of times before `update`; the input
  /// shows in full in that update. In a call with look input nothing turns by itself.
  void look(FrameTime time, const Intent& intent);

  /// The horizontal direction that movement refers to, radians: known as soon as `look` returns.
  double heading() const { return parts_.angles.heading(); }
  /// The look that the player has, radians: yaw is the heading; glance, sway and steadying are not in it.
  LookAngles lookAngles() const { return parts_.angles.look(); }
  /// The turn rates that a stick causes at this moment, radians per second.
  LookAngles turnRates() const { return parts_.angles.rates(); }

  /// Within a frame, for hosts that move the subject at fixed ticks: it went straight to where it is now, in this many
  /// seconds of the world's clock, and goes on at its velocity. Told at each tick, between two calls of `look`, the
  /// path is the same at every frame rate, with assists and for a subject that walks where the view looks. `update`
  /// then covers the rest of the frame. Bad numbers are left out and set a fault.
  void tick(double seconds, const Subject& subject);

  /// Places the camera for a subject and obstacles as they are drawn in this frame; it went straight there since the
  /// last tick or frame. `aspect` is width over height of the screen, 0.05 … 20.
  View update(FrameTime time, const Subject& subject, const Obstacles& obstacles, double aspect);
  /// Instead, in a frame that has no subject: the last view stays, and its faults say so.
  View updateWithoutSubject(FrameTime time);

  /// `look` and `update`, for hosts that need nothing in between.
  View step(FrameTime time, const Intent& intent, const Subject& subject, const Obstacles& obstacles, double aspect) {
    look(time, intent);
    return update(time, subject, obstacles, aspect);
  }

  /// Films another character from now on: the next update cuts there, with the same look and distance. For a smooth
  /// change put a ViewTransition behind it. A subject with bad numbers is left out and sets a fault.
  void changeSubject(const Subject& subject);

  /// Goes on with another design, or the same one with other preferences: a file that was edited, a slider that was
  /// moved. Over `seconds` what is shown goes there, and look, zoom, perspective, conditions, lock and guide stay; with
  /// 0 the next update cuts. Framings, flags and numbers of the game are matched by name, and a distance that the
  /// player has not changed becomes the new one; pushes end. The new design must outlive the camera; the old one may go
  /// when the call returns. States saved before are refused. Push, flag and number of a name may be others now: ask the
  /// new design for them.
  void changeDesign(const CompiledDesign& next, double seconds = 0.4);
  void changeDesign(const CompiledDesign&& temporary, double seconds = 0.4) = delete;

  // Framings

  /// A condition holds from now on, or no more: bits of Condition, or CompiledDesign::flag. It aims while either this
  /// or the intent says so.
  void setCondition(std::uint32_t conditions, bool holds);
  /// To the other perspective, by a transition, if the design has one.
  void switchPerspective() { choose(perspective() == Perspective::third ? Perspective::first : Perspective::third); }
  /// To this perspective, by a transition; nothing happens if the design does not have it.
  void choose(Perspective perspective);
  /// The chosen one; an obstacle may have left room for the eyes only (Event::eyesTookOver).
  Perspective perspective() const { return parts_.framing.chosen(); }
  /// To a shoulder within the framing's time.
  void setShoulder(Shoulder shoulder);

  // Swinging back

  /// Back behind the subject now, hold-off or not; the button's intent sample does the same. Nothing while locked on.
  void swingBack();
  /// Swinging back may begin without waiting any longer.
  void endHoldoff() { parts_.assists.endHoldoff(numbers().swingBack); }
  /// Stops turning by itself until the player has looked around.
  void cancelSwingBack() { parts_.assists.cancelSwingBack(); }
  /// Nothing turns by itself while any named reason stands; up to four at a time, false if there is no room.
  bool forbidSwingBack(std::string_view reason) { return parts_.assists.forbidSwingBack(reason); }
  /// That reason stands no more; nothing happens if it did not.
  void allowSwingBack(std::string_view reason) { parts_.assists.allowSwingBack(reason); }

  // Lock on

  /// Locks on to a target, goes to another one, or tells where the same one (by its id) is now: call it in every frame,
  /// before `update`. A target with bad numbers is left out and sets a fault.
  void lockOn(const Target& target);
  /// Lets go: what lock on added to distance and lens comes back by itself. Nothing happens if nothing is locked.
  void endLock();
  /// Something is locked on; the camera may have lost it since (Event::lockLost).
  bool locked() const { return parts_.assists.lock().on(); }
  /// The flick for another target that no view has shown yet: to the right and up, length 1; 0 for none. For hosts that
  /// answer at their ticks; `View::flick` is the same at the end of the frame.
  Rate flick() const { return parts_.assists.lock().flick(); }
  /// The target that was told last, moved on at its velocity since then.
  Target target() const { return parts_.assists.lock().target(); }

  // Pushes

  /// A push of this kind (CompiledDesign::push) begins, of a strength up to 1e3 either way, for the world's clock. With
  /// a direction in the world it goes there, as the shares of it along the ground are to the right and back of where
  /// the heading points; without one it goes back. Of no kind, or with bad numbers, it is left out and sets a fault.
  void push(int kind, double strength = 1, const Eigen::Vector3d& direction = Eigen::Vector3d::Zero());
  /// What pushes and unrest leave to chance follows from this.
  void seed(std::uint32_t seed) {
    parts_.pushes.seed(seed);
    parts_.unrest.seed(seed);
  }
  /// How much of the design's unrest there is from now on, 0 … 1, eased; not a number changes nothing.
  void setUnrest(double amount) { parts_.unrest.setAmount(amount); }

  /// What curves over a number of the game's (CompiledDesign::number) are read off at from now on, 0 … 1, eased. No
  /// such number, or not a number, changes nothing.
  void setNumber(int number, double value) { parts_.framing.inputs().set(static_cast<std::size_t>(number), value); }

  /// The conditions that hold, as bits.
  std::uint32_t conditions() const { return parts_.framing.conditions(); }
  /// A number of the game's as curves have it at this moment, 0 … 1.
  double number(int number) const { return parts_.framing.inputs().number(static_cast<std::size_t>(number)); }

  /// Turns the look to where something is to be seen, or along a path, until `endGuide`; call it anew in every frame in
  /// which that moves. Look input counts by the goal's share meanwhile; while something is locked on, the guide waits.
  /// A bad number is a fault, and changes nothing.
  void guide(const GuideGoal& goal);
  void endGuide();
  bool guided() const { return parts_.guide.on(); }

  /// Steadying keeps what is this many metres ahead under the crosshair, instead of what a ray hits; 0 = by ray again.
  /// Like the ray it counts for the whole of the next frame.
  void setFocus(double distance) { parts_.angles.setFocus(distance); }

  /// Stands this way from now on; the next update cuts, and pushes end. Numbers beyond 1e9 or not finite change
  /// nothing.
  void setPose(const CameraPose& pose);

  /// Moves the world's origin: `offset` is added to every stored position. One that is not finite, or takes the camera
  /// or its subject beyond 1e9 m, changes nothing.
  void shift(const Eigen::Vector3d& offset);

  /// The last view that `update` returned.
  View view() const { return parts_.report.view(); }
  const CompiledDesign& design() const { return *design_; }

  /// What is saved and sent: trivial, with a version, the design's digest and a checksum.
  using Saved = SavedState<Parts>;
  /// The whole state at this moment; the design is not in it, only its digest.
  Saved save() const;
  /// Takes over a saved state. Refuses one of another version or design, one that was damaged, and one with a number
  /// that no camera of this design could have: returns false, and nothing changes.
  bool restore(const Saved& saved);
  /// Where a saved state first differs from this camera's, in words: "assists.lock.yawError: 0.25 here, 0.5 there".
  /// Empty if they are the same, or if no number differs by more than `tolerance` (absolute up to 1, relative beyond),
  /// as between compilers. For finding out why two machines went apart; it allocates.
  std::string difference(const Saved& theirs, double tolerance = 0) const;

 private:
  /// Each owns what it knows and none knows another: only the camera hands results from one to the next.
  struct Parts {
    ActiveFraming framing;   // which framing applies, and the blend into it
    SubjectTracker subject;  // as followed, and where it will be
    ViewAngles angles;       // the look, and what is added to it
    Assists assists;         // what turns it beside the player
    AimKeeper aim;           // what is under the crosshair, kept there through changes
    Placement placement;     // clear space, and the eyes taking over in it
    Report report;           // the last view, events and faults
    HeldRates held;          // what the intent asked for last, which holds
    Guide guide;             // by the game
    Pushes pushes;           // likewise
    Unrest unrest;           // of the hand that holds it
    ViewTransition change;   // from one design to another

    template <class Fields>
    void state(Fields& fields) {
      fields.named("framing subject angles assists aim placement report held guide pushes unrest change")
          .part(framing, subject, angles, assists, aim, placement, report, held, guide, pushes, unrest, change);
    }
  };

  const CameraDesign& numbers() const { return design_->design(); }
  ShownFraming shownFraming() const { return parts_.framing.shown(*design_, parts_.assists.lock().extras()); }
  FrameFollowSettings followSettings() const { return parts_.framing.followSettings(*design_); }
  double lookScale(double pitch, double later) const;
  PitchLimits pitchLimits() const { return parts_.framing.pitchLimits(*design_); }
  SwingBackSettings swingBackSettings() const;
  PullInSettings pullInSettings() const;
  LookAngles shownLook(const PitchLimits& pitch, double predictedYaw = 0) const;
  PoseChange fromDefaultPose() const;

  // What the last frame asked for, and changes of framing
  void applyRequests();
  void applyFraming();
  void beginKeepingAim(double cap);
  bool canKeepAim() const;
  void goOnKeepingAim();
  void readPitch();
  void catchUp();
  void apply(const SubjectStep& step);

  // While time passes in `look`
  LookConditions lookConditions() const;
  LookConditions conditionsIn(double seconds) const;
  Rate scaleOf(const PlayedRates& rates, double piece, double pace) const;
  void onSample(const IntentSample& sample);
  void aim(bool holds);
  void displace(Displacement counts);
  void advance(double seconds, double pace, const PlayedRates& rates, bool hands, int& pieces);
  void advanceFraming(double seconds);
  void advancePushes(double seconds);
  void countered(const LookAngles& before);
  void keepAim();
  void assist(double seconds, const LockPush& push, bool hands, const LookAngles& byPlayer);
  bool guides() const { return parts_.guide.acting() && !locked(); }
  void guideBy(double seconds, const LookAngles& byPlayer);
  void swingBackBy(double seconds);
  void driftBy(double seconds, bool hands);
  bool closeToTarget() const;
  void turnToTarget(double seconds, const LockPush& push);
  LockGoal lockGoalFor(const FrameFollow& follow, const ShownFraming& framing) const;

  // In a frame of `update`
  struct Placed {
    const TargetReport& target;
    const PullInPose& pose;
    const SteadiedLook& look;
  };
  bool hasJumped(const Subject& subject, double seconds) const;
  void bend(const Subject& subject, double seconds);
  void advanceNumbers(double seconds);
  void cutTo(const Subject& subject);
  PullInRequest request(const FramingPose& pose, const Subject& subject, const PitchLimits& pitch,
                        const Eigen::Vector3d& eyeMotion) const;
  PullInMotion motion(const Subject& subject, FrameTime time) const;
  Bounds reach(const PullInRequest& first, const PullIn::Plan& plan, const Subject& subject) const;
  Eigen::Vector3d movedEyes(const ShownFraming& framing, const Pushed& pushed, const Wandered& wandered) const;
  PullInPose place(const ShownFraming& framing, const Subject& subject, const Eigen::Vector3d& eyeMotion,
                   const Obstacles& obstacles, FrameTime time);
  TargetReport checkTarget(double seconds, const Eigen::Vector3d& eyes, const Obstacles& obstacles);
  bool clearFromLast(const View& view, const PullInPose& pose, const Obstacles& obstacles) const;
  void showPushed(View& view, const Pushed& pushed, const PitchLimits& pitch) const;
  void showChange(View& view, const PullInPose& pose, double seconds, const Obstacles& obstacles);
  Eigen::Vector3d blendVelocity(const Subject& subject, const ShownFraming& framing, const PullInPose& placed) const;
  View describe(const Subject& subject, const ShownFraming& framing, const Placed& placed);
  void judgeEyes(const PullInPose& pose, const Subject& subject, const Obstacles& obstacles, double seconds);
  void judgeShoulder(const PullInPose& pose, const Subject& subject, const Obstacles& obstacles, double seconds);
  View keepLastView();
  View beginAnew(const Subject& subject);

  const CompiledDesign* design_;
  Parts parts_;
};

}  // namespace alpglow
