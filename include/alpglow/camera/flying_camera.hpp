#pragma once
// A camera that flies freely, for inspecting a level. The same look as a character's, no body and no walls.
//
// Speed follows what is asked for by half-life, in closed form: position += V·t + (v0 − V)(1 − e^(−λt))/λ. Braking from
// a speed v takes a way of v·h/ln2. Or evenly, with a constant acceleration a: braking takes a way of v²/(2a). The
// direction is taken from the look in the middle of each stretch between samples, which is exact for the pointer; a
// stick that turns while flying is followed to second order.
//
//   FlyingCamera camera(settings, {0, 5, 10}, {yaw, pitch});
//   camera.step(dt, controls.intent(), controls.move(), controls.rise(), fast);
//   const View view = camera.view(aspect);

#include "alpglow/base/saved_state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/framing/flight.hpp"
#include "alpglow/input/intent_player.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/view/last_view.hpp"

namespace alpglow {

class FlyingCamera : public Saveable<FlyingCamera> {
 public:
  /// Settings are kept by value; the pose is what `reset` goes back to.
  FlyingCamera(const FlightSettings& settings, const Eigen::Vector3d& position, const LookAngles& look);

  /// Flies for `dt` seconds; looking takes no time. `move` is x right and y ahead, `rise` up, each at most 1 long;
  /// non-finite input is dropped.
  void step(double dt, const Intent& intent, Rate move, double rise, bool fast);

  /// Stands here and looks there from now on, at rest; the next view cuts. Numbers beyond 1e9 or not finite change
  /// nothing.
  void setPose(const Eigen::Vector3d& position, const LookAngles& look);
  /// Stores the present pose for `reset`.
  void store() { stored_ = {position_, look_.shown()}; }
  /// Back to the stored pose, at rest; the next view cuts.
  void reset() { setPose(stored_.position, stored_.look); }

  Eigen::Vector3d position() const { return position_; }
  Eigen::Vector3d velocity() const { return velocity_; }
  /// With a bad aspect: the last good view, with a fault.
  View view(double aspect);

  static constexpr std::uint64_t savedVersion = 1;
  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("position velocity").vectors(farthestState, position_, velocity_);
    fields.named("look held").part(look_, held_);
    fields.named("stored.position").vectors(farthestState, stored_.position);
    fields.named("stored.look").angles(1e9, stored_.look);
    fields.named("last").part(last_);
    fields.named("cutNext").flag(cutNext_);
  }

 private:
  struct Pose {
    StoredVector3 position;
    LookAngles look;
  };
  void fly(double seconds, const LookAngles& look, Rate move, double rise, bool fast);
  void flyEvenly(double seconds, const Eigen::Vector3d& goal, double acceleration);

  FlightSettings settings_;
  StoredVector3 position_, velocity_;
  Look look_;
  HeldRates held_;
  Pose stored_;
  LastView last_;
  bool cutNext_ = true;
};

}  // namespace alpglow
