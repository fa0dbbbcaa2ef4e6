// Input of one's own: no bindings, only what the player means, with the moments at which it happened.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

int main() {
  const CompiledDesign design{CameraDesign()};
  Subject warden;
  CharacterCamera camera(design, warden);
  const NoObstacles world;
  View view;
  for (int frame = 0; frame < 60; ++frame) {
    // A pointer moves in counts, at its moment within the frame; a stick holds a rate until it says otherwise.
    const IntentSample samples[] = {IntentSample::look(0.004, {frame < 30 ? 6.0 : 0.0, -1}),
                                    IntentSample::turn(0.010, {frame < 30 ? 0.0 : 0.8, 0}),
                                    IntentSample::zoom(0.012, frame == 20 ? 2 : 0)};
    Intent intent{samples};
    intent.aim = frame >= 45;  // held
    view = camera.step(1.0 / 60, intent, warden, world, 16.0 / 9.0);
  }
  std::printf("yaw %.1f, pitch %.1f, %.2f m away\n", toDegrees(view.yaw), toDegrees(view.pitch), view.distance);
}
