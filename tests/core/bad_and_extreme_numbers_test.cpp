// What is left out: bad numbers, too many of something, another unit; and what is extreme and legal.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/space/pull_in.hpp"
#include "support/camera_run.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>

namespace alpglow {
namespace {

using testing::standing;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

const NoObstacles open;
const Subject still = wardenAt({0, 0, 0});

TEST(Numbers, APoseWithAnyBadNumberIsNone) {
  const CompiledDesign design(wardenDesign());
  CharacterCamera camera(design, still);
  const View before = standing(camera, 0.5);
  const double nan = std::numeric_limits<double>::quiet_NaN();
  for (const CameraPose& pose : {CameraPose{nan, {}, {}}, CameraPose{1.0, nan, {}}, CameraPose{1.0, {}, nan}}) {
    camera.setPose(pose);
    const View after = standing(camera, 0.01);
    EXPECT_EQ(after.yaw, before.yaw);
    EXPECT_EQ(after.events & Event::cut, 0u);
  }
}

TEST(Numbers, AnotherSubjectWithBadNumbersIsLeftOut) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide);
  camera.changeSubject(wardenAt({0, std::nan(""), 0}));
  const View view = camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide);
  EXPECT_EQ(view.faults, Fault::badSubject);
  EXPECT_FALSE(view.cut);
}

TEST(Numbers, CentimetresAreNoticed) {
  const CompiledDesign design{CameraDesign()};
  Subject tall = testing::wardenAt({0, 0, 0});
  CharacterCamera camera(design, tall);
  EXPECT_EQ(camera.step(0.01, {}, tall, open, 1.5).faults, 0u);
  tall.head = {0, 168, 0};
  const View view = camera.step(0.01, {}, tall, open, 1.5);
  EXPECT_EQ(view.faults, std::uint32_t{Fault::badUnits});
  EXPECT_EQ(view.head, tall.head) << "they count as they are";
  tall.frame.scale = 100;
  EXPECT_EQ(camera.step(0.01, {}, tall, open, 1.5).faults, 0u) << "a giant";
}

TEST(Numbers, MorePushesThanThereMayBeAreLeftOut) {
  CameraDesign plain;
  plain.pushes.resize(mostPushes + 3);
  EXPECT_EQ(CompiledDesign(plain).pushes().size(), mostPushes);
}

TEST(Numbers, MoreFramingsThanThereMayBeAreLeftOut) {
  CameraDesign plain;
  plain.framings.resize(3 * mostFramings, plain.framings[0]);
  const CompiledDesign design(plain);
  EXPECT_EQ(design.design().framings.size(), mostFramings);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  EXPECT_TRUE(camera.restore(camera.save()));
}

TEST(Numbers, WhoIsImmenselyFastIsForeseenWithinReasonAndSavedAsEverybody) {
  const CompiledDesign design{CameraDesign()};
  Subject subject = wardenAt({0, 0, 0});
  subject.velocity = {9e8, 0, 0};
  CharacterCamera camera(design, subject);
  camera.update({1e-8, 1e5}, subject, open, wide);
  camera.update({1e-8, 1e5}, subject, open, wide);
  EXPECT_TRUE(camera.restore(camera.save()));
}

}  // namespace
}  // namespace alpglow
