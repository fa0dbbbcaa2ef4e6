// A complete character camera: third and first person, a scope in both, sprint, shoulders, clear space, all from the
// standard keys. The warden crosses the yard past a wall, aims at a lantern and changes perspective. Prints the film.

#include <alpglow/alpglow.hpp>

#include <algorithm>
#include <cstdio>
#include <vector>

using namespace alpglow;
using Eigen::Vector3d;

namespace {

CameraDesign wardensCamera() {
  Framing trail;  // behind the right shoulder
  trail.distance = 2.7;
  trail.shoulder = 0.42;
  trail.follow.halfLife = 0.09;
  trail.transition = 0.45;
  Framing scope = trail;
  scope.lens.kind = LensKind::magnification;  // the wheel climbs the ladder
  scope.lens.magnification = 1.8;
  scope.lens.magnification2 = 4;
  scope.distance = 1.3;
  scope.distanceRange = {1, 2};
  scope.follow.halfLife = 0.03;
  scope.transition = 0.28;
  scope.keeps = Keeps::aim;  // the crosshair stays on its point, into the scope and out again
  Framing sprint = trail;
  sprint.distanceScale = 1.1;
  sprint.lens.kind = LensKind::magnification;
  sprint.lens.magnification = 0.825;
  Framing eyes = trail;
  eyes.distance = eyes.distanceRange.nearest = eyes.distanceRange.farthest = 0;
  eyes.shoulder = eyes.anchorRise = eyes.follow.halfLife = 0;
  eyes.nearPlane = 0.05;
  Framing eyepiece = eyes;
  eyepiece.lens = scope.lens;
  eyepiece.sway = degrees(0.15);

  CameraDesign design;
  design.zoomIntoEyes = true;  // the wheel is a door into the eyes as well
  design.framings = {{"trail", trail, "", Perspective::third},
                     {"scope", scope, "aiming", Perspective::third},
                     {"sprint", sprint, "sprinting", Perspective::third},
                     {"eyes", eyes, "", Perspective::first},
                     {"eyepiece", eyepiece, "aiming", Perspective::first}};
  return design;
}

/// The host's world: the meadow, and a wall along the way.
TriangleMesh yard() {
  const Triangle triangles[] = {{{-90, 0, 90}, {90, 0, 90}, {0, 0, -200}},
                                {{0.9, 0, -2}, {0.9, 2.6, -2}, {0.9, 0, -9}},
                                {{0.9, 2.6, -9}, {0.9, 2.6, -2}, {0.9, 0, -9}}};
  const Thing things[] = {{0}, {1}, {2}};
  return {triangles, things};
}

}  // namespace

int main() {
  const CompiledDesign design(wardensCamera());
  const TriangleMesh yard = ::yard();
  PlayerControls controls(standardBindings());
  Subject warden;
  warden.head = {0, 1.68, 0};
  CharacterCamera camera(design, warden);

  struct Press {
    double time;
    const char* control;
    double value;
  };
  const std::vector<Press> played = {{0.2, "KeyW", 1}, {1.0, "MouseButton2", 1}, {1.8, "MouseWheel", 1},
                                     {2.6, "KeyX", 1}, {2.7, "KeyX", 0},         {3.2, "KeyV", 1},
                                     {3.3, "KeyV", 0}, {4.2, "MouseButton2", 0}, {4.7, "KeyV", 1},
                                     {4.8, "KeyV", 0}, {5.4, "ShiftLeft", 1}};
  std::printf("time_s  framing              lens_deg  distance_m  person  body  aim_error_deg  look  hand_deg\n");
  const double dt = 1.0 / 60;
  std::size_t next = 0;
  for (int frame = 1; frame <= 390; ++frame) {
    controls.beginFrame();
    for (; next < played.size() && played[next].time < frame * dt; ++next)
      controls.feed({0, findControl(played[next].control), played[next].value});
    const bool runs = controls.state(Action::run).held;
    camera.setCondition(Condition::sprinting, runs);
    camera.look(dt, controls.intent());  // the heading is known ...
    warden.velocity = (runs ? 4.5 : 1.6) * groundDirection(camera.heading(), controls.move());
    warden.feet += warden.velocity * dt;  // ... before the warden moves
    warden.head = warden.feet + Vector3d(0, 1.68, 0);
    const View view = camera.update(dt, warden, yard, 16.0 / 9.0);
    const HandAim hand = handAim(view, warden.head - Vector3d(0, 0.3, 0), yard);
    if (frame % 15 != 0) continue;
    std::printf(
        "%6.2f  %-8s > %-8s  %8.1f  %10.2f  %6.2f  %4.2f  %13.4f  %4.2f  %8.1f%s\n", frame * dt,
        view.framingBlend < 1 ? design.design().framings[static_cast<std::size_t>(view.framingFrom)].name.c_str() : "",
        design.design().framings[static_cast<std::size_t>(view.framing)].name.c_str(), toDegrees(view.fieldOfView),
        view.distance, view.firstPerson, view.opacity, toDegrees(view.aimError), view.lookScale,
        toDegrees(hand.difference), hand.obstructed ? " obstructed" : "");
  }
}
