#pragma once
// The guard of every camera that has no subject: a view that a renderer cannot use is never shown.
//
//   LastView last;
//   draw(last.show(view));   // the view; or the last good one, with a fault, if a number of it is bad
//
// A trivially copyable value.

#include "alpglow/view/stored_view.hpp"

namespace alpglow {

class LastView {
 public:
  /// The view, if its aspect is legal (0.05 … 20), its points are within reach and its angles are finite. Otherwise the
  /// last view that was shown, or one of the origin before the first; `View::faults` then has badAspect or badSubject
  /// and what the view itself says, and nothing begins or ends in it.
  View show(const View& view);
  /// The last view that was shown, with these faults.
  View keep(std::uint32_t faults) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("view").part(last_);
  }

 private:
  StoredView last_;
};

}  // namespace alpglow
