#include "alpglow/framing/orbit_distance.hpp"

#include "support/random.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace alpglow {
namespace {

TEST(OrbitDistance, EachNotchScalesByTheSameFactor) {
  const ZoomSettings settings{1.25, 0, 8};
  OrbitDistance distance(2.0);
  distance.zoom(-2, settings, {1, 10});
  EXPECT_NEAR(distance.target(), 2.0 * 1.25 * 1.25, 1e-12);
  distance.zoom(1, settings, {1, 10});
  EXPECT_NEAR(distance.target(), 2.5, 1e-12);
}

TEST(OrbitDistance, DropsWhatGoesBeyondItsRange) {
  const ZoomSettings settings{1.5, 0, 8};
  OrbitDistance distance(2.0);
  distance.zoom(-100, settings, {1, 4});
  EXPECT_EQ(distance.target(), 4.0);
  distance.zoom(1, settings, {1, 4});
  EXPECT_NEAR(distance.target(), 4.0 / 1.5, 1e-12);
}

TEST(OrbitDistance, IsShownByHalfLifeHoweverTimeIsCut) {
  testing::Random random(6);
  const ZoomSettings settings{1.3, 0.2, 4};
  OrbitDistance whole(2.0);
  whole.zoom(-3, settings, {1, 10});
  OrbitDistance split = whole;
  whole.advance(0.5, -0.5, settings, {1, 10});
  for (const double part : random.cut(0.5, 37)) split.advance(part, -0.5, settings, {1, 10});
  EXPECT_NEAR(whole.target(), 2 * std::pow(1.3, 3 + 0.5 * 4 * 0.5), 1e-12) << "half the rate for half a second";
  EXPECT_NEAR(whole.shown(), split.shown(), 1e-12);
  EXPECT_GT(whole.shown(), 2.0);
  EXPECT_LT(whole.shown(), whole.target());
}

}  // namespace
}  // namespace alpglow
