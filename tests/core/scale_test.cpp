// A small world is filmed like a large one.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

const NoObstacles open;
const Subject still = wardenAt({0, 0, 0});

TEST(Scale, ASmallWorldIsFilmedLikeALargeOne) {
  CameraDesign plain = wardenDesign();
  plain.fade.eyesBelow = 0.35, plain.fade.eyesUntil = 0.7;
  const CompiledDesign design(plain);
  Subject large = still, small = still;
  small.feet /= 2, small.head /= 2, small.frame.scale = 0.5;
  CharacterCamera a(design, large), b(design, small);
  double faded = 0, eyes = 0, lost = 0;
  a.lockOn({1, {0, 1.5, -20}, Vector3d::Zero(), 0.5});
  b.lockOn({1, {0, 0.75, -10}, Vector3d::Zero(), 0.25});
  for (int i = 0; i < 240; ++i) {
    const double room = i < 160 ? 3 - i * 0.018 : 3;
    testing::Walls wall, half;
    wall.walls = {{{-0.6, 0, -0.8}, -room}};  // behind, and to the right
    half.walls = {{{-0.6, 0, -0.8}, -room / 2}};
    const double target = i < 200 ? 20 : 40;
    if (a.locked()) a.lockOn({1, {0, 1.5, -target}, Vector3d::Zero(), 0.5});
    if (b.locked()) b.lockOn({1, {0, 0.75, -target / 2}, Vector3d::Zero(), 0.25});
    const View x = a.step(0.02, {}, large, wall, wide), y = b.step(0.02, {}, small, half, wide);
    ASSERT_NEAR(x.opacity, y.opacity, 1e-2) << i;
    ASSERT_EQ(x.framing, y.framing) << i;
    ASSERT_EQ((x.events ^ y.events) & ~std::uint32_t{Event::pullInEnded}, 0u) << i;
    ASSERT_LT((x.position / 2 - y.position).norm(), 2e-3) << "a skin of a millimetre is not scaled";
    EXPECT_NEAR(x.farPlane / 2, y.farPlane, 1e-9);
    EXPECT_NEAR(x.freeDistance / 2, y.freeDistance, 1e-9);
    faded += x.opacity > 0 && x.opacity < 1;
    eyes += x.events & Event::eyesTookOver ? 1 : 0;
    lost += x.events & Event::lockLost ? 1 : 0;
  }
  EXPECT_GT(faded, 3);
  EXPECT_EQ(eyes, 1);
  EXPECT_EQ(lost, 1);
}

}  // namespace
}  // namespace alpglow
