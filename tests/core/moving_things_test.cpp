// What moves is met in time by a camera that is told so.

#include "alpglow/space/assembly.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/pull_in.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

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
    near.gather(space.plan(resting(), subject, 1 / 60.0, {}).reach({}));
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

/// Beyond what a float holds, say.
TEST(MovingThings, ThatTurnAboutAPointOutOfReachAreAtRest) {
  for (const double far : {2e9, 4e38, 1e300}) {
    const RigidMotion motion{{0, 0, 0}, {0, 1, 0}, {far, 0, 0}};
    EXPECT_FALSE(motion.moves());
    const Crate crate;
    Assembly world;
    world.add(crate, {});
    world.place(0, Eigen::Affine3d::Identity(), motion);
    const Neighbourhood near(world);
    near.gather({{-5, -5, -5}, {5, 5, 5}});
    const Contact contact = near.sweepLater({3, 0, 0}, {-3, 0, 0}, 0.2, {0.5, RigidMotion()});
    EXPECT_NEAR(contact.distance, 2.3, 1e-9);
  }
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
