#include "command_line.hpp"
#include "commands.hpp"
#include "controls_report.hpp"
#include "options.hpp"

#include "alpglow/input/player_controls.hpp"
#include "alpglow/io/controls_file.hpp"
#include "alpglow/sdl/sdl_input.hpp"
#include "alpglow/sdl/start.hpp"

#include <fmt/format.h>

#include <cstdio>
#include <memory>
#include <stdexcept>

namespace alpglow::cli {

namespace {

struct ListenRequest {
  std::string controls;
  double seconds = 0;  // 0 = without end
};

/// SDL with a small window that gets the keys and the mouse.
class Window {
 public:
  Window() {
    sdl::start();
    window_ =
        SDL_CreateWindow("alpglow listens", SDL_WINDOWPOS_CENTERED, SDL_WINDOWPOS_CENTERED, 480, 270, SDL_WINDOW_SHOWN);
    if (window_ == nullptr) throw std::runtime_error(SDL_GetError());
  }
  ~Window() {
    SDL_DestroyWindow(window_);
    SDL_Quit();
  }
  Window(const Window&) = delete;
  Window& operator=(const Window&) = delete;
  SDL_Window* get() const { return window_; }

 private:
  SDL_Window* window_;
};

/// Raw values, so that both axes of a stick are known when one of them moves.
class Sticks {
 public:
  explicit Sticks(const Bindings& bindings) : bindings_(bindings) {}

  /// What the dead zone and then the curve make of a stick's axis.
  std::string take(const ControlEvent& event) {
    const std::string_view name = nameOf(event.control);
    if (name.substr(0, 7) != "PadAxis") return fmt::format("{:>29}", "");
    const int axis = name.back() - '0';
    raw_[axis] = event.x;
    const StickSettings& settings = axis < 2 ? bindings_.leftStick : bindings_.rightStick;
    StickSettings straight = settings;
    straight.exponent = 1;
    const Rate stick{raw_[axis & 2], raw_[(axis & 2) + 1]};
    const auto part = [axis](Rate rate) { return axis % 2 == 0 ? rate.x : rate.y; };
    return fmt::format("zone {:>7.3f}  curve {:>7.3f}  ", part(shaped(stick, straight)), part(shaped(stick, settings)));
  }

 private:
  const Bindings& bindings_;
  double raw_[4] = {};
};

std::string actionsOf(const Bindings& bindings, const std::string& modeName, Control control) {
  std::vector<std::string> targets;
  for (const Binding& binding : bindings.modes[bindings.findMode(modeName)].bindings) {
    if (binding.control == control) targets.push_back(targetText(bindings, binding));
  }
  return targets.empty() ? "nothing" : fmt::format("{}", fmt::join(targets, ", "));
}

/// Prints what every device sends, and what becomes of it, until Escape.
int run(const ListenRequest& request) {
  const double seconds = request.seconds;
  const Bindings bindings = request.controls.empty() ? standardBindings() : io::readControls(request.controls);
  Window window;
  PlayerControls controls(bindings);
  Sticks sticks(bindings);
  double now = 0;
  sdl::Input input(window.get(), bindings.touch, [&](int, const ControlEvent& event) {
    controls.feed({0, event.control, event.x, event.y});
    const std::string raw =
        valuesOf(event.control) == 2 ? fmt::format("{:g} {:g}", event.x, event.y) : fmt::format("{:.3f}", event.x);
    fmt::print("{:8.3f} s  {:<14} raw {:>10}  {}→ {}\n", event.time, nameOf(event.control), raw, sticks.take(event),
               actionsOf(bindings, controls.mode(), event.control));
    std::fflush(stdout);
  });
  fmt::print("listening with \"{}\"; click into the window; Escape ends\n", bindings.name);
  std::fflush(stdout);
  const Uint64 start = SDL_GetTicks64();
  for (bool running = true; running && (seconds <= 0 || now < seconds);) {
    SDL_Event event;
    // Polled: waiting wakes the window through a second connection, which may still do so when the window is gone.
    while (running && SDL_PollEvent(&event) != 0) {
      now = static_cast<double>(SDL_GetTicks64() - start) / 1000;
      running = event.type != SDL_QUIT && !(event.type == SDL_KEYDOWN && event.key.keysym.sym == SDLK_ESCAPE);
      if (running) input.handle(event, now);
    }
    SDL_Delay(1);
    now = static_cast<double>(SDL_GetTicks64() - start) / 1000;
  }
  return 0;
}

}  // namespace

void addListen(CommandLine& line) {
  const auto request = std::make_shared<ListenRequest>();
  Command command = line.add("listen", "Show live what every device sends and what becomes of it",
                             "listen --controls demo/pad.controls.toml", [request] { return run(*request); });
  command.option("--controls", request->controls, "what the controls mean (*.controls.toml); else the standard ones");
  command.option("--seconds", request->seconds, "how long; 0 = until Escape").between(0, 1e6);
}

}  // namespace alpglow::cli
