#pragma once
// What a trace says of the moment that a view shows: all but the clocks, and how far the hand moved in the frame.

#include "cameras.hpp"

#include "alpglow/io/trace.hpp"
#include "alpglow/stage/stage.hpp"
#include "alpglow/view/fading.hpp"

namespace alpglow::stage {

io::TraceFrame traceRow(const View& view, const Subject& subject, const Stage& stage, const Cameras& cameras,
                        const PlayerControls& controls);
/// How much of the subject is in the picture, and what soft things fade before it.
void addHiding(io::TraceFrame& row, const View& view, const Subject& subject, const Stage& stage, const Fading& fading);

}  // namespace alpglow::stage
