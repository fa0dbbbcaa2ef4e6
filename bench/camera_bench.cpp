// What a frame costs: without world queries, in the refuge, and each query alone.
//   build/release/bench/camera_bench --benchmark_repetitions=9 --benchmark_report_aggregates_only

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/stage.hpp"

#include <benchmark/benchmark.h>

namespace {

using namespace alpglow;

const stage::Stage& refuge() {
  static const stage::Stage stage(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  return stage;
}

/// A walk in a circle around a place, looking around all the time.
void walk(benchmark::State& state, const Obstacles& obstacles, const Eigen::Vector3d& centre) {
  const CompiledDesign design{CameraDesign()};
  Subject warden;
  CharacterCamera camera(design, warden);
  double time = 0;
  for (auto _ : state) {
    time += 0.016;
    warden.feet = centre + 0.5 * Eigen::Vector3d(std::cos(time), 0, std::sin(time));
    warden.head = warden.feet + Eigen::Vector3d(0, 1.68, 0);
    const IntentSample samples[] = {IntentSample::look(0.004, {9, 2}), IntentSample::look(0.012, {7, -2})};
    benchmark::DoNotOptimize(camera.step(0.016, Intent{samples}, warden, obstacles, 16.0 / 9.0));
  }
}

void frameWithoutWorld(benchmark::State& state) { walk(state, NoObstacles(), {0, 0, 0}); }
void frameInTheYard(benchmark::State& state) { walk(state, refuge().obstacles(), {-0.4, 0.02, 1.2}); }
void frameInTheCorridor(benchmark::State& state) { walk(state, refuge().obstacles(), {-5.5, 0.05, -4.5}); }

void sweepInTheHall(benchmark::State& state) {
  for (auto _ : state) benchmark::DoNotOptimize(refuge().obstacles().sweep({0, 1.7, -4.5}, {2.5, 0.5, 1.5}, 0.15));
}
void clearanceInTheHall(benchmark::State& state) {
  for (auto _ : state) benchmark::DoNotOptimize(refuge().obstacles().clearance({0, 1.7, -4.5}, 0.2));
}

BENCHMARK(frameWithoutWorld);
BENCHMARK(frameInTheYard);
BENCHMARK(frameInTheCorridor);
BENCHMARK(sweepInTheHall);
BENCHMARK(clearanceInTheHall);

}  // namespace
