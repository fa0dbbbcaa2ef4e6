#include "alpglow/orbit_distance.hpp"

#include "support/random.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow {
namespace {

TEST(OrbitDistance, EachNotchScalesByTheSameFactor) {
  const ZoomSettings settings{1.25, 0, 8};
  OrbitDistance distance(2.0);
  distance.zoom(-2, settings, {1, 10});
  EXPECT_NEAR(distance.wanted(), 2.0 * 1.25 * 1.25, 1e-12);
  distance.zoom(1, settings, {1, 10});
  EXPECT_NEAR(distance.wanted(), 2.5, 1e-12);
}

TEST(OrbitDistance, DropsWhatGoesBeyondItsRange) {
  const ZoomSettings settings{1.5, 0, 8};
  OrbitDistance distance(2.0);
  distance.zoom(-100, settings, {1, 4});
  EXPECT_EQ(distance.wanted(), 4.0);
  distance.zoom(1, settings, {1, 4});
  EXPECT_NEAR(distance.wanted(), 4.0 / 1.5, 1e-12);
}

TEST(OrbitDistance, IsShownByHalfLifeHoweverTimeIsCut) {
  testing::Random random(6);
  const ZoomSettings settings{1.3, 0.2, 4};
  OrbitDistance whole(2.0);
  whole.zoom(-3, settings, {1, 10});
  OrbitDistance split = whole;
  whole.pass(0.5, -0.5, settings, {1, 10});
  for (const double part : random.cut(0.5, 37)) split.pass(part, -0.5, settings, {1, 10});
  EXPECT_NEAR(whole.wanted(), 2 * std::pow(1.3, 3 + 0.5 * 4 * 0.5), 1e-12) << "half the rate for half a second";
  EXPECT_NEAR(whole.shown(), split.shown(), 1e-12);
  EXPECT_GT(whole.shown(), 2.0);
  EXPECT_LT(whole.shown(), whole.wanted());
}

}  // namespace
}  // namespace alpglow
