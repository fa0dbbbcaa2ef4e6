// Look input under another lens.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::FarSphere;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

/// By how many pixels one count moves the middle of the screen, at a step of the ladder (0 = not aiming).
double pixelsOfOneCount(const CompiledDesign& design, int step) {
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  camera.choose(Perspective::first);
  Intent intent;
  intent.aim = step > 0;
  const IntentSample zoom[] = {IntentSample::zoom(0, 1)}, look[] = {IntentSample::look(0, {0, 1})};
  View view;
  for (int i = 0; i < 300; ++i) {
    intent.samples = i >= 100 && i < 99 + step ? Span<const IntentSample>(zoom) : Span<const IntentSample>();
    view = camera.step(0.01, intent, subject, open, wide);
  }
  const Vector3d ahead = view.position + view.forward();
  intent.samples = look;
  return testing::pixelOf(camera.step(0.0, intent, subject, open, wide), ahead).norm();
}

TEST(LookScale, TheHandMovesThePictureByTheSamePixelsUnderEveryLens) {
  const CompiledDesign design(wardenDesign());
  const double hip = pixelsOfOneCount(design, 0);
  EXPECT_GT(hip, 0.5);
  for (const int step : {1, 2, 3}) EXPECT_NEAR(pixelsOfOneCount(design, step) / hip, 1, 0.005) << step;
}

TEST(LookScale, AlsoInTheMiddleOfAChange) {
  const CompiledDesign design(wardenDesign());
  const FarSphere world(50);
  const Subject subject = wardenAt({0, 0, 0});
  const double hip = pixelsOfOneCount(design, 0);
  const IntentSample one[] = {IntentSample::look(0, {0, 1})};
  CharacterCamera camera(design, subject);
  camera.choose(Perspective::first);
  Intent intent;
  int between = 0;
  for (int i = 0; i < 100; ++i) {
    intent.aim = i > 50;
    intent.samples = {};
    const View view = camera.step(0.01, intent, subject, world, wide);
    if (i < 46) continue;
    CharacterCamera twin = camera;
    intent.samples = one;
    const View moved = twin.step(0.0, intent, subject, world, wide);
    EXPECT_NEAR(testing::pixelOf(moved, view.position + view.forward()).norm() / hip, 1, 0.005) << i;
    between += view.framingBlend < 1 ? 1 : 0;
  }
  EXPECT_GT(between, 20);
}

TEST(LookScale, OrFromTheMiddleToAFractionOfTheHalfWidth) {
  LookScale scale;
  for (const double match : {0.3, 0.8, 1.0}) {
    scale.atFraction = match;
    const auto counts = [&](double fieldOfView) {
      return std::atan(match * wide * std::tan(fieldOfView / 2)) / scale.at(fieldOfView, degrees(60), wide);
    };
    for (const double fov : {10.0, 25.0, 90.0}) EXPECT_NEAR(counts(degrees(fov)) / counts(degrees(60)), 1, 1e-12);
  }
  scale.kind = LookScaleKind::fixed;
  scale.factor = 0.4;
  EXPECT_EQ(scale.at(degrees(10), degrees(60), wide), 0.4);
}

}  // namespace
}  // namespace alpglow
