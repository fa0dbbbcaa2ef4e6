// Many cameras in one call.

#include "alpglow/camera/update_many.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "support/camera_run.hpp"

#include <gtest/gtest.h>

#include <vector>

namespace alpglow {
namespace {

TEST(UpdateMany, IsTheSameAsOneByOneAndLeavesOutWhoIsNotThere) {
  const CompiledDesign design{CameraDesign()};
  const Triangle wall[] = {{{-9, 0, 2}, {9, 0, 2}, {9, 4, 2}}, {{-9, 0, 2}, {9, 4, 2}, {-9, 4, 2}}};
  const TriangleMesh level(wall, Thing{1});
  std::vector<CharacterCamera> together, alone;
  for (int i = 0; i < 5; ++i) {
    together.emplace_back(design, testing::wardenAt({2.0 * i, 0, 0}));
    alone.push_back(together.back());
  }
  std::vector<View> views(6);
  for (int frame = 0; frame < 30; ++frame) {
    const IntentSample looked[] = {IntentSample::look(0, {3.0 * frame, 1})};
    std::vector<FrameOfOne> frames;
    for (int i = 0; i < 5; ++i) {
      const Subject warden = testing::wardenAt({2.0 * i, 0, 0.01 * frame});
      frames.push_back({&together[static_cast<std::size_t>(i)], 0.01 * (i + 1), Intent{looked}, warden, 1.0 + i});
    }
    frames.insert(frames.begin() + 2, FrameOfOne());
    updateMany(frames, level, views.data());
    for (std::size_t i = 0; i < 5; ++i) {
      const FrameOfOne& each = frames[i < 2 ? i : i + 1];
      const View due = alone[i].step(each.time, each.intent, each.subject, level, each.aspect);
      ASSERT_EQ(views[i < 2 ? i : i + 1].position, due.position);
      ASSERT_TRUE(together[i].save() == alone[i].save());
    }
    ASSERT_EQ(views[2].freeDistance, 0) << "nobody was there";
  }
  EXPECT_TRUE(views[0].pulledIn);
}

}  // namespace
}  // namespace alpglow
