#include "cli/program.hpp"
#include "play/playground.hpp"
#include "support/random.hpp"

#include "alpglow/io/design_file.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/io/trace.hpp"

#include <cairo.h>

#include <algorithm>
#include <cmath>

namespace alpglow {
namespace {

using nlohmann::json;
using testing::Playground;

double ahead(const json& s) { return -s["feet"][2].get<double>(); }

TEST_F(Playground, WalksLooksJumpsAimsAndSwitches) {
  start({{design("warden")}});
  EXPECT_EQ(status()["pointer_locked"], false);
  x("keydown w");
  const json walking = until([](const json& s) { return ahead(s) > 0; });
  x("keyup w");
  EXPECT_EQ(walking["yaw_deg"], 0) << "the pointer is free";
  enter();
  x("mousemove_relative -- 3 0");  // is left out: it may be how the pointer was put in the middle
  framesLater(2);
  x("mousemove_relative -- 60 0");
  until([](const json& s) { return std::abs(s["yaw_deg"].get<double>() + 60 * 0.05) < 2e-3; });
  const double lens = status()["fov_deg"];
  x("mousedown 3");
  const json aiming = until([&](const json& s) { return s["fov_deg"] < lens - 3; });
  EXPECT_NE(aiming["framing"], walking["framing"]);
  x("mouseup 3");
  until([&](const json& s) { return s["framing"] == walking["framing"]; });
  key("v");
  until([](const json& s) { return s["distance_m"] == 0; });
  key("v");
  until([](const json& s) { return s["distance_m"] > 1; });
  const double floor = status()["feet"][1];
  x("keydown space");
  until([&](const json& s) { return s["feet"][1] > floor + 0.3; });
  x("keyup space");
  until([&](const json& s) { return s["feet"][1] < floor + 0.05; });
  leave();
}

TEST_F(Playground, TunesBySliderAndByTypingAndUndoes) {
  start();
  const double before = until([](const json& s) { return s["distance_m"] > 2; })["distance_m"];
  click("trail.distance_m", 0.5);
  const json slid = until([&](const json& s) { return s["distance_m"] > before + 0.5; });
  EXPECT_EQ(slid["changed"], true);
  EXPECT_EQ(slid["undo_steps"], 1);
  key("ctrl+z");
  until([&](const json& s) { return s["changed"] == false && s["undo_steps"] == 0; });
  until([&](const json& s) { return std::abs(s["distance_m"].get<double>() - before) < 1e-3; });
  retype("trail.distance_m#type", "4.2");
  key("Return");
  until([](const json& s) { return std::abs(s["distance_m"].get<double>() - 4.2) < 2e-3; });
  // What cannot be is not taken: beyond its range, and less than the nearest distance.
  retype("trail.distance_max_m#type", "0.5");
  key("Return");
  const json refused = framesLater(4);
  EXPECT_EQ(refused["undo_steps"], 1);
  EXPECT_NEAR(refused["distance_m"], 4.2, 2e-3);
}

TEST_F(Playground, TypingDoesNotWalkAndKeysOfTheGameDoNotTouchPanels) {
  start();
  const json before = status();
  click("search");
  x("type wwaassdd");
  const json typed = framesLater(8);
  EXPECT_EQ(typed["feet"], before["feet"]);
  EXPECT_FALSE(typed["items"].contains("section look")) << "nothing is called so";
  retype("search", "");
  until([](const json& s) { return s["items"].contains("section look"); });
  // Between two frames a quick hand types and takes back.
  x("type --delay 0 lookxy");
  x("key --delay 6 BackSpace BackSpace");  // nearer ones are taken for one that repeats
  until([](const json& s) { return s["items"].contains("section look") && !s["items"].contains("section zoom"); });
  x("key --delay 0 ctrl+a Delete");
  until([](const json& s) { return s["items"].contains("section zoom"); });
  enter();
  x("keydown w");
  until([&](const json& s) { return ahead(s) > ahead(before) + 0.3; });
  x("keyup w");
  // A key that is held while one begins to type is let go.
  leave();
  x("keydown w");
  until([&](const json& s) { return s["feet"] != before["feet"]; });
  click("search");
  const json rests = framesLater(30);
  x("keyup w");
  EXPECT_EQ(framesLater(5)["feet"], rests["feet"]);
}

TEST_F(Playground, SwitchesBetweenTwoDesignsAndShowsBoth) {
  start();
  const json first = status();
  key("F4");
  const json second = until([](const json& s) { return s["slot"] == "B"; });
  EXPECT_NE(second["digest"], first["digest"]);
  key("F8");
  const json both = until([](const json& s) { return s["beside"] == true; });
  EXPECT_LT(both["view"][2].get<double>(), first["view"][2].get<double>() * 0.55);
  key("F4");
  until([&](const json& s) { return s["slot"] == "A" && s["digest"] == first["digest"]; });
  click("tab A and B");
  click("copy trail.distance_m", 0.5);
  key("F4");
  key("F8");
  until([](const json& s) { return s["beside"] == false; });
}

TEST_F(Playground, ADesignThatIsSavedRehearsesAsItWasPlayed) {
  start();
  retype("trail.distance_m#type", "3.7");
  key("Return");
  until([](const json& s) { return s["changed"] == true; });
  key("ctrl+s");
  const json saved = until([](const json& s) { return s["changed"] == false; });
  const std::string text = io::readWhole(design("trail")), was = io::readWhole(ALPGLOW_DEMO "/trail.camera.toml");
  std::string expected = was;
  expected.replace(expected.find("distance_m = 2.9"), 16, "distance_m = 3.7");
  EXPECT_EQ(text, expected) << "comments and order stay";

  enter();
  key("F5");
  until([](const json& s) { return s["does"] == "records"; });
  x("keydown w keydown shift");
  for (int i = 0; i < 12; ++i) {
    x("mousemove_relative -- 23 3");
    framesLater(2);
  }
  x("keyup w keyup shift");
  framesLater(5);
  key("F5");
  const json done = until([](const json& s) { return s["does"] == "plays"; });
  const std::string out = folder + "/out";
  const testing::Ran ran = testing::alpglow(
      "rehearse " + design("trail") + " --level " ALPGLOW_DEMO "/refuge.level.toml --take " + out + ".take --frames " +
      out + ".frames --aspect " + done["aspect"].dump() + " --trace " + out + ".again.csv");
  ASSERT_EQ(ran.code, 0) << ran.output;
  EXPECT_EQ(io::readWhole(out + ".again.csv"), io::readWhole(out + ".csv"));
  EXPECT_GT(io::readTrace(out + ".csv").size(), 20u);
  EXPECT_EQ(saved["digest"], [&] {
    char digest[17];
    const auto number = CompiledDesign(io::readDesign(design("trail"))).digest();
    std::snprintf(digest, sizeof digest, "%016llx", static_cast<unsigned long long>(number));
    return std::string(digest);
  }());

  key("F6");
  until([](const json& s) { return s["does"] == "replays" && s["pointer_locked"] == false; });
  click("time", 0.8);
  until([](const json& s) { return s["yaw_deg"] < -1; });
  key("F6");
  until([](const json& s) { return s["does"] == "plays"; });
}

TEST_F(Playground, RewindsPausesAndStepsByAFrame) {
  start();
  until([](const json& s) { return s["time_s"] > 3; });
  key("F9");
  until([](const json& s) { return s["paused"] == true; });
  const double paused = framesLater(3)["time_s"];
  EXPECT_EQ(framesLater(5)["time_s"], paused);
  key("F10");
  EXPECT_NEAR(until([&](const json& s) { return s["time_s"] > paused; })["time_s"], paused + 1 / 60.0, 2e-3);
  key("F7");
  until([&](const json& s) { return s["time_s"] < paused - 2; });
  key("F9");
  until([&](const json& s) { return s["paused"] == false; });
}

TEST_F(Playground, AFileThatBreaksIsSaidAndTheLastGoodDesignStays) {
  start();
  const std::string path = design("trail"), text = io::readWhole(path);
  const json before = status();
  io::writeWhole(path, text + "\ndistanc_m = 3\n");
  const json broken =
      until([](const json& s) { return s["said"].get<std::string>().find("distanc_m") != std::string::npos; });
  EXPECT_EQ(broken["digest"], before["digest"]);
  std::string mended = text;
  mended.replace(mended.find("distance_m = 2.9"), 16, "distance_m = 4.4");
  io::writeWhole(path, mended);
  until([](const json& s) { return std::abs(s["distance_m"].get<double>() - 4.4) < 2e-3; });
  EXPECT_EQ(status()["changed"], false);
}

TEST_F(Playground, BindsAControlByPressingIt) {
  start();
  click("tab controls");
  bind("jump", "k");
  until([](const json& s) { return s["controls_changed"] == true; });
  bind("crouch", "w");
  click("button save controls");
  until([](const json& s) { return s["controls_changed"] == false; });
  const std::string saved = io::readWhole(folder + "/out.controls.toml");
  EXPECT_NE(saved.find("\"KeyK\""), std::string::npos);
  EXPECT_NE(saved.find("\"ControlLeft\""), std::string::npos) << "W walks already";
  enter();
  const double floor = status()["feet"][1];
  x("keydown k");
  until([&](const json& s) { return s["feet"][1] > floor + 0.3; });
  x("keyup k");
}

TEST_F(Playground, BindsWhileTimeStandsStillToo) {
  start();
  key("F9");
  until([](const json& s) { return s["paused"] == true; });
  click("tab controls");
  bind("jump", "k");
  click("button inspect");
  until([](const json& s) { return s["in_hand"] != ""; });
  bind("move", "i");
  // Refused, and the key is up again afterwards.
  bind("crouch", "s");
  click("button inspect");
  key("F9");
  const json stood = until([](const json& s) { return s["paused"] == false; });
  x("keydown i");
  until([&](const json& s) { return ahead(s) > ahead(stood) + 0.2; });
  x("keyup i");
  const json there = framesLater(20);
  x("keydown s");
  until([&](const json& s) { return ahead(s) < ahead(there) - 0.1; });
  x("keyup s");
}

TEST_F(Playground, APadPlaysAndMayBeUnplugged) {
  start();
  const int device = SDL_JoystickAttachVirtual(SDL_JOYSTICK_TYPE_GAMECONTROLLER, 6, 15, 0);
  ASSERT_GE(device, 0) << SDL_GetError();
  until([](const json& s) { return s["pads"] == 1; });
  SDL_Joystick* joystick = SDL_JoystickOpen(device);
  SDL_JoystickSetVirtualAxis(joystick, SDL_CONTROLLER_AXIS_RIGHTX, -20000);
  const json stood = until([](const json& s) { return s["yaw_deg"] > 5; });
  SDL_JoystickSetVirtualAxis(joystick, SDL_CONTROLLER_AXIS_LEFTY, -32767);
  until([&](const json& s) { return s["feet"] != stood["feet"]; });
  SDL_JoystickClose(joystick);
  SDL_JoystickDetachVirtual(device);
  until([](const json& s) { return s["pads"] == 0; });
  const json rests = framesLater(25);
  EXPECT_EQ(framesLater(5)["yaw_deg"], rests["yaw_deg"]);
  EXPECT_EQ(status()["feet"], rests["feet"]);
}

TEST_F(Playground, TakesASmallThingIntoTheHandAndTurnsItWhileTheLevelWaits) {
  start();
  const json before = status();
  click("button inspect");
  const json taken = until([](const json& s) { return s["in_hand"] != ""; });
  enter();
  x("mousemove_relative -- 3 0");
  framesLater(2);
  x("mousemove_relative -- 60 0");
  until([](const json& s) { return std::abs(s["in_hand_yaw_deg"].get<double>()) > 1; });
  x("keydown d");
  until([](const json& s) { return s["in_hand_roll_deg"] > 20; });
  x("keyup d");
  const json rolled = framesLater(3);
  EXPECT_EQ(framesLater(3)["in_hand_roll_deg"], rolled["in_hand_roll_deg"]);
  EXPECT_EQ(rolled["feet"], before["feet"]);
  EXPECT_EQ(rolled["yaw_deg"], before["yaw_deg"]);
  leave();
  click("button inspect");
  until([](const json& s) { return s["in_hand"] == ""; });
  x("keydown w");
  until([&](const json& s) { return s["feet"] != before["feet"]; });
  x("keyup w");
}

TEST_F(Playground, TicksAsOftenAsItIsTold) {
  start();
  click("rates");
  click("20 ticks");
  until([](const json& s) { return s["ticks"] == 20; });
  key("F5");
  until([](const json& s) { return s["does"] == "records"; });
  framesLater(5);
  key("F5");
  const json said = until([](const json& s) { return s["does"] == "plays"; });
  EXPECT_NE(said["said"].get<std::string>().find("--ticks 20"), std::string::npos) << said["said"];
}

/// Pixels of a picture.
struct Pixels {
  explicit Pixels(const std::string& path) : surface(cairo_image_surface_create_from_png(path.c_str())) {}
  ~Pixels() { cairo_surface_destroy(surface); }
  Pixels(const Pixels&) = delete;
  Pixels& operator=(const Pixels&) = delete;
  int at(int x, int y) const {
    return cairo_image_surface_get_data(surface)[y * cairo_image_surface_get_stride(surface) + 4 * x + 1];
  }
  cairo_surface_t* surface;
};

/// The share of a part of the window that is another colour.
double changed(const Pixels& a, const Pixels& b, const json& view) {
  int other = 0, all = 0;
  for (int y = view[1].get<int>() + 60; y < view[1].get<int>() + view[3].get<int>() - 140; y += 2) {
    for (int x = view[0].get<int>(); x < view[0].get<int>() + view[2].get<int>(); x += 2, ++all)
      other += std::abs(a.at(x, y) - b.at(x, y)) > 12 ? 1 : 0;
  }
  return static_cast<double>(other) / all;
}

TEST_F(Playground, InputIsOnTheScreenInTheFrameInWhichItArrives) {
  start();
  enter();
  key("F9");
  const json paused = until([](const json& s) { return s["paused"] == true; });
  const auto pressed = [](SDL_Keycode code) {
    SDL_Event event = {};
    event.type = SDL_KEYDOWN;
    event.key.keysym.sym = code;
    return event;
  };
  int pictures = 0;
  // All at once, so that they come in one frame: the only one that passes, and the one whose picture is kept.
  const auto frameWith = [&](int counts) {
    SDL_Event moved = {};
    moved.type = SDL_MOUSEMOTION;
    moved.motion.xrel = counts;
    SDL_Event events[] = {moved, pressed(SDLK_F10), pressed(SDLK_F12)};
    SDL_PeepEvents(events, 3, SDL_ADDEVENT, 0, 0);
    const std::string path = folder + "/out-" + std::to_string(++pictures) + ".png";
    until([&](const json& s) { return s["said"] == "wrote " + path; });
    framesLater(2);
    return path;
  };
  frameWith(0);
  const Pixels before(frameWith(0)), still(frameWith(0)), turned(frameWith(200));
  EXPECT_LT(changed(before, still, paused["view"]), 0.01);
  EXPECT_GT(changed(still, turned, paused["view"]), 0.1);
  EXPECT_NEAR(status()["yaw_deg"].get<double>() - paused["yaw_deg"].get<double>(), -10, 1e-3);
}

TEST(NoDisplay, IsSaidInOneLineThatNamesWhatWorksWithout) {
  for (const char* command : {"play", "listen"}) {
    const testing::Ran ran = testing::run("env -u DISPLAY -u WAYLAND_DISPLAY -u SDL_VIDEODRIVER " ALPGLOW_PROGRAM " " +
                                          std::string(command) + " 2>&1 >/dev/null | grep -v XDG_RUNTIME_DIR");
    EXPECT_EQ(std::count(ran.output.begin(), ran.output.end(), '\n'), 1) << ran.output;
    EXPECT_NE(ran.output.find(*command == 'p' ? "rehearse, storyboard" : "no display"), std::string::npos)
        << ran.output;
  }
}

}  // namespace
}  // namespace alpglow
