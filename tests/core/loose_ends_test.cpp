// Ends, resets and rates of what turns and moves beside the player; and that a small world is filmed like a large one.

#include "alpglow/base/state.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "alpglow/camera/update_many.hpp"
#include "alpglow/space/go_out.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "support/camera_run.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

const NoObstacles open;
const Subject still = wardenAt({0, 0, 0});

View run(CharacterCamera& camera, double seconds, const Intent& intent = {}, const Obstacles& world = open) {
  View view;
  for (double left = seconds; left > 1e-9; left -= 0.01) view = camera.step(0.01, intent, still, world, wide);
  return view;
}

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

TEST(LooseEnds, WhatIsForbiddenAndNudgedOutlivesASavedState) {
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

TEST(LooseEnds, EveryEndIsAnEvent) {
  CameraDesign plain = wardenDesign();
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  run(camera, 0.1);
  camera.setPose({1.0, {}, {}});
  run(camera, 0.1);
  camera.swingBack();
  std::uint32_t events = 0;
  for (int i = 0; i < 100; ++i) events |= run(camera, 0.01).events;
  EXPECT_TRUE(events & Event::swingBackBegan);
  EXPECT_TRUE(events & Event::swingBackEnded);
  testing::Walls low;
  low.walls.push_back({{0, -1, 0}, -1.68});  // a ceiling that touches the head
  EXPECT_TRUE(run(camera, 0.01, {}, low).events & Event::headBlocked);
  EXPECT_EQ(run(camera, 0.01, {}, low).events & (Event::headBlocked | Event::headFreed), 0u);
  EXPECT_TRUE(run(camera, 0.01).events & Event::headFreed);
  camera.tick(0.01, wardenAt({50, 0, 0}));
  const View view = camera.update(0.01, wardenAt({50, 0, 0}), open, wide);
  EXPECT_TRUE(view.events & Event::teleport) << "also if a tick told of it";
  EXPECT_TRUE(view.cut);
}

TEST(LooseEnds, AViewTellsHowFastAStickTurnsIt) {
  const CompiledDesign design(wardenDesign());
  CharacterCamera camera(design, still);
  run(camera, 0.1);
  const View before = camera.view();
  const View view = camera.step(0.01, Intent({}, {0.5, 0.25}), still, open, wide);
  EXPECT_NEAR(view.yawRate, shortestTurn(before.yaw, view.yaw) / 0.01, 1e-9);
  EXPECT_NEAR(view.pitchRate, (view.pitch - before.pitch) / 0.01, 1e-9);
  EXPECT_NE(view.pitchRate, 0);
}

TEST(LooseEnds, AStateWritesNothingBeyondItsBytes) {
  unsigned char bytes[24];
  std::fill(std::begin(bytes), std::end(bytes), static_cast<unsigned char>(7));
  GoOut limit;
  StateWriter writer(bytes, 16);
  writer.part(limit);
  EXPECT_FALSE(writer.good());
  EXPECT_TRUE(std::all_of(bytes + 16, bytes + 24, [](unsigned char byte) { return byte == 7; }));
}

TEST(LooseEnds, APoseWithAnyBadNumberIsNone) {
  const CompiledDesign design(wardenDesign());
  CharacterCamera camera(design, still);
  const View before = run(camera, 0.5);
  const double nan = std::numeric_limits<double>::quiet_NaN();
  for (const CameraPose& pose : {CameraPose{nan, {}, {}}, CameraPose{1.0, nan, {}}, CameraPose{1.0, {}, nan}}) {
    camera.setPose(pose);
    const View after = run(camera, 0.01);
    EXPECT_EQ(after.yaw, before.yaw);
    EXPECT_EQ(after.events & Event::cut, 0u);
  }
}

TEST(LooseEnds, AStandingCameraTellsHowItMovesAndTurns) {
  StandingSettings settings;
  settings.look.point = {0, 1, 0};
  settings.roll = 0.2;
  const auto at = [&](double t) {
    ReferenceFrame cabin, warden;
    cabin.velocity = {1, 0.5, -2}, warden.velocity = {-3, 1, 0.7};
    cabin.origin = Vector3d(0, 4, 0) + t * cabin.velocity;
    warden.origin = Vector3d(3, 0, -8) + t * warden.velocity;
    return StandingCamera(settings).view(&cabin, &warden, wide);
  };
  constexpr double dt = 1e-5;
  const View view = at(0), later = at(dt), before = at(-dt);
  EXPECT_NEAR(view.yawRate, shortestTurn(before.yaw, later.yaw) / (2 * dt), 1e-6);
  EXPECT_NEAR(view.pitchRate, (later.pitch - before.pitch) / (2 * dt), 1e-6);
  EXPECT_LT((view.velocity - (later.position - before.position) / (2 * dt)).norm(), 1e-6);
  EXPECT_EQ(view.roll, 0.2);
}

TEST(LooseEnds, ASmallWorldIsFilmedLikeALargeOne) {
  CameraDesign plain = wardenDesign();
  plain.fade.eyesBelow = 0.35, plain.fade.eyesUntil = 0.7;
  const CompiledDesign design(plain);
  Subject large = still, small = still;
  small.feet /= 2, small.head /= 2, small.frame.scale = 0.5;
  CharacterCamera a(design, large), b(design, small);
  double faded = 0, eyes = 0, lost = 0;
  a.lockOn({1, {0, 1.5, -20}, Vector3d::Zero(), 0.5});
  b.lockOn({1, {0, 0.75, -10}, Vector3d::Zero(), 0.25});
  for (int i = 0; i < 240; ++i) {
    const double room = i < 160 ? 3 - i * 0.018 : 3;
    testing::Walls wall, half;
    wall.walls = {{{-0.6, 0, -0.8}, -room}};  // behind, and to the right
    half.walls = {{{-0.6, 0, -0.8}, -room / 2}};
    const double target = i < 200 ? 20 : 40;
    if (a.locked()) a.lockOn({1, {0, 1.5, -target}, Vector3d::Zero(), 0.5});
    if (b.locked()) b.lockOn({1, {0, 0.75, -target / 2}, Vector3d::Zero(), 0.25});
    const View x = a.step(0.02, {}, large, wall, wide), y = b.step(0.02, {}, small, half, wide);
    ASSERT_NEAR(x.opacity, y.opacity, 1e-2) << i;
    ASSERT_EQ(x.framing, y.framing) << i;
    ASSERT_EQ((x.events ^ y.events) & ~std::uint32_t{Event::pullInEnded}, 0u) << i;
    ASSERT_LT((x.position / 2 - y.position).norm(), 2e-3) << "a skin of a millimetre is not scaled";
    EXPECT_NEAR(x.farPlane / 2, y.farPlane, 1e-9);
    EXPECT_NEAR(x.freeDistance / 2, y.freeDistance, 1e-9);
    faded += x.opacity > 0 && x.opacity < 1;
    eyes += x.events & Event::eyesTookOver ? 1 : 0;
    lost += x.events & Event::lockLost ? 1 : 0;
  }
  EXPECT_GT(faded, 3);
  EXPECT_EQ(eyes, 1);
  EXPECT_EQ(lost, 1);
}

TEST(LooseEnds, AStepThatIsFinishedGoesOnAllTheWay) {
  BobSettings settings{0.06, 0.05};
  HeadBob bob;
  bob.step(2.13, 1, true, settings);
  double largest = 0, moved = 0;
  Eigen::Vector2d before = bob.offset(settings);
  for (int i = 0; i < 1000 && !bob.still(); ++i) {
    bob.step(0, 1e-3, true, settings);
    largest = std::max(largest, (bob.offset(settings) - before).norm());
    moved += (bob.offset(settings) - before).norm();
    before = bob.offset(settings);
  }
  EXPECT_GT(moved, 0.005);
  EXPECT_LT(largest, moved / 50) << "no jump at the end";
}

TEST(LooseEnds, AfterACutNothingIsLeftOfBefore) {
  CameraDesign plain = wardenDesign();
  plain.motion.bob = {0.06, 0.05};
  plain.steady.cap = degrees(5);
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  testing::Walls room;
  room.walls = {{{0, 0, -1}, -1.2}, {{0, 0, 1}, -0.8}, {{-1, 0, 0}, -0.4}};
  const Vector3d velocity(0, 0, -1.3);
  for (int i = 0; i < 20; ++i) camera.step(0.02, {}, wardenAt(0.02 * i * velocity, 0, velocity), room, wide);
  camera.setCondition(Condition::aiming, true);
  camera.step(0.05, {}, wardenAt(0.42 * velocity, 0, velocity), room, wide);
  const Subject there = wardenAt({70, 0, 0});
  CharacterCamera fresh(design, there);
  fresh.setCondition(Condition::aiming, true);
  const testing::FarSphere ball(30, there.feet);
  const IntentSample look[] = {IntentSample::look(0, {40, -20})};
  camera.setPose({0.0, 0.0, {}});
  fresh.setPose({0.0, 0.0, {}});
  for (int i = 0; i < 40; ++i) {
    const Subject now = wardenAt(there.feet + 0.02 * i * velocity, 0, velocity);
    const View a = camera.step(0.02, i == 1 ? Intent{look} : Intent(), now, ball, wide);
    const View b = fresh.step(0.02, i == 1 ? Intent{look} : Intent(), now, ball, wide);
    ASSERT_EQ(a.cut, i == 0);
    ASSERT_LT((a.position - b.position).norm(), 1e-9) << i;
    ASSERT_NEAR(a.pitch, b.pitch, 1e-9) << i;
    ASSERT_NEAR(a.yaw, b.yaw, 1e-9) << i;
    ASSERT_NEAR(a.fieldOfView, b.fieldOfView, 1e-9) << i;
  }
}

TEST(LooseEnds, ANewSubjectAndANewPoseAreHandsOn) {
  CameraDesign plain;
  plain.swingBack.rate = 1;
  const CompiledDesign design(plain);
  CharacterCamera camera(design, still);
  EXPECT_EQ(run(camera, 3).holdoff, 0);
  camera.setPose({1.0, {}, {}});
  EXPECT_NEAR(run(camera, 0.01).holdoff, plain.swingBack.holdoff, 0.02);
  EXPECT_EQ(run(camera, 3).holdoff, 0);
  camera.changeSubject(wardenAt({1, 0, 0}));
  EXPECT_NEAR(run(camera, 0.01).holdoff, plain.swingBack.holdoff, 0.02);
}

TEST(UpdateMany, IsTheSameAsOneByOneAndLeavesOutWhoIsNotThere) {
  const CompiledDesign design{CameraDesign()};
  const Triangle wall[] = {{{-9, 0, 2}, {9, 0, 2}, {9, 4, 2}}, {{-9, 0, 2}, {9, 4, 2}, {-9, 4, 2}}};
  const TriangleMesh level(wall, Thing{1});
  std::vector<CharacterCamera> together, alone;
  for (int i = 0; i < 5; ++i) {
    together.emplace_back(design, testing::wardenAt({2.0 * i, 0, 0}));
    alone.push_back(together.back());
  }
  std::vector<View> views(6);
  for (int frame = 0; frame < 30; ++frame) {
    const IntentSample looked[] = {IntentSample::look(0, {3.0 * frame, 1})};
    std::vector<FrameOfOne> frames;
    for (int i = 0; i < 5; ++i) {
      const Subject warden = testing::wardenAt({2.0 * i, 0, 0.01 * frame});
      frames.push_back({&together[static_cast<std::size_t>(i)], 0.01 * (i + 1), Intent{looked}, warden, 1.0 + i});
    }
    frames.insert(frames.begin() + 2, FrameOfOne());
    updateMany(frames, level, views.data());
    for (std::size_t i = 0; i < 5; ++i) {
      const FrameOfOne& each = frames[i < 2 ? i : i + 1];
      const View due = alone[i].step(each.time, each.intent, each.subject, level, each.aspect);
      ASSERT_EQ(views[i < 2 ? i : i + 1].position, due.position);
      ASSERT_TRUE(together[i].save() == alone[i].save());
    }
    ASSERT_EQ(views[2].freeDistance, 0) << "nobody was there";
  }
  EXPECT_TRUE(views[0].pulledIn);
}

}  // namespace
}  // namespace alpglow
