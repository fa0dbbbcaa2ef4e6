// Aiming, switching perspective, and every change between framings.

#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/seeds.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::FarSphere;
using testing::Random;
using testing::wardenAt;
using testing::wardenDesign;
using testing::wide;

/// Random commands at random times.
struct Player {
  explicit Player(unsigned seed) : random(seed) {}
  Random random;
  bool aims = false, crouches = false, sprints = false;
  std::vector<IntentSample> play(double dt, double share, bool looks) {
    std::vector<IntentSample> samples;
    if (looks && random.chance(0.3))
      samples.push_back(IntentSample::look(0, {random.between(-20, 20), random.between(-9, 9)}));
    if (!random.chance(share)) return samples;
    const double time = random.between(0, dt);
    switch (random.whole(0, 6)) {
      case 0:
        aims = !aims;
        samples.push_back(IntentSample::aim(time, aims));
        break;
      case 1: samples.push_back(IntentSample::switchPerspective(time)); break;
      case 2: samples.push_back(IntentSample::swapShoulder(time)); break;
      case 3:  // the ladder; the wheel's own half-life starts at once, and is no transition
        if (aims) samples.push_back(IntentSample::zoom(time, random.whole(-2, 2)));
        break;
      case 4: crouches = random.chance(0.5); break;
      default: sprints = random.chance(0.5); break;
    }
    return samples;
  }
};

/// The most that anything changed by from one frame to the next.
struct Changes {
  double position = 0, velocity = 0, yawRate = 0, lensRate = 0, firstPerson = 0, lookScale = 0;
};

/// What one coarse frame is told.
struct Told {
  bool aim = false, crouched = false, sprinting = false;
  std::vector<IntentSample> samples;
};

/// The same commands at the same moments, with so many frames for each of theirs.
Changes changesOf(const CompiledDesign& design, const Obstacles& world, const std::vector<Told>& script, double dt,
                  int cuts) {
  const Vector3d velocity(1.5, 0, -2);
  const double h = dt / cuts;
  CharacterCamera camera(design, wardenAt({0, 0, 0}, 0, velocity));
  View before = camera.update(0.0, wardenAt({0, 0, 0}, 0, velocity), world, wide);
  Vector3d speed = velocity;
  double yawRate = 0, lensRate = 0;
  Changes most;
  const auto atLeast = [](double& greatest, double value) { greatest = std::max(greatest, value); };
  for (int i = 0; i < static_cast<int>(script.size()) * cuts; ++i) {
    const Told& told = script[static_cast<std::size_t>(i / cuts)];
    const double begins = i % cuts * h;
    std::vector<IntentSample> samples;
    bool aim = told.aim;
    for (IntentSample sample : told.samples) {
      sample.time -= begins;
      if (sample.time < 0 && sample.kind == IntentSample::Kind::aim) aim = sample.x > 0;
      if (sample.time >= 0 && sample.time < h) samples.push_back(sample);
    }
    camera.setCondition(Condition::crouched, told.crouched);
    camera.setCondition(Condition::sprinting, told.sprinting);
    Intent intent{samples};
    intent.aim = aim;
    const View view = camera.step(h, intent, wardenAt(velocity * ((i + 1) * h), 0, velocity), world, wide);
    const Vector3d now = (view.position - before.position) / h;
    const double yaw = shortestTurn(before.yaw, view.yaw) / h, lens = (view.fieldOfView - before.fieldOfView) / h;
    if (i > 2 * cuts) {
      atLeast(most.position, (view.position - before.position).norm());
      atLeast(most.velocity, (now - speed).norm());
      atLeast(most.yawRate, std::abs(yaw - yawRate));
      atLeast(most.lensRate, std::abs(lens - lensRate));
      atLeast(most.firstPerson, std::abs(view.firstPerson - before.firstPerson));
      atLeast(most.lookScale, std::abs(std::log(view.lookScale / before.lookScale)));
    }
    EXPECT_TRUE(view.position.allFinite());
    EXPECT_GE(view.fieldOfView, design.fieldOfView(1, 2) - 1e-9);
    EXPECT_LE(view.fieldOfView, degrees(70) + 1e-9);
    EXPECT_GE(view.freeDistance, -1e-12);
    EXPECT_LE(view.freeDistance, 6 + 1e-9);
    EXPECT_EQ(view.roll, 0);
    EXPECT_FALSE(view.cut);
    before = view, speed = now, yawRate = yaw, lensRate = lens;
  }
  return most;
}

class RandomChanges : public testing::Shards {};
ALPGLOW_SHARDS(RandomChanges);

// What is continuous, with speeds and accelerations that are bounded, changes half as much in half the time; what
// jumps, or brakes without a bound, changes as much. So no number of frames, metres or seconds is asked for.
TEST_P(RandomChanges, JumpNowhereByTheThousand) {
  const CompiledDesign design(wardenDesign());
  constexpr double unseen = 1e-3;
  std::size_t changes = 0;
  for (const unsigned seed : seedsOf(1000)) {
    Player player(seed);
    const double dt = 1 / player.random.between(700, 2000);
    const FarSphere world(player.random.between(3, 60));
    std::vector<Told> script;
    Told told;
    for (int i = 0; i < 0.8 / dt; ++i) {
      told.aim = player.aims;
      told.samples = player.play(dt, 12 * dt, false);
      told.crouched = player.crouches, told.sprinting = player.sprints;
      changes += told.samples.size();
      script.push_back(told);
    }
    const Changes coarse = changesOf(design, world, script, dt, 1), fine = changesOf(design, world, script, dt, 2);
    const auto halves = [&](double Changes::*what, double step) {
      EXPECT_LE(fine.*what, 0.6 * (coarse.*what) + step) << "seed " << seed << " at " << dt << " s";
    };
    halves(&Changes::position, 0);
    halves(&Changes::yawRate, unseen);
    halves(&Changes::velocity, unseen);
    halves(&Changes::lensRate, unseen);
    halves(&Changes::firstPerson, unseen);
    halves(&Changes::lookScale, unseen);
  }
  EXPECT_GT(changes, 700u);
}

TEST(Framings, DoNotDependOnHowTimeIsCut) {
  const CompiledDesign design(wardenDesign());
  const FarSphere world(40);
  const Vector3d velocity(1.2, 0, -2.1);
  const auto at = [&](double time) { return wardenAt(velocity * time, 0, velocity); };
  int changes = 0;
  for (unsigned seed = 0; seed < 200; ++seed) {
    Player player(1000 + seed);
    CharacterCamera coarse(design, at(0));
    coarse.update(0.0, at(0), world, wide);
    CharacterCamera fine = coarse;
    double time = 0;
    for (int i = 0; i < 60; ++i) {
      const double dt = player.random.between(0.001, 0.06);
      const bool was = player.aims;
      if (player.random.chance(0.2)) {
        const bool holds = player.random.chance(0.5);
        for (CharacterCamera* camera : {&coarse, &fine}) camera->setCondition(Condition::sprinting, holds);
      }
      std::vector<IntentSample> samples = player.play(dt, 0.5, true);
      for (IntentSample& s : samples) s.time = s.kind == IntentSample::Kind::look ? dt / 3 : dt / 2;
      Intent intent{samples};
      intent.aim = was;
      const View a = coarse.step(dt, intent, at(time + dt), world, wide);
      // The same in pieces.
      double from = 0;
      bool aims = was;
      for (const double piece : {dt / 3, dt / 6, dt / 4, dt / 4}) {
        std::vector<IntentSample> now;
        for (IntentSample s : samples) {
          if (s.time < from - 1e-12 || s.time > from + piece / 2) continue;
          s.time = 0;
          now.push_back(s);
        }
        Intent part{now};
        part.aim = aims;
        for (const IntentSample& s : now)
          if (s.kind == IntentSample::Kind::aim) aims = s.x > 0;
        from += piece;
        fine.step(piece, part, at(time + from), world, wide);
      }
      time += dt;
      const View b = fine.view();
      ASSERT_NEAR(a.fieldOfView, b.fieldOfView, 1e-9) << seed << " " << i;
      ASSERT_NEAR(a.freeDistance, b.freeDistance, 1e-9);
      ASSERT_NEAR(a.firstPerson, b.firstPerson, 1e-9);
      ASSERT_NEAR(a.lookScale, b.lookScale, 1e-9);
      ASSERT_NEAR(shortestTurn(a.yaw, b.yaw), 0, 1e-9) << seed << " " << i;
      ASSERT_NEAR(a.pitch, b.pitch, 1e-9);
      ASSERT_LT((a.position - b.position).norm(), 1e-9);
      changes += a.framingBlend < 1 ? 1 : 0;
    }
  }
  EXPECT_GT(changes, 1000);
}

TEST_P(RandomChanges, EndOnTheNumbersOfAnUninterruptedRun) {
  const CompiledDesign design(wardenDesign());
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  for (const unsigned seed : seedsOf(2000)) {
    Player player(seed);
    CharacterCamera camera(design, subject), straight(design, subject);
    camera.update(0.0, subject, open, wide);
    straight.update(0.0, subject, open, wide);
    for (int i = 0; i < 200; ++i) {
      const bool was = player.aims;
      std::vector<IntentSample> samples = player.play(0.01, 0.2, false);
      camera.setCondition(Condition::crouched, player.crouches);
      camera.setCondition(Condition::sprinting, player.sprints);
      samples.erase(std::remove_if(samples.begin(), samples.end(),
                                   [](const IntentSample& s) { return s.kind == IntentSample::Kind::zoom; }),
                    samples.end());
      Intent intent{samples};
      intent.aim = was;
      camera.step(0.01, intent, subject, open, wide);
    }
    camera.setCondition(Condition::sprinting, false);
    camera.choose(Perspective::third);
    camera.setShoulder(Shoulder::designed);
    Intent aiming;
    aiming.aim = true;
    View a, b;
    for (int i = 0; i < 200; ++i) {
      a = camera.step(0.01, aiming, subject, open, wide);
      b = straight.step(0.01, aiming, subject, open, wide);
    }
    ASSERT_NEAR(a.fieldOfView, b.fieldOfView, 1e-9);
    ASSERT_NEAR(a.distance, b.distance, 1e-9);
    ASSERT_NEAR((a.pivot - a.head).norm(), (b.pivot - b.head).norm(), 1e-9);
    ASSERT_EQ(a.framing, 1);
    ASSERT_EQ(a.framingBlend, 1);
  }
}

TEST(Framings, PitchLimitsTakeTheLookAlongFromRest) {
  const CompiledDesign design(wardenDesign());  // within 80° behind the shoulder, 60° through the scope
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  for (const double pitch : {degrees(-75), degrees(75)}) {
    CharacterCamera camera(design, subject);
    camera.setPose({0, pitch, 3});
    View view = camera.update(0.0, subject, open, wide), before;
    double rate = 0;
    Intent aiming;
    aiming.aim = true;
    for (int i = 0; i < 400; ++i) {
      before = view;
      view = camera.step(0.001, aiming, subject, open, wide);
      const double now = (view.pitch - before.pitch) / 0.001;
      ASSERT_LT(std::abs(now - rate), 0.03) << i;  // 15° in 0.3 s, with least jerk: 17 rad/s²
      ASSERT_LE(std::abs(view.pitch), std::abs(before.pitch) + 1e-12);
      rate = now;
    }
    EXPECT_NEAR(std::abs(view.pitch), degrees(60), 1e-9);
  }
}

TEST(Framings, RaiseTheCutFlagWhereTheyCut) {
  CameraDesign plan = wardenDesign();
  plan.framings[1].framing.transition = 0;
  const CompiledDesign design(plan);
  const FarSphere world(20);
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  const Vector3d point = camera.update(0.0, subject, world, wide).aimPoint;
  Intent aiming;
  aiming.aim = true;
  EXPECT_FALSE(camera.step(0.01, {}, subject, world, wide).cut);
  const View there = camera.step(0.01, aiming, subject, world, wide);
  EXPECT_TRUE(there.cut);
  EXPECT_NEAR(there.distance, 1.3, 1e-9);
  EXPECT_LT((there.aimPoint - point).norm(), 1e-9) << "and on the same point";
  EXPECT_FALSE(camera.step(0.01, aiming, subject, world, wide).cut);
  EXPECT_FALSE(camera.step(0.01, {}, subject, world, wide).cut) << "back within 0.45 s";
}

TEST(Framings, ZoomingGoesOnWhileTheyBlend) {
  const CompiledDesign design(wardenDesign());
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  camera.update(0.0, subject, open, wide);
  CharacterCamera still = camera;
  camera.setCondition(Condition::sprinting, true);
  still.setCondition(Condition::sprinting, true);
  const IntentSample out[] = {IntentSample::zoom(0, -2)};
  double ahead = 0;
  for (int i = 0; i < 200; ++i) {
    const View view = camera.step(0.01, i == 10 ? Intent{out} : Intent(), subject, open, wide);
    const View other = still.step(0.01, {}, subject, open, wide);
    if (i == 15) {
      EXPECT_LT(view.framingBlend, 1);
      EXPECT_GT(view.distance - other.distance, 0.2) << "shown at once";
    }
    ahead = std::log(view.distance / other.distance);
  }
  EXPECT_NEAR(ahead, 2 * std::log(design.design().zoom.factorPerNotch), 1e-6);
}

TEST(Framings, RememberTheirDistanceAndGoBackSooner) {
  const CompiledDesign design(wardenDesign());
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  const IntentSample in[] = {IntentSample::zoom(0, 3)};
  for (int i = 0; i < 100; ++i) camera.step(0.01, i == 0 ? Intent{in} : Intent(), subject, open, wide);
  const double zoomed = camera.view().distance;
  Intent aiming;
  aiming.aim = true;
  for (int i = 0; i < 10; ++i) camera.step(0.01, aiming, subject, open, wide);
  View view;
  aiming.aim = false;
  const double back = std::sqrt(0.1 * design.design().framings[0].framing.transition);
  for (double time = 0; time < back; time += 0.01) {
    view = camera.step(0.01, aiming, subject, open, wide);
    EXPECT_EQ(view.framingBlend < 1, time + 0.01 < back) << time;
  }
  EXPECT_EQ(view.framingBlend, 1) << "the geometric mean of the time there and a whole change";
  EXPECT_NEAR(view.distance, zoomed, 1e-3);
}

/// Walks on at 3 m/s in a base that leads and swings back, and in a framing that does neither.
TEST(Framings, ScaleLeadSwingingBackUnrestAndPullingIn) {
  CameraDesign plain;
  plain.lead = {0.4, 0.1, 5};
  plain.swingBack.rate = degrees(90);
  plain.swingBack.holdoff = 0;
  plain.swingBack.cone = 0;
  plain.unrest.pitch = degrees(2);
  plain.unrest.halfLife = 0.1;
  NamedFraming calm = plain.framings[0];
  calm.name = "calm";
  calm.when = "calm";
  calm.framing.leadScale = calm.framing.swingBackScale = calm.framing.unrestScale = 0;
  calm.framing.transition = 0.3;
  plain.framings.push_back(calm);
  const CompiledDesign design(plain);
  const NoObstacles open;
  Subject warden;
  warden.velocity = {0, 0, -3};
  CharacterCamera camera(design, warden);
  View view, before;
  double fastest = 0, unrest = 0;
  const auto walk = [&](double seconds, const Eigen::Vector3d& velocity) {
    for (int i = 0; i < std::lround(seconds * 60); ++i) {
      warden.velocity = velocity;
      warden.feet += velocity / 60;
      warden.head = warden.feet + Eigen::Vector3d(0, 1.7, 0);
      view = camera.step(1.0 / 60, {}, warden, open, 16.0 / 9);
      if (!view.cut) fastest = std::max(fastest, (view.pivot - before.pivot).norm() * 60);
      unrest = std::max(unrest, std::abs(view.swayPitch));
      before = view;
    }
  };
  const double lag = 3 * 0.05 / std::log(2.0);
  const auto led = [&] { return warden.feet.z() - view.pivot.z() + lag; };
  walk(3, {0, 0, -3});
  EXPECT_NEAR(led(), 1.2, 1e-3);
  EXPECT_GT(unrest, degrees(0.3));
  fastest = 0;
  camera.setCondition(design.flag("calm"), true);
  walk(2, {0, 0, -3});
  EXPECT_NEAR(led(), 0, 1e-3);
  EXPECT_LT(fastest, 6) << "and it went there without a jump";
  unrest = 0;
  const double yaw = view.yaw;
  walk(2, {3, 0, 0});
  EXPECT_NEAR(view.yaw, yaw, 1e-9);
  EXPECT_LT(unrest, degrees(1e-3));
  camera.setCondition(design.flag("calm"), false);
  walk(3, {3, 0, 0});
  EXPECT_NEAR(view.yaw, degrees(-90), 0.1);
  EXPECT_NEAR(view.pivot.x() - warden.feet.x(), 1.2, 0.6);
}

}  // namespace
}  // namespace alpglow
