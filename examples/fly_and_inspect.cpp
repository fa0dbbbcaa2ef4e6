// Flying freely through a level, and turning a found thing in the hand. Prints both.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

namespace {

void fly() {
  FlightSettings settings;
  settings.ahead = FlightFrame::world;  // along the ground, whatever the pitch
  settings.topSpeed = 6;
  FlyingCamera camera(settings, {0, 12, 20}, {0, degrees(-30)});

  Bindings bindings = standardBindings();
  bindings.addMode("flying").bindings = {{Action::look, Axis::both, findControl("MouseMove")},
                                         {Action::move, Axis::y, findControl("KeyW")},
                                         {Action::rise, Axis::x, findControl("KeyE")},
                                         {Action::run, Axis::x, findControl("ShiftLeft")}};
  PlayerControls controls(bindings);
  controls.setMode("flying");

  std::printf("flying over the refuge\n");
  for (int frame = 0; frame < 180; ++frame) {
    controls.beginFrame();
    if (frame == 0) controls.feed({0, findControl("KeyW"), 1});
    if (frame == 60) controls.feed({0, findControl("ShiftLeft"), 1});  // fast
    if (frame >= 60 && frame < 90) controls.feed({0, findControl("MouseMove"), 20, 0});
    if (frame == 120) controls.feed({0, findControl("KeyW"), 0});  // braking
    camera.step(1.0 / 60, controls.intent(), controls.move(), controls.rise(), controls.state(Action::run).held);
    if (frame % 30 != 29) continue;
    const Eigen::Vector3d p = camera.position();
    std::printf("  %4.1f s   at %6.2f %6.2f %6.2f   %5.2f m/s   yaw %6.1f\n", (frame + 1) / 60.0, p.x(), p.y(), p.z(),
                camera.velocity().norm(), toDegrees(camera.view(16.0 / 9.0).yaw));
  }
  camera.reset();
  std::printf("  back where it began: %.0f m up\n", camera.position().y());
}

void inspect() {
  Inspection inspection({}, InspectionTurns::thing);
  std::printf("a lantern in the hand\n");
  for (int frame = 0; frame < 60; ++frame) {
    // The hand drags to the right; halfway, two notches bring it closer.
    const IntentSample samples[] = {IntentSample::look(0, {30, 5}), IntentSample::zoom(0, frame == 30 ? 2 : 0)};
    inspection.step(1.0 / 60, Intent{samples});
    if (frame % 15 != 14) continue;
    const Eigen::Vector3d handle = inspection.thing() * Eigen::Vector3d(0, 0.2, 0.1);
    std::printf("  %4.2f s   %.2f m away   its handle at %6.3f %6.3f %6.3f\n", (frame + 1) / 60.0,
                inspection.distance(), handle.x(), handle.y(), handle.z());
  }
}

}  // namespace

int main() {
  fly();
  inspect();
}
