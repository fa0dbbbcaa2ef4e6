// A design that is tuned in the game itself, by the panel of the playground: two lines between the game's own, wherever
// it shows its windows of Dear ImGui. Here nothing is drawn, so a slider is moved by a line instead of by a hand.

#include <alpglow/alpglow.hpp>
#include <alpglow/panel/design_panel.hpp>

#include <imgui.h>

#include <cstdio>
#include <memory>

using namespace alpglow;

namespace {

constexpr char written[] =
    "# the warden from behind\n"
    "format = 1\n\n"
    "[[framing]]\n"
    "name = \"trail\"\n"
    "distance_m = 2.9     # an arm's length more than in the hut\n";

}  // namespace

int main() {
  ImGui::CreateContext();                // the game's, with its window and renderer
  ImGui::GetIO().IniFilename = nullptr;  // nothing of it is kept
  ImGui::GetIO().DisplaySize = {1280, 800};
  unsigned char* pixels = nullptr;
  int width = 0, height = 0;
  ImGui::GetIO().Fonts->GetTexDataAsRGBA32(&pixels, &width, &height);

  panel::DesignPanel tuned(io::DesignText(written, "trail.camera.toml"));
  auto design = std::make_unique<CompiledDesign>(tuned.design());
  Subject warden;
  const NoObstacles world;
  CharacterCamera camera(*design, warden);
  for (int frame = 0; frame <= 90; ++frame) {
    if (frame == 30) tuned.set({"framing", "trail", "distance_m"}, 4.5);

    ImGui::NewFrame();
    ImGui::Begin("camera");
    if (tuned.show()) {
      auto next = std::make_unique<CompiledDesign>(tuned.design());
      camera.changeDesign(*next, 0.3);
      design = std::move(next);
    }
    ImGui::End();
    ImGui::Render();

    const View view = camera.step(1.0 / 60, {}, warden, world, 1.6);
    if (frame % 30 == 0) std::printf("%.1f s: %.2f m behind, cut %d\n", frame / 60.0, view.distance, view.cut);
  }
  std::printf("to be saved:\n%s", tuned.text().text().c_str());
  ImGui::DestroyContext();
}
