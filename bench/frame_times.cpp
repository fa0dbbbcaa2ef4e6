// How long each frame of a lively walk takes in one world and another: median, the slowest in a hundred and in a
// thousand; "blind" is a camera that foresees nothing and keeps its shoulder. The walk is played
// five times, and each frame's fastest time counts, so that what else the machine does meanwhile stays out of it.
//   build/release/bench/frame_times [FRAMES]

#include "slope.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/stage/stage.hpp"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <random>
#include <string>

namespace {

using namespace alpglow;
using Eigen::Vector3d;

/// Strolls about a place at up to 4 m/s, looks around in sweeps of the hand, and aims now and then.
class Walk {
 public:
  Walk(const Vector3d& centre, double radius) : centre_(centre), radius_(radius) {}

  Subject subject(double time) const {
    Subject subject;
    subject.feet = centre_ + radius_ * Vector3d(std::sin(0.31 * time), 0, std::sin(0.47 * time + 1));
    subject.head = subject.feet + Vector3d(0, 1.68, 0);
    subject.velocity = radius_ * Vector3d(0.31 * std::cos(0.31 * time), 0, 0.47 * std::cos(0.47 * time + 1));
    return subject;
  }
  Displacement hand(double time) const {
    const double quick = std::sin(0.9 * time) > 0.6 ? 40 : 6;
    return {quick * std::sin(2.1 * time), 0.3 * quick * std::cos(1.7 * time)};
  }

 private:
  Vector3d centre_;
  double radius_;
};

CameraDesign blind() {
  CameraDesign design;
  design.pullIn.horizon = design.pullIn.shoulderSpeed = 0;
  return design;
}

void measure(const std::string& name, const Obstacles& world, Walk walk, int frames,
             const CameraDesign& made = CameraDesign()) {
  constexpr double dt = 1.0 / 60;
  const CompiledDesign design{made};
  std::vector<double> times(static_cast<std::size_t>(frames), 1e9);
  for (int again = 0; again < 5; ++again) {
    CharacterCamera camera(design, walk.subject(0));
    for (int i = 1; i <= frames; ++i) {
      const Subject subject = walk.subject(i * dt);
      const IntentSample samples[] = {IntentSample::look(dt, walk.hand(i * dt))};
      camera.look(dt, Intent{samples});
      const auto start = std::chrono::steady_clock::now();
      camera.update(dt, subject, world, 16.0 / 9.0);
      const auto end = std::chrono::steady_clock::now();
      double& least = times[static_cast<std::size_t>(i - 1)];
      least = std::min(least, std::chrono::duration<double, std::micro>(end - start).count());
    }
  }
  std::sort(times.begin(), times.end());
  const auto at = [&](double share) {
    return times[static_cast<std::size_t>(share * static_cast<double>(frames - 1))];
  };
  std::printf("%-34s %8.2f %8.2f %8.2f %8.1f\n", name.c_str(), at(0.5), at(0.99), at(0.999), at(0.999) / at(0.5));
}

}  // namespace

int main(int argc, char** argv) {
  const int frames = argc > 1 ? std::atoi(argv[1]) : 20000;
  if (frames < 1000) return std::fprintf(stderr, "frame_times [FRAMES], at least 1000\n"), 2;
  std::printf("%-34s %8s %8s %8s %8s\n", "microseconds", "median", "99 %", "99.9 %", "ratio");
  const stage::Stage refuge(io::readLevel(ALPGLOW_DEMO "/refuge.level.toml"));
  const Walk inTheHouse({-5.5, 0.05, -4.5}, 3), inTheYard({-0.4, 0.02, 1.2}, 6);
  measure("refuge, house, Bullet, blind", refuge.obstacles(), inTheHouse, frames, blind());
  measure("refuge, house, Bullet", refuge.obstacles(), inTheHouse, frames);
  measure("refuge, house, Bullet listed", Neighbourhood(refuge.obstacles()), inTheHouse, frames);
  measure("refuge, yard, Bullet", refuge.obstacles(), inTheYard, frames);
  measure("refuge, yard, Bullet listed", Neighbourhood(refuge.obstacles()), inTheYard, frames);
  for (const int cells : {118, 250}) {
    const bench::Slope slope(cells);
    const Walk onTheSlope(bench::Slope::head(3) - Vector3d(0, 1.68, 0), 6);
    const auto name = [cells](const char* world) { return std::to_string(2 * cells * cells) + " triangles, " + world; };
    measure(name("Bullet, blind"), *slope.bullet, onTheSlope, frames, blind());
    measure(name("Bullet"), *slope.bullet, onTheSlope, frames);
    measure(name("Bullet listed"), Neighbourhood(*slope.bullet), onTheSlope, frames);
    measure(name("mesh"), *slope.mesh, onTheSlope, frames);
    measure(name("mesh listed"), Neighbourhood(*slope.mesh), onTheSlope, frames);
    measure(name("Embree listed"), Neighbourhood(*slope.embree), onTheSlope, frames);
  }
}
