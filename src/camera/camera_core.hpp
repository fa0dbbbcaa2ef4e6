#pragma once
// What a CharacterCamera is inside: its parts, and how a frame goes through them. `update` and what the host may ask
// for between its calls are in camera_core.cpp, the steps of a frame in camera_core_frame.cpp; how time passes in
// `look`, and how framings change, in camera_core_look.cpp.

#include "alpglow/assist/guide.hpp"
#include "alpglow/camera/active_framing.hpp"
#include "alpglow/camera/aim_keeper.hpp"
#include "alpglow/camera/assists.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/placement.hpp"
#include "alpglow/camera/report.hpp"
#include "alpglow/camera/subject_tracker.hpp"
#include "alpglow/camera/view_angles.hpp"
#include "alpglow/input/intent_player.hpp"
#include "alpglow/view/push.hpp"
#include "alpglow/view/unrest.hpp"
#include "alpglow/view/view_transition.hpp"

#include <cstdint>
#include <string>
#include <string_view>

namespace alpglow {

/// As CharacterCamera says.
class CameraCore {
  struct Parts;

 public:
  CameraCore(const CompiledDesign& design, const Subject& subject);
  void look(FrameTime time, const Intent& intent);
  double heading() const { return parts_.angles.heading(); }
  LookAngles lookAngles() const { return parts_.angles.look(); }
  LookAngles turnRates() const { return parts_.angles.rates(); }
  void tick(double seconds, const Subject& subject);
  View update(FrameTime time, const Subject& subject, const Obstacles& obstacles, double aspect);
  View updateWithoutSubject(FrameTime time);
  void changeSubject(const Subject& subject);
  void changeDesign(const CompiledDesign& next, double seconds);
  void setCondition(std::uint32_t conditions, bool holds);
  void switchPerspective() { choose(perspective() == Perspective::third ? Perspective::first : Perspective::third); }
  void choose(Perspective perspective);
  Perspective perspective() const { return parts_.framing.chosen(); }
  void setShoulder(Shoulder shoulder);
  void swingBack();
  void endHoldoff() { parts_.assists.endHoldoff(numbers().swingBack); }
  void cancelSwingBack() { parts_.assists.cancelSwingBack(); }
  bool forbidSwingBack(std::string_view reason) { return parts_.assists.forbidSwingBack(reason); }
  void allowSwingBack(std::string_view reason) { parts_.assists.allowSwingBack(reason); }
  void lockOn(const Target& target);
  void endLock();
  bool locked() const { return parts_.assists.lock().on(); }
  Rate flick() const { return parts_.assists.lock().flick(); }
  Target target() const { return parts_.assists.lock().target(); }
  void push(int kind, double strength, const Eigen::Vector3d& direction);
  void seed(std::uint32_t seed) {
    parts_.pushes.seed(seed);
    parts_.unrest.seed(seed);
  }
  void setUnrest(double amount) { parts_.unrest.setAmount(amount); }
  void setNumber(int number, double value) { parts_.framing.inputs().set(static_cast<std::size_t>(number), value); }
  std::uint32_t conditions() const { return parts_.framing.conditions(); }
  double number(int number) const { return parts_.framing.inputs().number(static_cast<std::size_t>(number)); }
  void guide(const GuideGoal& goal);
  void endGuide();
  bool guided() const { return parts_.guide.on(); }
  void setFocus(double distance) { parts_.angles.setFocus(distance); }
  void setPose(const CameraPose& pose);
  void shift(const Eigen::Vector3d& offset);
  View view() const { return parts_.report.view(); }
  const CompiledDesign& design() const { return *design_; }
  using Saved = CharacterCamera::Saved;
  Saved save() const;
  bool restore(const Saved& saved);
  std::string difference(const Saved& theirs, double tolerance) const;

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
