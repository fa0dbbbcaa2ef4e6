// What Embree's trees find is what the mesh finds, from wherever one asks.

#include "alpglow/conformance/gtest.hpp"
#include "alpglow/embree/embree_triangles.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;

/// Slabs, needles and dots, scattered around a place.
std::vector<Triangle> scattered(Random& random, const Vector3d& middle, double around) {
  std::vector<Triangle> triangles;
  for (int i = 0; i < 300; ++i) {
    const Vector3d at = middle + random.point(around);
    const Vector3d to = random.point(1), beside = random.chance(0.1) ? Vector3d(0.5 * to) : Vector3d(random.point(1));
    triangles.push_back({at, at + to, random.chance(0.05) ? at : Vector3d(at + beside)});
  }
  return triangles;
}

TEST(EmbreeTriangles, AnswerAsTheMeshDoes) {
  int hits = 0;
  for (unsigned seed = 0; seed < 60; ++seed) {
    Random random(seed);
    const Vector3d middle = seed % 3 == 0 ? Vector3d(1e6, -3e5, 7e5) : random.point(10);
    const double around = seed % 4 == 0 ? 500 : 6;
    const std::vector<Triangle> triangles = scattered(random, middle, around);
    std::vector<Thing> things(triangles.size());
    for (std::size_t i = 0; i < things.size(); ++i) {
      things[i].id = static_cast<ObstacleId>(i);
      if (i % 5 == 0) things[i].stops = Purpose::aim;
    }
    const TriangleMesh mesh(triangles, things);
    const embree::EmbreeTriangles fast(triangles, things);
    ASSERT_TRUE(fast.accelerated());
    const Triangle& near = triangles[seed];
    for (int i = 0; i < 400; ++i) {
      // From nearby and from far off, mostly toward something.
      const Vector3d from = near.a + random.point(i % 7 == 0 ? 1e5 : i % 2 == 0 ? 2 : around);
      Vector3d way = triangles[static_cast<std::size_t>(i) % triangles.size()].a + random.point(0.3) - from;
      if (random.chance(0.3)) way = way.normalized() * random.between(0, 2000);
      if (random.chance(0.1)) way[static_cast<Eigen::Index>(i % 3)] = 0;
      const double radius = random.between(0.01, 0.6);
      const Contact swept = fast.sweep(from, way, radius), expected = mesh.sweep(from, way, radius);
      EXPECT_NEAR(swept.distance, expected.distance, 1e-9) << "seed " << seed << ", question " << i;
      EXPECT_EQ(swept.hit(), expected.hit());
      hits += swept.hit() ? 1 : 0;
      for (const Purpose::Bit purpose : {Purpose::camera, Purpose::aim}) {
        const Contact ray = fast.cast(from, way, purpose), right = mesh.cast(from, way, purpose);
        EXPECT_NEAR(ray.distance, right.distance, 1e-9) << "seed " << seed << ", question " << i;
        EXPECT_EQ(ray.hit(), right.hit());
        hits += ray.hit() ? 1 : 0;
      }
    }
  }
  EXPECT_GT(hits, 10000);
}

TEST(EmbreeTriangles, OfNothingOrOfWhatIsNotFiniteAreNotThere) {
  const embree::EmbreeTriangles nothing(Span<const Triangle>{}, Thing{});
  EXPECT_FALSE(nothing.accelerated());
  EXPECT_FALSE(nothing.sweep({0, 0, 0}, {1, 0, 0}, 0.1).hit());
  const double nan = std::numeric_limits<double>::quiet_NaN();
  const Triangle some[] = {{{nan, 0, 0}, {1, 0, 0}, {0, 1, 0}}, {{1, -1, -1}, {1, 1, -1}, {1, 0, 1}}};
  const embree::EmbreeTriangles one(some, Thing());
  EXPECT_NEAR(one.sweep({0, 0, 0}, {3, 0, 0}, 0.25).distance, 0.75, 1e-12);
  EXPECT_FALSE(one.sweep({nan, 0, 0}, {3, 0, 0}, 0.25).hit());
  EXPECT_FALSE(one.cast({0, 0, 0}, {std::numeric_limits<double>::infinity(), 0, 0}, Purpose::aim).hit());
}

TEST(EmbreeTriangles, ConformToTheMesh) {
  Random random(5);
  const std::vector<Triangle> triangles = scattered(random, {0, 0, 0}, 5);
  const TriangleMesh mesh(triangles, Thing{7});
  ALPGLOW_EXPECT_CONFORMS(embree::EmbreeTriangles(triangles, Thing{7}), mesh, mesh.bounds());
}

}  // namespace
}  // namespace alpglow
