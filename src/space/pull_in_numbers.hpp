#pragma once
// What the two halves of the pull-in share: when it looks ahead, and how close its spheres come to things.

#include <cmath>
#include <cstddef>

namespace alpglow::pull_in {

// What taking each number out costs: docs/research/pull_in.md.
constexpr double bend = 2;     // the looks are closer together where they are soon
constexpr double spare = 0.3;  // metres: room for a sphere that is wider by this is ample
constexpr double skin = 1e-3;  // metres between the sphere and what it comes close to

/// Seconds ahead of the look with this number, of so many.
inline double timeOf(std::size_t look, std::size_t looks, double horizon) {
  return horizon * std::pow(static_cast<double>(look + 1) / static_cast<double>(looks), bend);
}

}  // namespace alpglow::pull_in
