#include "corner_light.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3f;

namespace {

/// The light of lanterns at a corner, as the shaders have it for a pixel.
Vector3f lanternLight(const Vertex& corner, const std::vector<Vector3f>& lanterns) {
  Vector3f light = Vector3f::Zero();
  for (const Vector3f& lantern : lanterns) {
    const Vector3f to = lantern - corner.position;
    const float square = to.squaredNorm(), facing = std::max(corner.normal.dot(to) / std::sqrt(square + 1e-4f), 0.0f);
    light += Vector3f(1, 0.66f, 0.30f) * ((0.35f + 0.65f * facing) * 1.5f / (1 + 0.9f * square));
  }
  return light;
}

/// Triangles near lanterns in pieces so small that light by corners shows no corners.
void appendPieces(std::vector<Vertex>& pieces, const std::array<Vertex, 3>& whole,
                  const std::vector<Vector3f>& lanterns) {
  constexpr float small = 1.5f, lit = 2.5f;
  std::size_t longest = 0;
  const auto edge = [&whole](std::size_t i) { return (whole[(i + 1) % 3].position - whole[i].position).norm(); };
  for (std::size_t i = 1; i < 3; ++i) longest = edge(i) > edge(longest) ? i : longest;
  const Vector3f middle = (whole[0].position + whole[1].position + whole[2].position) / 3;
  const bool near = std::any_of(lanterns.begin(), lanterns.end(), [&](const Vector3f& lantern) {
    return (lantern - middle).norm() < lit + edge(longest);
  });
  if (!near || edge(longest) < small) {
    for (Vertex corner : whole) {
      corner.lantern = lanternLight(corner, lanterns);
      pieces.push_back(corner);
    }
    return;
  }
  Vertex half = whole[longest];
  half.position = (whole[longest].position + whole[(longest + 1) % 3].position) / 2;
  std::array<Vertex, 3> first = whole, second = whole;
  first[(longest + 1) % 3] = half;
  second[longest] = half;
  appendPieces(pieces, first, lanterns);
  appendPieces(pieces, second, lanterns);
}

}  // namespace

std::vector<std::vector<Vertex>> litByCorners(const std::vector<std::vector<Vertex>>& objects,
                                              const std::vector<Vector3f>& lanterns) {
  std::vector<std::vector<Vertex>> lit;
  for (const std::vector<Vertex>& object : objects) {
    std::vector<Vertex>& pieces = lit.emplace_back();
    for (std::size_t i = 0; i + 2 < object.size(); i += 3)
      appendPieces(pieces, {object[i], object[i + 1], object[i + 2]}, lanterns);
  }
  return lit;
}

}  // namespace alpglow::stage
