// A camera that orbits a moving point, with nothing but the core: prints its path.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

int main() {
  CameraDesign design;
  design.framings[0].framing.distance = 4.0;
  design.framings[0].framing.shoulder = 0.0;
  design.framings[0].framing.follow.halfLife = 0.15;
  const CompiledDesign compiled(design);

  // The warden's lantern on its way along the path, 1.4 m/s toward −z.
  Subject lantern;
  const Eigen::Vector3d velocity(0, 0, -1.4);
  lantern.velocity = velocity;

  CharacterCamera camera(compiled, lantern);
  const NoObstacles openCountry;
  const double dt = 1.0 / 60;

  std::printf("time_s  camera_x_m  camera_y_m  camera_z_m  yaw_deg  pitch_deg\n");
  for (int frame = 0; frame <= 240; ++frame) {
    lantern.feet += velocity * dt;
    lantern.head = lantern.feet + Eigen::Vector3d(0, 1.7, 0);

    // The hand draws the mouse steadily to the left: 15 counts a frame, applied in full and never scaled by time.
    const IntentSample samples[] = {IntentSample::look(0, {-15, 0})};
    const View view = camera.step(dt, Intent{samples}, lantern, openCountry, 16.0 / 9.0);

    if (frame % 30 != 0) continue;
    std::printf("%6.2f  %10.3f  %10.3f  %10.3f  %7.1f  %9.1f\n", frame * dt, view.position.x(), view.position.y(),
                view.position.z(), toDegrees(view.yaw), toDegrees(view.pitch));
  }
}
