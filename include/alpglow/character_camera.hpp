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
#include "alpglow/free_look.hpp"
#include "alpglow/head_motion.hpp"
#include "alpglow/intent.hpp"
#include "alpglow/steadying.hpp"
#include "alpglow/subject.hpp"
#include "alpglow/transition.hpp"
#include "alpglow/view.hpp"

#include <cstdint>

namespace alpglow {

/// How long the frame took: on the player's clock (look, zoom, easing) and on the world's (lag), seconds. The two
/// differ in slow motion; in a pause the world's is 0.
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

class CharacterCamera {
 public:
  /// Sits behind the subject at the design's starting pitch and distance. The first update cuts. The design must
  /// outlive the camera and every copy of it.
  CharacterCamera(const CompiledDesign& design, const Subject& subject);

  /// Turns and zooms. Call it any number of times before `update`; the input shows in full in that update.
  void look(double dt, const Intent& intent);

  /// The horizontal direction that movement refers to, radians: known as soon as `look` returns.
  double heading() const { return state_.look.shown().yaw; }
  LookAngles lookAngles() const { return state_.look.shown(); }
  /// The turn rates that a stick causes at this moment, radians per second.
  LookAngles turnRates() const { return state_.look.rate(); }

  /// Places the camera for a subject and obstacles as they are drawn in this frame.
  View update(FrameTime time, const SubjectPath& subject, const Obstacles& obstacles, double aspect);

  /// Both steps, for hosts that need nothing in between.
  View step(FrameTime time, const Intent& intent, const SubjectPath& subject, const Obstacles& obstacles,
            double aspect) {
    look(time.player, intent);
    return update(time, subject, obstacles, aspect);
  }

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
  struct Shown {
    Plain3 head, pivot, camera;
    LookAngles look, steady, freeLook;
    double heading = 0, bobRight = 0, bobUp = 0, fromBody = 0;
    double fieldOfView = 0, aspect = 16.0 / 9.0, near = 0, far = 0, distance = 0, freeDistance = 0, opacity = 1;
    ObstacleId obstacle = noObstacle;
    std::uint32_t events = 0;
    bool pulledIn = false, headBlocked = false;
  };

  struct State {
    Look look;
    FreeLook freeLook;
    OrbitDistance distance;
    double side = 1;  // of the shoulder: 1 as designed, −1 the other one
    Transition shoulder;
    Follow follow, eyes;
    HeadMotion motion;
    Focus focus;
    ClearSpace clear;
    Shown shown;
    std::uint32_t intentFaults = 0, shownFaults = 0, blocked = 0;
    double body = 0, hostFocus = 0;
    bool cutNext = true;
  };

  const Framing& framing() const { return design_->design().framings.front().framing; }
  std::uint32_t faultsOf(const FrameTime& time, const SubjectPath& subject, double aspect) const;
  bool jumped(const SubjectPath& subject, double worldDt) const;
  void swapShoulder();
  double shoulder() const { return state_.side * framing().shoulder + state_.shoulder.difference(); }
  /// The look with free look, before steadying.
  LookAngles shownLook() const;
  void follow(const SubjectPath& subject, double worldDt, bool cut);
  void followTo(const Subject& subject, double seconds);
  Eigen::Vector3d pivotOver(const Eigen::Vector3d& eyeMotion) const;
  LookAngles steadyTurn(const Eigen::Vector3d& camera, const Eigen::Vector3d& eyeMotion, const Obstacles& obstacles,
                        double dt);
  double opacityAt(double headToCamera) const;
  void show(const Subject& subject, double aspect, const ClearPose& pose, const LookAngles& steady, bool cut,
            bool jump);

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
