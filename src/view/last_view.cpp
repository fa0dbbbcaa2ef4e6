#include "alpglow/view/last_view.hpp"

#include <cmath>

namespace alpglow {

View LastView::show(const View& view) {
  const double angles = view.yaw + view.pitch + view.roll + view.yawRate + view.pitchRate;
  const bool good = reachablePoint(view.position) && reachablePoint(view.pivot) && reachablePoint(view.velocity) &&
                    std::isfinite(angles) && std::isfinite(view.distance);
  const std::uint32_t faults = (good ? 0u : std::uint32_t{Fault::badSubject}) |
                               (legalAspect(view.aspect) ? 0u : std::uint32_t{Fault::badAspect});
  if (faults != 0) return keep(view.faults | faults);
  last_ = StoredView(view);
  return view;
}

View LastView::keep(std::uint32_t faults) const {
  View view = last_.view();
  view.faults = faults;
  view.events = 0;
  view.cut = false;
  return view;
}

}  // namespace alpglow
