// Somebody who knows no mercy, for as long as one has patience.

#include "play/playground.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>
#include <unistd.h>

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <fstream>

namespace alpglow {
namespace {

using nlohmann::json;
using testing::Playground;

double megabytes() {
  std::ifstream file("/proc/self/statm");
  double whole = 0, resident = 0;
  file >> whole >> resident;
  return resident * static_cast<double>(sysconf(_SC_PAGESIZE)) / 1e6;
}

/// Somebody who hammers on everything, resizes, minimises, loses the focus and pulls the plug.
class Hammered : public Playground, public ::testing::WithParamInterface<int> {
 protected:
  void hammer(double seconds) {
    start();
    testing::Random random(static_cast<unsigned>(GetParam()));
    double settled = 0;
    int device = -1;
    const auto begin = std::chrono::steady_clock::now();
    const auto passed = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count(); };
    static const char* const keys[] = {
        "w",   "a",        "s",      "d",      "space",  "v",  "x",  "c",      "f",     "g",        "q",  "Escape",
        "Tab", "Return",   "F1",     "F2",     "F3",     "F4", "F5", "F6",     "F7",    "F8",       "F9", "F10",
        "F11", "shift+F5", "ctrl+z", "ctrl+y", "ctrl+s", "1",  "5",  "period", "minus", "BackSpace"};
    while (passed() < seconds && !HasFailure()) {
      std::string words;
      const auto number = [&](int low, int high) {
        return std::to_string(low + static_cast<int>(random.between(0, high - low)));
      };
      for (int i = 0; i < 12; ++i) {
        const double what = random.between(0, 1);
        if (what < 0.4) {
          words += std::string(" key ") + keys[static_cast<std::size_t>(random.between(0, std::size(keys) - 0.01))];
        } else if (what < 0.6) {
          words += " mousemove " + number(0, 1400) + " " + number(0, 900);
        } else if (what < 0.7) {
          words += " mousemove_relative -- " + number(-300, 300) + " " + number(-80, 80);
        } else if (what < 0.9) {
          words += " click " + number(1, 6);
        } else {
          words += random.chance(0.5) ? " mousedown 1" : " mouseup 1";
        }
      }
      if (random.chance(0.1))
        words += " search --name 'alpglow play' windowsize " + number(200, 1400) + " " + number(150, 900);
      if (random.chance(0.05)) words += " search --name 'alpglow play' windowunmap windowmap windowfocus";
      std::system(("xdotool" + words + " >/dev/null 2>&1").c_str());
      if (random.chance(0.1)) {
        if (device < 0) {
          device = SDL_JoystickAttachVirtual(SDL_JOYSTICK_TYPE_GAMECONTROLLER, 6, 15, 0);
        } else {
          SDL_JoystickDetachVirtual(device);
          device = -1;
        }
      }
      std::system("xdotool search --name 'alpglow play' windowfocus >/dev/null 2>&1");
      const int frames = status().value("frames", 0);
      until([&](const json& s) { return s["frames"] > frames || s["frames"] < 3; });
      if (settled == 0 && passed() > seconds / 3) settled = megabytes();
    }
    EXPECT_LT(megabytes(), settled * 1.1 + 20) << "it was " << settled << " MB after a third of the time";
    std::printf("%.0f MB after a third, %.0f MB at the end\n", settled, megabytes());
  }
};

/// A quarter of a minute; with the long tests a minute, times ALPGLOW_SEEDS.
TEST_P(Hammered, NeitherFallsNorGrows) {
  const char* times = std::getenv("ALPGLOW_SEEDS");
  hammer(GetParam() == 0 ? 15 : 60.0 * std::max(times != nullptr ? std::atoi(times) : 1, 1));
}

INSTANTIATE_TEST_SUITE_P(Short, Hammered, ::testing::Values(0));
INSTANTIATE_TEST_SUITE_P(Shard, Hammered, ::testing::Values(1));

}  // namespace
}  // namespace alpglow
