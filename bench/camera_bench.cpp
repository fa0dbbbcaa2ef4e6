// What a frame costs: without world queries, in the refuge, and each query alone.
//   build/release/bench/camera_bench --benchmark_repetitions=9 --benchmark_report_aggregates_only

#include "slope.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/stage/stage.hpp"

#include <benchmark/benchmark.h>
#include <embree3/rtcore.h>

namespace {

using namespace alpglow;
using bench::slope;

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

/// So many sweeps of 4 m in all directions, and one clearance, as a frame asks for.
void questions(benchmark::State& state, const Obstacles& world, int sweeps) {
  std::vector<Eigen::Vector3d> heads, ways;
  for (int i = 0; i < 256; ++i) heads.push_back(bench::Slope::head(i));
  Bounds reach;
  for (int i = 0; i < sweeps; ++i) {
    ways.push_back(Eigen::Vector3d(0.02 * (i - 10), 0.06 * (i % 8) - 0.3, 1).normalized() * 4);
    reach = reach.with(ways.back());
  }
  reach = reach.with(Eigen::Vector3d(0, 0, 0)).grown(0.2);
  std::size_t next = 0;
  for (auto _ : state) {
    const Eigen::Vector3d& head = heads[++next % heads.size()];
    world.gather(reach.moved(head));
    benchmark::DoNotOptimize(world.clearance(head, 0.16));
    for (const Eigen::Vector3d& way : ways) benchmark::DoNotOptimize(world.sweep(head, way, 0.15));
    world.gather(Bounds());
  }
}
void fourQuestionsOfTriangles(benchmark::State& state) { questions(state, *slope().mesh, 3); }
void fourQuestionsOfBullet(benchmark::State& state) { questions(state, *slope().bullet, 3); }
void neighbourhoodAndTwentyOfTriangles(benchmark::State& state) { questions(state, Neighbourhood(*slope().mesh), 20); }
void neighbourhoodAndTwentyOfBullet(benchmark::State& state) { questions(state, Neighbourhood(*slope().bullet), 20); }

void sweepOverTheSlope(benchmark::State& state, const Obstacles& world) {
  int i = 0;
  for (auto _ : state) {
    ++i;
    const Eigen::Vector3d from(30 * std::sin(i), 3, 30 * std::cos(1.7 * i));
    benchmark::DoNotOptimize(world.sweep(from, {4 * std::sin(i), -0.7, 4 * std::cos(i)}, 0.15));
  }
}
void sweepOfTriangles(benchmark::State& state) { sweepOverTheSlope(state, *slope().mesh); }
void sweepOfBullet(benchmark::State& state) { sweepOverTheSlope(state, *slope().bullet); }
void sweepOfEmbree(benchmark::State& state) { sweepOverTheSlope(state, *slope().embree); }
void rayOverTheSlope(benchmark::State& state, const Obstacles& world) {
  int i = 0;
  for (auto _ : state) {
    ++i;
    const Eigen::Vector3d from(30 * std::sin(i), 3, 30 * std::cos(1.7 * i));
    benchmark::DoNotOptimize(world.cast(from, {4 * std::sin(i), -0.7, 4 * std::cos(i)}, Purpose::aim));
  }
}
void rayOfTriangles(benchmark::State& state) { rayOverTheSlope(state, *slope().mesh); }
void rayOfEmbree(benchmark::State& state) { rayOverTheSlope(state, *slope().embree); }

/// The same triangles as Embree's own, in floats, and nothing of ours: what others are measured by.
void bareRayOfEmbree(benchmark::State& state) {
  RTCDevice device = rtcNewDevice(nullptr);
  RTCScene scene = rtcNewScene(device);
  RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
  const std::size_t count = slope().triangles.size();
  auto* vertices = static_cast<float*>(
      rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, 3 * sizeof(float), 3 * count));
  auto* indices = static_cast<unsigned*>(
      rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 3 * sizeof(unsigned), count));
  for (const Triangle& t : slope().triangles) {
    for (const Eigen::Vector3d& corner : {t.a, t.b, t.c}) {
      for (int axis = 0; axis < 3; ++axis) *vertices++ = static_cast<float>(corner[axis]);
    }
  }
  for (unsigned i = 0; i < 3 * count; ++i) indices[i] = i;
  rtcCommitGeometry(geometry);
  rtcAttachGeometry(scene, geometry);
  rtcReleaseGeometry(geometry);
  rtcCommitScene(scene);
  int i = 0;
  for (auto _ : state) {
    ++i;
    const Eigen::Vector3f from(30 * std::sin(static_cast<float>(i)), 3, 30 * std::cos(1.7f * static_cast<float>(i)));
    const Eigen::Vector3f way(4 * std::sin(static_cast<float>(i)), -0.7f, 4 * std::cos(static_cast<float>(i)));
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRayHit ray{};
    ray.ray.org_x = from.x(), ray.ray.org_y = from.y(), ray.ray.org_z = from.z();
    ray.ray.dir_x = way.x(), ray.ray.dir_y = way.y(), ray.ray.dir_z = way.z();
    ray.ray.tfar = 1;
    ray.ray.mask = ~0u;
    ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    rtcIntersect1(scene, &context, &ray);
    benchmark::DoNotOptimize(ray.ray.tfar);
  }
  rtcReleaseScene(scene);
  rtcReleaseDevice(device);
}
void frameOverTheSlope(benchmark::State& state) {
  const Neighbourhood near(*slope().bullet);
  walk(state, near, bench::Slope::head(3) - Eigen::Vector3d(0, 1.68, 0));
}

BENCHMARK(fourQuestionsOfTriangles);
BENCHMARK(neighbourhoodAndTwentyOfTriangles);
BENCHMARK(fourQuestionsOfBullet);
BENCHMARK(neighbourhoodAndTwentyOfBullet);
BENCHMARK(sweepOfTriangles);
BENCHMARK(sweepOfEmbree);
BENCHMARK(rayOfTriangles);
BENCHMARK(rayOfEmbree);
BENCHMARK(bareRayOfEmbree);
BENCHMARK(sweepOfBullet);
BENCHMARK(frameOverTheSlope);
BENCHMARK(frameWithoutWorld);
BENCHMARK(frameInTheYard);
BENCHMARK(frameInTheCorridor);
BENCHMARK(sweepInTheHall);
BENCHMARK(clearanceInTheHall);

}  // namespace
