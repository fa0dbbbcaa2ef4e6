// What moves is met in time by a camera that is told so.

#include "alpglow/space/assembly.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/pull_in.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <array>
#include <type_traits>
#include <utility>

namespace alpglow {
namespace {

using Eigen::Vector3d;

TEST(RigidMotion, TakesPointsThereAndBack) {
  testing::Random random(3);
  for (int i = 0; i < 100; ++i) {
    const RigidMotion motion{random.point(3), random.point(2), random.point(5)};
    const Vector3d point = random.point(4);
    const double seconds = random.between(0, 1);
    const Vector3d then = motion.pointIn(seconds, point);
    EXPECT_LT((motion.pointBefore(seconds, then) - point).norm(), 1e-12);
    EXPECT_LT((motion.pointIn(1e-7, point) - point - 1e-7 * motion.velocityAt(point)).norm(), 1e-11);
    EXPECT_LE((then - point).norm(), motion.wayIn(seconds, (point - motion.about).norm()) + 1e-12);
    EXPECT_FALSE(motion.seenFrom(motion).moves()) << "what moves along is at rest";
  }
  EXPECT_FALSE((RigidMotion{{std::nan(""), 0, 0}, {}, {}}.moves()));
  EXPECT_FALSE((RigidMotion{{1e18, 0, 0}, {}, {}}.moves()));
}

/// One crate, wherever it is put.
class Crate final : public Surroundings {
 public:
  void list(const Bounds&, Found& found) const noexcept override {
    found.add(Box{{0, 0, 0}, Eigen::Matrix3d::Identity(), {0.5, 1, 0.5}}, {4});
  }
};

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

/// Also with hulls, whose planes lie in the list.
TEST(Neighbourhood, MovesWithItsList) {
  static_assert(!std::is_copy_constructible_v<Neighbourhood> && std::is_nothrow_move_constructible_v<Neighbourhood>);
  struct Wedge final : Surroundings {
    void list(const Bounds&, Found& found) const noexcept override {
      const Plane planes[]{{{0, 1, 0}, 0},  {{0, -1, 0}, 1}, {{1, 0, 0}, 1},
                           {{-1, 0, 0}, 1}, {{0, 0, -1}, 3}, {{0, 0, 1}, -2}};
      found.add(Hull{planes, {{-1, -1, -3}, {1, 0, -2}}}, {6});
    }
  } wedge;
  Neighbourhood first(wedge);
  first.gather(Bounds::around({0, 0, 0}, 4));
  const Neighbourhood second(std::move(first));
  EXPECT_NEAR(second.sweep({0, -0.5, 0}, {0, 0, -3}, 0.1).distance, 1.9, 1e-9);
}

TEST(Neighbourhood, ListsNoMoreThanIsWorthIt) {
  const Triangle one{{0, 0, -2}, {1, 0, -2}, {0, 1, -2}};
  const Thing still{3}, mover{4, Purpose::all, {{0, 0, 1}, {}, {}}};
  for (const bool moves : {false, true}) {
    for (const std::size_t count : {64u, 65u}) {
      const std::vector<Triangle> same(count, one);
      std::vector<Thing> things(count, still);
      if (moves) things.back() = mover;
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

PullInRequest resting() {
  PullInRequest request;
  request.head = request.anchor = {0, 1.7, 0};
  request.distance = 3;
  return request;
}

/// How a resting camera fares while a crate comes to `when(0)` along its motion.
struct Fared {
  double worst = 0;  // metres lost in a sixtieth
  bool foreseen = false;
};
template <class At>
Fared faresWhile(At&& at, bool told, const PullInMotion& subject = {}, const Surroundings& crate = Crate()) {
  Assembly world;
  const std::size_t part = world.add(crate, {{-0.5, -1, -0.5}, {0.5, 1, 0.5}});
  const Neighbourhood near(world);
  PullIn space;
  Fared fared;
  double before = 3;
  for (double time = -1; time < 0.3; time += 1 / 60.0) {
    const auto [transform, motion] = at(time);
    world.place(part, transform, told ? motion : RigidMotion());
    near.gather(space.reach(resting(), subject, 1 / 60.0, {}));
    const PullInPose pose = space.step(resting(), subject, near, 1 / 60.0, {});
    EXPECT_FALSE(world.sweep(resting().head, pose.camera - resting().head, 0.14).hit());
    fared.worst = std::max(fared.worst, before - pose.distance);
    fared.foreseen = fared.foreseen || pose.foreseen == 4;
    before = pose.distance;
  }
  return fared;
}

/// From the side, 2.4 m/s: it touches the line from head to camera at time 0, 1.7 m behind the head.
std::pair<Eigen::Affine3d, RigidMotion> slides(double time) {
  const Vector3d at(0.65 - 2.4 * time, 1.7, 1.7);
  return {Eigen::Affine3d(Eigen::Translation3d(at)), RigidMotion{{-2.4, 0, 0}, {0, 0, 0}, at}};
}

/// As the leaf of a door that is hinged beside the line.
std::pair<Eigen::Affine3d, RigidMotion> swings(double time) {
  const Vector3d hinge(1.1, 1.7, 1.6);
  Eigen::Affine3d transform(Eigen::Translation3d(hinge) * Eigen::AngleAxisd(1.6 * time, Vector3d::UnitY()) *
                            Eigen::Translation3d(0, 0, 0.9));
  return {transform, RigidMotion{{0, 0, 0}, {0, 1.6, 0}, hinge}};
}

TEST(MovingThings, AreMetInTimeByARestingHead) {
  const Fared blind = faresWhile(slides, false), told = faresWhile(slides, true);
  EXPECT_GT(blind.worst, 1) << "it comes between them within a frame";
  EXPECT_LT(told.worst, 0.25);
  EXPECT_TRUE(told.foreseen);
  EXPECT_FALSE(blind.foreseen);
}

/// The crate as a mesh of many triangles, with the id of all of it.
TriangleMesh paneled(int across) {
  std::vector<Triangle> triangles;
  const Vector3d half(0.5, 1, 0.5);
  for (int axis = 0; axis < 3; ++axis) {
    for (const double end : {-1.0, 1.0}) {
      const auto corner = [&](int u, int v) {
        Vector3d at;
        at[axis] = end, at[(axis + 1) % 3] = 2.0 * u / across - 1, at[(axis + 2) % 3] = 2.0 * v / across - 1;
        return Vector3d(at.cwiseProduct(half));
      };
      for (int u = 0; u < across; ++u) {
        for (int v = 0; v < across; ++v) {
          triangles.push_back({corner(u, v), corner(u + 1, v), corner(u + 1, v + 1)});
          triangles.push_back({corner(u, v), corner(u + 1, v + 1), corner(u, v + 1)});
        }
      }
    }
  }
  return TriangleMesh(triangles, Thing{4}, TriangleMesh::Sides::open);
}

TEST(MovingThings, OfManyTrianglesAreMetAsTheWholeOfThemIs) {
  for (const auto& at : {slides, swings}) {
    const Fared whole = faresWhile(at, true);
    for (const int across : {1, 3, 8}) {
      const Fared parts = faresWhile(at, true, {}, paneled(across));
      EXPECT_EQ(parts.foreseen, whole.foreseen) << across;
      EXPECT_NEAR(parts.worst, whole.worst, 1e-6) << across;
    }
  }
}

/// Two crates that move alike: one to where the way begins, the other into it.
struct Convoy final : Surroundings {
  explicit Convoy(ObstacleId second) : ids{4, second} {}
  void list(const Bounds&, Found& found) const noexcept override {
    for (std::size_t i = 0; i < 2; ++i)
      found.add(Box{{1, 0, -2.0 * static_cast<double>(i)}, Eigen::Matrix3d::Identity(), {0.5, 0.5, 0.5}},
                {ids[i], Purpose::all, {{-2, 0, 0}, {0, 0, 0}, {0, 0, 0}}});
  }
  ObstacleId ids[2];
};

TEST(MovingThings, AreWaitedForUnlessTheyWillBeAtTheStart) {
  for (const ObstacleId second : {5u, 4u}) {
    const Convoy convoy(second);
    const Neighbourhood near(convoy);
    near.gather(Bounds::around({0, 0, 0}, 4));
    const Contact then = near.sweepLater({0, 0, 0}, {0, 0, -3}, 0.1, {0.5, {}});
    EXPECT_NEAR(then.distance, second == 5 ? 1.4 : 3, 1e-9) << "of one thing all or nothing";
    EXPECT_NEAR(near.sweepLater({0, 0, 0}, {0, 0, -3}, 0.1, {0.3, {}}).distance, second == 5 ? 1.4 : 3, 1e-9);
    EXPECT_NEAR(near.sweepLater({0, 0, 0}, {0, 0, -3}, 0.1, {0.1, {}}).distance, 3, 1e-9);
  }
}

/// Of a hundred things that move alike each is known to move, and of a hundred that do not the first ones.
TEST(MovingThings, OfManyThatMoveAlikeNoneIsForgotten) {
  struct Swarm final : Surroundings {
    void list(const Bounds&, Found& found) const noexcept override {
      for (unsigned i = 0; i < 100; ++i)
        found.add(Box{{1 + 0.02 * i, 0, -2}, Eigen::Matrix3d::Identity(), {0.005, 0.5, 0.5}},
                  {i, Purpose::all, {{-2, 0, 0}, {0, 0, alike ? 0 : 0.01 * i}, {0, 0, 0}}});
    }
    bool alike = true;
  } swarm;
  for (const bool alike : {true, false}) {
    swarm.alike = alike;
    const Neighbourhood near(swarm);
    near.gather(Bounds::around({0, 0, 0}, 4));
    EXPECT_EQ(near.sweepLater({0, 0, 0}, {0, 0, -3}, 0.001, {0.51, {}}).obstacle, 1u);
    EXPECT_EQ(near.sweepLater({0, 0, 0}, {0, 0, -3}, 0.001, {1.25, {}}).hit(), alike);
  }
}

/// A wall without end, and a hull that does not say where it ends, that come closer.
class Endless final : public Surroundings {
 public:
  void list(const Bounds&, Found& found) const noexcept override {
    Thing thing{4};
    thing.motion.velocity = {0, 0, -0.5};
    const Plane face{{0, 0, -1}, -2}, back{{0, 0, 1}, 3};
    found.add(face, thing);
    found.add(Hull{{&back, 1}, Bounds()}, thing);
  }
};

TEST(MovingThings, WithoutBoundsAreListedAllTheSame) {
  const Endless world;
  const Neighbourhood near(world);
  near.gather(Bounds::around({0, 1.7, 1}, 4));
  EXPECT_EQ(near.size(), 2u);
  EXPECT_NEAR(near.sweep({0, 1.7, 0}, {0, 0, 3}, 0.2).distance, 0, 1e-9) << "within the hull";
}

TEST(MovingThings, TurnAboutTheirHinge) {
  const auto backwards = [](double time) {
    auto [transform, motion] = swings(-time);
    motion.spin = -motion.spin;
    return std::make_pair(transform, motion);
  };
  const Fared blind = faresWhile(backwards, false), told = faresWhile(backwards, true);
  EXPECT_GT(blind.worst, 0.3);
  EXPECT_LT(told.worst, 0.25);
  EXPECT_TRUE(told.foreseen);
}

TEST(MovingThings, ThatCarryTheSubjectAreAtRest) {
  // The crate rides along, beside the line: what the subject stands on moves as it does.
  PullInMotion subject;
  subject.carried = {{0, 0, -5}, {0, 0.4, 0}, {0, 0, 0}};
  const auto along = [&](double) {
    const Vector3d at(0.75, 1.7, 1.7);
    RigidMotion motion{subject.carried.velocityAt(at), subject.carried.spin, at};
    return std::make_pair(Eigen::Affine3d(Eigen::Translation3d(at)), motion);
  };
  const Fared fared = faresWhile(along, true, subject);
  EXPECT_EQ(fared.worst, 0);
  EXPECT_FALSE(fared.foreseen);
}

}  // namespace
}  // namespace alpglow
