#include "alpglow/input/player_controls.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/input/touch.hpp"
#include "support/desk.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <limits>

namespace alpglow {
namespace {

using testing::bound;
using testing::Desk;

Bindings withToggle() {
  Bindings bindings = standardBindings();
  bindings.addMode("on-foot").bindings.push_back(
      {Action::crouch, Axis::x, findControl("KeyZ"), 1, {}, PressStyle::toggle});
  return bindings;
}

TEST(PlayerControls, KeysMakeAVectorOfLengthOneAndOppositesCancel) {
  Desk desk;
  desk.on("KeyW");
  EXPECT_EQ(desk.move().y, 1);
  desk.on("KeyD");
  EXPECT_NEAR(std::hypot(desk.move().x, desk.move().y), 1, 1e-15);
  desk.on("KeyS");
  EXPECT_EQ(desk.move().y, 0) << "W and S cancel";
  EXPECT_EQ(desk.move().x, 1);
  desk.on("AltLeft");
  EXPECT_NEAR(desk.move().x, KeySettings().slowScale, 1e-15);
}

TEST(PlayerControls, HalfAStickIsHalfAWalkInItsDirection) {
  Desk desk;
  const StickSettings stick;
  const double half = (stick.innerEdge + stick.outerEdge) / 2;
  desk.on("PadAxis0", half * 0.6);
  desk.on("PadAxis1", -half * 0.8);
  EXPECT_NEAR(desk.move().x, 0.3, 1e-12);
  EXPECT_NEAR(desk.move().y, 0.4, 1e-12) << "away from the user is ahead";
}

TEST(PlayerControls, APressAndReleaseWithinAFrameCountsAsPressed) {
  Desk desk;
  desk.beginFrame();
  desk.on("KeyC");
  desk.off("KeyC");
  EXPECT_TRUE(desk.state(Action::swingBack).pressed);
  EXPECT_TRUE(desk.state(Action::swingBack).released);
  EXPECT_FALSE(desk.held(Action::swingBack));
  desk.beginFrame();
  EXPECT_FALSE(desk.state(Action::swingBack).changed());
}

TEST(PlayerControls, HoldAndToggleArePerBindingAndThePlayersChoiceGoesFirst) {
  Desk desk(withToggle());
  desk.on("KeyZ");
  desk.off("KeyZ");
  EXPECT_TRUE(desk.held(Action::crouch)) << "toggled";
  desk.on("KeyZ");
  desk.off("KeyZ");
  EXPECT_FALSE(desk.held(Action::crouch));
  desk.on("ControlLeft");
  EXPECT_TRUE(desk.held(Action::crouch)) << "held";
  desk.off("ControlLeft");
  EXPECT_FALSE(desk.held(Action::crouch));

  Preferences preferences;
  preferences.crouch = PressPreference::toggle;
  desk.setPreferences(preferences);
  desk.on("ControlLeft");
  desk.off("ControlLeft");
  EXPECT_TRUE(desk.held(Action::crouch));
}

TEST(PlayerControls, ManyControlsDriveOneAction) {
  Desk desk;
  desk.on("ShiftLeft");
  desk.on("PadButton10");
  desk.off("ShiftLeft");
  EXPECT_TRUE(desk.held(Action::run)) << "the other one is still held";
  desk.off("PadButton10");
  EXPECT_FALSE(desk.held(Action::run));
}

TEST(PlayerControls, AModifierTellsTwoActionsApart) {
  Desk desk;
  EXPECT_EQ(desk.bind("on-foot", bound(Action::lockOn, "KeyF")).what, Bound::already);
  const BindAnswer taken = desk.bind("on-foot", bound(Action::aim, "KeyF"));
  EXPECT_EQ(taken.what, Bound::conflict);
  EXPECT_EQ(taken.inTheWay.action, Action::lockOn);
  EXPECT_EQ(desk.bind("on-foot", bound(Action::aim, "KeyF", "ShiftRight")).what, Bound::yes);
  EXPECT_TRUE(conflicts(desk.bindings()).empty());
  desk.on("KeyF");
  EXPECT_TRUE(desk.held(Action::lockOn));
  EXPECT_FALSE(desk.held(Action::aim));
  desk.off("KeyF");
  desk.on("ShiftRight");
  desk.on("KeyF");
  EXPECT_TRUE(desk.held(Action::aim));
  EXPECT_FALSE(desk.held(Action::lockOn));
  desk.off("ShiftRight");
  desk.off("KeyF");
  EXPECT_FALSE(desk.held(Action::aim)) << "nothing sticks when the modifier goes first";
}

TEST(PlayerControls, TheSameKeyMeansSomethingElseInAnotherMode) {
  Bindings bindings = standardBindings();
  bindings.addMode("flying").bindings = {{Action::rise, Axis::x, findControl("KeyW")}};
  Desk desk(bindings);
  desk.on("KeyW");
  EXPECT_EQ(desk.move().y, 1);
  EXPECT_TRUE(desk.setMode("flying"));
  EXPECT_EQ(desk.move().y, 0) << "held keys end with their mode";
  EXPECT_EQ(desk.rise(), 0) << "and do not start the other meaning";
  desk.off("KeyW");
  desk.on("KeyW");
  EXPECT_EQ(desk.rise(), 1);
  EXPECT_FALSE(desk.setMode("swimming"));
}

TEST(PlayerControls, APressIsOneSampleOfTheIntent) {
  for (const char* key : {"KeyX", "KeyC", "KeyV"}) {
    Desk desk;
    desk.on(key);
    EXPECT_EQ(desk.intent().samples.size(), 1u) << key;
  }
  Desk desk;
  desk.on("MouseButton2");
  ASSERT_EQ(desk.intent().samples.size(), 1u);
  EXPECT_EQ(desk.intent().samples.begin()->kind, IntentSample::Kind::aim);
  desk.beginFrame();
  EXPECT_TRUE(desk.intent().aim) << "and holds until it is released";
}

TEST(PlayerControls, BlocksNestAndDiscardWhatArrivesMeanwhile) {
  Desk desk;
  desk.on("KeyW");
  desk.on("PadAxis2", 1);
  desk.block("menu", Blocked::look | Blocked::move);
  desk.block("cut-scene");
  desk.beginFrame();
  desk.on("MouseMove", 50, 50);
  desk.on("MouseWheel", 3);
  desk.on("KeyC");
  EXPECT_EQ(desk.intent().samples.size(), 0u);
  EXPECT_EQ(desk.intent().turn->x, 0);
  EXPECT_EQ(desk.move().y, 0);
  EXPECT_FALSE(desk.state(Action::swingBack).pressed);
  desk.unblock("cut-scene");
  ASSERT_EQ(desk.blocks().reasons().size(), 1u);
  EXPECT_EQ(desk.blocks().reasons()[0].name, "menu");
  desk.on("MouseWheel", 1);
  EXPECT_EQ(desk.zoomedBy(), 1) << "the menu does not stop the wheel";
  desk.on("MouseMove", 5, 0);
  EXPECT_EQ(desk.counts().x, 0);
  desk.unblock("menu");
  desk.beginFrame();
  EXPECT_EQ(desk.counts().x, 0) << "nothing was saved up";
  EXPECT_EQ(desk.move().y, 1) << "what is still held goes on";
  EXPECT_EQ(desk.intent().turn->x, 1);
}

TEST(PlayerControls, LosingTheFocusReleasesEverything) {
  Desk desk;
  for (const char* control : {"KeyW", "ShiftLeft", "MouseButton2", "PadButton6", "PadAxis2"}) desk.on(control);
  desk.off("Focus");
  desk.on("Focus");
  desk.off("Focus");
  for (std::size_t i = 0; i < static_cast<std::size_t>(Action::firstOfTheGame); ++i) {
    EXPECT_FALSE(desk.held(static_cast<Action>(i))) << desk.bindings().nameOf(static_cast<Action>(i));
  }
  desk.beginFrame();
  EXPECT_EQ(desk.intent().turn->x, 0);
}

TEST(PlayerControls, UnpluggingAPadStopsTheTurnAndLeavesTheKeys) {
  Desk desk;
  desk.on("PadAxis2", 1);
  desk.on("KeyW");
  desk.releasePad();
  desk.beginFrame();
  EXPECT_EQ(desk.intent().turn->x, 0);
  EXPECT_EQ(desk.move().y, 1);
}

TEST(PlayerControls, ThePointerLooksOnlyWhileLockedIfSoConfigured) {
  Bindings bindings = standardBindings();
  bindings.pointer.look = PointerLook::locked;
  Desk desk(bindings);
  desk.requestPointerLock(true);
  desk.on("MouseMove", 10, 0);
  EXPECT_EQ(desk.counts().x, 0);
  desk.on("PointerLock");
  desk.on("MouseMove", 300, 0);
  EXPECT_EQ(desk.counts().x, 0) << "the first displacement after locking is a jump";
  desk.on("MouseMove", 10, 0);
  EXPECT_EQ(desk.counts().x, 10);

  desk.on("KeyW");
  desk.block("menu");
  EXPECT_FALSE(desk.wantsPointerLock()) << "a menu needs the pointer";
  desk.off("PointerLock");
  desk.unblock("menu");
  EXPECT_TRUE(desk.wantsPointerLock()) << "restored as before";
  EXPECT_EQ(desk.move().y, 0) << "losing the lock released the key";
  desk.on("PointerLock");
  desk.off("PointerLock");
  EXPECT_FALSE(desk.wantsPointerLock()) << "taken away by the player: not grabbed back";
}

TEST(PlayerControls, ThePointerLooksOnlyWhileDraggingIfSoConfigured) {
  Bindings bindings = standardBindings();
  bindings.pointer.look = PointerLook::dragging;
  Desk desk(bindings);
  desk.on("MouseMove", 10, 0);
  desk.on("MouseButton2");
  desk.on("MouseMove", 7, 0);
  desk.off("MouseButton2");
  desk.on("MouseMove", 10, 0);
  EXPECT_EQ(desk.counts().x, 7);
}

TEST(PlayerControls, PreferencesMultiplyAndInvertPerAxisAndDevice) {
  Preferences preferences;
  preferences.mouse = {2, 3, false, true};
  preferences.stick = {1.5, 0.5, true, false};
  Desk desk(standardBindings(), preferences);
  desk.on("MouseMove", 10, 10);
  EXPECT_EQ(desk.counts().x, 20);
  EXPECT_EQ(desk.counts().y, -30);
  EXPECT_EQ(desk.intent().turnScale.x, -1.5);
  EXPECT_EQ(desk.intent().turnScale.y, 0.5);
}

TEST(PlayerControls, KnowWhichDeviceWasUsedLastAndADriftingPadClaimsNothing) {
  Desk desk;
  desk.on("KeyW");
  desk.on("PadAxis2", 0.2);
  EXPECT_EQ(desk.device(), Device::keyboardAndMouse);
  desk.on("PadAxis2", 0.9);
  EXPECT_EQ(desk.device(), Device::pad);
  desk.on("MouseMove", 1, 0);
  EXPECT_EQ(desk.device(), Device::pad) << "a bump of the table";
  desk.on("MouseMove", 30, 0);
  EXPECT_EQ(desk.device(), Device::keyboardAndMouse);
  Preferences fixed;
  fixed.prompts = PromptPreference::touch;
  desk.setPreferences(fixed);
  EXPECT_EQ(desk.device(), Device::touch);
}

TEST(PlayerControls, NoRandomSequenceLeavesAControlStuck) {
  testing::Random random(22);
  Bindings bindings = withToggle();
  bindings.addMode("flying").bindings = {{Action::rise, Axis::x, findControl("KeyW")},
                                         {Action::zoom, Axis::x, findControl("KeyS")}};
  Desk desk(bindings);
  const char* const things[] = {"KeyW",     "KeyS",     "KeyD", "ShiftLeft", "MouseButton2", "PadButton6",
                                "PadAxis0", "PadAxis2", "KeyC", "Focus",     "PointerLock"};
  for (int run = 0; run < 300; ++run) {
    for (int i = 0; i < 60; ++i) {
      switch (random.whole(0, 9)) {
        case 0: desk.setMode(random.chance(0.5) ? "flying" : "on-foot"); break;
        case 1:
          desk.block(random.chance(0.5) ? "menu" : "talk", static_cast<std::uint32_t>(random.whole(1, 15)));
          break;
        case 2: desk.unblock(random.chance(0.5) ? "menu" : "talk"); break;
        case 3: desk.beginFrame(); break;
        default: desk.on(things[random.whole(0, 10)], random.chance(0.5) ? random.between(0, 1) : 0);
      }
    }
    for (const char* thing : things) desk.off(thing);
    for (const char* reason : {"menu", "talk"}) desk.unblock(reason);
    desk.beginFrame();
    for (std::size_t i = 0; i < static_cast<std::size_t>(Action::firstOfTheGame); ++i) {
      ASSERT_FALSE(desk.held(static_cast<Action>(i)))
          << desk.bindings().nameOf(static_cast<Action>(i)) << " in run " << run;
    }
    ASSERT_EQ(desk.intent().turn->x, 0);
    ASSERT_EQ(desk.intent().zoomRate, 0);
  }
}

TEST(Movement, IsTheSameAtEveryPitchFiniteAndInTheGroundPlane) {
  for (const double heading : {0.0, 1.0, -2.5}) {
    const Eigen::Vector3d ahead = groundDirection(heading, {0, 1});
    EXPECT_EQ(ahead.y(), 0);
    EXPECT_NEAR(ahead.norm(), 1, 1e-15);
    EXPECT_NEAR(ahead.x(), -std::sin(heading), 1e-15);
    EXPECT_NEAR(groundDirection(heading, {1, 1}).norm(), 1, 1e-15);
    EXPECT_NEAR(groundDirection(heading, {0, 0.5}).norm(), 0.5, 1e-15);
  }
  EXPECT_EQ(groundDirection(1, {std::numeric_limits<double>::quiet_NaN(), 1}).norm(), 0);
}

TEST(Touch, AZoneIsAStickTheRestLooksAndAButtonDoesNeither) {
  TouchZones zones({0.4, 100});
  std::vector<ControlEvent> events;
  const auto out = [&events](const ControlEvent& event) { events.push_back(event); };
  zones.down(1, 0.2, 0.5, false);
  zones.move(1, 0.2, 0.45, 0, 2, out);
  ASSERT_EQ(events.size(), 2u);
  EXPECT_NEAR(events[1].x, -0.5, 1e-12) << "50 thousandths of the height up, of 100 for full";
  events.clear();
  zones.move(1, 0.2, 0.2, 0, 2, out);
  EXPECT_NEAR(events[1].x, -1, 1e-12) << "no farther than its edge";
  events.clear();
  zones.down(2, 0.7, 0.5, false);
  zones.move(2, 0.75, 0.5, 0, 2, out);
  ASSERT_EQ(events.size(), 1u);
  EXPECT_NEAR(events[0].x, 100, 1e-9) << "0.05 of the width at aspect 2";
  events.clear();
  zones.down(3, 0.9, 0.9, true);
  zones.move(3, 0.8, 0.8, 0, 2, out);
  EXPECT_TRUE(events.empty());
  zones.up(1, 0, out);
  EXPECT_EQ(events.back().x, 0) << "the stick springs back";
}

TEST(Touch, TwoFingersPinch) {
  TouchZones zones({0, 100});
  double pinch = 0, drag = 0;
  const auto out = [&](const ControlEvent& event) { (valuesOf(event.control) == 2 ? drag : pinch) += event.x; };
  zones.down(1, 0.4, 0.5, false);
  zones.down(2, 0.6, 0.5, false);
  zones.move(1, 0.3, 0.5, 0, 1.5, out);
  zones.move(2, 0.7, 0.5, 0, 1.5, out);
  EXPECT_NEAR(pinch, std::log(2.0), 1e-12) << "twice as far apart";
  EXPECT_EQ(drag, 0);
}

TEST(Tuning, NumbersChangeAtRunTimeAndWhatIsHeldStays) {
  PlayerControls controls(standardBindings());
  controls.beginFrame();
  controls.feed({0, findControl("KeyW"), 1});
  controls.feed({0, findControl("PadAxis0"), 0.3});
  const double before = controls.move().x;
  EXPECT_EQ(controls.leftStick().raw.x, 0.3);
  EXPECT_GT(controls.leftStick().shaped.x, 0.1);
  Bindings numbers = standardBindings();
  numbers.leftStick.innerEdge = 0.4;
  EXPECT_TRUE(controls.tune(numbers));
  EXPECT_EQ(controls.leftStick().shaped.x, 0);
  EXPECT_NE(controls.move().x, before);
  EXPECT_EQ(controls.move().y, 1) << "the key is still held";
  controls.feed({0, findControl("PadAxis2"), -1});
  EXPECT_LT(controls.turn().x, 0.0);
  numbers.rightStick.outerEdge = std::nan("");
  EXPECT_FALSE(controls.tune(numbers));
  numbers.rightStick = {0.5, 0.4, 1};
  EXPECT_FALSE(controls.tune(numbers));
  EXPECT_EQ(controls.bindings().rightStick.outerEdge, standardBindings().rightStick.outerEdge);
}

}  // namespace
}  // namespace alpglow
