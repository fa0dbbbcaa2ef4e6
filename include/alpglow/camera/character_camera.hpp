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
#include "alpglow/assist/target.hpp"
#include "alpglow/base/saved_state.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/follow/subject.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

#include <algorithm>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

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
  /// Bytes of its parts (src/camera/camera_core.hpp), which no other header needs. The library asserts them.
  struct Parts {
    alignas(8) unsigned char bytes[(5591 + 9 * mostFramings + 7) / 8 * 8];
  };

 public:
  /// Sits behind the subject at the design's starting pitch and distance. The first update cuts. The design must
  /// outlive the camera and every copy of it.
  CharacterCamera(const CompiledDesign& design, const Subject& subject);
  CharacterCamera(const CompiledDesign&& temporary, const Subject& subject) = delete;

  /// Turns and zooms, and lets swinging back and lock on turn. Call it any number of times before `update`; the input
  /// shows in full in that update. In a call with look input nothing turns by itself.
  void look(FrameTime time, const Intent& intent);

  /// The horizontal direction that movement refers to, radians: known as soon as `look` returns.
  double heading() const;
  /// The look that the player has, radians: yaw is the heading; glance, sway and steadying are not in it.
  LookAngles lookAngles() const;
  /// The turn rates that a stick causes at this moment, radians per second.
  LookAngles turnRates() const;

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
  void switchPerspective();
  /// To this perspective, by a transition; nothing happens if the design does not have it.
  void choose(Perspective perspective);
  /// The chosen one; an obstacle may have left room for the eyes only (Event::eyesTookOver).
  Perspective perspective() const;
  /// To a shoulder within the framing's time.
  void setShoulder(Shoulder shoulder);

  // Swinging back

  /// Back behind the subject now, hold-off or not; the button's intent sample does the same. Nothing while locked on.
  void swingBack();
  /// Swinging back may begin without waiting any longer.
  void endHoldoff();
  /// Stops turning by itself until the player has looked around.
  void cancelSwingBack();
  /// Nothing turns by itself while any named reason stands; up to four at a time, false if there is no room.
  bool forbidSwingBack(std::string_view reason);
  /// That reason stands no more; nothing happens if it did not.
  void allowSwingBack(std::string_view reason);

  // Lock on

  /// Locks on to a target, goes to another one, or tells where the same one (by its id) is now: call it in every frame,
  /// before `update`. A target with bad numbers is left out and sets a fault.
  void lockOn(const Target& target);
  /// Lets go: what lock on added to distance and lens comes back by itself. Nothing happens if nothing is locked.
  void endLock();
  /// Something is locked on; the camera may have lost it since (Event::lockLost).
  bool locked() const;
  /// The flick for another target that no view has shown yet: to the right and up, length 1; 0 for none. For hosts that
  /// answer at their ticks; `View::flick` is the same at the end of the frame.
  Rate flick() const;
  /// The target that was told last, moved on at its velocity since then.
  Target target() const;

  // Pushes

  /// A push of this kind (CompiledDesign::push) begins, of a strength up to 1e3 either way, for the world's clock. With
  /// a direction in the world it goes there, as the shares of it along the ground are to the right and back of where
  /// the heading points; without one it goes back. Of no kind, or with bad numbers, it is left out and sets a fault.
  void push(int kind, double strength = 1, const Eigen::Vector3d& direction = Eigen::Vector3d::Zero());
  /// What pushes and unrest leave to chance follows from this.
  void seed(std::uint32_t seed);
  /// How much of the design's unrest there is from now on, 0 … 1, eased; not a number changes nothing.
  void setUnrest(double amount);

  /// What curves over a number of the game's (CompiledDesign::number) are read off at from now on, 0 … 1, eased. No
  /// such number, or not a number, changes nothing.
  void setNumber(int number, double value);

  /// The conditions that hold, as bits.
  std::uint32_t conditions() const;
  /// A number of the game's as curves have it at this moment, 0 … 1.
  double number(int number) const;

  /// Turns the look to where something is to be seen, or along a path, until `endGuide`; call it anew in every frame in
  /// which that moves. Look input counts by the goal's share meanwhile; while something is locked on, the guide waits.
  /// A bad number is a fault, and changes nothing.
  void guide(const GuideGoal& goal);
  void endGuide();
  bool guided() const;

  /// Steadying keeps what is this many metres ahead under the crosshair, instead of what a ray hits; 0 = by ray again.
  /// Like the ray it counts for the whole of the next frame.
  void setFocus(double distance);

  /// Stands this way from now on; the next update cuts, and pushes end. Numbers beyond 1e9 or not finite change
  /// nothing.
  void setPose(const CameraPose& pose);

  /// Moves the world's origin: `offset` is added to every stored position. One that is not finite, or takes the camera
  /// or its subject beyond 1e9 m, changes nothing.
  void shift(const Eigen::Vector3d& offset);

  /// The last view that `update` returned.
  View view() const;
  const CompiledDesign& design() const;

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
  class CameraCore& core();
  const class CameraCore& core() const;

  alignas(8) unsigned char core_[8 + sizeof(Parts)];
};

}  // namespace alpglow
