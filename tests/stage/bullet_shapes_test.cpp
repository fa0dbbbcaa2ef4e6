// Every shape of Bullet's against brute force, through the adapter: scaled, turned, with margins as they come.

#include "support/bullet_shapes.hpp"
#include "alpglow/bullet/bullet_obstacles.hpp"
#include "support/reference_shapes.hpp"
#include "support/seeds.hpp"

#include <BulletCollision/CollisionShapes/btHeightfieldTerrainShape.h>
#include <BulletCollision/CollisionShapes/btScaledBvhTriangleMeshShape.h>
#include <BulletCollision/CollisionShapes/btTriangleShape.h>
#include <btBulletCollisionCommon.h>
#include <gtest/gtest.h>

#include <memory>

namespace alpglow {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;
using testing::Distance;
using testing::Parts;
using testing::Random;
using testing::Stone;
using testing::toBullet;

btTransform placed(const Matrix3d& turn, const Vector3d& at) {
  const Eigen::Quaterniond q(turn);
  return btTransform(btQuaternion(btScalar(q.x()), btScalar(q.y()), btScalar(q.z()), btScalar(q.w())), toBullet(at));
}

/// A shape, what it needs to live, and how far away it is in its own space.
struct Made {
  std::vector<std::unique_ptr<btCollisionShape>> shapes;  // the last is the one
  std::unique_ptr<btTriangleMesh> mesh;
  std::unique_ptr<Parts> parts;
  std::vector<btScalar> heights;
  Distance distance;
  bool convex = true;
};

template <class Shape, class... Arguments>
Shape& make(Made& made, Arguments&&... arguments) {
  auto shape = std::make_unique<Shape>(std::forward<Arguments>(arguments)...);
  Shape& result = *shape;
  made.shapes.push_back(std::move(shape));
  return result;
}

double size(Random& random) { return random.between(0.1, 1); }

void sphere(Random& random, Made& made) {
  const double radius = size(random), scale = size(random) + 0.5;
  make<btSphereShape>(made, btScalar(radius)).setLocalScaling({btScalar(scale), btScalar(scale), btScalar(scale)});
  made.distance = testing::capsuleDistance({0, 0, 0}, {0, 0, 0}, radius * scale);
}

void capsule(Random& random, Made& made) {
  const double radius = size(random), height = size(random), scale = size(random) + 0.5;
  const int axis = random.whole(0, 2);
  if (axis == 0) make<btCapsuleShapeX>(made, btScalar(radius), btScalar(height));
  if (axis == 1) make<btCapsuleShape>(made, btScalar(radius), btScalar(height));
  if (axis == 2) make<btCapsuleShapeZ>(made, btScalar(radius), btScalar(height));
  made.shapes.back()->setLocalScaling({btScalar(scale), btScalar(scale), btScalar(scale)});
  const Vector3d half = Vector3d::Unit(axis) * (height / 2 * scale);
  made.distance = testing::capsuleDistance(-half, half, radius * scale);
}

void box(Random& random, Made& made) {
  const Vector3d half(size(random), size(random), size(random));
  const Vector3d scale(size(random) + 0.5, size(random) + 0.5, size(random) + 0.5);
  btBoxShape& shape = make<btBoxShape>(made, toBullet(half));
  if (random.chance(0.5)) shape.setMargin(0);
  shape.setLocalScaling(toBullet(scale));
  made.distance = testing::boxDistance({0, 0, 0}, Matrix3d::Identity(), half.cwiseProduct(scale));
}

void cylinder(Random& random, Made& made) {
  const double radius = size(random), half = size(random);
  const int axis = random.whole(0, 2);
  Vector3d extents = Vector3d::Constant(radius);
  extents[axis] = half;
  if (axis == 0) make<btCylinderShapeX>(made, toBullet(extents));
  if (axis == 1) make<btCylinderShape>(made, toBullet(extents));
  if (axis == 2) make<btCylinderShapeZ>(made, toBullet(extents));
  made.distance =
      testing::frustumDistance(-half * Vector3d::Unit(axis), Vector3d::Unit(axis), 2 * half, radius, radius);
}

void cone(Random& random, Made& made) {
  const double radius = size(random), height = size(random);
  const int axis = random.whole(0, 2);
  if (axis == 0) make<btConeShapeX>(made, btScalar(radius), btScalar(height));
  if (axis == 1) make<btConeShape>(made, btScalar(radius), btScalar(height));
  if (axis == 2) make<btConeShapeZ>(made, btScalar(radius), btScalar(height));
  if (random.chance(0.5)) made.shapes.back()->setMargin(0);
  const double margin = static_cast<double>(made.shapes.back()->getMargin());
  made.distance =
      testing::frustumDistance(-height / 2 * Vector3d::Unit(axis), Vector3d::Unit(axis), height, radius, 0, margin);
}

/// Corners of a crooked box; with its faces found or not, before or after it was scaled, or none.
void hull(Random& random, Made& made) {
  Matrix3d transform;
  std::vector<testing::Corners> triangles = testing::crookedBox(random, transform);
  btConvexHullShape& shape = make<btConvexHullShape>(made);
  for (const testing::Corners& t : triangles) {
    for (const Vector3d& corner : t) shape.addPoint(toBullet(corner), false);
  }
  if (random.chance(0.7)) shape.setMargin(0);
  shape.recalcLocalAabb();
  const Vector3d scale = random.chance(0.5) ? Vector3d(1, 1, 1) : Vector3d(size(random) + 0.5, size(random) + 0.5, 1);
  const bool before = random.chance(0.5), faces = random.chance(0.7);
  if (before && faces) shape.initializePolyhedralFeatures();
  shape.setLocalScaling(toBullet(scale));
  if (!before && faces) shape.initializePolyhedralFeatures();
  for (testing::Corners& t : triangles) {
    for (Vector3d& corner : t) corner = corner.cwiseProduct(scale);
  }
  made.distance = testing::convexMeshDistance(triangles, static_cast<double>(shape.getMargin()));
}

void stone(Random& random, Made& made) {
  Stone stone(size(random));
  stone.makeInto(make<btConvexHullShape>(made));
  made.distance = testing::convexMeshDistance(stone.triangles, 0);
}

void spheres(Random& random, Made& made) {
  const Vector3d a = random.point(0.8), b = random.point(0.8);
  const double radius = size(random);
  const btVector3 centres[] = {toBullet(a), toBullet(b)};
  const btScalar radii[] = {btScalar(radius), btScalar(radius)};
  make<btMultiSphereShape>(made, centres, radii, 2);
  made.distance = testing::capsuleDistance(a, b, radius);
}

void scaledEvenly(Random& random, Made& made) {
  const double radius = size(random), height = size(random), scale = size(random) + 0.5;
  auto& inner = make<btCapsuleShape>(made, btScalar(radius), btScalar(height));
  make<btUniformScalingShape>(made, &inner, btScalar(scale));
  const Vector3d half(0, height / 2 * scale, 0);
  // Its margin is that of the capsule, all of which is margin: scaled.
  made.distance = testing::capsuleDistance(-half, half, radius * scale);
}

void triangle(Random& random, Made& made) {
  const testing::Corners t{random.point(1), random.point(1), random.point(1)};
  const auto& shape = make<btTriangleShape>(made, toBullet(t[0]), toBullet(t[1]), toBullet(t[2]));
  const double margin = static_cast<double>(shape.getMargin());
  made.distance = [t, margin](const Vector3d& p) {
    return static_cast<testing::Real>(std::max(testing::distanceToTriangle(p, t) - margin, 0.0));
  };
}

void mesh(Random& random, Made& made) {
  Matrix3d transform;
  std::vector<testing::Corners> triangles = testing::crookedBox(random, transform);
  made.mesh = std::make_unique<btTriangleMesh>();
  for (const testing::Corners& t : triangles) made.mesh->addTriangle(toBullet(t[0]), toBullet(t[1]), toBullet(t[2]));
  auto& inner = make<btBvhTriangleMeshShape>(made, made.mesh.get(), random.chance(0.5));
  if (random.chance(0.5)) {
    const Vector3d scale(size(random) + 0.5, size(random) + 0.5, size(random) + 0.5);
    make<btScaledBvhTriangleMeshShape>(made, &inner, toBullet(scale));
    for (testing::Corners& t : triangles) {
      for (Vector3d& corner : t) corner = corner.cwiseProduct(scale);
    }
  }
  testing::BruteForce force;
  force.triangles = triangles;
  made.distance = [force](const Vector3d& p) { return static_cast<testing::Real>(force.distance(p)); };
  made.convex = false;
}

void meshOfParts(Random& random, Made& made) {
  Matrix3d transform;
  const std::vector<testing::Corners> whole = testing::crookedBox(random, transform);
  const Vector3d scale(size(random) + 0.5, size(random) + 0.5, size(random) + 0.5);
  testing::BruteForce force;
  std::vector<testing::Corners> third[3];
  for (std::size_t i = 0; i < whole.size(); ++i) {
    testing::Corners corners = whole[i];
    for (Vector3d& corner : corners) corner = corner.cast<float>().cast<double>();
    third[i % 3].push_back(corners);
    for (Vector3d& corner : corners) corner = corner.cwiseProduct(scale);
    force.triangles.push_back(corners);
  }
  made.parts = std::make_unique<Parts>();
  Parts& parts = *made.parts;
  parts.floats.resize(2), parts.doubles.resize(1);
  parts.add<std::uint32_t>(third[0], PHY_INTEGER, PHY_FLOAT, parts.floats[0]);
  parts.add<std::uint16_t>(third[1], PHY_SHORT, PHY_DOUBLE, parts.doubles[0]);
  parts.add<std::uint8_t>(third[2], PHY_UCHAR, PHY_FLOAT, parts.floats[1]);
  parts.mesh.setScaling(toBullet(scale));
  make<btBvhTriangleMeshShape>(made, &parts.mesh, random.chance(0.5), random.chance(0.8));
  made.distance = [force](const Vector3d& p) { return static_cast<testing::Real>(force.distance(p)); };
  made.convex = false;
}

void terrain(Random& random, Made& made) {
  constexpr int side = 5;
  for (int i = 0; i < side * side; ++i) made.heights.push_back(btScalar(random.between(-0.5, 0.5)));
  make<btHeightfieldTerrainShape>(made, side, side, made.heights.data(), btScalar(-0.5), btScalar(0.5), 1, false);
  testing::BruteForce force;
  const auto at = [&](int x, int z) {
    return Vector3d(x - 2, static_cast<double>(made.heights[static_cast<std::size_t>(z * side + x)]), z - 2);
  };
  for (int z = 0; z + 1 < side; ++z) {
    for (int x = 0; x + 1 < side; ++x) {
      force.triangles.push_back({at(x, z), at(x, z + 1), at(x + 1, z)});
      force.triangles.push_back({at(x + 1, z), at(x, z + 1), at(x + 1, z + 1)});
    }
  }
  made.distance = [force](const Vector3d& p) { return static_cast<testing::Real>(force.distance(p)); };
  made.convex = false;
}

void plane(Random& random, Made& made) {
  const Vector3d normal = random.point(1).normalized();
  const double constant = random.between(-0.5, 0.5);
  make<btStaticPlaneShape>(made, toBullet(normal), btScalar(constant));
  made.distance = [=](const Vector3d& p) {
    return static_cast<testing::Real>(std::max(normal.dot(p) - constant, 0.0));
  };
}

void compound(Random& random, Made& made) {
  auto& whole = make<btCompoundShape>(made);
  std::vector<Distance> parts;
  for (int i = 0; i < 3; ++i) {
    Made part;
    (i == 0 ? box : i == 1 ? capsule : cylinder)(random, part);
    const Matrix3d turn = testing::randomTurn(random);
    const Vector3d at = random.point(0.8);
    whole.addChildShape(placed(turn, at), part.shapes.back().get());
    parts.push_back([=, inner = part.distance](const Vector3d& p) { return inner(turn.transpose() * (p - at)); });
    made.shapes.insert(made.shapes.begin(), std::move(part.shapes.back()));
  }
  made.distance = [parts](const Vector3d& p) {
    testing::Real nearest = 1e9;
    for (const Distance& part : parts) nearest = std::min(nearest, part(p));
    return nearest;
  };
  made.convex = false;
}

using Make = void (*)(Random&, Made&);
constexpr std::pair<const char*, Make> kinds[] = {{"sphere", sphere},     {"capsule", capsule},
                                                  {"box", box},           {"cylinder", cylinder},
                                                  {"cone", cone},         {"hull", hull},
                                                  {"spheres", spheres},   {"scaled evenly", scaledEvenly},
                                                  {"triangle", triangle}, {"mesh", mesh},
                                                  {"terrain", terrain},   {"plane", plane},
                                                  {"compound", compound}, {"mesh of parts", meshOfParts},
                                                  {"stone", stone}};

/// Bullet's own numbers are rounded to one in ten million where it is built for single precision; the core's are not.
constexpr double coarse = sizeof(btScalar) == sizeof(double) ? 1 : 100;

/// How many hulls by planes, convex shapes and boxes a list has.
struct Counted {
  int hulls = 0, convexes = 0, boxes = 0;
  void operator()(const Box&, const Thing&) { ++boxes; }
  void operator()(const Hull&, const Thing&) { ++hulls; }
  void operator()(const Convex&, const Thing&) { ++convexes; }
  template <class Shape>
  void operator()(const Shape&, const Thing&) {}
};

/// One object in a world of its own.
struct OneObject {
  explicit OneObject(btCollisionShape& shape) {
    object.setCollisionShape(&shape);
    world.addCollisionObject(&object);
  }
  ~OneObject() { world.removeCollisionObject(&object); }

  void place(const btTransform& at) {
    object.setWorldTransform(at);
    world.updateSingleAabb(&object);
  }
  template <class Each>
  void list(const Bounds& bounds, Each& each) const {
    ForEachFound<Each> found(each);
    obstacles.list(bounds, found);
  }

  btDefaultCollisionConfiguration configuration;
  btCollisionDispatcher dispatcher{&configuration};
  btDbvtBroadphase broadphase;
  btCollisionWorld world{&dispatcher, &broadphase, &configuration};
  btCollisionObject object;
  bullet::BulletObstacles obstacles{world};
};

/// From how far away it may be, whatever the broadphase takes for its bounds, and of each of its parts.
TEST(BulletLists, HoldWhatComes) {
  const btScalar half = btScalar(0.5);
  btBoxShape crate({half, half, half});
  btCompoundShape train;
  for (const btScalar at : {btScalar(0), btScalar(1.5)})
    train.addChildShape(btTransform({0, 0, 0, 1}, {at, 0, 0}), &crate);
  OneObject one(crate);
  const auto listed = [&](btCollisionShape& shape, double gap) {
    one.object.setCollisionShape(&shape);
    one.object.setInterpolationLinearVelocity({-4, 0, 0});
    one.place(btTransform({0, 0, 0, 1}, {btScalar(1.5 + gap), 0, 0}));
    Counted counted;
    one.list(Bounds::around({0, 0, 0}, 1), counted);
    return counted.boxes;
  };
  for (int i = 0; i < 380; ++i) {
    const double gap = 0.005 * i;
    ASSERT_EQ(listed(crate, gap), 1) << gap;
    ASSERT_EQ(listed(train, gap - 1.5), 2) << gap;
  }
  EXPECT_EQ(listed(crate, 2.1), 0);
  EXPECT_EQ(listed(train, 0.6), 1);
}

TEST(BulletHulls, AreListedByTheirFacesAsLongAsTheseAreExact) {
  if (sizeof(btScalar) < sizeof(double)) GTEST_SKIP() << "rounded as they are";
  Stone stone(1);
  btConvexHullShape shape;
  stone.makeInto(shape);
  const OneObject one(shape);
  const auto byFaces = [&] {
    Counted counted;
    one.list(Bounds::everything(), counted);
    EXPECT_EQ(counted.hulls + counted.convexes, 1);
    return counted.hulls == 1;
  };
  btVector3& first = shape.getUnscaledPoints()[0];
  const btVector3 point = first;
  for (int again = 0; again < 2; ++again) {  // found out the first time, known the second
    EXPECT_TRUE(byFaces());
    shape.setLocalScaling({1, btScalar(1.001), 1});
    EXPECT_FALSE(byFaces()) << "scaled";
    shape.setLocalScaling({1, 1, 1});
    EXPECT_TRUE(byFaces());
    first = btScalar(1.001) * point;
    EXPECT_FALSE(byFaces()) << "over a face";
    first = -point;
    EXPECT_TRUE(byFaces()) << "another point of the same stone";
    first = point;
    EXPECT_TRUE(byFaces());
  }
  const int most = stone.faces.m_faces.size();
  for (int missing = 0; missing < most; ++missing) {
    btConvexPolyhedron fewer = stone.faces;
    fewer.m_faces.swap(missing, most - 1);
    fewer.m_faces.pop_back();
    shape.setPolyhedralFeatures(fewer);
    EXPECT_FALSE(byFaces()) << "without face " << missing;
    const btScalar* plane = stone.faces.m_faces[missing].m_plane;
    for (int i = 0; i < fewer.m_faces.size(); ++i) {
      btFace& face = fewer.m_faces[i];
      if (btVector3(plane[0], plane[1], plane[2]).dot({face.m_plane[0], face.m_plane[1], face.m_plane[2]}) < -0.99)
        fewer.m_faces.swap(i, most - 2);
    }
    fewer.m_faces.pop_back();
    shape.setPolyhedralFeatures(fewer);
    EXPECT_FALSE(byFaces()) << "without face " << missing << " and the one opposite";
  }
  shape.setPolyhedralFeatures(stone.faces);
  EXPECT_TRUE(byFaces());
}

class BulletShapes : public testing::Shards {};
ALPGLOW_SHARDS(BulletShapes);
ALPGLOW_FEW_SEEDS(BulletShapes);

TEST_P(BulletShapes, AreTouchedNeitherLateNorEarlyNorPassedThrough) {
  for (const auto& [name, makeOne] : kinds) {
    testing::Tally tally;
    const std::vector<unsigned> seeds = seedsOf(200);
    for (const unsigned seed : seeds) {
      Random random(seed);
      Made made;
      makeOne(random, made);
      OneObject one(*made.shapes.back());
      const Matrix3d turn = testing::randomTurn(random);
      const Vector3d at = random.point(1);
      one.place(placed(turn, at));
      const Distance distance = [&](const Vector3d& p) { return made.distance(turn.transpose() * (p - at)); };
      testing::attack(one.obstacles, distance, made.convex, random, tally, coarse);
      ASSERT_FALSE(HasFailure()) << name << ", seed " << seed;
    }
    EXPECT_GT(tally.hits, static_cast<int>(seeds.size()) / 3) << name;
    std::printf("%s: %d contacts, off by %.1e m at most\n", name, tally.hits, tally.worst);
  }
}

}  // namespace
}  // namespace alpglow
