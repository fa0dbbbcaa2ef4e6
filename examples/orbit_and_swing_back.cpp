// Third person: orbiting by hand, zooming by notches, and a camera that comes around behind the warden by itself.
// Prints who turned the view.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

namespace {

CameraDesign trail() {
  CameraDesign design;
  design.swingBack.rate = degrees(110);  // off unless a design asks for it
  design.swingBack.holdoff = 1.0;
  design.swingBack.cone = degrees(35);
  design.lead.time = 0.2;
  design.framings[0].framing.follow.kind = FollowKind::criticallyDamped;
  return design;
}

/// The warden walks where the keys say, relative to the heading, at 1.6 m/s.
struct Warden {
  Subject subject;
  void walk(double heading, Rate move, double dt) {
    subject.velocity = 1.6 * groundDirection(heading, move);
    subject.feet += subject.velocity * dt;
    subject.head = subject.feet + Eigen::Vector3d(0, 1.68, 0);
    if (subject.velocity.norm() > 0) subject.heading = std::atan2(-subject.velocity.x(), -subject.velocity.z());
  }
};

}  // namespace

int main() {
  const CompiledDesign design(trail());
  Warden warden;
  CharacterCamera camera(design, warden.subject);
  PlayerControls controls(standardBindings());

  std::printf("time_s    yaw [deg]  by itself [deg]  hold-off [s]  distance [m]\n");
  const double dt = 1.0 / 60;
  double byItself = 0;
  for (int frame = 1; frame <= 420; ++frame) {
    controls.beginFrame();
    if (frame == 30) controls.feed({0, findControl("KeyW"), 1});
    if (frame == 30) controls.feed({0, findControl("KeyD"), 1});  // ahead and to the right
    if (frame >= 150 && frame < 160) controls.feed({0, findControl("MouseMove"), 60, 4});
    if (frame == 240) controls.feed({0, findControl("MouseWheel"), 2});
    if (frame == 330) controls.feed({0, findControl("KeyD"), 0});
    if (frame == 330) controls.feed({0, findControl("KeyW"), 0});
    if (frame == 360) controls.feed({0, findControl("KeyC"), 1});  // behind the warden, now

    camera.look(dt, controls.intent());
    warden.walk(camera.heading(), controls.move(), dt);
    const View view = camera.update(dt, warden.subject, NoObstacles(), 16.0 / 9.0);
    byItself += toDegrees(view.swungBack);
    if ((view.events & Event::swingBackBegan) != 0) std::printf("%6.2f   begins to turn by itself\n", frame * dt);
    if ((view.events & Event::swingBackEnded) != 0) std::printf("%6.2f   stops\n", frame * dt);
    if (frame % 30 != 0) continue;
    std::printf("%6.2f   %10.2f  %15.2f  %12.2f  %12.2f\n", frame * dt, toDegrees(view.yaw), byItself, view.holdoff,
                view.distance);
  }
}
