// Framings that refer to their base: what the player has chosen there, distance or field of view, outlives changes.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/framing/regions.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using testing::wardenAt;
using testing::wide;

CameraDesign sprinting(double scale) {
  CameraDesign design;
  design.swingBack.idle = 0;
  Framing sprint = design.framings[0].framing;
  sprint.distanceScale = scale;
  sprint.distance = 3.3;
  sprint.distanceRange = {1, 8};
  sprint.lens.fieldOfView = degrees(66);
  design.framings.push_back({"sprint", sprint, "sprinting"});
  return design;
}

class Runner {
 public:
  explicit Runner(const CameraDesign& design, const Preferences& preferences = {})
      : design_(design, preferences), camera(design_, wardenAt({0, 0, 0})) {
    camera.update(0.0, wardenAt({0, 0, 0}), open_, wide);
  }
  /// A second with so many notches of the wheel at its start.
  View after(double notches = 0) {
    const IntentSample wheel[] = {IntentSample::zoom(0, notches)};
    camera.look(1.0, notches == 0 ? Intent{} : Intent{wheel});
    camera.look(2.0, {});
    return camera.update(3.0, wardenAt({0, 0, 0}), open_, wide);
  }

 private:
  const CompiledDesign design_;
  const NoObstacles open_;

 public:
  CharacterCamera camera;
};

TEST(RelativeFramings, SprintingAfterZoomingOutStaysFarther) {
  Runner own(sprinting(0)), scaled(sprinting(1.2));
  for (Runner* run : {&own, &scaled}) {
    EXPECT_NEAR(run->after(-4).freeDistance, 3 * std::pow(1.15, 4), 1e-9);
    run->camera.setCondition(Condition::sprinting, true);
  }
  EXPECT_NEAR(own.after().freeDistance, 3.3, 1e-9) << "a distance of its own comes closer";
  EXPECT_NEAR(scaled.after().freeDistance, 1.2 * 3 * std::pow(1.15, 4), 1e-9);
  scaled.camera.setCondition(Condition::sprinting, false);
  EXPECT_NEAR(scaled.after().freeDistance, 3 * std::pow(1.15, 4), 1e-9) << "and back";
}

TEST(RelativeFramings, ZoomingInOneChoosesForItsBase) {
  Runner run(sprinting(1.2));
  run.camera.setCondition(Condition::sprinting, true);
  EXPECT_NEAR(run.after(2).freeDistance, 3.6 / (1.15 * 1.15), 1e-9);
  run.camera.setCondition(Condition::sprinting, false);
  EXPECT_NEAR(run.after().freeDistance, 3 / (1.15 * 1.15), 1e-9);
  run.camera.swingBack();
  EXPECT_NEAR(run.after().freeDistance, 3, 1e-9);
  run.camera.setCondition(Condition::sprinting, true);
  run.camera.swingBack();
  EXPECT_NEAR(run.after().freeDistance, 3.6, 1e-9) << "the default pose is the base's as well";
}

TEST(RelativeFramings, TheRangeOfOneDoesNotChangeWhatWasChosenForTheBase) {
  Runner run(sprinting(10));
  const double chosen = run.after(-1).freeDistance;
  run.camera.setCondition(Condition::sprinting, true);
  EXPECT_EQ(run.after().freeDistance, 8) << "the farthest that the sprint goes";
  run.camera.setCondition(Condition::sprinting, false);
  EXPECT_NEAR(run.after().freeDistance, chosen, 1e-12);
}

TEST(RelativeFramings, APreferredFieldOfViewWidensEveryFraming) {
  Preferences preferences;
  preferences.fieldOfView = degrees(75);
  Runner run(sprinting(0), preferences);
  EXPECT_NEAR(toDegrees(run.after().fieldOfView), 75, 1e-9);
  run.camera.setCondition(Condition::sprinting, true);
  const double slope = std::tan(degrees(75) / 2) * std::tan(degrees(33)) / std::tan(degrees(30));
  EXPECT_NEAR(run.after().fieldOfView, 2 * std::atan(slope), 1e-9) << "the same magnification over the base";
}

TEST(Regions, HoldWithinAndLetGoSomeWayOut) {
  Region hut{2, {10, 1, -4}, {4, 3, 6}, degrees(90), false, 0.5};  // 6 m wide along x, as it is turned
  Region cliff{4, {10, 0, -4}, {2, 50, 2}, 0, true, 0};
  const Region level[] = {hut, cliff};
  Regions regions;
  const auto at = [&](double x, double y, double z) { return regions.step({x, y, z}, level); };
  EXPECT_EQ(at(0, 1, -4), 0u);
  EXPECT_EQ(at(6.9, 1, -4), 0u);
  EXPECT_EQ(at(7.1, 1, -4), 2u);
  EXPECT_EQ(at(6.6, 1, -4), 2u) << "on the threshold";
  EXPECT_EQ(at(std::nan(""), 1, -4), 2u) << "nobody knows where";
  EXPECT_EQ(at(6.4, 1, -4), 0u);
  EXPECT_EQ(at(10, 0.6, -4), 4u) << "below the floor of one, within the other";
  EXPECT_EQ(at(10.7, 1, -4.7), 6u);
  EXPECT_EQ(at(10.8, 1, -4.8), 2u) << "a cylinder has no corners";
  EXPECT_EQ(at(10, 4.2, -1.9), 2u) << "above and beside by less than the way out";
  EXPECT_EQ(at(10, 4.2, -1.4), 0u);
}

}  // namespace
}  // namespace alpglow
