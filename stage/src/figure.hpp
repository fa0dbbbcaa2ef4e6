#pragma once
// The subject: a simple readable figure in a long coat, with a hat, a rucksack and a lantern.

#include "offscreen.hpp"

#include "alpglow/io/level.hpp"

namespace alpglow::stage {

/// Adds a mesh in one colour, flat-shaded; `glow` 1 shines by itself.
void appendMesh(std::vector<Vertex>& vertices, const io::Mesh& mesh, const Eigen::Vector3f& colour, float glow);

/// The figure at the origin, facing −z, 1.8 m high.
std::vector<Vertex> wardenFigure();

}  // namespace alpglow::stage
