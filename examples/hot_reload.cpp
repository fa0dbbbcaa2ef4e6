// A design that is edited while the game runs, and a slider for the field of view.

#include <alpglow/alpglow.hpp>

#include <cstdio>
#include <memory>

using namespace alpglow;

int main() {
  CameraDesign numbers;  // with alpglow::io: readDesign(path), again whenever the file has changed
  Preferences player;
  auto design = std::make_unique<CompiledDesign>(numbers, player);
  Subject warden;
  const NoObstacles world;
  CharacterCamera camera(*design, warden);
  const auto show = [&](const char* when) {
    View view;
    for (int frame = 0; frame < 60; ++frame) view = camera.step(1.0 / 60, {}, warden, world, 16.0 / 9.0);
    std::printf("%-22s fov %.1f deg, %.2f m behind, cut %d\n", when, toDegrees(view.fieldOfView), view.distance,
                view.cut);
  };
  const auto use = [&](std::unique_ptr<CompiledDesign> next) {
    camera.changeDesign(*next, 0.3);  // goes there within that time
    design = std::move(next);         // the old one is not needed any more
  };

  show("as it was");
  numbers.framings[0].framing.distance = 4.5;
  use(std::make_unique<CompiledDesign>(numbers, player));
  show("the file was edited");
  player.fieldOfView = degrees(72);
  use(std::make_unique<CompiledDesign>(numbers, player));
  show("the slider was moved");
}
