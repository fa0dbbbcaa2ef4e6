#pragma once
// Which moments of a trace tell most: what a sheet of pictures ought to show.
//
//   for (const double time : tellingMoments(trace, 6)) paint(time);

#include "alpglow/io/trace.hpp"

#include <cstddef>
#include <vector>

namespace alpglow::feel {

/// At most so many times, the most telling first, at least `apart` seconds from each other: pops where most is lost,
/// cuts, the eyes taking over, changes of framing half-way and at their end, locks, where the camera is closest, and
/// where least is seen of the subject.
std::vector<double> tellingMoments(const io::Trace& trace, std::size_t most, double apart = 0.4);

}  // namespace alpglow::feel
