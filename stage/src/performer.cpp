#include "performer.hpp"

#include <cmath>
#include <string_view>

namespace alpglow::stage {

void Performer::take(const ControlEvent& event, double time) {
  const std::string_view name = nameOf(event.control);
  if (name == "MouseMove") {
    samples_.push_back(IntentSample::look(time, {event.x, event.y}));
  } else if (name == "MouseWheel") {
    samples_.push_back(IntentSample::zoom(time, event.x));
  } else {
    values_[event.control.index] = event.x;
    if (kindOf(event.control) == ControlKind::axis) samples_.push_back(IntentSample::turn(time, turn()));
  }
}

void Performer::begin() {
  samples_.clear();
  turnAtStart_ = turn();
}

Eigen::Vector3d Performer::direction(double heading) const {
  const double right = value("PadAxis0") + value("KeyD") - value("KeyA");
  const double ahead = -value("PadAxis1") + value("KeyW") - value("KeyS");
  const Eigen::Vector3d wanted(right * std::cos(heading) - ahead * std::sin(heading), 0,
                               -right * std::sin(heading) - ahead * std::cos(heading));
  return wanted.norm() > 1 ? wanted.normalized() : wanted;
}

}  // namespace alpglow::stage
