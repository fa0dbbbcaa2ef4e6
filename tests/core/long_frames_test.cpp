// Frames of hours: what passes in pieces has few of them, and the view says where there would have been more.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace alpglow {
namespace {

using testing::wardenAt;
using testing::wide;

TEST(LongFrames, PassInABoundedNumberOfPieces) {
  CameraDesign plan = testing::wardenDesign();
  plan.zoomIntoEyes = true;
  plan.zoom.notchesPerSecond = 100;
  plan.swingBack.rate = degrees(60);
  const CompiledDesign design(plan);
  const NoObstacles open;
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.step(1 / 60.0, {}, wardenAt({0, 0, 0}), open, wide);
  Intent holds;
  holds.aim = true;
  const IntentSample zooms[] = {IntentSample::zoomRate(0, 1)};
  holds.samples = zooms;
  const View view = camera.step(1e6, holds, wardenAt({3, 0, 0}), open, wide);
  EXPECT_EQ(view.head.x(), 3) << "it is this frame's view";
  EXPECT_TRUE(std::isfinite(view.position.norm()));
  EXPECT_EQ(view.faults, std::uint32_t{Fault::costly}) << "a hundred steps a second would be a hundred million";
  EXPECT_EQ(view.framingBlend, 1) << "and all of the time has passed";
  camera.swingBack();
  EXPECT_EQ(camera.step(1 / 60.0, {}, wardenAt({0, 0, 0}), open, wide).faults, 0u);
}

TEST(LongFrames, CountThePiecesOfAllStretchesBetweenSamples) {
  const CompiledDesign design(testing::wardenDesign());
  const NoObstacles open;
  for (const int stretches : {1, 2, 20}) {
    CharacterCamera camera(design, wardenAt({0, 0, 0}));
    std::vector<IntentSample> samples{IntentSample::turn(0, {0.3, 0.1}), IntentSample::glance(0, true)};
    for (int i = 1; i < stretches; ++i) samples.push_back(IntentSample::look(7.0 * i, {1, 0}));
    const View view = camera.step(7.0 * stretches, Intent{samples}, wardenAt({0, 0, 0}), open, wide);
    EXPECT_EQ(view.faults, stretches > 1 ? std::uint32_t{Fault::costly} : 0u) << stretches;
  }
}

}  // namespace
}  // namespace alpglow
