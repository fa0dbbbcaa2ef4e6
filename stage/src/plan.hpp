#pragma once
// The level from above with the paths drawn in.

#include "canvas.hpp"

#include "alpglow/io/level.hpp"
#include "alpglow/io/trace.hpp"

namespace alpglow::stage {

/// Draws the plan of what surrounds the paths into `place`; `marks` are positions in the trace that get a number.
void drawPlan(Canvas& canvas, Rectangle area, const io::Level& level, const io::Trace& trace,
              const std::vector<std::size_t>& marks);

}  // namespace alpglow::stage
