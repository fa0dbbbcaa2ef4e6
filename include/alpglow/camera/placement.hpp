#pragma once
// Where the camera sits in clear space, and when the eyes take over because there is no room behind the head.
//
//   Placement placement;
//   ClearLine line = PullIn::line(request, obstacles, design.pullIn);
//   placement.advance(placement.pullIn().plan(request, motion, dt, design.pullIn), line, dt, design.pullIn);
//   const PullInPose pose = placement.place(request, line, design.pullIn, design.large);
//   framing.showEyes(placement.eyesWanted());   // a request: the owner of the framing applies it later
//
// A trivially copyable value.

#include "alpglow/assist/free_shoulder.hpp"
#include "alpglow/design/design.hpp"
#include "alpglow/follow/frame_follow.hpp"
#include "alpglow/framing/shown_framing.hpp"
#include "alpglow/space/look_past.hpp"
#include "alpglow/space/pull_in.hpp"

namespace alpglow {

/// What a pose of a framing asks of clear space for a subject. `look` is where the camera orbits, `eyeMotion` moves the
/// pivot (metres in the world), `aspect` is width over height of the screen.
PullInRequest requestFor(const FramingPose& pose, const FrameFollow& follow, const Subject& subject,
                         const LookAngles& look, const Eigen::Vector3d& eyeMotion, double aspect);

/// How much of the subject to draw, 0 … 1, for a distance from its head to the camera in metres of its scale; the head
/// as it is or as it is followed, whichever is closer: eyes that lag a crouch see nothing of the coat that they are in.
double opacityAt(double headToCamera, const FadeSettings& fade);

class Placement {
 public:
  /// Time passes.
  void advance(const PullIn::Plan& plan, ClearLine& line, double seconds, const PullInSettings& settings) {
    lookPast_.advance(seconds);
    pullIn_.advance(plan, line, settings);
  }
  /// As the room of the moment allows, and as large things do.
  PullInPose place(const PullInRequest& request, ClearLine& line, const PullInSettings& settings,
                   const LookPastSettings& large);
  /// Large things that are not fully drawn.
  const Coverings& covers() const { return lookPast_.covers(); }
  const PullIn& pullIn() const { return pullIn_; }
  bool pulledIn() const { return pullIn_.pulledIn() || lookPast_.cameIn(); }
  bool limiting() const { return pullIn_.limiting() || lookPast_.limiting(); }
  /// Forgets every limit, as after a cut.
  void cut() {
    pullIn_.cut();
    lookPast_.cut();
  }

  /// Another design has no eyes to show.
  void leaveEyes() { eyes_ = false; }
  /// The eyes ought to show, whatever perspective is chosen.
  bool eyesWanted() const { return eyes_; }
  /// Where an obstacle leaves the camera no room behind the head, the eyes take over, and give back once there has been
  /// room for the time that easing out waits. Both ask for `whole`, the whole way of the framing that would apply:
  /// being on the way between framings is no reason. `could` says whether the design lets them; `close` whether the
  /// camera has been brought closer than its limit.
  void judgeEyes(bool could, bool close, const PullInRequest& whole, double scale, const Obstacles& obstacles,
                 double seconds, const CameraDesign& design);

  /// Whether the other shoulder has been so much better for so long that the camera ought to go over; `here` is the
  /// whole way over this one.
  bool judgeShoulder(const PullInRequest& here, const Obstacles& obstacles, double seconds, const CameraDesign& design);
  /// Time passes in which that is no question; and it was swapped.
  void restShoulder(double seconds) { freeShoulder_.rest(seconds); }
  void shoulderSwapped() { freeShoulder_.swapped(); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("pullIn lookPast freeShoulder").part(pullIn_, lookPast_, freeShoulder_);
    fields.named("roomFor").times(roomFor_);
    fields.named("eyes").flag(eyes_);
  }

 private:
  PullIn pullIn_;
  LookPast lookPast_;
  FreeShoulder freeShoulder_;
  double roomFor_ = 0;  // seconds
  bool eyes_ = false;
};

}  // namespace alpglow
