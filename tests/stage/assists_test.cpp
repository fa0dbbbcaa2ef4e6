// Full rehearsals with swinging back, lock on, a ride and changes of camera: the same path at every frame rate.

#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <array>
#include <map>

namespace alpglow::stage {
namespace {

/// Nothing in the way.
io::Level meadow() {
  io::Level level;
  level.objects.push_back({"meadow", "meadow", {}, io::boxMesh({0, -1, 0}, {400, 1, 400}, 0), true});
  return level;
}

/// A meadow without anything in the way: a raft that carries and turns, a bird that circles, a camera on a mast.
io::Level openMeadow() {
  io::Level level = meadow();
  level.movers.push_back({"raft", {{0, 0.1, -6}, {14, 0.1, -10}}, 2.5, 1, degrees(70)});
  level.movers.push_back({"bird", {{6, 4, -4}, {-8, 6, -12}}, 3, 0.5, 0});
  level.objects.push_back({"raft", "plank", {}, io::boxMesh({0, 0, -6}, {8, 0.1, 8}, 0), true, 0});
  level.targets.push_back({"stone", {5, 1, -9}});
  level.targets.push_back({"bird", {6, 4, -4}, 1});
  io::LevelCamera mast{"mast", {}, {}, {io::Thing::Kind::character, -1}};
  mast.settings.stand.point = {-9, 6, 5};
  mast.settings.look.point = {0, 1, 0};
  level.cameras.push_back(mast);
  return level;
}

CameraDesign helping() {
  CameraDesign design;
  design.swingBack.rate = degrees(100);
  design.swingBack.holdoff = 0.6;
  design.swingBack.idle = 3;
  design.lead.time = 0.2;
  design.framings[0].framing.orbitHalfLife = 0.06;
  design.framings[0].framing.pitch = {degrees(-60), degrees(5)};  // never into the ground
  design.lock.range = 80;
  return design;
}

/// With a scope, a sprint and the eyes; it swings back, and turns the shoulder's way while looking up and down.
CameraDesign aiming() {
  CameraDesign design = testing::wardenDesign();
  design.swingBack = helping().swingBack;
  for (NamedFraming& named : design.framings) named.framing.pitch = {degrees(-40), degrees(20)};
  return design;
}

io::Take takeOf(const std::vector<std::tuple<double, const char*, double, double>>& events,
                const std::vector<io::Cue>& cues, double length) {
  io::Take take;
  for (const auto& [time, control, x, y] : events) take.events.push_back({time, findControl(control), x, y});
  take.cues = cues;
  take.length = length;
  return take;
}

/// Walks, is turned, looks away and is turned again; presses the button; swaps the shoulder; zooms.
io::Take swungBack() {
  return takeOf({{0.1, "KeyW", 1, 0},
                 {0.9, "KeyD", 1, 0},
                 {2.3, "KeyD", 0, 0},
                 {2.71, "MouseMove", -700, 120},
                 {2.75, "MouseMove", -300, 20},
                 {4.2, "KeyA", 1, 0},
                 {5.02, "KeyW", 0, 0},
                 {5.3, "MouseMove", 900, 0},
                 {5.55, "KeyC", 1, 0},
                 {5.6, "KeyC", 0, 0},
                 {5.7, "MouseWheel", 2, 0},
                 {6.1, "KeyX", 1, 0},
                 {6.2, "KeyX", 0, 0},
                 {6.4, "KeyA", 0, 0}},
                {}, 10.5);
}

/// Locks on to a stone and to a bird, walking and nudged.
io::Take locked() {
  using Kind = io::Cue::Kind;
  return takeOf({{0.1, "KeyD", 1, 0}, {1.7, "MouseMove", 60, 10}, {3.1, "KeyD", 0, 0}, {3.3, "KeyW", 1, 0}},
                {{0.51, Kind::lock, "stone"}, {2.53, Kind::lock, "bird"}, {5.01, Kind::unlock, ""}}, 6);
}

/// Onto the raft, along with it, and off again; the camera changes on the way.
io::Take ridden() {
  using Kind = io::Cue::Kind;
  return takeOf({{0.05, "KeyW", 1, 0}, {2.2, "KeyW", 0, 0}, {4.03, "KeyS", 1, 0}, {5.1, "KeyS", 0, 0}},
                {{2.6, Kind::camera, "mast", 0, 0.7}, {3.0, Kind::camera, "character", 0, 0.9}}, 7);
}

/// Raises the scope while walking and turning by a stick, changes its mind, magnifies, swaps shoulders, sprints,
/// crouches, switches perspective and back in the middle of it, flicks.
io::Take aimed() {
  return takeOf({{0.1, "KeyW", 1, 0},          {0.4, "PadAxis2", 0.7, 0},     {0.53, "MouseButton2", 1, 0},
                 {1.17, "PadAxis2", 0, 0},     {1.3, "MouseWheel", 1, 0},     {1.52, "KeyX", 1, 0},
                 {1.55, "KeyX", 0, 0},         {1.81, "MouseMove", 320, -40}, {2.07, "KeyV", 1, 0},
                 {2.1, "KeyV", 0, 0},          {2.26, "KeyD", 1, 0},          {2.31, "KeyV", 1, 0},
                 {2.33, "KeyV", 0, 0},         {2.9, "MouseButton2", 0, 0},   {3.03, "MouseButton2", 1, 0},
                 {3.11, "MouseButton2", 0, 0}, {3.5, "ShiftLeft", 1, 0},      {3.71, "PadAxis2", -0.4, 0},
                 {4.2, "ShiftLeft", 0, 0},     {4.4, "PadAxis2", 0, 0},       {4.63, "ControlLeft", 1, 0},
                 {4.8, "KeyV", 1, 0},          {4.82, "KeyV", 0, 0},          {5.2, "ControlLeft", 0, 0},
                 {5.9, "KeyV", 1, 0},          {5.93, "KeyV", 0, 0},          {6.02, "KeyW", 0, 0},
                 {6.1, "KeyD", 0, 0}},
                {}, 7.2);
}

class SamePath : public ::testing::TestWithParam<std::tuple<std::string, io::Take (*)()>> {};

TEST_P(SamePath, AtEveryFrameRate) {
  const std::string name = std::get<0>(GetParam());
  const bool aims = name.rfind("aimed", 0) == 0;
  const CompiledDesign design(aims ? aiming() : helping());
  const Stage stage(name == "aimed" ? meadow() : openMeadow());
  const io::Take take = std::get<1>(GetParam())();
  RehearsalOptions fine;
  fine.framesPerSecond = 1000;
  std::map<long, io::TraceFrame> reference;
  for (const io::TraceFrame& frame : rehearse(design, stage, take, fine))
    reference[std::lround(frame.time * 1e6)] = frame;
  double swungBack = 0, locked = 0, rode = 0;
  int changing = 0;
  for (const double fps : {25.0, 40.0, 50.0, 100.0, 200.0}) {
    RehearsalOptions options;
    options.framesPerSecond = fps;
    double worst = 0, worstAngle = 0;
    for (const io::TraceFrame& frame : rehearse(design, stage, take, options)) {
      const io::TraceFrame& other = reference.at(std::lround(frame.time * 1e6));
      ASSERT_EQ(frame.obstacle, "");
      worst = std::max({worst, (frame.camera - other.camera).norm(), (frame.subject - other.subject).norm()});
      worstAngle = std::max({worstAngle, std::abs(toDegrees(shortestTurn(degrees(frame.yaw), degrees(other.yaw)))),
                             std::abs(frame.pitch - other.pitch), std::abs(frame.fieldOfView - other.fieldOfView)});
      changing += frame.framingBlend < 1 ? 1 : 0;
      swungBack += std::abs(frame.swingBack), locked += frame.lock.empty() ? 0 : 1;
      rode += frame.events.find("platform-changed") != std::string::npos ? 1 : 0;
    }
    EXPECT_LT(worst, 1e-3) << fps;
    EXPECT_LT(worstAngle, 0.01) << fps;
  }
  // And where the takes end, at rates that share no other time with the reference, and with random frame times.
  std::vector<RehearsalOptions> others(5);
  for (std::size_t i = 0; i < 4; ++i) others[i].framesPerSecond = std::array{24.0, 30.0, 60.0, 144.0}[i];
  others[4].frameTimes = testing::Random(7).cut(1.1, 53);
  for (const RehearsalOptions& options : others) {
    const io::TraceFrame last = rehearse(design, stage, take, options).back();
    const io::TraceFrame& other = reference.at(std::lround(take.length * 1e6));
    EXPECT_LT((last.camera - other.camera).norm(), 1e-3) << options.framesPerSecond;
    EXPECT_LT(std::abs(toDegrees(shortestTurn(degrees(last.yaw), degrees(other.yaw)))), 0.01);
    EXPECT_LT(std::abs(last.pitch - other.pitch), 0.01);
  }
  if (aims) {
    EXPECT_GT(changing, 1000);
    return;
  }
  EXPECT_GT(name == "swungBack" ? swungBack : name == "locked" ? locked : 100 * rode, 500) << "it did what it is for";
}

INSTANTIATE_TEST_SUITE_P(Rehearsals, SamePath,
                         ::testing::Values(std::tuple{"swungBack", &swungBack}, std::tuple{"locked", &locked},
                                           std::tuple{"ridden", &ridden}, std::tuple{"aimed", &aimed},
                                           std::tuple{"aimedAfloat", &aimed}),
                         [](const auto& names) { return std::get<0>(names.param); });

TEST(Ride, TheWalkerIsCarriedAndTheViewIsThatOfFirmGround) {
  const CompiledDesign design{CameraDesign()};
  const Stage moving(openMeadow());
  io::Level still = openMeadow();
  still.movers[0].pause = 1000;
  const Stage resting(std::move(still));
  const io::Take take = takeOf({{0.05, "KeyW", 1, 0}, {0.1, "ShiftLeft", 1, 0}, {0.9, "KeyW", 0, 0}}, {}, 5);
  // Both go ashore at the same place before anything moves.
  const io::Trace a = rehearse(design, moving, take, {}), b = rehearse(design, resting, take, {});
  EXPECT_GT((a.back().subject - b.back().subject).norm(), 5) << "carried";
  for (std::size_t i = 100; i < a.size(); ++i) {
    ASSERT_NEAR((a[i].camera - a[i].head).norm(), (b[i].camera - b[i].head).norm(), 2e-3);
    ASSERT_NEAR(a[i].pitch, b[i].pitch, 1e-9);
  }
  EXPECT_GT(std::abs(a.back().yaw - b.back().yaw), 20) << "and turned along";
}

TEST(Ride, TheDemoTakeBoardsTheCabinAndRides) {
  const CompiledDesign design(io::readDesign(ALPGLOW_DEMO "/close.camera.toml"));
  const Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  const io::Trace trace = rehearse(design, stage, io::readTake(ALPGLOW_DEMO "/cabin.take"), {});
  EXPECT_GT(trace.back().subject.y(), 3) << "up the cable";
}

}  // namespace
}  // namespace alpglow::stage
