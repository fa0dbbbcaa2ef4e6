#pragma once
// What a trace says of the moment that a view shows: all but the clocks, and how far the hand moved in the frame.

#include "cameras.hpp"

#include "alpglow/io/trace.hpp"
#include "alpglow/stage/stage.hpp"
#include "alpglow/view/fading.hpp"

namespace alpglow::stage {

io::TraceFrame traceRow(const View& view, const Subject& subject, const Stage& stage, const Cameras& cameras,
                        const PlayerControls& controls);
/// How much of the subject's body is in the picture and hidden by nothing that stops the camera, 0 … 1.
double visibleShare(const View& view, const Subject& subject, const Obstacles& world);
/// The same, and what soft things fade before it.
void addHiding(io::TraceFrame& row, const View& view, const Subject& subject, const Stage& stage, const Fading& fading);

}  // namespace alpglow::stage
