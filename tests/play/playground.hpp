#pragma once
// The playground's window on a display of its own, driven by real X events as a person would, and watched by what it
// says of itself: every step waits for a state, none for a time.

#include "alpglow/io/input_error.hpp"
#include "alpglow/play/play.hpp"
#include "support/temporary_file.hpp"

#include <SDL.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>
#include <nlohmann/json.hpp>

#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <functional>
#include <string>
#include <thread>

namespace alpglow::testing {

/// An X server without a screen.
class Display {
 public:
  Display() {
    int ends[2];
    if (pipe(ends) != 0) throw std::runtime_error("no pipe");
    server_ = fork();
    if (server_ == 0) {
      close(ends[0]);
      const std::string end = std::to_string(ends[1]);
      // Without -noreset a server begins anew whenever its last client leaves, and drops whoever is just coming in.
      execlp("Xvfb", "Xvfb", "-displayfd", end.c_str(), "-screen", "0", "1400x900x24", "-nolisten", "tcp", "-noreset",
             static_cast<char*>(nullptr));
      _exit(1);
    }
    close(ends[1]);
    std::string number;
    for (char c; read(ends[0], &c, 1) == 1 && c != '\n';) number += c;
    close(ends[0]);
    setenv("DISPLAY", (":" + number).c_str(), 1);
    setenv("SDL_VIDEODRIVER", "x11", 1);
  }
  ~Display() {
    kill(server_, SIGTERM);
    waitpid(server_, nullptr, 0);
  }

 private:
  pid_t server_ = -1;
};

class Playground : public ::testing::Test {
 protected:
  std::string folder = temporaryPath("playground");

  void SetUp() override {
    std::filesystem::remove_all(folder);
    std::filesystem::create_directories(folder);
  }
  void TearDown() override { end(); }

  /// With copies of the demo's designs, so that they may be written.
  void start(play::PlayOptions options = {}) {
    if (options.designs.empty()) options.designs = {design("trail"), design("warden")};
    options.level = ALPGLOW_DEMO "/refuge.level.toml";
    options.status = folder + "/status.json";
    options.out = folder + "/out";
    thread_ = std::thread([this, options] {
      try {
        play::play(options);
      } catch (const std::exception& error) {
        failed_ = error.what();
      }
      over_ = true;
    });
    until([](const nlohmann::json& s) { return s["frames"] > 2; });
    x("search --name 'alpglow play' windowfocus");
    until([](const nlohmann::json& s) { return s["focused"] == true; });
  }
  void end() {
    if (!thread_.joinable()) return;
    if (!over_) {
      SDL_Event quit = {};
      quit.type = SDL_QUIT;
      SDL_PushEvent(&quit);
    }
    thread_.join();
    EXPECT_EQ(failed_, "");
  }
  std::string design(const std::string& name) {
    const std::string path = folder + "/" + name + ".camera.toml";
    if (!std::filesystem::exists(path)) std::filesystem::copy(ALPGLOW_DEMO "/" + name + ".camera.toml", path);
    return path;
  }

  nlohmann::json status() const {
    std::ifstream file(folder + "/status.json");
    return nlohmann::json::parse(file, nullptr, false);
  }
  /// What it says once something holds; a failure with all that it says if that never comes.
  nlohmann::json until(const std::function<bool(const nlohmann::json&)>& holds, int line = __builtin_LINE()) {
    using Clock = std::chrono::steady_clock;
    nlohmann::json last;
    for (const auto start = Clock::now(); Clock::now() - start < std::chrono::seconds(40);) {
      last = status();
      if (!last.is_discarded() && holds(last)) return last;
      if (over_) break;
      std::this_thread::sleep_for(std::chrono::milliseconds(5));
    }
    ADD_FAILURE() << failed_ << " never came (line " << line << "): " << last.dump();
    return last;
  }
  /// So many more frames have been shown.
  nlohmann::json framesLater(int count) {
    const int now = status()["frames"];
    return until([&](const nlohmann::json& s) { return s["frames"] >= now + count; });
  }

  /// What xdotool is told.
  static void x(const std::string& words) {
    ASSERT_EQ(std::system(("xdotool " + words + " >/dev/null").c_str()), 0) << words;
  }
  static void key(const std::string& name) { x("key " + name); }
  void pointAt(double along, double down) {
    // The last step as a real hand makes it, with raw motion, which a pointer that is only put somewhere does not send.
    const nlohmann::json window = status()["window"];
    x("mousemove " + std::to_string(window[0].get<int>() + static_cast<int>(along) - 1) + " " +
      std::to_string(window[1].get<int>() + static_cast<int>(down)) + " mousemove_relative -- 1 0");
    until([&](const nlohmann::json& s) {
      return std::abs(s["mouse"][0].get<double>() - along) < 2 && std::abs(s["mouse"][1].get<double>() - down) < 2;
    });
    framesLater(2);
  }
  /// On an item of the panels, at a share of its width.
  void click(const std::string& item, double along = 0.5, const std::string& how = "click 1") {
    const nlohmann::json s = until([&](const nlohmann::json& all) { return all["items"].contains(item); });
    if (!s["items"].contains(item)) return;
    const nlohmann::json& at = s["items"][item];
    pointAt(at[0].get<double>() + along * at[2].get<double>(), at[1].get<double>() + at[3].get<double>() / 2);
    x(how);
    framesLater(3);
  }
  /// Opens a field, and types instead of all that stands in it: where a machine pauses between two clicks they select
  /// nothing.
  void retype(const std::string& item, const std::string& text) {
    click(item, 0.5, "click --repeat 2 --delay 1 1");
    key("ctrl+a");
    x(text.empty() ? "key BackSpace" : "type " + text);
  }
  /// Binds the first control of an action in the menu; whether the key is taken is another question.
  void bind(const std::string& action, const std::string& name) {
    click("bind " + action + " 0");
    until([](const nlohmann::json& s) { return s["waits_for_control"] == true; });
    key(name);
    until([](const nlohmann::json& s) { return s["waits_for_control"] == false; });
  }
  /// A click into the picture.
  void enter() {
    const nlohmann::json s = status();
    pointAt(s["view"][0].get<double>() + 100, s["view"][1].get<double>() + 100);
    x("click 1");
    until([](const nlohmann::json& all) { return all["pointer_locked"] == true; });
  }
  void leave() {
    key("Escape");
    until([](const nlohmann::json& all) { return all["pointer_locked"] == false; });
  }

  std::string failed_;

 private:
  Display display_;
  std::thread thread_;
  std::atomic<bool> over_ = false;
};

}  // namespace alpglow::testing
