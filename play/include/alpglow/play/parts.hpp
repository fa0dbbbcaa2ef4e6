#pragma once
// The parts of a frame, each to be switched off, shown alone, or exaggerated: by settings of a design, which stays
// otherwise as it is.

#include "alpglow/base/span.hpp"
#include "alpglow/design/design.hpp"

#include <array>
#include <cstddef>

namespace alpglow::play {

constexpr std::size_t partCount = 13;
/// "lag", "lead", "foresight" …
Span<const char* const> partNames();

/// How much of each part there is: 0 none, 1 as designed.
using PartFactors = std::array<double, partCount>;
PartFactors allParts();

/// The design with so much of each; numbers stay in their ranges.
CameraDesign withParts(CameraDesign design, const PartFactors& factors);

}  // namespace alpglow::play
