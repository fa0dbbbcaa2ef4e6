// A cut-scene takes over and gives back; and an explosion of the game's own shakes what is shown.

#include <alpglow/alpglow.hpp>

#include <cmath>
#include <cstdio>

using namespace alpglow;

int main() {
  const CompiledDesign design{CameraDesign()};
  const NoObstacles world;
  Subject warden;
  CharacterCamera camera(design, warden);
  ViewTransition change;
  double farthest = 0;
  Eigen::Vector3d last(0, 0, 0);
  for (int frame = 0; frame < 240; ++frame) {
    const double dt = 1.0 / 60, time = frame * dt;
    const View own = camera.step(dt, {}, warden, world, 16.0 / 9.0);
    // The director's camera, as the host has it: a place and an orientation.
    const Eigen::Quaterniond pose(Eigen::AngleAxisd(0.4 * time, Eigen::Vector3d::UnitY()));
    const View scene = View::from({3, 2, 4 - time}, pose, degrees(35));
    if (frame == 60 || frame == 150) change.begin(0.8);  // there, and back
    const View live = frame >= 60 && frame < 150 ? scene : own;
    View shown = change.step(dt, live, &world);
    Shake shake;
    if (frame >= 200) shake.up = 0.08 * std::sin(40 * time) * std::exp(-5 * (time - 200 * dt));
    shown = shaken(shown, shake, world);
    if (frame > 0) farthest = std::max(farthest, (shown.position - last).norm());
    last = shown.position;
  }
  std::printf("never more than %.2f m from one frame to the next\n", farthest);
}
