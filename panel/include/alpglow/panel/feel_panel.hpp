#pragma once
// What a player feels of a camera that runs: the numbers of `alpglow::feel` over the last seconds, and curves.
//
//   panel::FeelPanel felt;
//   felt.add(frame);                     // each frame's row of a trace
//   felt.showNumbers();                  // within ImGui::Begin … End
//   felt.showCurves();

#include "alpglow/feel/feel.hpp"
#include "alpglow/io/trace.hpp"

#include <imgui.h>

#include <deque>

namespace alpglow::panel {

class FeelPanel {
 public:
  /// Of so many seconds.
  explicit FeelPanel(double seconds = 10, const io::Limits& limits = {}) : seconds_(seconds), limits_(limits) {}

  void add(const io::TraceFrame& frame);
  void clear();
  /// Numbers that are noticeable or bad first; the rest on demand.
  void showNumbers();
  /// Distance wanted, possible and shown; yaw and pitch; lens; the camera's speed. In the room that is left.
  void showCurves();

  /// As it was worked out last, a few times a second.
  const feel::Feel& feel() const { return feel_; }
  const io::Trace& trace() const { return trace_; }
  /// Seconds since the last pop; infinite where none is remembered.
  double sincePop() const;

 private:
  void measure();

  double seconds_;
  io::Limits limits_;
  io::Trace trace_;
  feel::Feel feel_;
  double measuredAt_ = -1;
  bool all_ = false;
};

}  // namespace alpglow::panel
