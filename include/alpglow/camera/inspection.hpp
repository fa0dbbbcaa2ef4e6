#pragma once
// Inspecting a still thing: dragging turns it under the camera, wheel or pinch moves in and out. The same gesture can
// move the camera around the thing, or turn the thing in front of a camera at rest: the screen shows the same.
//
//   Inspection inspection(settings, InspectionTurns::thing);
//   inspection.step(dt, controls.intent());
//   draw(thing, inspection.thing(), inspection.view(centre, aspect));

#include "alpglow/base/saved_state.hpp"
#include "alpglow/framing/framing.hpp"
#include "alpglow/framing/orbit_distance.hpp"
#include "alpglow/input/intent_player.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/view/last_view.hpp"

namespace alpglow {

enum class InspectionTurns { camera, thing };

struct InspectionSettings {
  LookSettings look;
  PitchLimits pitch = {degrees(-89), degrees(89)};
  ZoomSettings zoom;
  DistanceRange range = {0.3, 3};
  double distance = 1;
  /// How fast a third axis rolls the thing about the line of sight, radians per second.
  double rollRate = degrees(120);
  LensSpec lens;
  double nearPlane = 0.02, farPlane = 100;
};

class Inspection : public Saveable<Inspection> {
 public:
  Inspection(const InspectionSettings& settings, InspectionTurns turns);

  /// The drag of the hand carries the thing's near side with it. `roll` is a control's, −1 … 1: positive turns the
  /// thing clockwise on the screen. Non-finite input is dropped.
  void step(double dt, const Intent& intent, double roll = 0);

  /// From where the thing is seen. With a bad centre or aspect: the last good view, with a fault.
  View view(const Eigen::Vector3d& centre, double aspect);
  /// How the thing is turned about its centre; at rest if the camera turns.
  Eigen::Quaterniond thing() const;
  LookAngles angles() const { return look_.shown(); }
  /// Radians in (−π, π].
  double roll() const { return roll_; }
  double distance() const { return distance_.shown(); }

  static constexpr std::uint64_t savedVersion = 1;
  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("look distance held").part(look_, distance_, held_);
    fields.named("roll").numbers(pi, roll_);
    fields.named("last").part(last_);
  }

 private:
  InspectionSettings settings_;
  InspectionTurns turns_;
  Look look_;
  OrbitDistance distance_;
  HeldRates held_;
  double roll_ = 0;
  LastView last_;
};

}  // namespace alpglow
