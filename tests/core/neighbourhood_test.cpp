// What a neighbourhood lists, and that its answers are those of its world.

#include "alpglow/space/neighbourhood.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/space/assembly.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "alpglow/space/without.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <array>
#include <type_traits>
#include <utility>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;

/// Sixty triangles, one after the other or at once.
struct Flock final : Surroundings {
  Flock(bool once, bool flies) : atOnce(once), moves(flies) {
    testing::Random random(9);
    for (Triangle& each : triangles) {
      const Vector3d middle = random.point(3);
      each = {middle + random.point(1.5), middle + random.point(1.5), middle + random.point(1.5)};
    }
  }
  void list(const Bounds&, Found& found) const noexcept override {
    const RigidMotion motion{{1, 0, -2}, {0, 0.4, 0}, {1, 1, 1}};
    const Thing thing{7, Purpose::all, moves ? motion : RigidMotion()};
    if (atOnce) return found.addEach(triangles, thing);
    for (const Triangle& each : triangles) found.add(each, thing);
  }
  bool atOnce, moves;
  std::array<Triangle, 60> triangles;
};

TEST(Neighbourhood, ManyTrianglesAtOnceAreAsEachOfThem) {
  for (const bool moves : {true, false}) {
    const Flock once(true, moves), each(false, moves);
    const Neighbourhood a(once), b(each);
    a.gather(Bounds::around({0, 0, 0}, 3)), b.gather(Bounds::around({0, 0, 0}, 3));
    EXPECT_EQ(a.size(), b.size());
    EXPECT_EQ(a.moves({}), moves);
    testing::Random random(10);
    int hits = 0;
    for (int i = 0; i < 500; ++i) {
      const Vector3d from = random.point(1.4), way = random.point(1.4);
      const MomentAhead later{random.between(0, 0.5), {}};
      const Contact sweep = a.sweep(from, way, 0.1), then = a.sweepLater(from, way, 0.1, later);
      EXPECT_EQ(sweep.distance, b.sweep(from, way, 0.1).distance);
      EXPECT_EQ(sweep.distance, once.sweep(from, way, 0.1).distance) << "as its world answers without a list";
      EXPECT_EQ(then.distance, b.sweepLater(from, way, 0.1, later).distance);
      hits += (sweep.hit() ? 1 : 0) + (then.hit() ? 1 : 0);
    }
    EXPECT_GT(hits, 100);
  }
}

/// A mesh that is told one triangle at a time.
struct OneByOne final : Surroundings {
  explicit OneByOne(const TriangleMesh& m) : mesh(m) {}
  void list(const Bounds& bounds, Found& found) const noexcept override {
    auto add = [&](const auto& shape, const Thing& thing) { found.add(shape, thing); };
    ForEachFound<decltype(add)> each(add);
    mesh.list(bounds, each);
  }
  const TriangleMesh& mesh;
};

/// Also where the mesh is a thousand kilometres wide, and its own bounds are no better than to a decimetre.
TEST(Neighbourhood, KeptTrianglesAreAsEachOfThem) {
  int hits = 0, moving = 0;
  for (const std::size_t count : {1u, 3u, 4u, 60u, 900u}) {
    for (const double wide : {0.0, 1e3, 1e6}) {
      testing::Random random(static_cast<unsigned>(count));
      std::vector<Triangle> triangles;
      std::vector<Thing> things;
      for (std::size_t i = 0; i < count; ++i) {
        const Vector3d at = random.point(3);
        triangles.push_back({at + random.point(1), at + random.point(1), at + random.point(1)});
        const RigidMotion motion{random.point(2), random.point(1), at};
        const std::uint32_t stops = random.chance(0.8) ? Purpose::all : Purpose::aim;
        things.push_back({static_cast<ObstacleId>(i), stops, random.chance(0.02) ? motion : RigidMotion()});
      }
      if (wide > 0) {
        const Vector3d there(wide, -wide, wide);
        triangles.push_back({there, there + random.point(1), there + random.point(1)});
        things.emplace_back();
      }
      const TriangleMesh mesh(triangles, things);
      const OneByOne single(mesh);
      const Neighbourhood a(mesh), b(single);
      for (int frame = 0; frame < 20; ++frame) {
        const Bounds bounds = Bounds::around(random.point(2), random.between(0.5, 3));
        a.gather(bounds), b.gather(bounds);
        EXPECT_GE(a.size(), b.size());
        EXPECT_EQ(a.moves({}), b.moves({}));
        moving += a.moves({}) ? 1 : 0;
        for (int i = 0; i < 20; ++i) {
          const Vector3d from = random.point(2), way = random.point(2);
          const double radius = random.chance(0.2) ? 0 : 0.15;
          const MomentAhead later{random.between(0, 0.5), {}};
          const Contact sweep = a.sweep(from, way, radius), then = a.sweepLater(from, way, radius, later);
          const Contact ray = a.cast(from, way, Purpose::aim);
          EXPECT_EQ(sweep.distance, b.sweep(from, way, radius).distance);
          EXPECT_TRUE(sweep.distance == 0 || sweep.obstacle == b.sweep(from, way, radius).obstacle);
          EXPECT_EQ(sweep.distance, mesh.sweep(from, way, radius).distance) << "as the mesh itself";
          EXPECT_EQ(then.distance, b.sweepLater(from, way, radius, later).distance);
          EXPECT_EQ(ray.distance, b.cast(from, way, Purpose::aim).distance);
          EXPECT_EQ(a.clearance(from, 0.5), b.clearance(from, 0.5));
          hits += (sweep.hit() ? 1 : 0) + (then.hit() ? 1 : 0) + (ray.hit() ? 1 : 0);
        }
      }
    }
  }
  EXPECT_GT(hits, 3000);
  EXPECT_GT(moving, 50);
}

TEST(Neighbourhood, OfKeptTrianglesIsFullWhereThereAreTooMany) {
  const Triangle one{{0, 0, -2}, {1, 0, -2}, {0, 1, -2}};
  const std::vector<Triangle> same(21, one);
  const TriangleMesh mesh(same, Thing{3});
  const Neighbourhood enough(mesh, 21), tooFew(mesh, 20);
  for (const Neighbourhood* near : {&enough, &tooFew}) {
    near->gather(Bounds::around({0, 0, 0}, 3));
    EXPECT_EQ(near->complete(), near == &enough);
    EXPECT_EQ(near->sweep({0.2, 0.2, 0}, {0, 0, -3}, 0.1).obstacle, 3u) << "asked of the mesh itself where not";
  }
}

/// Takes a hundred shapes, and counts what it is told.
class Hundred {
 public:
  template <class Shape>
  void operator()(const Shape&, const Thing&) {
    ++told;
  }
  struct Told final : ForEachFound<Hundred> {
    explicit Told(Hundred& hundred) : ForEachFound(hundred), to(hundred) {}
    bool full() const noexcept override { return to.told > 100; }
    Hundred& to;
  };
  std::size_t told = 0;
};

TEST(Found, IsToldLittleMoreThanItTakes) {
  testing::Random random(12);
  std::vector<Triangle> triangles(4000);
  for (Triangle& each : triangles) {
    const Vector3d at = random.point(3);
    each = {at + random.point(0.2), at + random.point(0.2), at + random.point(0.2)};
  }
  const TriangleMesh mesh(triangles, Thing{3});
  Assembly inParts;
  for (int part = 0; part < 30; ++part) inParts.add(mesh, Bounds::around({0, 0, 0}, 4), {5});
  for (const Surroundings* world :
       {static_cast<const Surroundings*>(&mesh), static_cast<const Surroundings*>(&inParts)}) {
    Hundred hundred;
    Hundred::Told found(hundred);
    world->list(Bounds::around({0, 0, 0}, 3), found);
    EXPECT_GT(hundred.told, 100u);
    EXPECT_LT(hundred.told, 250u);
  }
}

/// Nor does what owns one: it would refer to what the old owner owned.
TEST(Neighbourhood, StaysWhereItIs) {
  static_assert(!std::is_copy_constructible_v<Neighbourhood> && !std::is_move_constructible_v<Neighbourhood>);
  static_assert(!std::is_move_assignable_v<Neighbourhood>);
  struct Owner {
    NoObstacles other;
    Neighbourhood near;
  };
  static_assert(!std::is_move_constructible_v<Owner>);
}

TEST(Neighbourhood, SaysThatMoreIsNearThanItHolds) {
  struct Posts final : Surroundings {
    void list(const Bounds&, Found& found) const noexcept override {
      for (int i = 0; i < 200; ++i) found.add(Capsule{{0.005 * i - 0.3, 0, 2}, {0.005 * i - 0.3, 3, 2}, 0.02}, {7});
    }
  } posts;
  const Neighbourhood small(posts, 32), large(posts, 256);
  const CompiledDesign design{CameraDesign()};
  for (const Neighbourhood* each : {&small, &large}) {
    CharacterCamera camera(design, testing::wardenAt({0, 0, 0}));
    const View view = camera.step(1 / 60.0, {}, testing::wardenAt({0, 0, 0}), *each, testing::wide);
    EXPECT_EQ(view.faults, each == &small ? std::uint32_t{Fault::costly} : 0u);
  }
}

/// Two players in one world: each one's body is in the other's way only.
TEST(Without, LeavesOutTheOwnBody) {
  struct Bodies final : Surroundings {
    void list(const Bounds&, Found& found) const noexcept override {
      found.add(Capsule{{0, 0.4, 0}, {0, 1.4, 0}, 0.4}, {1});
      const Triangle second[] = {{{-1, 0, 2}, {1, 0, 2}, {0, 3, 2}}};
      found.addEach(second, {2});
    }
  } bodies;
  const ObstacleId first = 1, second = 2;
  const Without ofTheFirst(bodies, {&first, 1}), ofTheSecond(bodies, {&second, 1});
  const Neighbourhood listed(ofTheFirst);
  listed.gather(Bounds::around({0, 1, 0}, 5));
  for (const Obstacles* each : {static_cast<const Obstacles*>(&ofTheFirst), static_cast<const Obstacles*>(&listed)}) {
    EXPECT_EQ(each->sweep({0, 1, 0}, {0, 0, 4}, 0.1).obstacle, 2u);
    EXPECT_GT(each->clearance({0, 1, 0}, 3), 1.9);
  }
  EXPECT_EQ(ofTheSecond.sweep({0, 1, 4}, {0, 0, -8}, 0.1).obstacle, 1u);
  EXPECT_EQ(bodies.sweep({0, 1, 4}, {0, 0, -8}, 0.1).obstacle, 2u);
}

TEST(Neighbourhood, KeepsThePlanesOfHulls) {
  struct Wedge final : Surroundings {
    void list(const Bounds&, Found& found) const noexcept override {
      const Plane planes[]{{{0, 1, 0}, 0},  {{0, -1, 0}, 1}, {{1, 0, 0}, 1},
                           {{-1, 0, 0}, 1}, {{0, 0, -1}, 3}, {{0, 0, 1}, -2}};
      found.add(Hull{planes, {{-1, -1, -3}, {1, 0, -2}}}, {6});
    }
  } wedge;
  const Neighbourhood near(wedge);
  near.gather(Bounds::around({0, 0, 0}, 4));
  EXPECT_NEAR(near.sweep({0, -0.5, 0}, {0, 0, -3}, 0.1).distance, 1.9, 1e-9);
}

TEST(Neighbourhood, ListsNoMoreThanIsWorthIt) {
  const Triangle one{{0, 0, -2}, {1, 0, -2}, {0, 1, -2}};
  const Thing still{3}, platform{4, Purpose::all, {{0, 0, 1}, {}, {}}};
  for (const bool moves : {false, true}) {
    for (const std::size_t count : {64u, 65u}) {
      const std::vector<Triangle> same(count, one);
      std::vector<Thing> things(count, still);
      if (moves) things.back() = platform;
      const TriangleMesh mesh(same, things);
      const Neighbourhood near(mesh);
      near.gather(Bounds::around({0, 0, 0}, 3));
      EXPECT_EQ(near.complete(), moves || count == 64) << "of what moves only a list says how";
      EXPECT_EQ(near.moves({}), moves);
      EXPECT_FALSE(near.nothingNear());
      EXPECT_EQ(near.sweep({0.2, 0.2, 0}, {0, 0, -3}, 0.1).distance,
                mesh.sweep({0.2, 0.2, 0}, {0, 0, -3}, 0.1).distance);
    }
  }
}

}  // namespace
}  // namespace alpglow
