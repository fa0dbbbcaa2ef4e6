#include "alpglow/camera/report.hpp"

#include "alpglow/base/log_scales.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

bool Report::legal(const CompiledDesign& design, bool changing) const {
  const ViewNumbers& last = last_.numbers;
  const auto exists = [&](int framing) { return static_cast<std::size_t>(framing) < design.design().framings.size(); };
  if (!exists(last.framing) || !exists(last.framingFrom)) return false;
  if (changing) return true;
  const PushLimits& pushes = design.design().pushLimits;
  const bool pushed = !design.pushes().empty();
  const double room = pushed ? std::log(pushes.lens) : 0, turn = pushed ? pushes.turn + 1e-6 : 0,
               roll = pushed ? pushes.roll + 1e-6 : 0, wanders = design.design().unrest.roll;
  const double narrowest = logTanHalfFov(design.narrowest()) - room,
               widest = logTanHalfFov(std::max(design.widest(), design.design().lock.widest)) + room,
               shown = logTanHalfFov(last.fieldOfView);
  if (std::abs(last.roll) > roll + wanders + 1e-9 * wanders || std::abs(last.pushYaw) > turn ||
      std::abs(last.pushPitch) > turn)
    return false;
  return shown >= narrowest - 1e-9 && shown <= widest + 1e-9 && last.stooped <= design.design().pullIn.stoop;
}

void Report::changeDesign(std::size_t framing, double fieldOfView, double stoop, bool cuts) {
  ViewNumbers& last = last_.numbers;
  last.stooped = std::min(last.stooped, stoop);
  last.framing = last.framingFrom = static_cast<int>(framing);
  last.framingBlend = 1;
  last.designBlend = cuts ? 1 : 0;
  if (!cuts) return;
  last.fieldOfView = fieldOfView;
  last.roll = last.pushYaw = last.pushPitch = 0;
  cutDue_ = true;
}

bool Report::begin(std::uint32_t faults) {
  faults_ = faults | waiting_;
  waiting_ = 0;
  last_.numbers.events = 0;
  constexpr std::uint32_t goesOn =
      Fault::badIntent | Fault::badTarget | Fault::badPush | Fault::badGuide | Fault::costly;
  return (faults_ & ~goesOn) == 0;
}

void Report::show(View& view, const Ongoing& ongoing, std::uint32_t events) {
  const auto turned = [](bool before, bool now, Event::Bit began, Event::Bit ended) {
    return before == now ? 0u : std::uint32_t{now ? began : ended};
  };
  view.pulledIn = ongoing.pulledIn;
  view.events = events_ | events | turned(ongoing_.pulledIn, ongoing.pulledIn, Event::pullInBegan, Event::pullInEnded) |
                turned(ongoing_.headBlocked, ongoing.headBlocked, Event::headBlocked, Event::headFreed) |
                turned(ongoing_.swingingBack, ongoing.swingingBack, Event::swingBackBegan, Event::swingBackEnded);
  events_ = 0;
  ongoing_ = ongoing;
  cutDue_ = false;
  complete(view);
  last_ = StoredView(view);
}

void Report::showFirst(View view) {
  show(view, {}, Event::cut);
  cutDue_ = true;
}

View Report::view() const {
  View view = last_.view();
  complete(view);
  return view;
}

/// What is of now, also where the last view stays.
void Report::complete(View& view) const {
  view.cut = (view.events & Event::cut) != 0;
  view.interpolable &= !view.cut;
  view.faults = faults_;
  view.blocked = blocked_;
}

void Report::shift(const Eigen::Vector3d& offset) {
  for (StoredVector3* point : {&last_.head, &last_.pivot, &last_.position, &last_.freePosition, &last_.aimPoint})
    *point = point->vector() + offset;
}

}  // namespace alpglow
