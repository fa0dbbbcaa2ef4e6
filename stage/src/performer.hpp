#pragma once
// Turns the control events of a take into what the character and the camera are asked to do.

#include "alpglow/control.hpp"
#include "alpglow/intent.hpp"

#include <Eigen/Core>

#include <vector>

namespace alpglow::stage {

class Performer {
 public:
  /// An event at `time` seconds after the start of the stretch that is being gathered.
  void take(const ControlEvent& event, double time);

  /// The intent gathered since the last call of `begin`; it refers to this performer.
  Intent intent() const { return {samples_, turnAtStart_}; }
  /// Starts to gather for the next stretch.
  void begin();

  /// Movement in the ground plane for a heading: unit length or shorter, finite at every pitch.
  Eigen::Vector3d direction(double heading) const;
  bool running() const { return held("ShiftLeft") || held("PadButton10"); }

 private:
  bool held(const char* control) const { return value(control) > 0.5; }
  double value(const char* control) const { return values_[findControl(control).index]; }
  Rate turn() const { return {value("PadAxis2"), -value("PadAxis3")}; }

  std::vector<double> values_ = std::vector<double>(controlNames().size(), 0.0);
  std::vector<IntentSample> samples_;
  Rate turnAtStart_;
};

}  // namespace alpglow::stage
