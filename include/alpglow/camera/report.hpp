#pragma once
// What a camera says about itself: the last view, what began and ended, and what was wrong with its input.
//
//   Report report;
//   report.fault(Fault::badTarget);                        // waits for the next frame
//   View shown = view;                                     // what the other parts know of this frame
//   if (report.begin(faults)) report.show(shown, {pulledIn, headBlocked, swingingBack}, Event::cut);
//   draw(shown);
//
// A trivially copyable value.

#include "alpglow/design/design.hpp"
#include "alpglow/view/stored_view.hpp"

#include <cstdint>

namespace alpglow {

/// What goes on in a frame and is said when it begins and ends.
struct Ongoing {
  bool pulledIn = false, headBlocked = false, swingingBack = false;
};

class Report {
 public:
  /// Bits of Event and of Fault, for the next frame.
  void event(std::uint32_t bits) { events_ |= bits; }
  void fault(std::uint32_t bits) { waiting_ |= bits; }
  /// Bits of Fault, for this frame: it can be shown all the same.
  void faultNow(std::uint32_t bits) { faults_ |= bits; }
  /// What named blocks stop, bits of Blocked.
  void block(std::uint32_t bits) { blocked_ = bits; }

  /// The next frame is not connected to the last one.
  void cutNext() { cutDue_ = true; }
  bool cutDue() const { return cutDue_; }

  /// A frame begins, with these faults besides the waiting ones. False if it cannot be shown: the last view stays.
  bool begin(std::uint32_t faults);
  /// Completes the frame's view, with what goes on now and more events, and remembers it.
  void show(View& view, const Ongoing& ongoing, std::uint32_t events);
  /// The same before the first frame: a cut is still due.
  void showFirst(View view);

  /// Where the camera was.
  Eigen::Vector3d lastPosition() const { return last_.position; }

  /// The last view that was shown, with the faults and blocks of now.
  View view() const;

  /// Moves the world's origin.
  void shift(const Eigen::Vector3d& offset);

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("last").part(last_);
    fields.named("ongoing.pulledIn ongoing.headBlocked ongoing.swingingBack cutDue")
        .flags(ongoing_.pulledIn, ongoing_.headBlocked, ongoing_.swingingBack, cutDue_);
    fields.named("events waiting faults blocked").ids(events_, waiting_, faults_, blocked_);
  }

  /// Whether its last view can be one of this design.
  /// While the design changes, what is shown is within neither's limits.
  bool legal(const CompiledDesign& design, bool changing) const;
  /// The design has changed: the last view is one of this framing at rest, and on its way to it; or through its lens,
  /// if the next one cuts.
  void changeDesign(std::size_t framing, double fieldOfView, double stoop, bool cuts);

 private:
  void complete(View& view) const;

  StoredView last_;
  Ongoing ongoing_;
  std::uint32_t events_ = 0, waiting_ = 0, faults_ = 0, blocked_ = 0;
  bool cutDue_ = true;
};

}  // namespace alpglow
