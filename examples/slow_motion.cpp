// Slow motion and a pause: the hand keeps its own time.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

int main() {
  const CompiledDesign design{CameraDesign()};
  const NoObstacles world;
  Subject warden;
  warden.velocity = {0, 0, -3};
  CharacterCamera camera(design, warden);
  for (const double pace : {1.0, 0.25, 0.0}) {
    const double before = camera.view().yaw;
    const Eigen::Vector3d from = warden.feet;
    for (int frame = 0; frame < 60; ++frame) {
      const double dt = 1.0 / 60, worldDt = pace * dt;
      const IntentSample samples[] = {IntentSample::look(0, {5, 0})};
      camera.look({dt, worldDt}, Intent{samples});  // the player's clock, and the world's
      warden.feet += worldDt * warden.velocity;
      warden.head = warden.feet + Eigen::Vector3d(0, 1.7, 0);
      camera.update({dt, worldDt}, warden, world, 16.0 / 9.0);
    }
    std::printf("at %3.0f %%: walked %.2f m, turned %.1f deg\n", 100 * pace, (warden.feet - from).norm(),
                toDegrees(shortestTurn(before, camera.view().yaw)));
  }
}
