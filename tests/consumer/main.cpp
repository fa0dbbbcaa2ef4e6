#include <alpglow/alpglow.hpp>

int main() {
  const alpglow::CompiledDesign design{alpglow::CameraDesign()};
  const alpglow::Subject warden;
  alpglow::CharacterCamera camera(design, warden);
  const alpglow::View view = camera.step(1.0 / 60, {}, warden, alpglow::NoObstacles(), 16.0 / 9.0);
  return view.cut && view.distance == 3.0 ? 0 : 1;
}
