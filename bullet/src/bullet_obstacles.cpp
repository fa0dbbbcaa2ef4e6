#include "alpglow/bullet/bullet_obstacles.hpp"

#include "exact_hulls.hpp"
#include "mesh_reader.hpp"

#include "alpglow/space/first_contact.hpp"

#include <BulletCollision/BroadphaseCollision/btBroadphaseInterface.h>
#include <BulletCollision/BroadphaseCollision/btDbvtBroadphase.h>
#include <BulletCollision/CollisionDispatch/btCollisionObject.h>
#include <BulletCollision/CollisionDispatch/btCollisionWorld.h>
#include <BulletCollision/CollisionShapes/btBoxShape.h>
#include <BulletCollision/CollisionShapes/btBvhTriangleMeshShape.h>
#include <BulletCollision/CollisionShapes/btCapsuleShape.h>
#include <BulletCollision/CollisionShapes/btCompoundShape.h>
#include <BulletCollision/CollisionShapes/btConeShape.h>
#include <BulletCollision/CollisionShapes/btCylinderShape.h>
#include <BulletCollision/CollisionShapes/btSphereShape.h>
#include <BulletCollision/CollisionShapes/btStaticPlaneShape.h>
#include <BulletDynamics/Dynamics/btRigidBody.h>

#include <algorithm>
#include <cmath>
#include <typeinfo>

namespace alpglow::bullet {

using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

btVector3 toBullet(const Vector3d& v) {
  return {static_cast<btScalar>(v.x()), static_cast<btScalar>(v.y()), static_cast<btScalar>(v.z())};
}
Vector3d fromBullet(const btVector3& v) { return {v.x(), v.y(), v.z()}; }
Matrix3d fromBullet(const btMatrix3x3& m) {
  Matrix3d result;
  for (int i = 0; i < 3; ++i) result.row(i) = fromBullet(m[i]).transpose();
  return result;
}

/// Of Bullet's bounds and of a list's, metres: more than single precision loses within a kilometre.
constexpr double beside = 1e-3;

/// A callback of Bullet's as a callable.
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
  explicit EachTriangle(Visit& visit) : visit_(visit) {}
  void processTriangle(btVector3* corners, int, int) override { visit_(corners); }

 private:
  Visit& visit_;
};
template <class Visit>
class EachLeaf final : public btDbvt::ICollide {
 public:
  explicit EachLeaf(Visit& visit) : visit_(visit) {}
  void Process(const btDbvtNode* leaf) override {
    visit_(*static_cast<const btCollisionObject*>(static_cast<const btBroadphaseProxy*>(leaf->data)->m_clientObject));
  }

 private:
  Visit& visit_;
};

Vector3d axisOf(const btTransform& at, int axis) { return fromBullet(at.getBasis().getColumn(axis)).normalized(); }

/// Of a mesh that has one. Asking it does not change it, but is not declared const.
btOptimizedBvh* treeOf(const btCollisionShape& shape) {
  if (shape.getShapeType() != TRIANGLE_MESH_SHAPE_PROXYTYPE) return nullptr;
  return const_cast<btBvhTriangleMeshShape&>(static_cast<const btBvhTriangleMeshShape&>(shape)).getOptimizedBvh();
}

/// Brings triangles to where their mesh is.
class Placing {
 public:
  explicit Placing(const btTransform& at) : turn_(fromBullet(at.getBasis())), origin_(fromBullet(at.getOrigin())) {
    none_ = turn_ == Matrix3d::Identity() && origin_ == Vector3d::Zero();
  }
  Span<const Triangle> operator()(Span<Triangle> triangles) const {
    for (Triangle& t : none_ ? Span<Triangle>() : triangles)
      t = {turn_ * t.a + origin_, turn_ * t.b + origin_, turn_ * t.c + origin_};
    return {triangles.begin(), triangles.size()};
  }

 private:
  const Matrix3d turn_;
  const Vector3d origin_;
  bool none_;
};

/// How far a convex shape of Bullet's reaches, without its margin.
Vector3d reach(const void* self, const Vector3d& direction) {
  const double size = direction.norm();
  const btVector3 along = size > 0 ? toBullet(direction / size) : btVector3(0, 1, 0);
  return fromBullet(static_cast<const btConvexShape*>(self)->localGetSupportingVertexWithoutMargin(along));
}

/// The same of a hull's points, which are asked for many times a frame.
Vector3d reachOfHull(const void* self, const Vector3d& direction) {
  const auto& hull = *static_cast<const btConvexHullShape*>(self);
  const btVector3 along = toBullet(direction) * hull.getLocalScalingNV();
  const btVector3* const points = hull.getUnscaledPoints();
  int farthest = 0;
  btScalar most = along.dot(points[0]);
  for (int i = 1; i < hull.getNumPoints(); ++i) {
    const btScalar far = along.dot(points[i]);
    if (far > most) most = far, farthest = i;
  }
  return fromBullet(points[farthest] * hull.getLocalScalingNV());
}

Bounds boundsOf(const btCollisionObject& object) {
  const btBroadphaseProxy* proxy = object.getBroadphaseHandle();
  if (proxy == nullptr) return Bounds::everything();
  return Bounds{fromBullet(proxy->m_aabbMin), fromBullet(proxy->m_aabbMax)}.grown(beside);
}

/// What moves as a body does, or as its host has said by its interpolation velocities.
RigidMotion motionOf(const btCollisionObject& object) {
  const btRigidBody* body = btRigidBody::upcast(&object);
  return {fromBullet(body != nullptr ? body->getLinearVelocity() : object.getInterpolationLinearVelocity()),
          fromBullet(body != nullptr ? body->getAngularVelocity() : object.getInterpolationAngularVelocity()),
          fromBullet(object.getWorldTransform().getOrigin())};
}

}  // namespace

/// Takes a shape of Bullet's apart into shapes of the core's.
class BulletObstacles::Lister {
 public:
  Lister(const BulletObstacles& owner, const Bounds& bounds, Found& found)
      : owner_(owner), bounds_(bounds), low_(toBullet(bounds.low)), high_(toBullet(bounds.high)), found_(found) {}

  void object(const btCollisionObject& object) {
    if (!boundsOf(object).touches(bounds_) || !owner_.counts(object)) return;
    thing_ = owner_.thingOf(object);
    shape(*object.getCollisionShape(), object.getWorldTransform());
  }

 private:
  void shape(const btCollisionShape& shape, const btTransform& at) {
    btVector3 low, high;
    shape.getAabb(at, low, high);
    const Bounds around = Bounds{fromBullet(low), fromBullet(high)}.grown(beside);
    if (!around.touches(bounds_)) return;
    const int type = shape.getShapeType();
    if (shape.isCompound()) {
      const auto& compound = static_cast<const btCompoundShape&>(shape);
      for (int i = 0; i < compound.getNumChildShapes(); ++i)
        this->shape(*compound.getChildShape(i), at * compound.getChildTransform(i));
    } else if (type == STATIC_PLANE_PROXYTYPE) {
      plane(static_cast<const btStaticPlaneShape&>(shape), at);
    } else if (type == SDF_SHAPE_PROXYTYPE || !(shape.isConcave() || shape.isConvex())) {
      owner_.warn(type, shape.getName());
      box(around);
    } else if (shape.isConcave()) {
      triangles(static_cast<const btConcaveShape&>(shape), at);
    } else {
      convex(static_cast<const btConvexShape&>(shape), at, around);
    }
  }

  void box(const Bounds& around) {
    found_.add(Box{around.centre(), Matrix3d::Identity(), (around.high - around.low) / 2}, thing_);
  }

  void plane(const btStaticPlaneShape& plane, const btTransform& at) {
    const Vector3d normal = (fromBullet(at.getBasis()) * fromBullet(plane.getPlaneNormal())).normalized();
    const double constant = static_cast<double>(plane.getPlaneConstant());
    found_.add(HalfSpace{normal, constant + normal.dot(fromBullet(at.getOrigin()))}, thing_);
  }

  void triangles(const btConcaveShape& shape, const btTransform& at) {
    btVector3 low, high;
    btTransformAabb(low_, high_, static_cast<btScalar>(beside), at.inverse(), low, high);
    const Placing placing(at);
    btOptimizedBvh* const tree = treeOf(shape);
    if (tree != nullptr && typeid(shape) == typeid(btBvhTriangleMeshShape)) {
      const auto& mesh = static_cast<const btBvhTriangleMeshShape&>(shape);
      auto add = [&](Span<Triangle> some) { found_.addEach(placing(some), thing_); };
      MeshReader<decltype(add)> each(*mesh.getMeshInterface(), add);
      tree->reportAabbOverlappingNodex(&each, low, high);
      each.finish();
    } else {
      auto add = [&](const btVector3* c) {
        Triangle one[]{{fromBullet(c[0]), fromBullet(c[1]), fromBullet(c[2])}};
        found_.addEach(placing(one), thing_);
      };
      EachTriangle<decltype(add)> each(add);
      if (tree == nullptr && shape.getShapeType() == TRIANGLE_MESH_SHAPE_PROXYTYPE) {
        static_cast<const btTriangleMeshShape&>(shape).btTriangleMeshShape::processAllTriangles(&each, low, high);
      } else {
        shape.processAllTriangles(&each, low, high);
      }
    }
  }

  void convex(const btConvexShape& shape, const btTransform& at, const Bounds& around) {
    const Vector3d origin = fromBullet(at.getOrigin());
    const double margin = static_cast<double>(shape.getMargin());
    switch (shape.getShapeType()) {
      case SPHERE_SHAPE_PROXYTYPE: {
        const auto radius = static_cast<double>(static_cast<const btSphereShape&>(shape).getRadius());
        return found_.add(Capsule{origin, origin, radius}, thing_);
      }
      case CAPSULE_SHAPE_PROXYTYPE: {
        const auto& capsule = static_cast<const btCapsuleShape&>(shape);
        const Vector3d half = static_cast<double>(capsule.getHalfHeight()) * axisOf(at, capsule.getUpAxis());
        return found_.add(Capsule{origin - half, origin + half, static_cast<double>(capsule.getRadius())}, thing_);
      }
      case BOX_SHAPE_PROXYTYPE: {
        const Vector3d half = fromBullet(static_cast<const btBoxShape&>(shape).getHalfExtentsWithMargin());
        return found_.add(Box{origin, fromBullet(at.getBasis()), half.cwiseAbs()}, thing_);
      }
      case CYLINDER_SHAPE_PROXYTYPE: {
        const auto& cylinder = static_cast<const btCylinderShape&>(shape);
        const int up = cylinder.getUpAxis();
        const auto radius = static_cast<double>(cylinder.getRadius());
        const auto half = static_cast<double>(cylinder.getHalfExtentsWithMargin()[up]);
        const Vector3d axis = axisOf(at, up);
        return found_.add(Cylinder{origin - half * axis, axis, 2 * half, radius, radius}, thing_);
      }
      case CONE_SHAPE_PROXYTYPE: {
        if (margin > 0) break;
        const auto& cone = static_cast<const btConeShape&>(shape);
        const auto height = static_cast<double>(cone.getHeight()), radius = static_cast<double>(cone.getRadius());
        const Vector3d axis = axisOf(at, cone.getConeUpIndex());
        return found_.add(Cylinder{origin - height / 2 * axis, axis, height, radius, 0}, thing_);
      }
      case CONVEX_HULL_SHAPE_PROXYTYPE:
        if (margin == 0 && hull(static_cast<const btConvexHullShape&>(shape), at, around)) return;
        break;
      default: break;
    }
    const bool isHull = shape.getShapeType() == CONVEX_HULL_SHAPE_PROXYTYPE &&
                        static_cast<const btConvexHullShape&>(shape).getNumPoints() > 0;
    const auto reaches = isHull ? reachOfHull : reach;
    found_.add(Convex{&shape, reaches, fromBullet(at.getBasis()), origin, margin, around}, thing_);
  }

  /// By the planes of its faces, if it lists some that are exactly those of its points.
  bool hull(const btConvexHullShape& shape, const btTransform& at, const Bounds& around) {
    constexpr double rounding = 1e-12;
    const btConvexPolyhedron* listed = shape.getConvexPolyhedron();
    if (listed == nullptr || !owner_.exactHulls_->areExact(shape, *listed)) return false;
    const Matrix3d turn = fromBullet(at.getBasis());
    const Vector3d origin = fromBullet(at.getOrigin());
    Plane planes[ExactHulls::mostFaces];
    std::size_t count = 0;
    for (int i = 0; i < listed->m_faces.size(); ++i) {
      const btScalar* p = listed->m_faces[i].m_plane;
      const Vector3d outward = turn * fromBullet(btVector3(p[0], p[1], p[2]));
      const auto same = [&](const Plane& other) {
        const auto close = [&](int axis) { return std::abs(other.normal[axis] - outward[axis]) < rounding; };
        return close(0) && close(1) && close(2);
      };
      if (std::none_of(planes, planes + count, same))
        planes[count++] = {outward, outward.dot(origin) - static_cast<double>(p[3])};
    }
    found_.add(Hull{{planes, count}, around}, thing_);
    return true;
  }

  const BulletObstacles& owner_;
  const Bounds bounds_;
  const btVector3 low_, high_;
  Found& found_;
  Thing thing_;
};

BulletObstacles::BulletObstacles(const btCollisionWorld& world, Filter blocks, Stops stops)
    : world_(world),
      blocks_(std::move(blocks)),
      stops_(std::move(stops)),
      exactHulls_(std::make_unique<ExactHulls>()) {}

BulletObstacles::~BulletObstacles() = default;

void BulletObstacles::filter(int group, int mask) {
  group_ = group;
  mask_ = mask;
}

bool BulletObstacles::counts(const btCollisionObject& object) const {
  const btBroadphaseProxy* proxy = object.getBroadphaseHandle();
  if (proxy != nullptr &&
      ((proxy->m_collisionFilterGroup & mask_) == 0 || (proxy->m_collisionFilterMask & group_) == 0))
    return false;
  return object.hasContactResponse() && (!blocks_ || blocks_(object));
}

Thing BulletObstacles::thingOf(const btCollisionObject& object) const {
  Thing thing;
  if (object.getUserIndex() >= 0) thing.id = static_cast<ObstacleId>(object.getUserIndex());
  if (stops_) thing.stops = stops_(object);
  thing.motion = motionOf(object);
  return thing;
}

void BulletObstacles::warn(int type, const char* name) const {
  const std::uint64_t bit = std::uint64_t{1} << (type & 63);
  if (warn_ && (warned_.fetch_or(bit) & bit) == 0) warn_(name, "the box around it");
}

void BulletObstacles::list(const Bounds& bounds, Found& found) const noexcept {
  // Of what moves also what comes into the bounds soon, of each of its shapes.
  Lister lister(*this, bounds, found);
  auto object = [&](const btCollisionObject& o) {
    const RigidMotion motion = motionOf(o);
    if (!motion.moves()) return lister.object(o);
    Lister(*this, bounds.grown(comesCloserBy(motion, boundsOf(o))), found).object(o);
  };
  EachProxy<decltype(object)> each(object);
  // The broadphase tests boxes from outside; it is not declared const.
  const Bounds wide = bounds.grown(std::max(beside, mostComesCloser));
  const_cast<btBroadphaseInterface*>(world_.getBroadphase())->aabbTest(toBullet(wide.low), toBullet(wide.high), each);
}

Contact BulletObstacles::cast(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept {
  const auto* trees = dynamic_cast<const btDbvtBroadphase*>(world_.getBroadphase());
  FirstContact first(from, displacement, 0, purpose);
  if (trees == nullptr || !first.moves()) return Surroundings::cast(from, displacement, purpose);
  ForEachFound<FirstContact> found(first);
  auto object = [&](const btCollisionObject& o) {
    const Vector3d to = from + first.distance() * first.direction();
    const btCollisionShape& shape = *o.getCollisionShape();
    btOptimizedBvh* const tree = treeOf(shape);
    if (tree == nullptr) {
      Lister(*this, Bounds::around(from).with(to).grown(beside), found).object(o);
    } else if (counts(o)) {
      const auto& mesh = static_cast<const btBvhTriangleMeshShape&>(shape);
      const btTransform &at = o.getWorldTransform(), toLocal = at.inverse();
      const Placing placing(at);
      auto meet = [&, thing = thingOf(o)](Span<Triangle> some) { found.addEach(placing(some), thing); };
      MeshReader<decltype(meet)> each(*mesh.getMeshInterface(), meet);
      tree->reportRayOverlappingNodex(&each, toLocal * toBullet(from), toLocal * toBullet(to));
      each.finish();
    }
  };
  EachLeaf<decltype(object)> each(object);
  // As btDbvt::rayTest does it, but with a stack that is kept: no frame allocates.
  thread_local btAlignedObjectArray<const btDbvtNode*> stack;
  const btVector3 start = toBullet(from), along = toBullet(first.direction()), none(0, 0, 0);
  btVector3 inverse;
  unsigned int signs[3];
  for (int axis = 0; axis < 3; ++axis) {
    inverse[axis] = along[axis] == 0 ? btScalar(BT_LARGE_FLOAT) : 1 / along[axis];
    signs[axis] = inverse[axis] < 0 ? 1 : 0;
  }
  const auto length = static_cast<btScalar>(first.distance());
  for (const btDbvt& tree : trees->m_sets)
    tree.rayTestInternal(tree.m_root, start, toBullet(from + displacement), inverse, signs, length, none, none, stack,
                         each);
  return found.complete() ? first.contact() : noAnswer();
}

}  // namespace alpglow::bullet
