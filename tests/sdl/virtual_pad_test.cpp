// A gamepad that does not exist, through the real adapter into the intent and the view.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/input/player_controls.hpp"
#include "alpglow/sdl/sdl_input.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

class VirtualPad : public ::testing::Test {
 protected:
  void SetUp() override {
    SDL_SetHint(SDL_HINT_VIDEODRIVER, "offscreen");
    SDL_SetHint(SDL_HINT_JOYSTICK_ALLOW_BACKGROUND_EVENTS, "1");
    ASSERT_EQ(SDL_Init(SDL_INIT_VIDEO | SDL_INIT_GAMECONTROLLER), 0) << SDL_GetError();
    window_ = SDL_CreateWindow("test", 0, 0, 320, 180, 0);
    input_ = std::make_unique<sdl::Input>(
        window_, bindings_.touch, [this](int player, const ControlEvent& event) { players_[player].feed(event); });
    plugIn();
  }
  void TearDown() override {
    input_.reset();
    SDL_DestroyWindow(window_);
    SDL_Quit();
  }

  void plugIn() {
    device_ = SDL_JoystickAttachVirtual(SDL_JOYSTICK_TYPE_GAMECONTROLLER, 6, 15, 0);
    ASSERT_GE(device_, 0) << SDL_GetError();
    joystick_ = SDL_JoystickOpen(device_);
    frame();
    ASSERT_EQ(input_->pads().size(), 1u);
  }
  void stick(int axis, double value) {
    SDL_JoystickSetVirtualAxis(joystick_, axis, static_cast<Sint16>(value * 32767));
  }

  /// A frame of 1/50 s.
  View frame() {
    for (PlayerControls& controls : players_) controls.beginFrame();
    SDL_GameControllerUpdate();
    for (SDL_Event event; SDL_PollEvent(&event) != 0;) input_->handle(event, 0);
    return camera_.step(0.02, players_[0].intent(), Subject(), NoObstacles(), 1.5);
  }

  Bindings bindings_ = standardBindings();
  PlayerControls players_[2] = {PlayerControls(bindings_), PlayerControls(bindings_)};
  CompiledDesign design_{CameraDesign()};
  CharacterCamera camera_{design_, Subject()};
  SDL_Window* window_ = nullptr;
  std::unique_ptr<sdl::Input> input_;
  SDL_Joystick* joystick_ = nullptr;
  int device_ = -1;
};

TEST_F(VirtualPad, TurnsAtItsRateAndSaysWhichDeviceItIs) {
  stick(SDL_CONTROLLER_AXIS_RIGHTX, -1);
  const double before = frame().yaw;
  const View after = frame();
  EXPECT_NEAR(after.yaw - before, 0.02 * LookSettings().yawRate, 1e-9) << "left, at full rate";
  EXPECT_EQ(players_[0].device(), Device::pad);
}

TEST_F(VirtualPad, WalksWithTheLeftStickAndPressesItsButtons) {
  stick(SDL_CONTROLLER_AXIS_LEFTY, -1);
  SDL_JoystickSetVirtualButton(joystick_, SDL_CONTROLLER_BUTTON_B, 1);
  stick(SDL_CONTROLLER_AXIS_TRIGGERLEFT, 0.8);
  frame();
  EXPECT_NEAR(players_[0].move().y, 1, 1e-9) << "pushed away is ahead";
  EXPECT_TRUE(players_[0].state(Action::crouch).pressed);
  EXPECT_TRUE(players_[0].state(Action::aim).held) << "a trigger is a button";
}

TEST_F(VirtualPad, UnpluggingMidTurnStopsTheTurn) {
  stick(SDL_CONTROLLER_AXIS_RIGHTX, 1);
  stick(SDL_CONTROLLER_AXIS_LEFTX, 1);
  frame();
  EXPECT_NE(players_[0].turn().x, 0);
  SDL_JoystickClose(joystick_);
  SDL_JoystickDetachVirtual(device_);
  frame();
  EXPECT_TRUE(input_->pads().empty());
  EXPECT_EQ(players_[0].turn().x, 0);
  EXPECT_EQ(players_[0].move().x, 0);
  const double before = camera_.heading();
  frame();
  EXPECT_EQ(camera_.heading(), before);
}

TEST_F(VirtualPad, CanBelongToAnotherPlayer) {
  stick(SDL_CONTROLLER_AXIS_LEFTX, 1);
  frame();
  EXPECT_GT(players_[0].move().x, 0.9);
  input_->assignPad(input_->pads()[0], 1, 0);
  EXPECT_EQ(players_[0].move().x, 0) << "released for the first player";
  stick(SDL_CONTROLLER_AXIS_LEFTX, -1);
  frame();
  EXPECT_EQ(players_[0].move().x, 0);
  EXPECT_LT(players_[1].move().x, -0.9);
}

TEST_F(VirtualPad, AFingerThatAlsoArrivesAsAMouseCountsOnce) {
  SDL_Event event{};
  event.type = SDL_FINGERDOWN;
  event.tfinger.x = 0.7f;
  event.tfinger.y = 0.5f;
  players_[0].beginFrame();
  input_->handle(event, 0);
  SDL_Event mouse{};
  mouse.type = SDL_MOUSEMOTION;
  mouse.motion.which = SDL_TOUCH_MOUSEID;
  mouse.motion.xrel = 40;
  input_->handle(mouse, 0);
  EXPECT_EQ(players_[0].lookedBy().x, 0);
  mouse.motion.which = 0;
  input_->handle(mouse, 0);
  EXPECT_EQ(players_[0].lookedBy().x, 40);
}

TEST_F(VirtualPad, LosingTheFocusReleasesWhatIsHeld) {
  SDL_Event key{};
  key.type = SDL_KEYDOWN;
  key.key.state = SDL_PRESSED;
  key.key.keysym.scancode = SDL_SCANCODE_W;
  input_->handle(key, 0);
  EXPECT_EQ(players_[0].move().y, 1);
  SDL_Event lost{};
  lost.type = SDL_WINDOWEVENT;
  lost.window.event = SDL_WINDOWEVENT_FOCUS_GAINED;
  input_->handle(lost, 0);
  lost.window.event = SDL_WINDOWEVENT_FOCUS_LOST;
  input_->handle(lost, 0);
  EXPECT_EQ(players_[0].move().y, 0);
}

TEST(SdlNames, EveryKeyHasItsW3cCode) {
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_SCANCODE_W)), "KeyW");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_SCANCODE_0)), "Digit0");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_SCANCODE_1)), "Digit1");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_SCANCODE_KP_0)), "Numpad0");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_SCANCODE_F12)), "F12");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_SCANCODE_LSHIFT)), "ShiftLeft");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_CONTROLLER_BUTTON_GUIDE)), "PadButton16");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_CONTROLLER_BUTTON_DPAD_UP)), "PadButton12");
  EXPECT_STREQ(nameOf(sdl::controlOf(SDL_CONTROLLER_AXIS_TRIGGERRIGHT)), "PadButton7");
  EXPECT_FALSE(sdl::controlOf(SDL_SCANCODE_UNKNOWN).valid());
}

}  // namespace
}  // namespace alpglow
