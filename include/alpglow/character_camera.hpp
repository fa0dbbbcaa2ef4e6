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

#include "alpglow/clear.hpp"
#include "alpglow/design.hpp"
#include "alpglow/frame_follow.hpp"
#include "alpglow/framing_blend.hpp"
#include "alpglow/free_look.hpp"
#include "alpglow/head_motion.hpp"
#include "alpglow/intent.hpp"
#include "alpglow/kept_aim.hpp"
#include "alpglow/lock_on.hpp"
#include "alpglow/recentre.hpp"
#include "alpglow/steadying.hpp"
#include "alpglow/stored_view.hpp"
#include "alpglow/subject.hpp"
#include "alpglow/sway.hpp"
#include "alpglow/view.hpp"

#include <cstdint>

namespace alpglow {

/// How long the frame took: on the player's clock (look, zoom, easing) and on the world's (lag, recentring, lock on),
/// seconds. The two differ in slow motion; in a pause the world's is 0.
struct FrameTime {
  FrameTime(double both) : player(both), world(both) {}
  FrameTime(double playerSeconds, double worldSeconds) : player(playerSeconds), world(worldSeconds) {}
  double player;
  double world;
};

/// A pose relative to the subject.
struct CameraPose {
  /// Radians; brought into the limits.
  double yaw = 0, pitch = 0;
  /// Metres; brought into the framing's range.
  double distance = 0;
};

/// Which shoulder the camera looks over; `designed` is the framing's own side.
enum class Shoulder { designed, centred, other };

class CharacterCamera {
 public:
  /// Sits behind the subject at the design's starting pitch and distance. The first update cuts. The design must
  /// outlive the camera and every copy of it.
  CharacterCamera(const CompiledDesign& design, const Subject& subject);

  /// Turns and zooms, and lets recentring and lock on turn. Call it any number of times before `update`; the input
  /// shows in full in that update. In a call with look input nothing turns by itself.
  void look(FrameTime time, const Intent& intent);

  /// The horizontal direction that movement refers to, radians: known as soon as `look` returns.
  double heading() const { return state_.look.shown().yaw; }
  LookAngles lookAngles() const { return state_.look.shown(); }
  /// The turn rates that a stick causes at this moment, radians per second.
  LookAngles turnRates() const { return state_.look.rate(); }

  /// Places the camera for a subject and obstacles as they are drawn in this frame.
  View update(FrameTime time, const SubjectPath& subject, const Obstacles& obstacles, double aspect);

  /// Optional, within a frame: the subject went straight to where it is now, in this many seconds of the world's clock,
  /// and goes on at its velocity. For hosts that move it at fixed ticks: told at each tick, between two calls of
  /// `look`, the path is the same at every frame rate, assists included. `update` then covers the rest of the frame.
  void watch(double seconds, const Subject& subject);

  /// Both steps, for hosts that need nothing in between.
  View step(FrameTime time, const Intent& intent, const SubjectPath& subject, const Obstacles& obstacles,
            double aspect) {
    look(time, intent);
    return update(time, subject, obstacles, aspect);
  }

  /// Goes over to a shoulder within the framing's time.
  void setShoulder(Shoulder shoulder);

  /// Films another character from now on: the next update cuts there, with the same look and distance. For a smooth
  /// change put a ViewTransition behind it.
  void changeSubject(const Subject& subject);

  // Framings

  /// A condition holds from now on, or no more: bits of Condition, or CompiledDesign::flag. Aiming comes with the
  /// intent.
  void setCondition(std::uint32_t conditions, bool holds);
  /// Goes over to the other perspective, if the design has one.
  void switchPerspective() {
    choose(state_.perspective == Perspective::third ? Perspective::first : Perspective::third);
  }
  void choose(Perspective perspective);
  /// The chosen one; an obstacle may have left room for the eyes only (Event::eyesTookOver).
  Perspective perspective() const { return state_.perspective; }
  /// While a framing changes, the world point that the crosshair stays on moved by this much.
  void aimPointMoved(const Eigen::Vector3d& by);

  // Recentring

  /// Back behind the subject now, hold-off or not; the button's intent sample does the same.
  void recentre();
  void endHoldoff() { state_.recentre.endHoldoff(design_->design().recentre); }
  void cancelRecentre() { state_.recentre.cancel(); }
  /// Nothing turns by itself while any named reason stands; up to four at a time, false if there is no room.
  bool forbidRecentre(std::string_view reason) { return state_.recentre.forbid(reason); }
  void allowRecentre(std::string_view reason) { state_.recentre.allow(reason); }

  // Lock on

  /// Locks on to a target, goes over to another one, or tells where the same one (by its id) is now: call it in every
  /// frame, before `update`.
  void lockOn(const Target& target);
  void endLock();
  bool locked() const { return state_.lock.on(); }
  /// The target that was told last.
  Target target() const { return state_.lock.target(); }

  /// Steadying keeps what is this many metres ahead under the crosshair, instead of what a ray hits; 0 = by ray again.
  void setFocus(double distance) { state_.hostFocus = distance > 0 ? distance : 0; }

  /// Looks this way from now on; the next update cuts. Non-finite numbers change nothing.
  void setPose(const CameraPose& pose);

  /// Moves the world's origin: `offset` is added to every stored position.
  void shift(const Eigen::Vector3d& offset);

  /// The last view that `update` returned.
  View view() const;
  const CompiledDesign& design() const { return *design_; }

  /// What is saved and sent: trivially copyable, with a version and the design's digest.
  struct Saved;
  Saved save() const;
  /// Takes over a saved state; refuses one of another version or design and returns false.
  bool restore(const Saved& saved);

 private:
  struct State {
    Look look;
    FreeLook freeLook;
    OrbitDistance distance;
    double side = 1;  // of the shoulder: 1 as designed, −1 the other one
    FramingBlend blend;
    double remembered[mostFramings] = {};         // distances, by framing
    std::uint8_t steps[mostFramings] = {};        // of the ladders
    std::uint8_t active = 0, from = 0, home = 0;  // home: the one in which everything was at rest last
    Perspective perspective = Perspective::third;
    bool eyesTookOver = false;
    double roomFor = 0;  // seconds
    std::uint32_t conditions = 0;
    KeptAim aim;
    Plain3 cleared;  // how far clear space moved the pivot
    FrameFollow follow;
    HeadMotion motion;
    Focus focus;
    Sway sway;
    ClearSpace clear;
    Recentre recentre;
    LockOn lock;
    StoredView shown;
    Plain3 velocity;  // of the subject, as told last
    // Seconds of the world: looked ahead since that was told; told by `watch` in this frame; of what is next to be
    // told, gone along with already.
    double ahead = 0, watched = 0, advanced = 0;
    double body = 0, hostFocus = 0, recentred = 0;
    std::uint32_t intentFaults = 0, shownFaults = 0, blocked = 0, events = 0;
    bool cutNext = true;
  };

  const NamedFraming& namedFraming() const { return design_->design().framings[state_.active]; }
  const Framing& framing() const { return namedFraming().framing; }
  FrameFollowSettings followSettings() const;
  std::uint32_t faultsOf(const FrameTime& time, const SubjectPath& subject, double aspect) const;
  bool jumped(const SubjectPath& subject, double worldDt) const;

  void swapShoulder() { setShoulder(state_.side > 0 ? Shoulder::other : Shoulder::designed); }

  /// A number of the framing that applies, and as it is shown.
  double wanted(FramingNumber number) const;
  double number(FramingNumber which) const {
    return state_.blend.done() ? wanted(which) : wanted(which) + state_.blend.difference(which);
  }
  PitchLimits pitchLimits() const { return {number(FramingNumber::pitchLow), number(FramingNumber::pitchHigh)}; }
  double lookScale() const;
  double ruledLookScale(double fieldOfView) const;
  void easeIntoLimits(FramingNumbers& shown, const FramingNumbers& target);
  Perspective shownPerspective() const;
  void applyFraming();
  void rememberHome() {
    if (state_.blend.done()) state_.home = state_.active;
  }
  double pieceOf(double seconds, bool turns) const;
  void passNumbers(double seconds);
  void zoomBy(double notches);
  void stepLadder(int steps);
  void beginKeepingAim();
  void keepAim(const FrameFollow& follow, double foreseen = 0);
  void keepAimAhead(double seconds);
  void turnToAim(const LookAngles& turn, double foreseen = 0);
  LookAngles carriedLook(double foreseen) const;
  AimFrame aimFrame(const FrameFollow& follow) const;
  ClearPose placeOnAim(const Subject& subject, const Eigen::Vector3d& eyeMotion, const Obstacles& obstacles, double dt,
                       double aspect);
  void castAim(const Obstacles& obstacles);
  /// Turning that is not the player's: recentring and lock on.
  void assist(double seconds, const LookAngles& turning, bool hands);
  void assistByRecentring(double seconds);
  void assistByLock(double seconds, const LookAngles& leanRates);
  Heading movement() const;
  PoseChange fromDefaultPose() const;
  LockGoal goalFrom(const FrameFollow& follow, const Target& target, double aspect) const;

  /// Where the camera orbits and looks, with free look and lean, before steadying.
  LookAngles shownLook() const;
  double shownDistance() const;
  double shownFieldOfView() const;
  void follow(const SubjectPath& subject, double worldDt, bool cut);
  void followTo(const Subject& subject, double seconds);
  void followToNow();
  Eigen::Vector3d anchorOf(const FrameFollow& follow) const;
  Eigen::Vector3d anchorAt(const FrameFollow& follow, double height, double rise) const;
  Eigen::Vector3d movedEyes(double scale) const;
  /// Where a framing puts the camera, and through which lens.
  struct Seat {
    double anchorHeight, anchorRise, shoulder, tilt, distance, near, fieldOfView;
  };
  Seat shownSeat() const;
  Seat seatOf(std::size_t framing) const;
  ClearRequest requestFor(const Seat& seat, const Subject& subject, const Eigen::Vector3d& eyeMotion,
                          double aspect) const;
  void letEyesTakeOver(const Subject& subject, const Obstacles& obstacles, double dt, double aspect);
  ClearPose place(const Subject& subject, const Eigen::Vector3d& eyeMotion, const Obstacles& obstacles, double dt,
                  double aspect);
  LookAngles steadyTurn(const Eigen::Vector3d& camera, const Eigen::Vector3d& eyeMotion, const Obstacles& obstacles,
                        double dt);
  void watchTarget(double worldDt, const Eigen::Vector3d& head, const Obstacles& obstacles);
  double opacityAt(double headToCamera) const;
  void show(const Subject& subject, double aspect, const ClearPose& pose, const LookAngles& steady, bool cut,
            bool jump);
  Eigen::Vector3d velocity(const ClearPose& pose) const;
  std::uint32_t eventsOf(const ClearPose& pose, bool cut, bool jump) const;

  const CompiledDesign* design_;
  State state_;
};

struct CharacterCamera::Saved {
  std::uint32_t version = 0;
  std::uint64_t designDigest = 0;

 private:
  friend class CharacterCamera;
  State state;
};

}  // namespace alpglow
