#pragma once
// Shapes of Bullet's that take some making: a mesh of unlike parts, a stone with exact faces.

#include "support/reference_shapes.hpp"

#include <BulletCollision/CollisionShapes/btConvexPolyhedron.h>
#include <btBulletCollisionCommon.h>
#include <Eigen/Geometry>

#include <utility>
#include <vector>

namespace alpglow::testing {

using Eigen::Vector3d;

inline btVector3 toBullet(const Vector3d& v) { return {btScalar(v.x()), btScalar(v.y()), btScalar(v.z())}; }

/// A mesh of parts, each with its own kind of indices and vertices.
struct Parts {
  btTriangleIndexVertexArray mesh;
  std::vector<std::vector<float>> floats;
  std::vector<std::vector<double>> doubles;
  std::vector<std::vector<unsigned char>> indices;

  template <class Index, class Scalar>
  void add(const std::vector<Corners>& triangles, PHY_ScalarType indexType, PHY_ScalarType vertexType,
           std::vector<Scalar>& vertices) {
    constexpr int spare = 1;  // numbers beside each vertex and each triangle
    std::vector<Index> numbers;
    for (const Corners& t : triangles) {
      for (const Vector3d& corner : t) {
        numbers.push_back(static_cast<Index>(vertices.size() / (3 + spare)));
        for (const double x : corner) vertices.push_back(static_cast<Scalar>(x));
        vertices.insert(vertices.end(), spare, Scalar(1e9));
      }
      numbers.insert(numbers.end(), spare, Index(0));
    }
    const auto* bytes = reinterpret_cast<const unsigned char*>(numbers.data());
    indices.emplace_back(bytes, bytes + numbers.size() * sizeof(Index));
    btIndexedMesh part;
    part.m_numTriangles = static_cast<int>(triangles.size());
    part.m_triangleIndexBase = indices.back().data();
    part.m_triangleIndexStride = (3 + spare) * static_cast<int>(sizeof(Index));
    part.m_numVertices = static_cast<int>(vertices.size() / (3 + spare));
    part.m_vertexBase = reinterpret_cast<const unsigned char*>(vertices.data());
    part.m_vertexStride = (3 + spare) * static_cast<int>(sizeof(Scalar));
    part.m_vertexType = vertexType;
    mesh.addIndexedMesh(part, indexType);
  }
};

/// A round stone with 32 faces, which are exactly those of its points.
struct Stone {
  std::vector<Corners> triangles;
  btConvexPolyhedron faces;

  explicit Stone(double radius) {
    for (const double x : {-1.0, 1.0}) {
      for (const double y : {-1.0, 1.0}) {
        for (const double z : {-1.0, 1.0}) {
          Vector3d a(x, 0, 0), b(0, y, 0), c(0, 0, z);
          if (x * y * z < 0) std::swap(b, c);
          const Vector3d ab = (a + b).normalized(), bc = (b + c).normalized(), ca = (c + a).normalized();
          for (const Corners& t : {Corners{a, ab, ca}, Corners{ab, b, bc}, Corners{ca, bc, c}, Corners{ab, bc, ca}})
            triangles.push_back({radius * t[0], radius * t[1], radius * t[2]});
        }
      }
    }
    for (const Corners& t : triangles) {
      const Vector3d normal = (t[1] - t[0]).cross(t[2] - t[0]).normalized();
      btFace face;
      for (int axis = 0; axis < 3; ++axis) face.m_plane[axis] = btScalar(normal[axis]);
      face.m_plane[3] = btScalar(-normal.dot(t[0]));
      faces.m_faces.push_back(face);
    }
  }
  void makeInto(btConvexHullShape& shape) {
    for (const Corners& t : triangles) {
      for (const Vector3d& corner : t) shape.addPoint(toBullet(corner), false);
    }
    shape.setMargin(0);
    shape.recalcLocalAabb();
    shape.setPolyhedralFeatures(faces);
  }
};

}  // namespace alpglow::testing
