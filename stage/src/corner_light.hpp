#pragma once
// The light of lanterns, worked out at the corners of triangles instead of in each pixel.

#include "offscreen.hpp"

#include <vector>

namespace alpglow::stage {

/// Objects with their light; triangles near lanterns in pieces so small that none of them is seen.
std::vector<std::vector<Vertex>> litByCorners(const std::vector<std::vector<Vertex>>& objects,
                                              const std::vector<Eigen::Vector3f>& lanterns);

}  // namespace alpglow::stage
