#pragma once
// The same path at every frame rate: what a take gives at some, compared with a thousand frames a second.

#include "alpglow/stage/rehearsal.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow::testing {

/// At these rates, and at uneven times; `fine` is at a thousand, and also ends at their times.
inline void expectTheSamePath(const CompiledDesign& design, const stage::Stage& stage, const io::Take& take,
                              const stage::RehearsalOptions& fine) {
  using namespace stage;
  for (const double fps : {24.0, 30.0, 60.0, 144.0, 240.0, 0.0}) {
    RehearsalOptions options = fine;
    options.framesPerSecond = fps;
    if (fps == 0) options.frameTimes = Random(1).cut(1.3, 71);
    const io::Trace trace = rehearse(design, stage, take, options);
    Rehearsal reference(design, stage, take, fine);
    double farthest = 0, widest = 0;
    for (const io::TraceFrame& frame : trace) {
      while (reference.now() + 0.001 < frame.time - 1e-9) reference.frameUntil(reference.now() + 0.001);
      const io::TraceFrame other = reference.frameUntil(frame.time);
      farthest = std::max(farthest, (frame.camera - other.camera).norm());
      widest = std::max({widest, std::abs(shortestTurn(degrees(frame.yaw), degrees(other.yaw))) / degrees(1),
                         std::abs(frame.pitch - other.pitch)});
    }
    EXPECT_LE(farthest, 1e-3) << fps;
    EXPECT_LE(widest, 1e-2) << fps;
  }
}

}  // namespace alpglow::testing
