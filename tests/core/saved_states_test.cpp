// The state of everything that has one: goes on elsewhere exactly as here, and refuses what was damaged.

#include "alpglow/assist/lock_on.hpp"
#include "alpglow/assist/swing_back.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/flying_camera.hpp"
#include "alpglow/camera/group_camera.hpp"
#include "alpglow/camera/inspection.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "alpglow/follow/history.hpp"
#include "alpglow/space/go_out.hpp"
#include "support/camera_run.hpp"
#include "support/desk.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <cstring>
#include <string>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;
using testing::wardenAt;
using testing::wide;

constexpr double dt = 1 / 60.0;

/// Each kind of thing with a state, and a frame of a random game with it.
struct Flying : FlyingCamera {
  Flying() : FlyingCamera(FlightSettings(), {0, 3, 0}, {}) {}
  void play(Random& random, int frame) {
    const IntentSample looked[] = {IntentSample::look(0, {random.between(-20, 20), random.between(-20, 20)})};
    if (frame % 50 == 40) store();
    if (frame % 90 == 80) reset();
    step(dt, Intent{looked}, {random.between(-1, 1), random.between(-1, 1)}, random.between(-1, 1), false);
    view(wide);
  }
};
struct Standing : StandingCamera {
  Standing() : StandingCamera({{{4, 3, -2}, PointAxes::world}, {{0, 1.5, 0}, PointAxes::world}, 0, 0, 0, {}}) {}
  void play(Random& random, int frame) {
    ReferenceFrame thing;
    thing.id = 1;
    thing.origin = random.point(3);
    if (frame % 7 == 0) trim(random.between(-1, 1), random.between(-1, 1));
    view(nullptr, &thing, frame % 11 == 0 ? -1 : wide);
  }
};
struct Inspecting : Inspection {
  Inspecting() : Inspection(InspectionSettings(), InspectionTurns::thing) {}
  void play(Random& random, int) {
    const IntentSample samples[] = {IntentSample::look(0, {random.between(-20, 20), random.between(-20, 20)}),
                                    IntentSample::zoom(0.01, random.between(-1, 1))};
    step(dt, Intent{samples}, random.between(-1, 1));
    view({1, 2, 3}, wide);
  }
};
struct Group : GroupCamera {
  Group() : GroupCamera(GroupSettings()) {}
  void play(Random& random, int frame) {
    std::vector<GroupMember> members = {{1, random.point(2), 0.6, 1}, {2, random.point(6), 0.6, 0.5}};
    if (frame % 80 > 40) members.push_back({3, random.point(5), 0.6, 0.2});
    update(dt, Span<const GroupMember>(members.data(), members.size()), NoObstacles(), wide);
  }
};
ReferenceFrame platformAt(double time, Random& random) {
  ReferenceFrame frame;
  frame.id = 4;
  frame.origin = {3 * time, random.between(0, 0.02), 0};
  frame.velocity = {3, 0, 0};
  frame.rotation = Rotation(Eigen::AngleAxisd(2 * time, Vector3d::UnitY()));
  if (random.chance(0.5)) frame.rotation.coeffs() *= -1;
  frame.yawRate = 2;
  return frame;
}
struct Walked : History {
  void play(Random& random, int frame) {
    Subject warden = wardenAt({frame * 0.03, random.between(0, 0.1), 0}, frame * 0.02);
    warden.teleported = frame % 60 == 30;
    if (frame % 100 > 50) warden.frame = platformAt(frame * dt, random);
    if (random.chance(0.6)) add((frame - random.whole(0, 4)) * dt, warden);
    at((frame - 1.3) * dt);
  }
};
struct Platform : PlatformHistory {
  void play(Random& random, int frame) {
    if (random.chance(0.6)) add((frame - random.whole(0, 4)) * dt, platformAt(frame * dt, random), frame % 70 == 50);
    at((frame - 1.3) * dt);
  }
};

template <class Thing>
class SavedStates : public ::testing::Test {};
using Things = ::testing::Types<Flying, Standing, Inspecting, Group, Walked, Platform>;
struct Names {
  template <class Thing>
  static std::string GetName(int place) {
    const char* const names[] = {"Flying", "Standing", "Inspecting", "Group", "Walked", "Platform"};
    return names[place];
  }
};
TYPED_TEST_SUITE(SavedStates, Things, Names);

TYPED_TEST(SavedStates, GoOnElsewhereAsHereAndSayWhereTheyDiffer) {
  Random random(5);
  TypeParam here;
  for (int frame = 0; frame < 400; ++frame) {
    TypeParam there;
    const auto saved = here.save();
    ASSERT_TRUE(there.restore(saved)) << frame;
    ASSERT_EQ(there.difference(saved), "");
    ASSERT_EQ(there.save().hash(), saved.hash());
    Random same = random;
    here.play(random, frame);
    there.play(same, frame);
    ASSERT_TRUE(here.save() == there.save()) << frame << ' ' << here.difference(there.save());
    if (frame == 100) {
      const std::string said = here.difference(saved);
      EXPECT_NE(said.find(" here, "), std::string::npos) << said;
    }
  }
}

TYPED_TEST(SavedStates, RefuseWhatWasDamagedAndTakeNothingThatDoesHarm) {
  Random random(6);
  int taken = 0, refused = 0;
  for (int run = 0; run < 400; ++run) {
    TypeParam thing;
    for (int frame = 0; frame < 10; ++frame) thing.play(random, frame);
    auto saved = thing.save();
    const double strange[] = {std::nan(""), 1e300, -1e18, -1, 0, 7, INFINITY};
    std::memcpy(saved.fields + random.whole(0, static_cast<int>(sizeof saved.fields) - 8), &strange[random.whole(0, 6)],
                8);
    if (saved == thing.save()) continue;
    const auto before = thing.save();
    EXPECT_FALSE(thing.restore(saved)) << "the checksum is another";
    EXPECT_EQ(thing.difference(saved), "it was damaged");
    saved.checksum = checksumOf(saved.fields, sizeof saved.fields);
    if (!thing.restore(saved)) {
      EXPECT_TRUE(thing.save() == before) << "nothing changes";
      ++refused;
      continue;
    }
    ++taken;
    for (int frame = 0; frame < 30; ++frame) thing.play(random, frame);
    TypeParam other;
    EXPECT_TRUE(other.restore(thing.save())) << run << ": its own state has an illegal number after that";
  }
  EXPECT_GT(refused, 50);
  EXPECT_GT(taken, 5);
}

TEST(SavedStates, OfTheCharacterCameraDifferByMoreThanATolerance) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera here(design, wardenAt({0, 0, 0})), there = here;
  const NoObstacles open;
  here.step(dt, {}, wardenAt({0.1, 0, 0}), open, wide);
  there.step(dt, {}, wardenAt({0.1 + 1e-9, 0, 0}), open, wide);
  EXPECT_NE(here.difference(there.save()), "");
  EXPECT_NE(here.difference(there.save(), 1e-10), "");
  EXPECT_EQ(here.difference(there.save(), 1e-7), "");
}

TEST(SavedStates, OfControlsHoldKeysTogglesBlocksAndSamples) {
  const char* const controls[] = {"KeyW",     "KeyD",       "KeyC",       "PadAxis0",
                                  "PadAxis3", "PadButton6", "MouseWheel", "MouseMove"};
  Random random(7);
  PlayerControls here(standardBindings());
  for (int frame = 0; frame < 400; ++frame) {
    PlayerControls there(standardBindings());
    const std::vector<unsigned char> bytes = here.save();
    ASSERT_TRUE(there.restore({bytes.data(), bytes.size()})) << frame;
    ASSERT_EQ(there.save(), bytes);
    here.beginFrame(), there.beginFrame();
    for (int i = 0; i < 4; ++i) {
      const ControlEvent event{i * 0.002, findControl(controls[random.whole(0, 7)]), random.between(-1, 1), 0.5};
      here.feed(event), there.feed(event);
    }
    if (random.chance(0.1)) here.block("menu", Blocked::look, 0.01), there.block("menu", Blocked::look, 0.01);
    if (random.chance(0.1)) here.unblock("menu", 0.01), there.unblock("menu", 0.01);
    ASSERT_EQ(here.hash(), there.hash()) << frame;
    ASSERT_EQ(here.intent().samples.size(), there.intent().samples.size());
    ASSERT_EQ(here.move().x, there.move().x);

    std::vector<unsigned char> damaged = bytes;
    damaged[static_cast<std::size_t>(random.whole(0, static_cast<int>(bytes.size()) - 1))] ^= 16;
    ASSERT_FALSE(there.restore({damaged.data(), damaged.size()}));
    ASSERT_FALSE(
        there.restore({bytes.data(), static_cast<std::size_t>(random.whole(0, static_cast<int>(bytes.size()) - 1))}));
    ASSERT_EQ(here.hash(), there.hash()) << "nothing changes";
  }
  Bindings more = standardBindings();
  more.modes[0].bindings.push_back(testing::bound(Action::jump, "KeyJ"));
  PlayerControls others(more);
  const std::vector<unsigned char> bytes = here.save();
  EXPECT_FALSE(others.restore({bytes.data(), bytes.size()})) << "of other bindings";
}

const NoObstacles open;

/// A copy by way of its bytes.
template <class Part>
Part throughBytes(Part part) {
  unsigned char bytes[2048] = {};
  StateWriter writer(bytes, sizeof bytes);
  writer.part(part);
  Part copy;
  StateReader reader(bytes, sizeof bytes);
  reader.part(copy);
  EXPECT_TRUE(writer.good() && reader.good());
  return copy;
}

TEST(SavedParts, WhatIsForbiddenAndNudgedOutlivesASavedState) {
  SwingBack swing;
  EXPECT_TRUE(swing.forbid("ladder"));
  EXPECT_TRUE(throughBytes(swing).forbidden());
  swing.allow("ladder");
  EXPECT_FALSE(throughBytes(swing).forbidden());
  LockOn lock;
  lock.nudge({0.05, -0.02}, LockSettings());
  EXPECT_EQ(throughBytes(lock).nudged().yaw, lock.nudged().yaw);
  EXPECT_EQ(throughBytes(lock).nudged().pitch, lock.nudged().pitch);
  EXPECT_NE(lock.nudged().yaw, 0);
}

TEST(SavedParts, AStateWritesNothingBeyondItsBytes) {
  unsigned char bytes[24];
  std::fill(std::begin(bytes), std::end(bytes), static_cast<unsigned char>(7));
  GoOut limit;
  StateWriter writer(bytes, 16);
  writer.part(limit);
  EXPECT_FALSE(writer.good());
  EXPECT_TRUE(std::all_of(bytes + 16, bytes + 24, [](unsigned char byte) { return byte == 7; }));
}

TEST(SavedCamera, AStateKnowsHowLongATargetWasHiddenAndHowLongAHandIsWaitedFor) {
  CameraDesign plain;
  plain.swingBack.rate = 1;
  plain.lock.hiddenFor = 1;
  const CompiledDesign design(plain);
  testing::Walls wall;
  wall.walls.push_back({{0, 0, 1}, -5});
  CharacterCamera camera(design, wardenAt({0, 0, 0})), other(design, wardenAt({0, 0, 0}));
  Target target;
  target.id = 1;
  target.position = {0, 1, -9};
  const IntentSample hand[] = {IntentSample::look(0, {3, 0})};
  camera.look(0.01, Intent{hand});
  for (int i = 0; i < 6; ++i) {
    camera.lockOn(target);
    camera.update(0.1, wardenAt({0, 0, 0}), wall, wide);
  }
  ASSERT_TRUE(camera.locked());
  ASSERT_TRUE(other.restore(camera.save()));
  EXPECT_GT(camera.view().holdoff, 0);
  EXPECT_EQ(other.view().holdoff, camera.view().holdoff);
  for (int i = 0; i < 6; ++i) other.update(0.1, wardenAt({0, 0, 0}), wall, wide);
  EXPECT_FALSE(other.locked()) << "hidden for more than a second in all";
}

TEST(SavedCamera, AStateThatLooksStraightUpOrDownComesBack) {
  CameraDesign plain;
  plain.framings[0].framing.pitch = {-pi / 2, pi / 2};
  const CompiledDesign design(plain);
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  for (const double pitch : {-pi / 2, pi / 2}) {
    camera.setPose({{}, pitch, {}});
    EXPECT_EQ(camera.step(0.1, {}, wardenAt({0, 0, 0}), open, wide).pitch, pitch);
    EXPECT_TRUE(camera.restore(camera.save()));
  }
}

TEST(SavedCamera, AViewThroughALensThatTheDesignDoesNotHaveIsNotRestored) {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  for (const double fieldOfView : {20, 100}) {
    CameraDesign plain;
    plain.framings[0].framing.lens.fieldOfView = degrees(fieldOfView);
    const CompiledDesign foreign(plain);
    CharacterCamera other(foreign, wardenAt({0, 0, 0}));
    other.update(0.1, wardenAt({0, 0, 0}), open, wide);
    CharacterCamera::Saved saved = other.save();
    saved.designDigest = design.digest();
    EXPECT_FALSE(camera.restore(saved)) << fieldOfView;
  }
}

}  // namespace
}  // namespace alpglow
