#pragma once
// From one view to another: a change of subject, a change of camera, or taking over from a cut-scene.
//
// Put it behind whatever camera is live. What is planned is the difference to the live view, as a transition of least
// jerk: position, yaw (the short way round), pitch and roll, level axes, and the lens in ln tan(fov/2). So the live
// camera goes on underneath, and a view without roll blends into another one without rolling in between. It can begin
// anew at any moment, from where it is and with the velocity it has.
//
// The first step after `begin` looks back to the frame's start along the live view's velocity; asking the new camera at
// once, with step(0, …), is exact.
//
//   ViewTransition change;
//   change.begin(0.8);                                             // the next view comes from another camera
//   const View shown = change.step(dt, ofTheOther, &obstacles);
//   change.begin(ofTheCutScene, 1.2);                              // takes over a pose, velocity, lens and roll

#include "alpglow/base/stored_vector.hpp"
#include "alpglow/base/transition.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

#include <algorithm>

namespace alpglow {

class ViewTransition {
 public:
  /// From what was shown last to whatever comes next, over at most `seconds`; 0 cuts. Of the next frame `since` seconds
  /// have gone by already, in which it went on at its velocity.
  void begin(double seconds, double since = 0);
  /// From a view of the host's, as it was in the last frame, with its velocity.
  void begin(const View& from, double seconds, double since = 0);

  /// The view to show after `dt`. With `keepClear` the near-plane sphere comes from the live view, swept through clear
  /// space; a wall in between shortens at once and gives way gently. Through a wider lens than the live one's the near
  /// plane comes closer, so that the sphere has room where that one's has. A cut of the live view ends the transition.
  View step(double dt, const View& live, const Obstacles* keepClear = nullptr);

  /// The host shows it from there instead.
  void showFrom(const Eigen::Vector3d& position) { shown_.position = position; }

  bool done() const { return !waiting_ && place_.done() && angles_.done() && tipping_.done() && lens_.done(); }
  /// How far it has come in time, 0 … 1.
  double progress() const {
    return waiting_ ? 0 : std::min({place_.progress(), angles_.progress(), tipping_.progress(), lens_.progress()});
  }
  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset) { shown_.position = shown_.position.vector() + offset; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("shown.position shown.velocity").vectors(1e12, shown_.position, shown_.velocity);
    fields.named("shown.angles").vectors(10, shown_.angles);
    fields.named("shown.rates").vectors(1e12, shown_.rates);
    fields.named("shown.level").rotation(shown_.level);
    fields.named("shown.lens shown.lensSpeed").numbers(1e12, shown_.lens, shown_.lensSpeed);
    fields.named("shown.nearPlane near").within(1e-9, 1e5, shown_.nearPlane, near_);
    fields.named("shown.farPlane far").within(1e-3, 1e9, shown_.farPlane, far_);
    fields.named("place angles tipping lens clear").part(place_, angles_, tipping_, lens_, clear_);
    fields.named("seconds since").times(seconds_, since_);
    fields.named("waiting any").flags(waiting_, any_);
  }

 private:
  struct Pose {
    StoredVector3 position, velocity, angles, rates;  // angles: yaw, pitch, roll
    StoredRotation level;
    double lens = 0, lensSpeed = 0, nearPlane = 0.1, farPlane = 1000;
  };
  static Pose poseOf(const View& view);
  void plan(double left, const Pose& live);

  Pose shown_;  // at the last step
  Transition3 place_, angles_, tipping_;
  Transition lens_;
  EaseOut clear_;
  double seconds_ = 0, since_ = 0, near_ = 0.1, far_ = 1000;
  bool waiting_ = false, any_ = false;
};

}  // namespace alpglow
