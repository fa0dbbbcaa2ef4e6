#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

int main() {
  const CompiledDesign design{CameraDesign()};  // all tunable numbers; from a file with alpglow::io
  Subject warden;                               // feet, head, heading, velocity: as you draw it
  CharacterCamera camera(design, warden);       // a copyable value; looks where the subject faces
  PlayerControls controls(standardBindings());  // keyboard, mouse and pad to one intent
  const NoObstacles world;                      // or your level: one call that lists what is near

  const double dt = 1.0 / 60, aspect = 16.0 / 9.0;
  for (int frame = 0; frame < 120; ++frame) {
    controls.beginFrame();
    controls.feed({0, findControl("KeyW"), 1});
    controls.feed({0, findControl("MouseMove"), 8, 0});  // what your window tells, in counts
    camera.look(dt, controls.intent());                  // in full, now; the heading is known before anybody walks

    warden.velocity = 1.6 * groundDirection(camera.heading(), controls.move());
    warden.feet += dt * warden.velocity;
    warden.head = warden.feet + Eigen::Vector3d(0, 1.7, 0);

    const View view = camera.update(dt, warden, world, aspect);
    const Eigen::Matrix4d toClip = view.projection({DepthRange::reversed, ClipUp::up}) * view.worldToView();
    if (frame % 40 == 39)
      std::printf("yaw %6.1f deg, %.2f m behind, w = %.2f\n", toDegrees(view.yaw), view.distance, toClip(3, 3));
  }
}
