// Two players on one screen: one world, one adapter, a neighbourhood for each thread.

#include <alpglow/alpglow.hpp>

#include <cstdio>
#include <thread>

using namespace alpglow;

int main() {
  const Eigen::Vector3d a(-9, 0, 2), b(9, 0, 2), c(9, 4, 2), d(-9, 4, 2);
  const Triangle wall[] = {{a, b, c}, {a, c, d}};
  const TriangleMesh level(wall, Thing{1});  // an adapter is const, and may be asked by many threads at once

  const CompiledDesign design{CameraDesign()};
  View shown[2];
  const auto play = [&](int player) {
    const Neighbourhood near(level);  // what was listed for this frame: of each thread its own
    Subject subject;
    subject.feet.x() = 4.0 * player;
    subject.head = subject.feet + Eigen::Vector3d(0, 1.7, 0);
    CharacterCamera camera(design, subject);
    for (int frame = 0; frame < 60; ++frame)
      shown[player] = camera.step(1.0 / 60, {}, subject, near, 8.0 / 9.0);  // half of the width
  };
  std::thread second(play, 1);
  play(0);
  second.join();
  for (const View& view : shown) std::printf("%.2f m of %.2f m\n", view.distance, view.freeDistance);
}
