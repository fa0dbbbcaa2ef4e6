// Every call acts at its moment: at a tick within a long frame as between two short frames.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <string>

namespace alpglow {
namespace {

using testing::wardenAt;
using testing::wide;

constexpr double tick = 1 / 40.0;
const NoObstacles open;

CameraDesign everything() {
  CameraDesign design = testing::wardenDesign();
  for (NamedFraming& each : design.framings) {
    each.framing.keeps = Keeps::look;
    each.curves = {{Curved::distance, CurveOver::number, "fear", Curve({{0, 3.0}, {1, 1.5}})},
                   {Curved::tilt, CurveOver::number, "fear", Curve({{0, 0.0}, {1, 0.2}})}};
    each.framing.tilt = 0;
  }
  design.unrest.yaw = design.unrest.pitch = degrees(2);
  design.unrest.right = 0.1;
  design.unrest.amount = 0;
  PushSettings recoil;
  recoil.pitch = degrees(3);
  recoil.back = 0.1;
  design.pushes = {{"recoil", recoil}};
  return design;
}

const CompiledDesign& another() {
  static const CompiledDesign design = [] {
    CameraDesign edited = everything();
    for (NamedFraming& each : edited.framings) each.framing.shoulder += 0.3, each.framing.lens.fieldOfView *= 1.2;
    return CompiledDesign(edited);
  }();
  return design;
}

struct Call {
  const char* name;
  void (*make)(CharacterCamera&);
  /// What holds before, if it is needed.
  void (*prepare)(CharacterCamera&) = nullptr;
};
void lock(CharacterCamera& camera) { camera.lockOn({1, {6, 1, -6}, {0, 0, 0}, 0.5}); }
const Call calls[] = {
    {"setNumber", [](CharacterCamera& camera) { camera.setNumber(0, 1); }},
    {"setUnrest", [](CharacterCamera& camera) { camera.setUnrest(1); }},
    {"setCondition", [](CharacterCamera& camera) { camera.setCondition(Condition::crouched, true); }},
    {"switchPerspective", [](CharacterCamera& camera) { camera.switchPerspective(); }},
    {"setShoulder", [](CharacterCamera& camera) { camera.setShoulder(Shoulder::other); }},
    {"push", [](CharacterCamera& camera) { camera.push(0); }},
    {"swingBack", [](CharacterCamera& camera) { camera.swingBack(); }},
    {"guide", [](CharacterCamera& camera) { camera.guide(GuideGoal::along(-1)); }},
    {"lockOn", lock},
    {"endLock", [](CharacterCamera& camera) { camera.endLock(); }, lock},
    {"seed", [](CharacterCamera& camera) { camera.seed(77); }, [](CharacterCamera& camera) { camera.setUnrest(1); }},
    {"changeDesign", [](CharacterCamera& camera) { camera.changeDesign(another()); }},
};

class Moments : public ::testing::TestWithParam<Call> {};

TEST_P(Moments, ACallAtATickActsAsOneBetweenTwoFrames) {
  const CompiledDesign design(everything());
  const Eigen::Vector3d velocity(1, 0, -2);
  const auto at = [&](int ticks) { return wardenAt(ticks * tick * velocity, 0, velocity); };
  CharacterCamera coarse(design, at(0));
  coarse.setPose({1, -0.2, {}});
  if (GetParam().prepare != nullptr) GetParam().prepare(coarse);
  View a, b;
  for (int i = 0; i < 40; ++i) coarse.step(tick, {}, at(i), open, wide);
  CharacterCamera fine = coarse, never = coarse;
  double worst = 0, turned = 0, differs = 0;
  for (int i = 40; i < 80; i += 2) {
    const bool now = i == 50;
    coarse.look(tick, {});
    coarse.tick(tick, at(i));
    if (now) GetParam().make(coarse);
    coarse.look(tick, {});
    a = coarse.update(2 * tick, at(i + 1), open, wide);
    fine.step(tick, {}, at(i), open, wide);
    if (now) GetParam().make(fine);
    b = fine.step(tick, {}, at(i + 1), open, wide);
    for (const int k : {0, 1}) never.step(tick, {}, at(i + k), open, wide);
    worst = std::max({worst, (a.position - b.position).norm(), std::abs(a.fieldOfView - b.fieldOfView)});
    turned = std::max({turned, std::abs(shortestTurn(a.yaw, b.yaw)), std::abs(a.pitch - b.pitch)});
    differs = std::max(
        {differs, (b.position - never.view().position).norm(), std::abs(shortestTurn(b.yaw, never.view().yaw))});
  }
  EXPECT_LT(worst, 1e-3);
  EXPECT_LT(turned, 1e-4);
  EXPECT_GT(differs, 0.01) << "the call does something";
}

INSTANTIATE_TEST_SUITE_P(Calls, Moments, ::testing::ValuesIn(calls),
                         [](const auto& call) { return std::string(call.param.name); });

}  // namespace
}  // namespace alpglow
