#include "alpglow/view/unrest.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <vector>

namespace alpglow {
namespace {

UnrestSettings nervous() {
  UnrestSettings settings;
  settings.yaw = degrees(0.8);
  settings.pitch = degrees(0.5);
  settings.roll = degrees(0.6);
  settings.right = 0.02;
  settings.up = 0.01;
  settings.back = 0.03;
  settings.period = 2;
  return settings;
}

TEST(Unrest, StaysWithinItsAmplitudesAndUsesThem) {
  const UnrestSettings settings = nervous();
  Unrest unrest;
  double yaw = 0, roll = 0, sum = 0;
  constexpr int steps = 200000;
  for (int i = 0; i < steps; ++i) {
    unrest.advance(0.01, settings);
    const Wandered shown = unrest.wandered(settings);
    ASSERT_LE(std::abs(shown.turn.yaw), settings.yaw);
    ASSERT_LE(std::abs(shown.turn.pitch), settings.pitch);
    ASSERT_LE(std::abs(shown.place.z()), settings.back);
    yaw = std::max(yaw, std::abs(shown.turn.yaw));
    roll = std::max(roll, std::abs(shown.roll));
    sum += shown.turn.yaw;
  }
  EXPECT_GT(yaw, 0.9 * settings.yaw);
  EXPECT_GT(roll, 0.9 * settings.roll);
  EXPECT_LT(std::abs(sum / steps), 0.01 * settings.yaw) << "it drifts nowhere";
}

TEST(Unrest, DoesNotDependOnHowTimeIsCut) {
  const UnrestSettings settings = nervous();
  testing::Random random(8);
  Unrest once, often;
  for (int i = 0; i < 200; ++i) {
    const double seconds = random.between(0, 0.5), amount = random.between(0, 1);
    for (Unrest* unrest : {&once, &often}) unrest->setAmount(amount);
    once.advance(seconds, settings);
    for (int k = 0; k < 13; ++k) often.advance(seconds / 13, settings);
    ASSERT_NEAR(once.wandered(settings).turn.pitch, often.wandered(settings).turn.pitch, 1e-12);
    ASSERT_NEAR(once.wandered(settings).place.x(), often.wandered(settings).place.x(), 1e-12);
    ASSERT_NEAR(once.amount(), often.amount(), 1e-12);
  }
}

TEST(Unrest, NeverGoesTheSameWayTwiceNorTwoDirectionsTogether) {
  const UnrestSettings settings = nervous();
  const auto path = [&](std::uint32_t seed, double after) {
    Unrest unrest;
    unrest.seed(seed);
    unrest.advance(after, settings);
    std::vector<double> yaws;
    for (int i = 0; i < 400; ++i) {
      unrest.advance(0.02, settings);
      yaws.push_back(unrest.wandered(settings).turn.yaw / settings.yaw);
    }
    return yaws;
  };
  const auto likeness = [](const std::vector<double>& a, const std::vector<double>& b) {
    double ab = 0, aa = 0, bb = 0;
    for (std::size_t i = 0; i < a.size(); ++i) ab += a[i] * b[i], aa += a[i] * a[i], bb += b[i] * b[i];
    return ab / std::sqrt(aa * bb);
  };
  EXPECT_EQ(path(1, 0), path(1, 0));
  const std::vector<double> first = path(1, 0);
  EXPECT_LT(likeness(first, path(2, 0)), 0.9);
  for (double after = 2; after < 300; after += 2) EXPECT_LT(likeness(first, path(1, after)), 0.999) << after;
}

TEST(Unrest, TheGameSaysHowMuchAndThatIsEased) {
  UnrestSettings settings = nervous();
  settings.amount = 0.2;
  Unrest unrest(settings.amount);
  unrest.setAmount(1);
  unrest.advance(settings.halfLife, settings);
  EXPECT_NEAR(unrest.amount(), 0.6, 1e-12);
  unrest.setAmount(std::nan(""));
  unrest.setAmount(7);
  unrest.advance(100, settings);
  EXPECT_NEAR(unrest.amount(), 1, 1e-12);
  unrest.setAmount(-1);
  unrest.advance(1000, settings);
  EXPECT_LT(std::abs(unrest.wandered(settings).turn.yaw), 1e-12);
}

TEST(Unrest, OfACameraMovesThePictureAndNeitherLookNorHeading) {
  CameraDesign plain;
  plain.unrest = nervous();
  plain.unrest.right = 0.3;
  const CompiledDesign design(plain);
  CharacterCamera camera(design, testing::wardenAt({0, 0, 0}));
  const LookAngles look = camera.lookAngles();
  testing::Walls close;
  close.walls = {{{-1, 0, 0}, -0.7}};
  double most = 0, roll = 0, low = 9, high = -9;
  for (int i = 0; i < 3000; ++i) {
    const View view = camera.step(1.0 / 60, {}, testing::wardenAt({0, 0, 0}), close, testing::wide);
    most = std::max(most, std::abs(view.swayYaw));
    roll = std::max(roll, std::abs(view.roll));
    low = std::min(low, view.pivot.x()), high = std::max(high, view.pivot.x());
    ASSERT_GE(close.clearance(view.position, 9), nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect) - 1e-9);
  }
  EXPECT_GT(most, degrees(0.5));
  EXPECT_GT(roll, degrees(0.4));
  EXPECT_GT(high - low, 0.1);
  EXPECT_EQ(camera.lookAngles().yaw, look.yaw);
  EXPECT_EQ(camera.heading(), look.yaw);
  Preferences calm;
  calm.comfort.unrest = 0;
  EXPECT_FALSE(CompiledDesign(plain, calm).design().unrest.any());
}

}  // namespace
}  // namespace alpglow
