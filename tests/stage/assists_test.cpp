// Full rehearsals on what moves and turns.

#include "alpglow/io/design_file.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/rehearsal.hpp"
#include "support/random_level.hpp"
#include "support/same_path.hpp"

#include <gtest/gtest.h>

#include <string>

namespace alpglow::stage {
namespace {

/// A meadow without anything in the way: a raft that carries and turns, a bird that circles, a camera on a mast.
io::Level openMeadow() {
  io::Level level;
  level.objects.push_back({"meadow", "meadow", {}, io::boxMesh({0, -1, 0}, {400, 1, 400}, 0), true});
  level.platforms.push_back({"raft", {{0, 0.1, -6}, {14, 0.1, -10}}, 2.5, 1, degrees(70)});
  level.platforms.push_back({"bird", {{6, 4, -4}, {-8, 6, -12}}, 3, 0.5, 0});
  level.objects.push_back({"raft", "plank", {}, io::boxMesh({0, 0, -6}, {8, 0.1, 8}, 0), true, 0});
  level.targets.push_back({"stone", {5, 1, -9}});
  level.targets.push_back({"bird", {6, 4, -4}, 1});
  io::LevelCamera mast{"mast", {}, {}, {io::Thing::Kind::character, -1}};
  mast.settings.stand.point = {-9, 6, 5};
  mast.settings.look.point = {0, 1, 0};
  level.cameras.push_back(mast);
  return level;
}

io::Take takeOf(const std::vector<std::tuple<double, const char*, double, double>>& events,
                const std::vector<io::Cue>& cues, double length) {
  io::Take take;
  for (const auto& [time, control, x, y] : events) take.events.push_back({time, findControl(control), x, y});
  take.cues = cues;
  take.length = length;
  return take;
}

/// Onto a raft that turns, along with it, and off again: swung back, with a lead, locked on, and the camera changes.
TEST(Ride, OnATurningRaftIsTheSameAtEveryFrameRate) {
  using Kind = io::Cue::Kind;
  CameraDesign design;
  design.swingBack.rate = degrees(100);
  design.swingBack.holdoff = 0.6;
  design.lead.time = 0.2;
  design.framings[0].framing.orbitHalfLife = 0.06;
  design.framings[0].framing.pitch = {degrees(-60), degrees(5)};  // never into the ground
  design.lock.range = 80;
  const io::Take take = takeOf({{0.05, "KeyW", 1, 0},
                                {2.2, "KeyW", 0, 0},
                                {2.71, "MouseMove", -700, 120},
                                {3.5, "KeyC", 1, 0},
                                {3.55, "KeyC", 0, 0},
                                {4.03, "KeyS", 1, 0},
                                {5.1, "KeyS", 0, 0}},
                               {{2.6, Kind::camera, "mast", 0, 0.7},
                                {3.0, Kind::camera, "character", 0, 0.9},
                                {5.2, Kind::lock, "stone"},
                                {5.9, Kind::lock, "bird"}},
                               7);
  const CompiledDesign compiled(design);
  const Stage stage(openMeadow());
  std::string events;
  for (const io::TraceFrame& frame : rehearse(compiled, stage, take, {})) events += frame.events + " ";
  for (const char* event : {"platform-changed", "swing-back-began", "lock-began"})
    EXPECT_NE(events.find(event), std::string::npos) << event;
  testing::expectTheSamePath(compiled, stage, take, {});
}

TEST(Ride, TheWalkerIsCarriedAndTheViewIsThatOfFirmGround) {
  const CompiledDesign design{CameraDesign()};
  const Stage moving(openMeadow());
  io::Level still = openMeadow();
  still.platforms[0].pause = 1000;
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
