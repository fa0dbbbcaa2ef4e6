// The guarantee, by itself: random walls and poles, whatever camera is wanted.

#include "alpglow/space/clear_line.hpp"

#include "support/pull_in_requests.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::head;
using testing::Walls;

Walls randomWalls(testing::Random& random) {
  Walls walls;
  for (int i = 0; i < 3; ++i) {
    const Vector3d normal = random.point(1).normalized();
    walls.walls.push_back({normal, normal.dot(head) - random.between(0, 3)});
  }
  for (int i = 0; i < 4; ++i)
    walls.poles.push_back({random.between(-2, 2), random.between(-2, 2), random.between(0.02, 0.3)});
  return walls;
}

/// Checks one line with spheres put at many places on it.
int unsafeOn(const Walls& walls, const ClearLine& line, const Vector3d& camera) {
  int unsafe = 0;
  for (double share = 0; share <= 1; share += 0.02)
    unsafe += walls.clearance(head + share * (camera - head), 1) < line.radius() - 1e-9 ? 1 : 0;
  return unsafe;
}

TEST(ClearLine, NothingTouchesTheSphereAnywhereOnTheClearPart) {
  testing::Random random(11);
  int cut = 0;
  for (int i = 0; i < 3000; ++i) {
    const Walls walls = randomWalls(random);
    ClearLine line(walls, head, 0.1, testing::radius, random.chance(0.3) ? random.between(0, 0.2) : 0);
    if (line.blocked()) continue;
    const Vector3d wanted = head + random.between(0, 5) * random.point(1).normalized();
    const double fraction = line.to(wanted).fraction;
    cut += fraction < 1 ? 1 : 0;
    EXPECT_EQ(unsafeOn(walls, line, head + fraction * (wanted - head)), 0) << i;
    EXPECT_LE(line.nearPlane(), 0.1);
  }
  EXPECT_GT(cut, 500);
}

TEST(ClearLine, ASphereThatIsTooSmallDoesNotHoldIt) {
  testing::Random random(11);
  int unsafe = 0;
  for (int i = 0; i < 3000; ++i) {
    const Walls walls = randomWalls(random);
    ClearLine line(walls, head, 0.1, testing::radius), weak(walls, head, 0.1, 0.8 * testing::radius);
    if (line.blocked() || line.radius() < testing::radius) continue;
    const Vector3d wanted = head + random.between(0, 5) * random.point(1).normalized();
    unsafe += unsafeOn(walls, line, head + weak.to(wanted).fraction * (wanted - head)) > 0 ? 1 : 0;
  }
  EXPECT_GT(unsafe, 300) << "the check can fail";
}

TEST(ClearLine, NearAndSphereShrinkTogetherAndAHeadInAWallIsBlocked) {
  const Walls close = testing::wallBehind(0.1), inside = testing::wallBehind(-1);
  const ClearLine line(close, head, 0.1, testing::radius), blocked(inside, head, 0.1, testing::radius);
  EXPECT_LT(line.nearPlane(), 0.1);
  EXPECT_NEAR(line.radius() / testing::radius, line.nearPlane() / 0.1, 1e-12);
  EXPECT_TRUE(blocked.blocked());
  EXPECT_GT(blocked.nearPlane(), 0);
}

}  // namespace
}  // namespace alpglow
