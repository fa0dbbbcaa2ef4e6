// Aiming, switching perspective, and every change between framings.

#include "alpglow/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/walls.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;
using testing::wardenAt;
using testing::wide;

/// Third and first person, each with a scope, and a sprint.
CameraDesign warden() {
  CameraDesign design;
  Framing trail;
  trail.transition = 0.45;
  Framing scope = trail;
  scope.lens.kind = LensKind::magnification;
  scope.lens.magnification2 = 4;
  scope.lens.magnification3 = 8;
  scope.shoulder = 0.55;
  scope.distance = 1.3;
  scope.distanceRange = {1, 2};
  scope.pitch = {degrees(-60), degrees(60)};
  scope.follow.halfLife = 0.04;
  scope.transition = 0.3;
  Framing sprint = trail;
  sprint.distance = 3.8;
  sprint.lens.fieldOfView = degrees(70);
  Framing eyes = trail;
  eyes.distance = eyes.distanceRange.nearest = eyes.distanceRange.farthest = 0;
  eyes.shoulder = eyes.anchorRise = 0;
  eyes.follow.halfLife = eyes.follow.verticalHalfLife = 0;
  eyes.near = 0.05;
  Framing glass = eyes;
  glass.lens = scope.lens;
  glass.transition = 0.25;
  design.framings = {{"trail", trail, "", Perspective::third},
                     {"scope", scope, "aiming", Perspective::third},
                     {"sprint", sprint, "sprinting", Perspective::third},
                     {"eyes", eyes, "", Perspective::first},
                     {"glass", glass, "aiming", Perspective::first}};
  return design;
}

/// A ball all around at some distance, so that the crosshair is always on something; nothing is ever in the way.
class FarSphere final : public Obstacles {
 public:
  explicit FarSphere(double radius) : radius_(radius) {}
  Contact sweep(const Vector3d&, const Vector3d& way, double) const noexcept override {
    return {way.norm(), noObstacle};
  }
  Contact cast(const Vector3d& from, const Vector3d& way) const noexcept override {
    const Vector3d ahead = way.normalized();
    const double b = from.dot(ahead), c = from.squaredNorm() - radius_ * radius_;
    const double distance = -b + std::sqrt(std::max(b * b - c, 0.0));
    return distance < way.norm() ? Contact{distance, 1} : Contact{way.norm(), noObstacle};
  }
  double clearance(const Vector3d&, double range) const noexcept override { return range; }

 private:
  double radius_;
};

/// Random commands at random times.
struct Player {
  explicit Player(unsigned seed) : random(seed) {}
  Random random;
  bool aims = false;
  std::vector<IntentSample> play(CharacterCamera& camera, double dt, double share, bool looks) {
    std::vector<IntentSample> samples;
    if (looks && random.chance(0.3))
      samples.push_back(IntentSample::look(0, {random.between(-20, 20), random.between(-9, 9)}));
    if (!random.chance(share)) return samples;
    const double time = random.between(0, dt);
    switch (random.whole(0, 5)) {
      case 0:
        aims = !aims;
        samples.push_back(IntentSample::aim(time, aims));
        break;
      case 1: samples.push_back(IntentSample::switchPerspective(time)); break;
      case 2: samples.push_back(IntentSample::swapShoulder(time)); break;
      case 3:  // the ladder; the wheel's own half-life starts at once, and is no transition
        if (aims && camera.view().framingBlend == 1) samples.push_back(IntentSample::zoom(time, random.whole(-2, 2)));
        break;
      default: camera.setCondition(Condition::sprinting, random.chance(0.5)); break;
    }
    return samples;
  }
};

TEST(Framings, ThousandsOfChangesOfMindJumpNowhere) {
  const CompiledDesign design(warden());
  const FarSphere world(60);
  constexpr double dt = 1.0 / 4000;
  const double narrowest = design.fieldOfView(1, 2), widest = degrees(70);
  int changes = 0;
  for (unsigned seed = 0; seed < 25; ++seed) {
    Player player(seed);
    const Vector3d velocity(1.5, 0, -2);
    CharacterCamera camera(design, wardenAt({0, 0, 0}, 0, velocity));
    View before = camera.update(0.0, wardenAt({0, 0, 0}, 0, velocity), world, wide);
    Vector3d speed = velocity;
    double yawRate = 0, lensRate = 0;
    for (int i = 1; i < 24000; ++i) {
      const bool was = player.aims;
      const std::vector<IntentSample> samples = player.play(camera, dt, 0.003, false);
      Intent intent{samples};
      intent.aim = was;
      const View view = camera.step(dt, intent, wardenAt(velocity * i * dt, 0, velocity), world, wide);
      const Vector3d now = (view.position - before.position) / dt;
      const double yaw = shortestTurn(before.yaw, view.yaw) / dt, lens = (view.fieldOfView - before.fieldOfView) / dt;
      ASSERT_TRUE(view.position.allFinite());
      ASSERT_LT((view.position - before.position).norm(), 0.05) << "seed " << seed << " frame " << i;
      if (i > 2) {
        // What the plans themselves take: some 700 m/s² out of a far orbit in a quarter of a second. And the subject
        // walks past the kept point, 60 m away, at 2.5 m/s.
        ASSERT_LT((now - speed).norm(), 1000 * dt) << "seed " << seed << " frame " << i;
        ASSERT_LT(std::abs(yaw - yawRate), 0.05);
        ASSERT_LT(std::abs(lens - lensRate), 0.06);
      }
      ASSERT_GE(view.fieldOfView, narrowest - 1e-9);
      ASSERT_LE(view.fieldOfView, widest + 1e-9);
      ASSERT_GE(view.freeDistance, -1e-12);
      ASSERT_LE(view.freeDistance, 6 + 1e-9);
      ASSERT_EQ(view.roll, 0);
      ASSERT_FALSE(view.cut);
      if (view.events & Event::framingChanged) ++changes;
      before = view, speed = now, yawRate = yaw, lensRate = lens;
    }
  }
  EXPECT_GT(changes, 500);
}

TEST(Framings, AfterAnyInterruptionTheNumbersAreThoseOfAnUninterruptedRun) {
  const CompiledDesign design(warden());
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  for (unsigned seed = 0; seed < 50; ++seed) {
    Player player(seed);
    CharacterCamera camera(design, subject), straight(design, subject);
    camera.update(0.0, subject, open, wide);
    straight.update(0.0, subject, open, wide);
    for (int i = 0; i < 200; ++i) {
      const bool was = player.aims;
      std::vector<IntentSample> samples = player.play(camera, 0.01, 0.2, false);
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

/// The worst drift of the crosshair from the point that it was on, in degrees, over a change of framing while walking.
double worstDrift(const CompiledDesign& design, Random& random, double radius, bool keep) {
  const FarSphere world(radius);
  const Vector3d velocity(random.between(-2, 2), 0, random.between(-2, 2));
  const Vector3d start(random.between(-1, 1), 0, random.between(-1, 1));
  CharacterCamera camera(design, wardenAt(start, random.between(-pi, pi), velocity));
  View view;
  for (int i = 0; i < 30; ++i)
    view = camera.update(i > 0 ? 1 / 60.0 : 0, wardenAt(start + velocity * i / 60, 0, velocity), world, wide);
  const Vector3d kept = view.aimPoint;
  Intent intent;
  intent.aim = random.chance(0.5);
  const IntentSample samples[] = {random.chance(0.5) ? IntentSample::swapShoulder(0)
                                                     : IntentSample::switchPerspective(0)};
  double worst = 0;
  for (int i = 30; i < 60; ++i) {
    Intent now = intent;
    if (i == 30) now.samples = samples;
    if (!keep && i == 30) camera.setPose({view.yaw, view.pitch, 3});  // forgets what it is on
    view = camera.step(1 / 60.0, now, wardenAt(start + velocity * i / 60, 0, velocity), world, wide);
    if (view.aimError == 0 && keep) break;  // arrived
    const Vector3d way = kept - view.position;
    worst = std::max(worst, toDegrees(std::atan2(view.forward().cross(way).norm(), view.forward().dot(way))));
  }
  return worst;
}

TEST(AimPoint, StaysUnderTheCrosshairThroughEveryTransition) {
  Random random(110);
  double worst = 0;
  for (int run = 0; run < 300; ++run) {
    CameraDesign plan = warden();
    for (NamedFraming& named : plan.framings) {
      if (named.perspective == Perspective::third) named.framing.shoulder = random.between(-0.7, 0.7);
      named.framing.defaultPitch = degrees(random.between(-30, 30));
    }
    const CompiledDesign design(plan);
    worst = std::max(worst, worstDrift(design, random, random.between(5, 300), true));
  }
  EXPECT_LT(worst, 0.001);
}

TEST(AimPoint, WithoutTheMechanismTheSameShowsDegrees) {
  Random random(110);
  double worst = 0;
  for (int run = 0; run < 50; ++run)
    worst = std::max(worst, worstDrift(CompiledDesign(warden()), random, random.between(5, 20), false));
  EXPECT_GT(worst, 1);
}

TEST(AimPoint, ThePlayersLookTurnsTheKeptPoint) {
  const CompiledDesign design(warden());
  const FarSphere world(20);
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera still(design, subject), turned(design, subject);
  View a = still.update(0.0, subject, world, wide), b = turned.update(0.0, subject, world, wide);
  Intent aiming;
  aiming.aim = true;
  for (int i = 0; i < 60; ++i) {
    a = still.step(0.01, aiming, subject, world, wide);
    const IntentSample samples[] = {IntentSample::look(0, {10, 0})};
    Intent intent = aiming;
    intent.samples = samples;
    b = turned.step(0.01, intent, subject, world, wide);
  }
  EXPECT_LT(shortestTurn(a.yaw, b.yaw), -degrees(10)) << "to the right, slower as the lens narrows";
  EXPECT_GT(shortestTurn(a.yaw, b.yaw), -degrees(30)) << "60 frames of half a degree without the lens";
}

/// By how many pixels one count moves the middle of the picture, at a step of the ladder (0 = not aiming).
double pixelsOfOneCount(const CompiledDesign& design, int step) {
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  camera.choose(Perspective::first);
  Intent intent;
  intent.aim = step > 0;
  const IntentSample zoom[] = {IntentSample::zoom(0, 1)}, look[] = {IntentSample::look(0, {0, 1})};
  View view;
  for (int i = 0; i < 300; ++i) {
    intent.samples = i >= 100 && i < 99 + step ? Span<const IntentSample>(zoom) : Span<const IntentSample>();
    view = camera.step(0.01, intent, subject, open, wide);
  }
  const Vector3d ahead = view.position + view.forward();
  intent.samples = look;
  return testing::pixelOf(camera.step(0.0, intent, subject, open, wide), ahead).norm();
}

TEST(LookScale, TheHandMovesThePictureByTheSamePixelsUnderEveryLens) {
  const CompiledDesign design(warden());
  const double hip = pixelsOfOneCount(design, 0);
  EXPECT_GT(hip, 0.5);
  for (const int step : {1, 2, 3}) EXPECT_NEAR(pixelsOfOneCount(design, step) / hip, 1, 0.005) << step;
}

TEST(LookScale, OrFromTheMiddleToAFractionOfTheHalfWidth) {
  LookScale scale;
  for (const double match : {0.3, 0.8, 1.0}) {
    scale.match = match;
    const auto counts = [&](double fieldOfView) {
      return std::atan(match * wide * std::tan(fieldOfView / 2)) / scale.at(fieldOfView, degrees(60), wide);
    };
    for (const double fov : {10.0, 25.0, 90.0}) EXPECT_NEAR(counts(degrees(fov)) / counts(degrees(60)), 1, 1e-12);
  }
  scale.kind = LookScaleKind::fixed;
  scale.factor = 0.4;
  EXPECT_EQ(scale.at(degrees(10), degrees(60), wide), 0.4);
}

TEST(Perspective, GoesThroughTheHeadBackwardsWithTheSubjectFading) {
  const CompiledDesign design(warden());
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  CharacterCamera camera(design, subject);
  View view = camera.update(0.0, subject, open, wide);
  EXPECT_EQ(view.firstPerson, 0);
  camera.switchPerspective();
  double before = 0;
  for (int i = 0; i < 60; ++i) {
    view = camera.step(0.01, {}, subject, open, wide);
    EXPECT_GE(view.firstPerson, before);
    before = view.firstPerson;
    if ((view.position - view.head).norm() < 0.45) {
      EXPECT_EQ(view.opacity, 0) << "nobody sees the inside of a head";
    }
    EXPECT_FALSE(view.cut);
  }
  EXPECT_EQ(view.firstPerson, 1);
  EXPECT_LT((view.position - view.head).norm(), 1e-9);
}

TEST(Perspective, ZoomingPastTheNearEndIsADoorIfTheDesignSaysSo) {
  CameraDesign plan = warden();
  const NoObstacles open;
  const Subject subject = wardenAt({0, 0, 0});
  for (const bool door : {false, true}) {
    plan.zoomIntoEyes = door;
    const CompiledDesign design(plan);
    CharacterCamera camera(design, subject);
    const IntentSample in[] = {IntentSample::zoom(0, 2)}, out[] = {IntentSample::zoom(0, -1)};
    for (int i = 0; i < 30; ++i) camera.step(0.05, Intent{in}, subject, open, wide);
    EXPECT_EQ(camera.perspective() == Perspective::first, door);
    camera.step(0.05, Intent{out}, subject, open, wide);
    EXPECT_EQ(camera.perspective(), Perspective::third);
  }
}

TEST(Framings, RememberTheirDistanceAndGoBackInTheTimeThatHasPassed) {
  const CompiledDesign design(warden());
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
  for (int i = 0; i < 11; ++i) view = camera.step(0.01, {}, subject, open, wide);
  EXPECT_EQ(view.framingBlend, 1) << "a tenth of a second there, a tenth back";
  EXPECT_NEAR(view.distance, zoomed, 1e-3);
}

}  // namespace
}  // namespace alpglow
