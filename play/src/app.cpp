#include "app.hpp"

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/panel/rows.hpp"
#include "alpglow/stage/outside_view.hpp"

#include <fmt/format.h>
#include <imgui.h>

#include <algorithm>
#include <cmath>
#include <utility>

namespace alpglow::play {

namespace {

double seconds() {
  return static_cast<double>(SDL_GetPerformanceCounter()) / static_cast<double>(SDL_GetPerformanceFrequency());
}

/// Where the demo's files are: here, beside the program's tree, or where it is installed.
std::filesystem::path demo() {
  std::error_code none;
  const std::filesystem::path program = std::filesystem::read_symlink("/proc/self/exe", none).parent_path();
  for (const auto& place :
       {std::filesystem::path("demo"), program / "../share/alpglow/demo", program / "../../../demo"}) {
    if (std::filesystem::exists(place / "refuge.level.toml", none)) return place.lexically_normal();
  }
  throw io::InputError("demo", "is nowhere to be found; name a design and a --level");
}

PlayOptions withDemo(PlayOptions options) {
  if (options.designs.empty()) options.designs = {(demo() / "trail.camera.toml").string()};
  if (options.level.empty()) options.level = (demo() / "refuge.level.toml").string();
  return options;
}

}  // namespace

App::App(const PlayOptions& options)
    : options_(withDemo(options)),
      stage_(io::readLevel(options_.level)),
      bindings_(options_.controls.empty() ? standardBindings() : io::readControls(options_.controls)),
      preferences_(options_.preferences.empty() ? Preferences() : io::readPreferences(options_.preferences)),
      slots_([this] {
        std::vector<Slot> slots;
        for (std::size_t i = 0; i < 2; ++i) {
          const std::string& path = options_.designs[std::min(i, options_.designs.size() - 1)];
          slots.push_back({path, panel::DesignPanel(io::DesignText(io::readWhole(path), path)),
                           std::filesystem::last_write_time(path)});
        }
        return slots;
      }()),
      session_(stage_, compiled(slots_[0].panel), bindings_, preferences_),
      window_("alpglow play", options_.width, options_.height, options_.scale),
      plain_(options_.quality == PlayQuality::plain ||
             (options_.quality == PlayQuality::automatic && window_.software())),
      scene_(stage_.level(), plain_ ? stage::Quality::plain : stage::Quality::full),
      input_(window_.get(), bindings_.touch, [this](int, const ControlEvent& event) { deliver(event); }),
      status_(options_.status) {
  panel::ShownItems::wanted = status_.wanted();
  design().open(design().design().framings.front().name);
  if (!options_.take.empty()) session_.replay(io::readTake(options_.take));
}

Design App::compiled(const panel::DesignPanel& panel) const {
  return std::make_shared<const CompiledDesign>(withParts(panel.design(), parts_), preferences_);
}

void App::useDesign(double seconds) {
  session_.use(compiled(design()), seconds);
  if (session_.beside()) session_.playBeside(compiled(slots_[1 - active_].panel));
}

void App::run() {
  double before = seconds();
  while (running_) {
    if (!window_.visible()) SDL_Delay(50);
    double now = seconds();
    if (frameLimit_ != 0) {
      // Uneven: 7 to 40 ms, by chance that is the same each time.
      const double length = frameLimit_ > 0 ? 1.0 / frameLimit_ : 0.007 + 0.033 * std::fmod(frames_ * 0.618034, 1.0);
      while (now < before + length) {
        SDL_Delay(now < before + length - 0.002 ? 1 : 0);
        now = seconds();
      }
    }
    const double passed = now - before;
    before = now;
    clock_ += passed;
    frameTime_ += (passed - frameTime_) * 0.1;
    ++frames_;
    handleEvents();
    watchFiles();
    panel::ShownItems::begin();
    window_.begin([&] { panelEvents_.mouseOf(passed); });
    layOut();
    advance(passed);
    drawScene();
    overlays();
    window_.end();
    if (const auto picture = window_.takePicture()) {
      const std::string path = fmt::format("{}-{}.png", options_.out, ++pictures_);
      io::writeWhole(path, stage::pngOf(*picture));
      say("wrote " + path);
    }
    if (status_.wanted()) status();
  }
}

void App::handleEvents() {
  for (SDL_Event event; SDL_PollEvent(&event) != 0;) handle(event);
  panelEvents_.handOver();
  if (keysAreText()) releaseHeld();
  input_.lockPointer(controls().wantsPointerLock() && !controlsMenu_.waiting(), 0);
  pointerFree_ = SDL_GetRelativeMouseMode() == SDL_FALSE;
  ImGuiIO& io = ImGui::GetIO();
  io.ConfigFlags = pointerFree_ ? 0 : ImGuiConfigFlags_NoMouse | ImGuiConfigFlags_NoMouseCursorChange;
}

/// Panels have mouse and typing while the pointer is free, and otherwise only what is let go.
void App::handle(const SDL_Event& event) {
  if (event.type == SDL_QUIT) running_ = false;
  if (event.type == SDL_KEYDOWN && event.key.repeat == 0 && !controlsMenu_.waiting() && shortcut(event.key)) return;
  const bool played = event.type == SDL_MOUSEMOTION || event.type == SDL_MOUSEBUTTONDOWN ||
                      event.type == SDL_MOUSEWHEEL || event.type == SDL_KEYDOWN || event.type == SDL_TEXTINPUT;
  if (pointerFree_ || !played) panelEvents_.add(event);
  if (pointerFree_ && event.type == SDL_MOUSEBUTTONDOWN && !ImGui::GetIO().WantCaptureMouse &&
      !controlsMenu_.waiting() && (inHand_ || !session_.replaying()))
    controls().requestPointerLock(true);  // a click into the picture
  if (event.type == SDL_WINDOWEVENT && event.window.event == SDL_WINDOWEVENT_FOCUS_LOST) releaseHeld();
  input_.handle(event, 0);
}

bool App::keysAreText() const { return pointerFree_ && ImGui::GetIO().WantTextInput; }

/// To the game: not what is typed, and no mouse while it points at panels; but what is let go always.
void App::deliver(const ControlEvent& event) {
  const std::string_view name = nameOf(event.control);
  const bool mouse = name.substr(0, 5) == "Mouse", own = name == "PointerLock" || name == "Focus",
             key = !mouse && !own && name.substr(0, 3) != "Pad" && name.substr(0, 5) != "Touch";
  const auto at = std::find(held_.begin(), held_.end(), event.control);
  const bool letGo = kindOf(event.control) == ControlKind::button && event.x == 0;
  const ControlEvent now{0, event.control, event.x, event.y};
  if (letGo && (mouse || key)) {
    if (at == held_.end()) return;
    held_.erase(at);
  } else if (controlsMenu_.waiting() && !own && !letGo) {
    // Pressed for the menu, not for the game, whether that goes on or waits.
    return session_.controls().feed(now);
  } else if ((mouse && pointerFree_) || (key && keysAreText())) {
    return;
  } else if (kindOf(event.control) == ControlKind::button && (mouse || key) && at == held_.end()) {
    held_.push_back(event.control);
  }
  inHand_ ? inHand_->thing.feed(now) : session_.feed(now);
}

void App::releaseHeld() {
  for (const Control control : std::exchange(held_, {})) {
    const ControlEvent released{0, control, 0, 0};
    inHand_ ? inHand_->thing.feed(released) : session_.feed(released);
  }
}

bool App::shortcut(const SDL_KeyboardEvent& key) {
  const bool control = (key.keysym.mod & KMOD_CTRL) != 0;
  if (control && pointerFree_ && (!keysAreText() || key.keysym.sym == SDLK_s)) {
    switch (key.keysym.sym) {
      case SDLK_s: return save(), true;
      case SDLK_z: return design().undo(), useDesign(), true;
      case SDLK_y: return design().redo(), useDesign(), true;
      default: return false;
    }
  }
  switch (key.keysym.sym) {
    case SDLK_F1: help_ = !help_; return true;
    case SDLK_F2: panels_ = !panels_; return true;
    case SDLK_F3: outside_ = static_cast<Outside>((static_cast<int>(outside_) + 1) % 3); return true;
    case SDLK_F4: return switchSlot(), true;
    case SDLK_F5: return toggleRecording((key.keysym.mod & KMOD_SHIFT) != 0), true;
    case SDLK_F6: return toggleReplay(), true;
    case SDLK_F7: return rewind(), true;
    case SDLK_F8: return toggleBeside(), true;
    case SDLK_F9: paused_ = !paused_; return true;
    case SDLK_F10: return paused_ = step_ = true;
    case SDLK_F11: pace_ = pace_ <= 0.11 ? 1 : pace_ * (pace_ > 0.26 ? 0.5 : 0.4); return true;
    case SDLK_F12: return window_.keepPicture(), true;
    case SDLK_ESCAPE: {
      // Always a way out, whatever the controls say.
      const Bindings& bindings = controls().bindings();
      const auto& bound = bindings.modes[bindings.findMode(controls().mode())].bindings;
      const bool frees = std::any_of(bound.begin(), bound.end(), [](const Binding& each) {
        return each.action == Action::pointerLock && each.control == findControl("Escape");
      });
      if (!frees || session_.replaying()) controls().requestPointerLock(false);
      return false;
    }
    default: return false;
  }
}

void App::advance(double passed) {
  constexpr double longest = 0.1, oneFrame = 1.0 / 60;
  // To three digits, so that a rehearsal can be told the same.
  session_.setAspect(std::clamp(std::round(view_.aspect() * 1000) / 1000, 0.05, 20.0));
  if (inHand_) inHand_->thing.frame(std::min(passed, longest));
  if (inHand_ || (paused_ && !std::exchange(step_, false))) return session_.wait();
  const double dt = paused_ ? oneFrame : std::min(passed, longest) * pace_;
  before_ = session_.shown();
  const io::TraceFrame row = session_.frame(dt);
  felt_.add(row);
  events_.add(row);
}

void App::drawScene() {
  const auto draw = [this](Viewport& viewport, stage::Scene& scene, const stage::Shot& shot, const Area& area) {
    const double perUnit = window_.width() / std::max<double>(static_cast<double>(ImGui::GetIO().DisplaySize.x), 1);
    const auto pixels = [perUnit](float units) { return static_cast<int>(std::lround(units * perUnit)); };
    viewport.draw(scene, shot, window_, plain_, pixels(area.x), pixels(area.y), pixels(area.width),
                  pixels(area.height));
  };
  if (inHand_) {
    stage::Shot shot;
    shot.view = inHand_->thing.view(view_.aspect());
    shot.opacity = 0;
    shot.feet = {0, -1e3, 0};  // nor a shadow of the figure
    return draw(viewport_, inHand_->scene, shot, view_);
  }
  const stage::Shot shot = stage::shotOf(session_.shown(), stage_);
  if (outside_ != Outside::full) draw(viewport_, scene_, shot, view_);
  if (session_.beside()) draw(besideViewport_, scene_, stage::shotOf(session_.shownBeside(), stage_), besideView_);
  if (outside_ == Outside::off) return;
  stage::Shot seen = shot;
  seen.opacity = 1;
  seen.view = outsideFrom_ = stage::outsideOf(session_.view(), stage_.obstacles(), outsideView_.aspect());
  draw(outsideViewport_, scene_, seen, outsideView_);
}

void App::status() {
  const io::TraceFrame& shown = session_.shown();
  const auto rounded = [](double value) { return std::round(value * 1000) / 1000; };
  const auto point = [&](const Eigen::Vector3d& p) {
    return nlohmann::json::array({rounded(p.x()), rounded(p.y()), rounded(p.z())});
  };
  nlohmann::json items = nlohmann::json::object();
  for (const panel::Shown& item : panel::ShownItems::items())
    items[item.id] = {item.from.x, item.from.y, item.to.x - item.from.x, item.to.y - item.from.y};
  int left = 0, top = 0;
  SDL_GetWindowPosition(window_.get(), &left, &top);
  status_.write({{"does", session_.replaying()   ? "replays"
                          : session_.recording() ? "records"
                                                 : "plays"},
                 {"paused", paused_},
                 {"time_s", rounded(session_.now())},
                 {"frames", frames_},
                 {"fps", std::round(1 / std::max(frameTime_, 1e-3))},
                 {"ticks", stage_.ticksPerSecond()},
                 {"plain", plain_},
                 {"pointer_locked", !pointerFree_},
                 {"mouse", {ImGui::GetIO().MousePos.x, ImGui::GetIO().MousePos.y}},
                 {"panels_have_mouse", ImGui::GetIO().WantCaptureMouse},
                 {"focused", (SDL_GetWindowFlags(window_.get()) & SDL_WINDOW_INPUT_FOCUS) != 0},
                 {"window", {left, top, window_.width(), window_.height()}},
                 {"view", {view_.x, view_.y, view_.width, view_.height}},
                 {"aspect", shown.aspect},
                 {"pads", input_.pads().size()},
                 {"design", design().design().name},
                 {"slot", active_ == 0 ? "A" : "B"},
                 {"beside", session_.beside()},
                 {"outside", static_cast<int>(outside_)},
                 {"changed", design().changed()},
                 {"undo_steps", design().undoSteps()},
                 {"said", said_},
                 {"waits_for_control", controlsMenu_.waiting()},
                 {"controls_changed", controlsChanged_},
                 {"in_hand", inHand_ ? inHand_->thing.name() : ""},
                 {"in_hand_yaw_deg", inHand_ ? rounded(toDegrees(inHand_->thing.inspection().angles().yaw)) : 0},
                 {"in_hand_roll_deg", inHand_ ? rounded(toDegrees(inHand_->thing.inspection().roll())) : 0},
                 {"camera", shown.cameraName},
                 {"framing", shown.framing},
                 {"feet", point(shown.subject)},
                 {"camera_at", point(shown.camera)},
                 {"yaw_deg", rounded(shown.yaw)},
                 {"pitch_deg", rounded(shown.pitch)},
                 {"distance_m", rounded(shown.distance)},
                 {"fov_deg", rounded(shown.fieldOfView)},
                 {"digest", fmt::format("{:016x}", session_.design()->digest())},
                 {"items", items}},
                clock_);
}

int play(const PlayOptions& options) {
  App(options).run();
  return 0;
}

}  // namespace alpglow::play
