// What takes make of walker, camera and clock.

#include "alpglow/stage/rehearsal.hpp"
#include "alpglow/io/level_file.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <cstdio>
#include <string>

namespace alpglow::stage {
namespace {

using Eigen::Vector3d;

/// A framing beside the base, in force while a condition of the same name holds.
CompiledDesign designWith(const std::string& condition) {
  CameraDesign plain;
  NamedFraming framing = plain.framings[0];
  framing.name = framing.when = condition;
  plain.framings.push_back(framing);
  return CompiledDesign(plain);
}

/// On a meadow around the origin, on which one looks north.
io::Trace played(const CompiledDesign& design, const std::string& lines, const RehearsalOptions& options = {},
                 io::Level level = {}) {
  level.objects.push_back({"ground", "stone", {}, io::boxMesh({0, -1, 0}, {40, 1, 40}, 0), true});
  const io::Take take = io::readTake(testing::temporaryFile("r.take", "alpglow take 1\n" + lines));
  return rehearse(design, Stage(level), take, options);
}

TEST(Rehearsal, AJumpLeavesARestingCameraLevel) {
  CameraDesign plain;
  plain.framings[0].framing.follow.rest.above = 1.5;
  double low = 1e9, high = -1e9, highest = 0, rises = 0;
  for (const io::TraceFrame& frame : played(CompiledDesign(plain), "1 jump 1.4\n3 end\n")) {
    if (frame.time < 0.5) continue;
    low = std::min(low, frame.camera.y()), high = std::max(high, frame.camera.y());
    highest = std::max(highest, frame.subject.y());
    EXPECT_EQ(frame.speed, 0);
    rises = std::max(rises, frame.climb);
  }
  EXPECT_NEAR(highest, 1.4, 0.02);
  EXPECT_NEAR(rises, std::sqrt(2 * 9.81 * 1.4), 0.3);
  EXPECT_LT(high - low, 1e-3);
}

TEST(Rehearsal, TheJumpActionJumpsAsHighAsTheBodySays) {
  io::Level level;
  level.body.jumpHeight = 0.9;
  for (const char* rate : {"60", "24"}) {
    RehearsalOptions options;
    options.framesPerSecond = std::stod(rate);
    double highest = 0;
    for (const io::TraceFrame& frame :
         played(CompiledDesign(CameraDesign()), "0.5 Space 1\n0.501 Space 0\n2 end\n", options, level))
      highest = std::max(highest, frame.subject.y());
    EXPECT_NEAR(highest, 0.9, 0.03) << rate;
  }
}

TEST(Rehearsal, ATeleportCutsAtItsMomentAndTurnsTheCamera) {
  for (const io::TraceFrame& frame : played(CompiledDesign(CameraDesign()), "1.004 teleport 3 0 -2 90\n2 end\n")) {
    const bool after = frame.time > 1.004;
    EXPECT_NEAR((frame.subject - (after ? Vector3d(3, 0, -2) : Vector3d(0, 0, 0))).norm(), 0, 0.02) << frame.time;
    EXPECT_NEAR(frame.yaw, after ? 90 : 0, 1e-9);
    EXPECT_EQ(io::happened(frame, "cut"), frame.frame == 0 || (after && frame.time < 1.018));
  }
}

TEST(Rehearsal, ASlowWorldLeavesTheHandAsItIsAndDegreesAreDegrees) {
  for (const double sensitivity : {1.0, 2.5}) {
    CameraDesign plain;
    plain.look.yawPerCount = degrees(0.05) * sensitivity;
    RehearsalOptions options;
    options.preferences.mouse.sensitivityX = sensitivity;
    options.preferences.mouse.invertX = sensitivity > 1;
    const io::Trace trace =
        played(CompiledDesign(plain), "0 KeyW 1\n2 slow 0.25\n2.2..3 MouseTurn -90 0\n4 end\n", options);
    EXPECT_NEAR(trace[119].world, 2, 1e-9);
    EXPECT_NEAR(trace[239].world, 2.5, 1e-9);
    EXPECT_NEAR(trace[239].yaw, 90, 1e-6);
    double path = 0;
    for (std::size_t i = 120; i < 240; ++i) path += (trace[i].subject - trace[i - 1].subject).norm();
    EXPECT_NEAR(path, (trace[119].subject - trace[59].subject).norm() / 2, 0.05) << "two seconds at a quarter";
  }
  const io::Trace still = played(CompiledDesign(CameraDesign()), "0 KeyW 1\n2 slow 0\n4 end\n");
  EXPECT_EQ(still[239].subject, still[130].subject);
}

TEST(Rehearsal, AGameHasASayAtEachTick) {
  const CompiledDesign design = designWith("alert");
  RehearsalOptions options;
  int ticks = 0;
  options.game = [&](CharacterCamera& camera, double time) {
    ++ticks;
    camera.setCondition(design.flag("alert"), time > 0.5);
  };
  const io::Trace trace = played(design, "1 end\n", options);
  EXPECT_EQ(ticks, 60);
  EXPECT_EQ(trace[20].framing, "base");
  EXPECT_EQ(trace[50].framing, "alert");
}

TEST(Rehearsal, SoftThingsLetTheCameraPassAndFade) {
  io::Level level;
  level.objects.push_back({"hedge", "larch", {"soft"}, io::boxMesh({0, 0, 1.5}, {4, 4, 0.4}, 0), true});
  const io::Trace through = played(CompiledDesign(CameraDesign()), "1 end\n", {}, level);
  for (const io::TraceFrame& frame : through) {
    EXPECT_EQ(frame.distance, frame.freeDistance);
    EXPECT_EQ(frame.fading, "hedge=0.250") << "from the first frame on, which is a cut";
    EXPECT_EQ(frame.visible, 1);
  }
  const io::Trace away = played(CompiledDesign(CameraDesign()), "0.1 MouseMove 2000 0\n2 end\n", {}, level);
  EXPECT_EQ(away.back().fading, "") << "nothing is before it any more";
  EXPECT_LT(io::pairsOf(away[8].fading).at("hedge"), 0.6) << "but it comes back gently";
  level.objects[0] = {"sill", "stone", {}, io::boxMesh({0, 0, 1}, {4, 1.2, 0.2}, 0), true};
  const io::Trace over = played(CompiledDesign(CameraDesign()), "1 end\n", {}, level);
  EXPECT_GT(over.back().visible, 0.3);
  EXPECT_LT(over.back().visible, 0.9) << "the feet are behind it";
}

TEST(Rehearsal, RegionsSetConditionsOfFramings) {
  io::Level level;
  level.regions.emplace_back().flag = "indoors";
  level.regions[0].region.base = {3, 0, -2};
  for (const io::TraceFrame& frame :
       played(designWith("indoors"), "0.5 teleport 3 0 -2\n1.5 teleport 0 0 0\n2 end\n", {}, level)) {
    const bool inside = frame.time >= 0.5 && frame.time < 1.5;
    EXPECT_EQ(frame.flags, inside ? "indoors" : "") << frame.time;
    EXPECT_EQ(frame.framing == "indoors", inside);
    EXPECT_LT(std::hypot(frame.headX, frame.headY), 0.7);
  }
}

TEST(Rehearsal, AGroupIsACameraOfTheLevelThatHoldsTargetsAndCharacter) {
  io::Level level;
  for (const double x : {6.0, 60.0}) level.targets.push_back({x < 10 ? "near" : "far", {x, 2, -4}, -1, 0.5});
  level.groups.emplace_back().name = "pair";
  level.groups[0].members = {-1, 0};
  level.groups.emplace_back().name = "all";
  level.groups[1].members = {-1, 0, 1};
  const std::string lines = "0 KeyW 1\n0.5 camera pair\n2 camera all 0.5\n3 camera character\n4 end\n";
  for (const io::TraceFrame& frame : played(CompiledDesign(CameraDesign()), lines, {}, level)) {
    const std::string camera = frame.time < 0.495   ? "character"
                               : frame.time < 1.995 ? "pair"
                               : frame.time < 2.995 ? "all"
                                                    : "character";
    ASSERT_EQ(frame.cameraName, camera) << frame.time;
    EXPECT_EQ(frame.groupLeftOut, camera == "all" ? "far" : "") << frame.time;
    EXPECT_EQ(frame.groupSplits, camera == "all" ? 1 : 0);
    if (camera == "character") continue;
    EXPECT_LT(std::max(std::abs(frame.headX), std::abs(frame.headY)), 0.9) << frame.time;
    double x = 9, y = 9;
    ASSERT_EQ(std::sscanf(frame.targets.c_str(), "near=%lf,%lf", &x, &y), 2) << frame.targets;
    EXPECT_LT(std::max(std::abs(x), std::abs(y)), 0.9) << frame.time;
  }
}

}  // namespace
}  // namespace alpglow::stage
