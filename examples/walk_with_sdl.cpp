// A walk through a level with real devices: SDL2's keyboard, mouse and pads drive the controls, everything is recorded,
// and what happens is printed. Escape, or the time that is given, ends it.
//
//   walk_with_sdl LEVEL CONTROLS SECONDS OUT     writes OUT.take, OUT.frames and OUT.csv
//
// `alpglow rehearse … --take OUT.take --frames OUT.frames --controls CONTROLS` gives OUT.csv again, to the byte.

#include <alpglow/io/controls_file.hpp>
#include <alpglow/io/input_error.hpp>
#include <alpglow/io/level_file.hpp>
#include <alpglow/sdl/sdl_input.hpp>
#include <alpglow/stage/rehearsal.hpp>

#include <cstdio>
#include <cstdlib>
#include <string>

using namespace alpglow;

namespace {

void walk(SDL_Window* window, const stage::Stage& level, const Bindings& bindings, double seconds,
          const std::string& out) {
  io::Take take;  // grows while it is performed
  const CompiledDesign design{CameraDesign()};
  stage::RehearsalOptions options;
  options.controls = bindings;
  stage::Rehearsal rehearsal(design, level, take, options);
  bool running = true;
  sdl::Input input(window, bindings.touch, [&](int, const ControlEvent& event) { take.events.push_back(event); });
  input.lockPointer(true, 0);

  io::Trace trace;
  std::string frames;
  const Uint64 start = SDL_GetPerformanceCounter();
  while (running && rehearsal.now() < seconds) {
    SDL_Delay(8);
    const double clock =
        static_cast<double>(SDL_GetPerformanceCounter() - start) / static_cast<double>(SDL_GetPerformanceFrequency());
    const double dt = clock - rehearsal.now(), end = rehearsal.now() + dt;
    for (SDL_Event event; SDL_PollEvent(&event) != 0;) {
      if (event.type == SDL_QUIT || (event.type == SDL_KEYDOWN && event.key.keysym.sym == SDLK_ESCAPE)) running = false;
      input.handle(event, end);
    }
    trace.push_back(rehearsal.frameUntil(end));
    frames += io::frameTimeText(dt);
    const io::TraceFrame& f = trace.back();
    std::printf("%.3f look %g %g stick %.3f %.3f move %.3f %.3f yaw %.2f pitch %.2f at %.2f %.2f %s\n", f.time, f.lookX,
                f.lookY, f.stickX, f.stickY, f.moveX, f.moveY, f.yaw, f.pitch, f.subject.x(), f.subject.z(),
                f.device.c_str());
    std::fflush(stdout);
  }
  take.length = rehearsal.now();
  io::writeWhole(out + ".take", io::writeTake(take));
  io::writeWhole(out + ".frames", frames);
  io::writeWhole(out + ".csv", io::writeTrace(trace));
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 5) return std::fprintf(stderr, "usage: walk_with_sdl LEVEL CONTROLS SECONDS OUT\n"), 2;
  SDL_SetHint(SDL_HINT_JOYSTICK_ALLOW_BACKGROUND_EVENTS, "1");
  if (SDL_Init(SDL_INIT_VIDEO | SDL_INIT_GAMECONTROLLER) != 0) return std::fprintf(stderr, "%s\n", SDL_GetError()), 2;
  SDL_Window* window = SDL_CreateWindow("a walk at dusk", 100, 100, 640, 360, SDL_WINDOW_SHOWN);
  try {
    walk(window, stage::Stage(io::readLevel(argv[1])), io::readControls(argv[2]), std::atof(argv[3]), argv[4]);
  } catch (const io::InputError& error) {
    return std::fprintf(stderr, "%s\n", error.what()), 2;
  }
  SDL_DestroyWindow(window);
  SDL_Quit();
}
