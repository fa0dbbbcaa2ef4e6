// The same path at every frame rate, with random designs and takes: everything but the parts that docs/promises.md
// excepts.

#include "alpglow/camera/character_camera.hpp"
#include "fuzz/random_design.hpp"
#include "support/camera_run.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::Random;
using testing::wardenAt;
using testing::wide;

constexpr int ticks = 160, perFrame = 2, framesPerTick = 10;
constexpr double tick = 1 / 40.0;
const NoObstacles open;

/// Without what is excepted, and no faster than a hand turns.
CameraDesign promised(Random& random) {
  CameraDesign design = testing::randomDesign(random);
  LookSettings& look = design.look;
  for (double* rate : {&look.yawRate, &look.pitchRate}) *rate = std::min(*rate, degrees(360));
  for (double* count : {&look.yawPerCount, &look.pitchPerCount}) *count = std::min(*count, degrees(0.5));
  design.steady.cap = 0;  // a ray finds its focus once a frame
  for (NamedFraming& named : design.framings) {
    Framing& framing = named.framing;
    FollowSettings& follow = framing.follow;
    follow.teleportDistance = std::max(follow.teleportDistance, 2.0);
    follow.kind = FollowKind::exponential;
    follow.rest.screen = 0;
    framing.keeps = Keeps::look;
    framing.orbitHalfLife = 0;
    framing.lookScale.factor = std::min(framing.lookScale.factor, 2.0);
    const auto overMotion = [](const FramingCurve& curve) {
      return curve.over == CurveOver::speed || curve.over == CurveOver::climb;
    };
    named.curves.erase(std::remove_if(named.curves.begin(), named.curves.end(), overMotion), named.curves.end());
  }
  return design;
}

struct Call {
  int at, what, which;  // after this tick
  bool on;
};

/// A walk, samples of input at any moment, and calls at ticks.
struct Game {
  std::vector<Vector3d> places{Vector3d::Zero()}, velocities;
  std::vector<IntentSample> samples;
  std::vector<Call> calls;

  /// With a stick or with glances: a glance that meets its limits while a stick still turns the look is excepted.
  Game(Random& random, bool stick) {
    Vector3d velocity(0, 0, 0), wanted(0, 0, 0);
    for (int i = 0; i < ticks; ++i) {
      const double speed = random.between(0, 5), way = random.between(-pi, pi);
      if (random.chance(0.08)) wanted = {speed * std::sin(way), 0, speed * std::cos(way)};
      velocity += 0.2 * (wanted - velocity);
      velocities.push_back(velocity);
      places.push_back(places.back() + velocity * tick);
    }
    const auto moment = [&] { return random.between(0, ticks * tick); };
    const auto both = [&](double x, double y) { return Displacement{random.between(-x, x), random.between(-y, y)}; };
    for (int i = 0; i < 60; ++i) {
      const double at = moment();
      samples.push_back(IntentSample::look(at, both(60, 40)));
    }
    for (int i = 0; i < 6; ++i) {
      const double at = moment();
      samples.push_back(IntentSample::zoom(at, random.between(-2, 2)));
    }
    for (int i = 0; i < 8; ++i) {
      const double at = moment();
      const Displacement held = both(1, 1);
      samples.push_back(stick ? IntentSample::turn(at, {held.x, held.y}) : IntentSample::glance(at, i % 2 == 0));
      calls.push_back({random.whole(1, ticks - 1), random.whole(0, 4), random.whole(0, 4), random.chance(0.5)});
    }
    const auto earlier = [](const IntentSample& a, const IntentSample& b) { return a.time < b.time; };
    std::sort(samples.begin(), samples.end(), earlier);
  }

  Subject subject(double time) const {
    const int i = std::clamp(static_cast<int>(time / tick - 1e-9), 0, ticks - 1);
    const auto k = static_cast<std::size_t>(i);
    return wardenAt(places[k] + velocities[k] * (time - i * tick), 0, velocities[k]);
  }
};

void make(const Call& call, CharacterCamera& camera) {
  switch (call.what) {
    case 0: return camera.setCondition(1u << (call.which % 3), call.on);
    case 1: return camera.switchPerspective();
    case 2: return camera.swingBack();
    case 3: return camera.setShoulder(call.on ? Shoulder::other : Shoulder::designed);
    default: return camera.setNumber(0, call.which / 4.0);
  }
}

/// The views at the ends of every second tick, with frames of this many seconds.
std::vector<View> played(const CompiledDesign& design, const Game& game, double frame) {
  CharacterCamera camera(design, game.subject(0));
  camera.step(0, {}, game.subject(0), open, wide);
  std::vector<View> views;
  double now = 0, ended = 0, told = 0;
  std::size_t next = 0;
  const auto lookUpTo = [&](double moment) {
    for (; next < game.samples.size() && game.samples[next].time <= moment + 1e-12; ++next) {
      IntentSample sample = game.samples[next];
      if (sample.time > now) camera.look(sample.time - now, {}), now = sample.time;
      sample.time = 0;
      camera.look(0, Intent{Span<const IntentSample>(&sample, 1)});
    }
    if (moment > now + 1e-12) camera.look(moment - now, {});
    now = moment;
  };
  const int frames = static_cast<int>(std::lround(ticks * tick / frame));
  for (int f = 1, k = 0; f <= frames; ++f) {
    const double end = f * frame;
    for (; k * tick < end - 1e-9; ++k) {
      lookUpTo(k * tick);
      camera.tick(k * tick - told, game.subject(k * tick));
      told = k * tick;
      for (const Call& call : game.calls) {
        if (call.at == k) make(call, camera);
      }
    }
    lookUpTo(end);
    const View view = camera.update(end - ended, game.subject(end), open, wide);
    ended = told = end;
    if (std::abs(std::remainder(end, perFrame * tick)) < 1e-9) views.push_back(view);
  }
  return views;
}

/// In degrees, and in metres for each metre of the farthest distance.
struct Off {
  double turned = 0, moved = 0;
};

Off off(unsigned seed, bool stick) {
  Random random(seed);
  const CameraDesign made = promised(random);
  const CompiledDesign design(made);
  const Game game(random, stick);
  const std::vector<View> coarse = played(design, game, perFrame * tick),
                          fine = played(design, game, tick / framesPerTick);
  double farthest = 1;
  for (const NamedFraming& named : made.framings) farthest = std::max(farthest, named.framing.distance);
  Off most;
  EXPECT_EQ(coarse.size(), fine.size());
  for (std::size_t i = 0; i < std::min(coarse.size(), fine.size()); ++i) {
    const View &a = coarse[i], &b = fine[i];
    const double turned = std::max(std::abs(shortestTurn(a.yaw, b.yaw)), std::abs(a.pitch - b.pitch));
    most.turned = std::max({most.turned, turned / degrees(1), std::abs(a.fieldOfView - b.fieldOfView) / degrees(1)});
    most.moved = std::max(most.moved, (a.position - b.position).norm() / farthest);
  }
  return most;
}

TEST(RandomPaths, AreTheSameAtTwentyAndFourHundredFrames) {
  constexpr unsigned games = 200;
  for (const bool stick : {false, true}) {
    std::vector<double> turned, moved;
    for (unsigned seed = 0; seed < games; ++seed) {
      const Off found = off(seed, stick);
      turned.push_back(found.turned);
      moved.push_back(found.moved);
    }
    for (std::vector<double>* each : {&turned, &moved}) std::sort(each->begin(), each->end());
    const auto among = [](const std::vector<double>& sorted, double share) {
      return sorted[static_cast<std::size_t>(share * (games - 1))];
    };
    EXPECT_LT(among(turned, 0.5), 1e-9) << "with a stick: " << stick;
    EXPECT_LT(among(moved, 0.5), 1e-7) << "with a stick: " << stick;
    EXPECT_LT(among(turned, 0.9), 0.05) << "with a stick: " << stick;
    EXPECT_LT(among(moved, 0.9), 1e-3) << "with a stick: " << stick;
  }
}

}  // namespace
}  // namespace alpglow
