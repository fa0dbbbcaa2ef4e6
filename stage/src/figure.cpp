#include "figure.hpp"

#include <Eigen/Geometry>

namespace alpglow::stage {

using Eigen::Vector3d;
using Eigen::Vector3f;

namespace {

/// A ball of 12 by 8 faces.
io::Mesh ball(const Vector3d& centre, const Vector3d& radii) {
  constexpr int around = 12, down = 8;
  io::Mesh mesh;
  for (int j = 0; j <= down; ++j) {
    for (int i = 0; i < around; ++i) {
      const double a = 2 * pi * i / around, b = pi * j / down;
      mesh.vertices.push_back(
          centre + radii.cwiseProduct(Vector3d(std::sin(b) * std::cos(a), std::cos(b), -std::sin(b) * std::sin(a))));
    }
  }
  for (int j = 0; j < down; ++j) {
    for (int i = 0; i < around; ++i) {
      const int a = j * around + i, b = j * around + (i + 1) % around;
      mesh.triangles.push_back({a, a + around, b + around});
      mesh.triangles.push_back({a, b + around, b});
    }
  }
  return mesh;
}

}  // namespace

void appendMesh(std::vector<Vertex>& vertices, const io::Mesh& mesh, const Vector3f& colour, float glow) {
  for (const auto& t : mesh.triangles) {
    const Vector3d& a = mesh.vertices[static_cast<std::size_t>(t[0])];
    const Vector3d& b = mesh.vertices[static_cast<std::size_t>(t[1])];
    const Vector3d& c = mesh.vertices[static_cast<std::size_t>(t[2])];
    const Vector3d normal = (b - a).cross(c - a);
    if (normal.norm() == 0) continue;
    for (const Vector3d& corner : {a, b, c}) {
      vertices.push_back({corner.cast<float>(), normal.normalized().cast<float>(), colour, glow});
    }
  }
}

std::vector<Vertex> wardenFigure() {
  const Vector3f coat(0.50f, 0.17f, 0.15f), cloth(0.20f, 0.22f, 0.30f), skin(0.86f, 0.66f, 0.52f),
      leather(0.36f, 0.25f, 0.16f), felt(0.26f, 0.30f, 0.24f), boot(0.14f, 0.12f, 0.11f), flame(1.0f, 0.82f, 0.45f);
  std::vector<Vertex> v;
  const auto add = [&v](const io::Mesh& mesh, const Vector3f& colour, float glow = 0) {
    appendMesh(v, mesh, colour, glow);
  };
  for (const double side : {-1.0, 1.0}) {
    add(io::boxMesh({0.11 * side, 0, -0.04}, {0.13, 0.14, 0.30}, 0), boot);
    add(io::cylinderMesh({0.11 * side, 0.12, 0}, 0.50, 0.085, 0.10), cloth);
    add(io::cylinderMesh({0.285 * side, 0.78, 0}, 0.60, 0.055, 0.085), coat);
    add(ball({0.285 * side, 0.75, -0.01}, {0.055, 0.065, 0.055}), skin);
  }
  add(io::cylinderMesh({0, 0.52, 0}, 0.50, 0.27, 0.20), coat);
  add(io::cylinderMesh({0, 1.02, 0}, 0.42, 0.20, 0.23), coat);
  add(ball({0, 1.43, 0}, {0.24, 0.09, 0.15}), coat);
  add(io::cylinderMesh({0, 0.98, 0}, 0.06, 0.215, 0.21), leather);
  add(ball({0, 1.62, -0.01}, {0.115, 0.14, 0.125}), skin);
  add(io::cylinderMesh({0, 1.68, 0}, 0.015, 0.24, 0.24), felt);
  add(io::cylinderMesh({0, 1.69, 0}, 0.12, 0.135, 0.10), felt);
  add(io::boxMesh({0, 0.98, 0.25}, {0.34, 0.42, 0.18}, 0), leather);
  add(io::cylinderMesh({-0.17, 1.37, 0.25}, 0.09, 0.08, 0.08), felt);
  add(io::cylinderMesh({-0.285, 0.52, -0.06}, 0.16, 0.055, 0.05), flame, 1);
  add(io::cylinderMesh({-0.285, 0.68, -0.06}, 0.05, 0.06, 0.02), boot);
  return v;
}

}  // namespace alpglow::stage
