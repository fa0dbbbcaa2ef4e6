#pragma once
// A view as part of a camera's state: trivially copyable, and it comes back as it was.
//
//   StoredView last(view);
//   draw(last.view());

#include "alpglow/base/stored_vector.hpp"
#include "alpglow/view/view.hpp"

namespace alpglow {

struct StoredView {
  StoredView() = default;
  explicit StoredView(const View& view);
  View view() const;

  StoredVector3 position, head, pivot, aimPoint, velocity;
  StoredRotation level;
  ViewNumbers numbers;
};

}  // namespace alpglow
