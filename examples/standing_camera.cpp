// A camera on the roof of the cable-car films the warden; a transition leads to the warden's own camera and back, and
// changes its mind on the way.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

namespace {

/// The cable-car swings around the hut and turns along.
ReferenceFrame cableCarAt(double time) {
  ReferenceFrame car;
  car.id = 1;
  car.yawRate = 0.2;
  car.origin = {12 * std::sin(0.2 * time), 5, 12 * std::cos(0.2 * time)};
  car.rotation = Rotation(Eigen::AngleAxisd(0.2 * time, Eigen::Vector3d::UnitY()));
  car.velocity = {2.4 * std::cos(0.2 * time), 0, -2.4 * std::sin(0.2 * time)};
  return car;
}

Subject wardenAt(double time) {
  Subject warden;
  warden.feet = {0, 0, -1.6 * time};
  warden.head = warden.feet + Eigen::Vector3d(0, 1.68, 0);
  warden.velocity = {0, 0, -1.6};
  return warden;
}

StandingSettings roof() {
  StandingSettings settings;
  settings.stand.point = {0, 2.2, -1};              // on the car, in its axes
  settings.look = {{0, 1.4, 0}, PointAxes::world};  // 1.4 m above the warden's feet
  settings.tilt = degrees(3);
  settings.lens.fieldOfView = degrees(35);
  return settings;
}

}  // namespace

int main() {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, wardenAt(0));
  StandingCamera standing(roof());
  ViewTransition change;
  bool stands = true;

  std::printf("time_s   live      there [%%]        x       y       z     yaw   pitch    fov\n");
  const double dt = 1.0 / 60;
  for (int frame = 1; frame <= 300; ++frame) {
    const double time = frame * dt;
    if (frame == 60 || frame == 120 || frame == 150 || frame == 170) {  // the last two are a change of mind
      stands = !stands;
      change.begin(1.0);
    }
    const Subject warden = wardenAt(time);
    const ReferenceFrame car = cableCarAt(time);
    ReferenceFrame feet;
    feet.origin = warden.feet;
    feet.velocity = warden.velocity;
    const View own = camera.update(dt, warden, NoObstacles(), 16.0 / 9.0);
    const View view = change.step(dt, stands ? standing.view(&car, &feet, 16.0 / 9.0) : own);
    if (frame % 10 != 0) continue;
    std::printf("%6.2f   %-8s  %9.0f  %7.2f %7.2f %7.2f  %6.1f  %6.1f  %5.1f\n", time, stands ? "standing" : "own",
                100 * change.progress(), view.position.x(), view.position.y(), view.position.z(), toDegrees(view.yaw),
                toDegrees(view.pitch), toDegrees(view.fieldOfView));
  }
}
