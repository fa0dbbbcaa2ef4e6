// Binds, rebinds and blocks controls, and prints what the camera does.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

namespace {

/// One frame of 1/60 s in which these controls moved.
void frame(const char* what, PlayerControls& controls, CharacterCamera& camera,
           std::initializer_list<ControlEvent> events) {
  controls.beginFrame();
  for (const ControlEvent& event : events) controls.feed(event);
  const View view = camera.step(1.0 / 60, controls.intent(), Subject(), NoObstacles(), 16.0 / 9.0);
  const Eigen::Vector3d walk = groundDirection(camera.heading(), controls.move());
  std::printf("%-34s yaw %6.1f°  pitch %6.1f°  walk %5.2f %5.2f  crouch %s\n", what, toDegrees(view.yaw),
              toDegrees(view.pitch), walk.x(), walk.z(), controls.state(Action::crouch).held ? "yes" : "no");
}

ControlEvent moved(const char* control, double x, double y = 0) { return {0, findControl(control), x, y}; }

}  // namespace

int main() {
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, Subject());
  PlayerControls controls(standardBindings());

  frame("the mouse looks", controls, camera, {moved("MouseMove", 300, -100)});
  frame("W walks where one looks", controls, camera, {moved("KeyW", 1)});

  // W is taken away while it is held, and given to the arrow key: nothing sticks.
  controls.unbind("on-foot", Action::move, findControl("KeyW"));
  controls.bind("on-foot", {Action::move, Axis::y, findControl("ArrowUp")});
  frame("W is unbound while held", controls, camera, {});
  frame("the arrow walks", controls, camera, {moved("ArrowUp", 1)});

  // A key that is taken is refused; with a modifier it is welcome.
  const Binding crouch{Action::crouch, Axis::x, findControl("KeyC"), 1, {}, PressStyle::toggle};
  const auto report = [&](const BindAnswer& answer) {
    if (answer.what != Bound::conflict) return;
    std::printf("%s already means %s\n", nameOf(answer.inTheWay.control),
                controls.bindings().nameOf(answer.inTheWay.action).c_str());
  };
  report(controls.bind("on-foot", crouch));
  Binding withShift = crouch;
  withShift.modifier = findControl("ShiftRight");
  controls.bind("on-foot", withShift);
  frame("Shift and C toggle crouching", controls, camera, {moved("ShiftRight", 1), moved("KeyC", 1), moved("KeyC", 0)});

  // "Press the control that shall crouch": whatever moves next.
  const Binding chosen{Action::crouch, Axis::x, {}, 1, {}, PressStyle::toggle};
  controls.bindNext("on-foot", chosen);
  frame("the left bumper is chosen", controls, camera, {moved("PadButton4", 1), moved("PadButton4", 0)});
  const BindAnswer taken = controls.boundNext();
  report(taken);
  controls.unbind("on-foot", taken.inTheWay.action, taken.inTheWay.control);
  controls.bindNext("on-foot", chosen);
  frame("given up and chosen again", controls, camera, {moved("PadButton4", 1), moved("PadButton4", 0)});
  frame("it stands up", controls, camera, {moved("PadButton4", 1), moved("PadButton4", 0)});
  frame("and crouches again", controls, camera, {moved("PadButton4", 1), moved("PadButton4", 0)});

  // A menu stops everything; what the mouse does meanwhile is discarded, not saved up.
  controls.block("menu");
  frame("a menu is open", controls, camera, {moved("MouseMove", 900, 400)});
  controls.unblock("menu");
  frame("the menu is closed", controls, camera, {});

  // The window loses the focus: every held control is released.
  frame("the focus is lost", controls, camera, {moved("Focus", 1), moved("Focus", 0)});
}
