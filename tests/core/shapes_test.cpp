// Every shape against brute force in extended precision: no sweep late, none early, none through; rays and distances
// likewise. Sizes of nothing, shear and mirrors included.

#include "alpglow/space/assembly.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "support/reference_shapes.hpp"
#include "support/seeds.hpp"

#include <gtest/gtest.h>

#include <Eigen/LU>

namespace alpglow {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;
using testing::Distance;
using testing::Random;

/// A world of one thing.
class Alone final : public Surroundings {
 public:
  std::function<void(const Bounds&, Found&)> lists;
  void list(const Bounds& bounds, Found& found) const noexcept override { lists(bounds, found); }
};

struct Case {
  Alone world;
  Distance distance;
  bool convex = true;
  std::vector<Plane> planes;
  std::vector<Vector3d> points;
  std::vector<float> heights;
  Matrix3d transform;
};

double sizeOf(Random& random, double most) { return random.chance(0.15) ? 0 : random.between(0.01, most); }

template <class Shape>
void show(Case& result, const Shape& shape) {
  result.world.lists = [shape](const Bounds& bounds, Found& found) {
    if (boundsOf(shape).touches(bounds)) found.add(shape, {3});
  };
}

void capsule(Random& random, Case& result) {
  const Capsule shape{random.point(1), random.chance(0.2) ? Vector3d(random.point(1)) : random.point(2),
                      sizeOf(random, 0.8)};
  show(result, shape);
  result.distance = testing::capsuleDistance(shape.a, shape.b, shape.radius);
}

void box(Random& random, Case& result) {
  const Box shape{
      random.point(0.5), testing::randomTurn(random), {sizeOf(random, 1.5), sizeOf(random, 1.5), sizeOf(random, 1.5)}};
  show(result, shape);
  result.distance = testing::boxDistance(shape.centre, shape.axes, shape.half);
}

void cylinder(Random& random, Case& result) {
  Cylinder shape{random.point(0.5), testing::randomTurn(random).col(0), sizeOf(random, 2), sizeOf(random, 1), 0};
  shape.topRadius = random.chance(0.4) ? shape.radius : sizeOf(random, 1);
  show(result, shape);
  result.distance = testing::frustumDistance(shape.base, shape.axis, shape.height, shape.radius, shape.topRadius);
}

void halfSpace(Random& random, Case& result) {
  const HalfSpace shape{random.chance(0.3) ? Vector3d(0, 1, 0) : random.point(1).normalized(), random.between(-1, 1)};
  show(result, shape);
  result.distance = [shape](const Vector3d& p) {
    return std::max<testing::Real>(
        shape.normal.cast<testing::Real>().dot(p.cast<testing::Real>()) - static_cast<testing::Real>(shape.offset), 0);
  };
}

void hull(Random& random, Case& result) {
  Matrix3d transform;
  const std::vector<testing::Corners> triangles = testing::crookedBox(random, transform);
  result.distance = testing::convexMeshDistance(triangles);
  Bounds bounds;
  for (const testing::Corners& t : triangles) {  // each plane twice, as a mesh of triangles gives them
    const Vector3d normal = (t[1] - t[0]).cross(t[2] - t[0]).normalized();
    result.planes.push_back({normal, normal.dot(t[0])});
    for (const Vector3d& corner : t) bounds = bounds.with(corner);
  }
  if (random.chance(0.3)) bounds = Bounds();  // nobody has to give any
  result.world.lists = [&result, bounds](const Bounds&, Found& found) { found.add(Hull{result.planes, bounds}, {3}); };
}

Vector3d farthest(const void* self, const Vector3d& direction) {
  const auto& points = *static_cast<const std::vector<Vector3d>*>(self);
  return *std::max_element(points.begin(), points.end(),
                           [&](const Vector3d& a, const Vector3d& b) { return a.dot(direction) < b.dot(direction); });
}

void convexOfPoints(Random& random, Case& result) {
  Matrix3d transform;
  const std::vector<testing::Corners> triangles = testing::crookedBox(random, transform);
  const double rounding = random.chance(0.5) ? 0 : random.between(0, 0.3);
  result.distance = testing::convexMeshDistance(triangles, rounding);
  for (int i = 0; i < 8; ++i) result.points.emplace_back(i & 1 ? 1 : -1, i & 2 ? 1 : -1, i & 4 ? 1 : -1);
  result.world.lists = [&result, transform, rounding](const Bounds&, Found& found) {
    Convex shape;
    shape.self = &result.points;
    shape.reach = farthest;
    shape.axes = transform;
    shape.rounding = rounding;
    shape.bounds = Bounds::around(Vector3d::Zero(), 9);
    found.add(shape, {3});
  };
}

Vector3d onUnitSphere(const void*, const Vector3d& direction) { return direction.normalized(); }

void ellipsoid(Random& random, Case& result) {
  const Vector3d half(random.between(0.1, 1.5), random.between(0.1, 1.5), random.between(0.1, 1.5));
  result.distance = testing::ellipsoidDistance(half);
  result.world.lists = [half](const Bounds&, Found& found) {
    Convex shape;
    shape.reach = onUnitSphere;
    shape.axes = half.asDiagonal();
    shape.bounds = Bounds::around(Vector3d::Zero(), 2);
    found.add(shape, {3});
  };
}

void triangle(Random& random, Case& result) {
  Triangle t{random.point(2), random.point(2), random.point(2)};
  if (random.chance(0.1)) t.b = t.a;
  if (random.chance(0.1)) t.c = t.a + random.between(-1, 2) * (t.b - t.a);
  show(result, t);
  result.distance = [t](const Vector3d& p) {
    const double flat = (t.b - t.a).cross(t.c - t.a).norm();
    if (flat > 1e-9) return static_cast<testing::Real>(testing::distanceToTriangle(p, {t.a, t.b, t.c}));
    return static_cast<testing::Real>(
        std::min({testing::distanceToSegment(p, t.a, t.b), testing::distanceToSegment(p, t.b, t.c),
                  testing::distanceToSegment(p, t.c, t.a)}));
  };
}

void heightField(Random& random, Case& result) {
  constexpr int size = 5;
  for (int i = 0; i < size * size; ++i) result.heights.push_back(static_cast<float>(random.between(-0.5, 0.5)));
  testing::BruteForce force;
  const auto corner = [&](int x, int z) {
    return Vector3d(x - 2.0, static_cast<double>(result.heights[static_cast<std::size_t>(z * size + x)]), z - 2.0);
  };
  for (int z = 0; z + 1 < size; ++z) {
    for (int x = 0; x + 1 < size; ++x) {
      force.triangles.push_back({corner(x, z), corner(x + 1, z + 1), corner(x + 1, z)});
      force.triangles.push_back({corner(x, z), corner(x, z + 1), corner(x + 1, z + 1)});
    }
  }
  result.distance = [force](const Vector3d& p) { return static_cast<testing::Real>(force.distance(p)); };
  result.convex = false;
  result.world.lists = [&result](const Bounds& bounds, Found& found) {
    found.add(HeightField{{-2, 0, -2}, 1, size, size, result.heights, false}, bounds, {3});
  };
}

/// Anything at all, sheared and mirrored, of triangles.
void placedMesh(Random& random, Case& result) {
  Matrix3d transform;
  const std::vector<testing::Corners> triangles = testing::crookedBox(random, transform);
  testing::BruteForce force;
  force.triangles = triangles;
  result.distance = [force](const Vector3d& p) { return static_cast<testing::Real>(force.distance(p)); };
  result.convex = false;
  std::vector<Triangle> local;
  const Matrix3d inverse = transform.inverse();
  for (const testing::Corners& t : triangles) local.push_back({inverse * t[0], inverse * t[1], inverse * t[2]});
  const auto mesh = std::make_shared<TriangleMesh>(local, Thing{3});
  const auto assembly = std::make_shared<Assembly>();
  Eigen::Affine3d placed = Eigen::Affine3d::Identity();
  placed.linear() = transform;
  assembly->place(assembly->add(*mesh, mesh->bounds()), placed);
  result.world.lists = [mesh, assembly](const Bounds& bounds, Found& found) { assembly->list(bounds, found); };
}

/// A box that may be flat, stretched and sheared.
void placedBox(Random& random, Case& result) {
  const Box shape{{0, 0, 0}, testing::randomTurn(random), {sizeOf(random, 1), sizeOf(random, 1), sizeOf(random, 1)}};
  Eigen::Affine3d placed = Eigen::Affine3d::Identity();
  testing::crookedBox(random, result.transform);
  placed.linear() = result.transform;
  placed.translation() = random.point(0.3);
  std::vector<testing::Corners> triangles;
  for (int axis = 0; axis < 3; ++axis) {
    for (const double side : {-1.0, 1.0}) {
      const auto corner = [&](double u, double v) {
        Vector3d local;
        local[axis] = side * shape.half[axis];
        local[(axis + 1) % 3] = u * shape.half[(axis + 1) % 3];
        local[(axis + 2) % 3] = v * shape.half[(axis + 2) % 3];
        return Vector3d(placed * Vector3d(shape.axes * local));
      };
      triangles.push_back({corner(-1, -1), corner(1, -1), corner(1, 1)});
      triangles.push_back({corner(-1, -1), corner(1, 1), corner(-1, 1)});
    }
  }
  testing::BruteForce force;
  force.triangles = triangles;
  const Matrix3d inverse = placed.linear().inverse();
  result.distance = [=](const Vector3d& p) {
    const Vector3d local = shape.axes.transpose() * (inverse * (p - placed.translation()));
    const bool inside = (local.cwiseAbs().array() < shape.half.array()).all();
    return inside ? testing::Real(0) : static_cast<testing::Real>(force.distance(p));
  };
  show(result, shape);
  const auto inner = std::make_shared<Alone>();
  inner->lists = result.world.lists;
  const auto assembly = std::make_shared<Assembly>();
  assembly->place(assembly->add(*inner, boundsOf(shape)), placed);
  result.world.lists = [inner, assembly](const Bounds& bounds, Found& found) { assembly->list(bounds, found); };
}

using Make = void (*)(Random&, Case&);
constexpr std::pair<const char*, Make> kinds[] = {
    {"triangle", triangle},      {"capsule", capsule},      {"box", box},
    {"cylinder", cylinder},      {"half-space", halfSpace}, {"hull", hull},
    {"corners", convexOfPoints}, {"ellipsoid", ellipsoid},  {"height field", heightField},
    {"placed mesh", placedMesh}, {"placed box", placedBox}};

TEST(SphereTriangle, StartingInContactItIsBlockedInwardAndFreeOutward) {
  const Triangle below{{-5, -2, -5}, {5, -2, -5}, {0, -2, 5}};
  EXPECT_EQ(sphereTriangleContact(below, {0, -1, 0}, 10, 2.0), 0);
  EXPECT_EQ(sphereTriangleContact(below, {0, 1, 0}, 10, 2.0), 10);
  EXPECT_EQ(sphereTriangleContact(below, {1, 0, 0}, 3, 2.0), 3) << "sliding along is free";
}

class Shapes : public testing::Shards {};
ALPGLOW_SHARDS(Shapes);
ALPGLOW_FEW_SEEDS(Shapes);

TEST_P(Shapes, AreTouchedNeitherLateNorEarlyNorPassedThrough) {
  for (const auto& [name, make] : kinds) {
    testing::Tally tally;
    const std::vector<unsigned> seeds = seedsOf(200);
    for (const unsigned seed : seeds) {
      Random random(seed);
      Case one;
      make(random, one);
      testing::attack(one.world, one.distance, one.convex, random, tally);
      ASSERT_FALSE(HasFailure()) << name << ", seed " << seed;
    }
    EXPECT_GT(tally.hits, static_cast<int>(seeds.size()) / 2) << name;
    std::printf("%s: %d contacts, off by %.1e m at most\n", name, tally.hits, tally.worst);
  }
}

}  // namespace
}  // namespace alpglow
