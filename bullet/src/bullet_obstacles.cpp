#include "alpglow/bullet/bullet_obstacles.hpp"

#include "alpglow/space/sphere_triangle.hpp"

#include <BulletCollision/BroadphaseCollision/btBroadphaseInterface.h>
#include <BulletCollision/CollisionDispatch/btCollisionObject.h>
#include <BulletCollision/CollisionDispatch/btCollisionWorld.h>
#include <BulletCollision/CollisionShapes/btBoxShape.h>
#include <BulletCollision/CollisionShapes/btCompoundShape.h>
#include <BulletCollision/CollisionShapes/btConcaveShape.h>
#include <BulletCollision/CollisionShapes/btConvexPolyhedron.h>
#include <BulletCollision/CollisionShapes/btPolyhedralConvexShape.h>
#include <BulletCollision/CollisionShapes/btSphereShape.h>
#include <BulletCollision/NarrowPhaseCollision/btGjkEpaPenetrationDepthSolver.h>
#include <BulletCollision/NarrowPhaseCollision/btGjkPairDetector.h>
#include <BulletCollision/NarrowPhaseCollision/btPointCollector.h>
#include <BulletCollision/NarrowPhaseCollision/btSubSimplexConvexCast.h>
#include <BulletCollision/NarrowPhaseCollision/btVoronoiSimplexSolver.h>

#include <algorithm>
#include <cmath>

namespace alpglow::bullet {

using Eigen::Vector3d;

namespace {

static_assert(sizeof(btScalar) == sizeof(double), "the double-precision build of Bullet is needed");

btVector3 toBullet(const Vector3d& v) { return {v.x(), v.y(), v.z()}; }
Vector3d fromBullet(const btVector3& v) { return {v.x(), v.y(), v.z()}; }

template <class Visit>
class EachProxy final : public btBroadphaseAabbCallback {
 public:
  explicit EachProxy(Visit& visit) : visit_(visit) {}
  bool process(const btBroadphaseProxy* proxy) override {
    visit_(*static_cast<const btCollisionObject*>(proxy->m_clientObject));
    return true;
  }

 private:
  Visit& visit_;
};

template <class Visit>
class EachTriangle final : public btTriangleCallback {
 public:
  EachTriangle(const btTransform& toQuery, Visit& visit) : toQuery_(toQuery), visit_(visit) {}
  void processTriangle(btVector3* corners, int, int) override {
    visit_({fromBullet(toQuery_ * corners[0]), fromBullet(toQuery_ * corners[1]), fromBullet(toQuery_ * corners[2])});
  }

 private:
  const btTransform& toQuery_;
  Visit& visit_;
};

/// The two triangles of each side of a box, from its half extents.
template <class OnTriangle>
void forEachBoxTriangle(const btBoxShape& box, const btTransform& toQuery, OnTriangle& triangle) {
  const btVector3 half = box.getHalfExtentsWithMargin();
  for (int axis = 0; axis < 3; ++axis) {
    for (const double side : {-1.0, 1.0}) {
      const auto corner = [&](double u, double v) {
        btVector3 point;
        point[axis] = side * half[axis];
        point[(axis + 1) % 3] = u * half[(axis + 1) % 3];
        point[(axis + 2) % 3] = v * half[(axis + 2) % 3];
        return fromBullet(toQuery * point);
      };
      triangle({corner(-1, -1), corner(1, -1), corner(1, 1)});
      triangle({corner(-1, -1), corner(1, 1), corner(-1, 1)});
    }
  }
}

/// The faces that a convex shape lists; none if it has none.
const btConvexPolyhedron* facesOf(const btCollisionShape& shape) {
  return shape.isPolyhedral() ? static_cast<const btPolyhedralConvexShape&>(shape).getConvexPolyhedron() : nullptr;
}

/// Calls `triangle` for each triangle near the box and `other` for each convex shape that has no faces to list, all
/// relative to the query's origin. `toQuery` takes the shape's space to the query's; the box is in the query's.
template <class OnTriangle, class OnOther>
void forEachPart(const btCollisionShape& shape, const btTransform& toQuery, const btVector3& low, const btVector3& high,
                 OnTriangle& triangle, OnOther& other) {
  btVector3 shapeLow, shapeHigh;
  shape.getAabb(toQuery, shapeLow, shapeHigh);
  if (!TestAabbAgainstAabb2(shapeLow, shapeHigh, low, high)) return;
  if (shape.isCompound()) {
    const auto& compound = static_cast<const btCompoundShape&>(shape);
    for (int i = 0; i < compound.getNumChildShapes(); ++i) {
      forEachPart(*compound.getChildShape(i), toQuery * compound.getChildTransform(i), low, high, triangle, other);
    }
  } else if (shape.isConcave()) {
    btVector3 localLow, localHigh;
    btTransformAabb(low, high, 0, toQuery.inverse(), localLow, localHigh);
    EachTriangle<OnTriangle> each(toQuery, triangle);
    static_cast<const btConcaveShape&>(shape).processAllTriangles(&each, localLow, localHigh);
  } else if (shape.getShapeType() == BOX_SHAPE_PROXYTYPE) {
    forEachBoxTriangle(static_cast<const btBoxShape&>(shape), toQuery, triangle);
  } else if (const btConvexPolyhedron* faces = facesOf(shape)) {
    for (int f = 0; f < faces->m_faces.size(); ++f) {
      const btAlignedObjectArray<int>& corners = faces->m_faces[f].m_indices;
      const auto corner = [&](int i) { return fromBullet(toQuery * faces->m_vertices[corners[i]]); };
      for (int i = 1; i + 1 < corners.size(); ++i) triangle({corner(0), corner(i), corner(i + 1)});
    }
  } else {
    other(static_cast<const btConvexShape&>(shape), toQuery);
  }
}

/// Distance of the convex shape from the query's origin; 0 inside.
double distanceTo(const btConvexShape& shape, const btTransform& toQuery) {
  btSphereShape point(0);
  btVoronoiSimplexSolver simplex;
  btGjkEpaPenetrationDepthSolver penetration;
  btGjkPairDetector detector(&point, &shape, &simplex, &penetration);
  btGjkPairDetector::ClosestPointInput input;
  input.m_transformA.setIdentity();
  input.m_transformB = toQuery;
  btPointCollector nearest;
  detector.getClosestPoints(input, nearest, nullptr);
  return nearest.m_hasResult ? std::max<double>(nearest.m_distance, 0) : 0;
}

double convexContact(const btConvexShape& shape, const btTransform& toQuery, const Vector3d& displacement,
                     double length, double radius) {
  btSphereShape sphere(radius);
  btVoronoiSimplexSolver simplex;
  btSubsimplexConvexCast cast(&sphere, &shape, &simplex);
  btTransform from, to;
  from.setIdentity();
  to.setIdentity();
  to.setOrigin(toBullet(displacement));
  btConvexCast::CastResult result;
  result.m_fraction = 1;
  if (!cast.calcTimeOfImpact(from, to, toQuery, toQuery, result)) return length;
  return std::clamp<double>(result.m_fraction, 0, 1) * length;
}

/// Whether the query's origin lies inside all faces.
bool inside(const btCollisionShape& shape, const btTransform& toQuery) {
  if (shape.isCompound()) {
    const auto& compound = static_cast<const btCompoundShape&>(shape);
    for (int i = 0; i < compound.getNumChildShapes(); ++i) {
      if (inside(*compound.getChildShape(i), toQuery * compound.getChildTransform(i))) return true;
    }
    return false;
  }
  const btVector3 point = toQuery.inverse().getOrigin();
  if (shape.getShapeType() == BOX_SHAPE_PROXYTYPE) {
    const btVector3 beyond = point.absolute() - static_cast<const btBoxShape&>(shape).getHalfExtentsWithMargin();
    return std::max({beyond.x(), beyond.y(), beyond.z()}) <= 0;
  }
  const btConvexPolyhedron* faces = facesOf(shape);
  if (faces == nullptr) return false;
  for (int f = 0; f < faces->m_faces.size(); ++f) {
    const btScalar* plane = faces->m_faces[f].m_plane;
    if (btVector3(plane[0], plane[1], plane[2]).dot(point) + plane[3] > 0) return false;
  }
  return true;
}

ObstacleId idOf(const btCollisionObject& object) {
  return object.getUserIndex() >= 0 ? static_cast<ObstacleId>(object.getUserIndex()) : unnamedObstacle;
}

constexpr double firstPiece = 4;  // metres

btTransform relativeTo(const btCollisionObject& object, const Vector3d& origin) {
  btTransform toQuery = object.getWorldTransform();
  toQuery.setOrigin(toQuery.getOrigin() - toBullet(origin));
  return toQuery;
}

}  // namespace

template <class Visit>
void BulletObstacles::forEachNear(const Vector3d& low, const Vector3d& high, Visit&& visit) const {
  auto filtered = [this, &visit](const btCollisionObject& object) {
    if (!blocks_ || blocks_(object)) visit(object);
  };
  EachProxy<decltype(filtered)> each(filtered);
  // The broadphase tests boxes from outside; it is not declared const.
  const_cast<btBroadphaseInterface*>(world_.getBroadphase())->aabbTest(toBullet(low), toBullet(high), each);
}

template <class TriangleContact>
Contact BulletObstacles::firstContact(const Vector3d& from, const Vector3d& displacement, double radius,
                                      TriangleContact&& contact) const {
  const double length = displacement.norm();
  Contact first{length, noObstacle};
  if (!(length > 1e-8) || !from.allFinite() || !std::isfinite(length)) return first;
  const Vector3d direction = displacement / length;
  const Vector3d reach = Vector3d::Constant(radius + 1e-3);
  // What is near is listed along longer and longer pieces: the box of a whole long ray would hold half the world.
  double start = 0, end = firstPiece;
  while (start < first.distance) {
    const Vector3d a = start * direction, b = std::min(end, length) * direction;
    const Vector3d low = a.cwiseMin(b) - reach, high = a.cwiseMax(b) + reach;
    forEachNear(from + low, from + high, [&](const btCollisionObject& object) {
      double nearest = first.distance;
      auto triangle = [&](const Triangle& t) { nearest = std::min(nearest, contact(t, direction, nearest)); };
      auto other = [&](const btConvexShape& shape, const btTransform& toQuery) {
        nearest = std::min(nearest, convexContact(shape, toQuery, displacement, length, radius));
      };
      forEachPart(*object.getCollisionShape(), relativeTo(object, from), toBullet(low), toBullet(high), triangle,
                  other);
      if (nearest < first.distance) first = {nearest, idOf(object)};
    });
    start = end;
    end = 2 * end + firstPiece;
  }
  return first;
}

Contact BulletObstacles::sweep(const Vector3d& from, const Vector3d& displacement, double radius) const noexcept {
  return firstContact(from, displacement, radius,
                      [radius](const Triangle& t, const Vector3d& direction, double length) {
                        return sphereTriangleContact(t, direction, length, radius);
                      });
}

Contact BulletObstacles::cast(const Vector3d& from, const Vector3d& displacement) const noexcept {
  return firstContact(from, displacement, 0, rayTriangleContact);
}

double BulletObstacles::clearance(const Vector3d& point, double range) const noexcept {
  double nearest = range;
  if (!point.allFinite() || !std::isfinite(range)) return nearest;
  const Vector3d reach = Vector3d::Constant(range);
  forEachNear(point - reach, point + reach, [&](const btCollisionObject& object) {
    const btTransform toQuery = relativeTo(object, point);
    auto triangle = [&](const Triangle& t) { nearest = std::min(nearest, closestPoint(t).norm()); };
    auto other = [&](const btConvexShape& shape, const btTransform& at) {
      nearest = std::min(nearest, distanceTo(shape, at));
    };
    if (inside(*object.getCollisionShape(), toQuery)) nearest = 0;
    forEachPart(*object.getCollisionShape(), toQuery, toBullet(-reach), toBullet(reach), triangle, other);
  });
  return nearest;
}

}  // namespace alpglow::bullet
