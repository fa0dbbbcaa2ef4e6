#pragma once
// The playground as a whole: window, session, panels, and what keys and buttons do.

#include "alpglow/panel/design_panel.hpp"
#include "alpglow/panel/feel_panel.hpp"
#include "alpglow/play/parts.hpp"
#include "alpglow/play/play.hpp"
#include "alpglow/play/session.hpp"
#include "alpglow/play/thing_in_hand.hpp"
#include "alpglow/sdl/sdl_input.hpp"
#include "controls_menu.hpp"
#include "overlay.hpp"
#include "panel_events.hpp"
#include "status.hpp"
#include "window.hpp"

#include <array>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace alpglow::play {

class App {
 public:
  explicit App(const PlayOptions& options);
  void run();

 private:
  /// One of the two designs that are compared: its file, and when that was written last.
  struct Slot {
    std::string path;
    panel::DesignPanel panel;
    std::filesystem::file_time_type writtenAt;
  };
  enum class Outside { off, inset, full };
  struct InHand {
    ThingInHand thing;
    stage::Scene scene;

    InHand(const io::Level& level, int object, const Bindings& bindings, const Preferences& preferences,
           stage::Quality quality)
        : thing(level, object, bindings, preferences), scene(thing.level(), quality) {}
  };

  // app.cpp: what happens
  void handleEvents();
  void handle(const SDL_Event& event);
  bool shortcut(const SDL_KeyboardEvent& key);
  void deliver(const ControlEvent& event);
  void releaseHeld();
  bool keysAreText() const;
  void advance(double passed);
  void drawScene();
  void useDesign(double seconds = 0.25);
  Design compiled(const panel::DesignPanel& panel) const;
  void status();

  // actions.cpp: what keys and buttons do
  void switchSlot();
  void toggleBeside();
  void toggleRecording(bool here);
  void toggleReplay();
  void writeSheet();
  void rewind();
  void setTicks(double ticks);
  void fly(bool flies);
  void showCamera(const std::string& name);
  void inspect();
  void placeByEye();
  void save();
  void write(const std::string& path, const std::string& text);
  void saveControls();
  void savePreferences();
  void watchFiles();
  void reload(Slot& slot);
  void say(const std::string& words, bool bad = false);

  // panels.cpp: what is shown
  void layOut();
  void showToolbar();
  void showSide();
  void showDifferences();
  void showCharacter();
  void showParts();
  void showStrip();
  void showHelp();
  bool button(const char* label, const char* tip, bool on = false);

  // overlays.cpp: what is drawn over the picture
  void overlays();
  void showPlayed();
  void showInHand();
  void showHint(const char* enters);
  void showSaid();
  void drawOutside();

  panel::DesignPanel& design() { return slots_[active_].panel; }
  /// Of whatever is played: the level, or the thing in the hand.
  PlayerControls& controls() { return inHand_ ? inHand_->thing.controls() : session_.controls(); }
  /// The key that frees the pointer.
  std::string freeingKey();

  PlayOptions options_;
  stage::Stage stage_;
  Bindings bindings_;
  Preferences preferences_;
  std::vector<Slot> slots_;
  std::size_t active_ = 0;
  PartFactors parts_ = allParts();
  Session session_;
  Window window_;
  bool plain_;
  stage::Scene scene_;
  Viewport viewport_, besideViewport_, outsideViewport_;
  sdl::Input input_;
  PanelEvents panelEvents_;
  panel::FeelPanel felt_;
  ControlsMenu controlsMenu_;
  EventList events_;
  io::TraceFrame before_;  // the frame before the one that is shown
  StatusFile status_;

  Area view_, besideView_, outsideView_;
  std::vector<Control> held_;  // that went to the game
  std::optional<Recording> recorded_;
  std::optional<InHand> inHand_;
  std::string said_;
  bool saidBad_ = false, running_ = true, panels_ = true, help_ = false, paused_ = false, step_ = false;
  bool interpolated_ = true, controlsChanged_ = false, pointerFree_ = true;
  Outside outside_ = Outside::off;
  View outsideFrom_;
  double pace_ = 1, clock_ = 0, watchedAt_ = 0, saidAt_ = -1e9, frameTime_ = 0;
  int frameLimit_ = 0, pictures_ = 0, frames_ = 0;
  std::string cameraName_ = "character";
};

}  // namespace alpglow::play
