#include "alpglow/view/stored_view.hpp"

namespace alpglow {

StoredView::StoredView(const View& view)
    : position(view.position),
      head(view.head),
      pivot(view.pivot),
      freePosition(view.freePosition),
      aimPoint(view.aimPoint),
      velocity(view.velocity),
      level(view.level),
      numbers(view) {}

View StoredView::view() const {
  View view;
  static_cast<ViewNumbers&>(view) = numbers;
  view.position = position;
  view.head = head;
  view.pivot = pivot;
  view.freePosition = freePosition;
  view.aimPoint = aimPoint;
  view.velocity = velocity;
  view.level = level.rotation();
  return view;
}

}  // namespace alpglow
