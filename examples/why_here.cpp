// Why is the camera here? The warden stands with a wall and a bush behind; one line says what limits the camera, the
// bush, which lets it pass, is drawn less and less.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

int main() {
  const Eigen::Vector3d a(-9, 0, 2), b(9, 0, 2), c(9, 4, 2), d(-9, 4, 2), e(-1, 0, 1), f(1, 0, 1), g(0, 1.4, 1);
  const Triangle triangles[] = {{a, b, c}, {a, c, d}, {e, f, g}};
  const Thing wall{7}, bush{8, std::uint32_t{Purpose::soft} | Purpose::sight};  // stops no camera
  const Thing things[] = {wall, wall, bush};
  const TriangleMesh level(triangles, Span<const Thing>(things));

  const CompiledDesign design{CameraDesign()};
  Subject warden;
  warden.head = Eigen::Vector3d(0, 1.7, 0);
  CharacterCamera camera(design, warden);
  View view;
  Fading fading;
  for (int frame = 0; frame < 60; ++frame) {
    view = camera.step(1.0 / 60, {}, warden, level, 16.0 / 9.0);
    const auto body = bodyPoints(warden, view.position);
    fading.update(whatHides(view.position, body, level, Purpose::soft), 1.0 / 60, design.design().large);
  }

  const ExplanationNames names{[](ObstacleId id) { return id == 7 ? "the wall" : "the bush"; }, {}, {}};
  std::printf("%s\n", inWords(view, explain(view, level), names).c_str());
  for (const Covering& each : fading.all())
    std::printf("%s is drawn to %.0f %%\n", names.of(each.thing).c_str(), 100 * each.opacity);
  const auto body = bodyPoints(warden, view.position);
  std::printf("%.0f %% of the warden in sight\n", 100 * whatHides(view.position, body, level).visible);
}
