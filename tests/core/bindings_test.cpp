// Bindings: what they may be, what they do from a wheel or a stick, and how they change while the game runs.

#include "alpglow/input/bindings.hpp"

#include "support/desk.hpp"

#include <gtest/gtest.h>

#include <cstdlib>
#include <fstream>
#include <sstream>

namespace alpglow {
namespace {

using testing::bound;
using testing::Desk;

constexpr Action light = Action::firstOfTheGame, call = static_cast<Action>(static_cast<int>(light) + 1);

/// With two actions of the game, and these bindings on foot.
Bindings ofTheGame(const std::vector<Binding>& bindings) {
  Bindings all;
  all.ownActions = {"light-lantern", "call-dog"};
  all.addMode("on-foot").bindings = bindings;
  all.addMode("menu");
  return all;
}

TEST(PlayerControls, RebindingWhileHeldLeavesNothingStuckAndStartsNothing) {
  Desk desk;
  desk.on("KeyW");
  EXPECT_TRUE(desk.unbind("on-foot", Action::move, findControl("KeyW")));
  EXPECT_EQ(desk.move().y, 0);
  Binding forward{Action::move, Axis::y, findControl("KeyW")};
  EXPECT_TRUE(desk.bind("on-foot", forward).good());
  EXPECT_EQ(desk.move().y, 0) << "it acts when it is pressed anew";
  desk.off("KeyW");
  desk.on("KeyW");
  EXPECT_EQ(desk.move().y, 1);
  desk.unbindAll("on-foot", Action::move);
  EXPECT_EQ(desk.move().y, 0);
}

TEST(PlayerControls, BindsWhateverMovesNext) {
  Desk desk;
  desk.bindNext("on-foot", bound(Action::lockOn, ""));
  desk.on("PadAxis0", 0.2);
  EXPECT_TRUE(desk.waitingToBind()) << "a drifting stick is not decisive";
  desk.on("KeyT");
  EXPECT_FALSE(desk.waitingToBind());
  EXPECT_EQ(desk.boundNext().what, Bound::yes);
  EXPECT_FALSE(desk.held(Action::lockOn)) << "choosing the key does not press it";
  desk.off("KeyT");
  desk.on("KeyT");
  EXPECT_TRUE(desk.held(Action::lockOn));
  desk.bindNext("on-foot", bound(Action::aim, ""));
  desk.on("KeyW");
  EXPECT_EQ(desk.boundNext().what, Bound::conflict);
  EXPECT_EQ(desk.boundNext().inTheWay.action, Action::move) << "W walks already";
}

TEST(PlayerControls, WhileWaitingReleasesCountAndNothingBegins) {
  Desk desk(ofTheGame({bound(light, "KeyL"), bound(Action::move, "PadAxis0"), bound(call, "PadButton7")}));
  desk.on("KeyL");
  desk.on("PadButton7");
  desk.on("PadAxis0", 0.9);
  desk.bindNext("on-foot", bound(Action::crouch, ""));
  desk.off("KeyL");
  EXPECT_FALSE(desk.held(light)) << "let go while waiting";
  desk.on("PadButton7", 0.1);
  EXPECT_FALSE(desk.held(call)) << "a trigger as well";
  desk.on("PadAxis0", 0.2);
  EXPECT_LT(desk.move().x, 0.2);
  desk.on("PadAxis0", 0.5);
  EXPECT_LT(desk.move().x, 0.2) << "and does not begin anew";
  desk.on("KeyL", 0.3);
  EXPECT_TRUE(desk.waitingToBind());
  desk.cancelBindNext();
  EXPECT_EQ(desk.boundNext().what, Bound::cancelled);
  desk.on("KeyL");
  EXPECT_TRUE(desk.held(light)) << "as before";
}

TEST(PlayerControls, TheHostNamesWhatCancels) {
  Desk desk(ofTheGame({}));
  desk.bindNext("on-foot", bound(light, ""));
  desk.on("Escape");
  EXPECT_EQ(desk.boundNext().what, Bound::cancelled);
  EXPECT_TRUE(desk.bindings().modes[0].bindings.empty());
  desk.bindNext("on-foot", bound(light, ""), {findControl("PadButton1"), findControl("Backspace")});
  desk.on("PadButton1");
  EXPECT_EQ(desk.boundNext().what, Bound::cancelled);
  desk.bindNext("on-foot", bound(light, ""), {findControl("PadButton1")});
  desk.on("Escape");
  EXPECT_EQ(desk.boundNext().what, Bound::yes);
  desk.off("Escape");
  desk.on("Escape");
  EXPECT_TRUE(desk.held(light));
}

TEST(PlayerControls, BindAStickTheWayThatItMoved) {
  Desk desk(ofTheGame({}));
  desk.bindNext("on-foot", bound(light, ""));
  desk.on("PadAxis1", -0.8);
  EXPECT_EQ(desk.boundNext().what, Bound::yes);
  EXPECT_FALSE(desk.held(light));
  desk.off("PadAxis1");
  desk.on("PadAxis1", 0.9);
  EXPECT_FALSE(desk.held(light)) << "the other way";
  desk.on("PadAxis1", -0.9);
  EXPECT_TRUE(desk.held(light));
  EXPECT_GT(desk.value(light).x, 0.8);
  desk.on("PadAxis1", -0.5);
  EXPECT_TRUE(desk.held(light)) << "hysteresis";
  desk.on("PadAxis1", -0.2);
  EXPECT_FALSE(desk.held(light));
}

TEST(PlayerControls, NothingThatDoesNotExistIsAccepted) {
  Desk desk(ofTheGame({bound(light, "KeyL")}));
  const auto unknown = static_cast<Action>(200);
  EXPECT_EQ(desk.bind("on-fot", bound(light, "KeyK")).what, Bound::noMode);
  EXPECT_EQ(desk.bindings().modes.size(), 2u) << "and none was made";
  EXPECT_EQ(desk.bind("on-foot", bound(unknown, "KeyK")).what, Bound::misfit);
  EXPECT_EQ(desk.bind("on-foot", bound(light, "KeyKK")).what, Bound::misfit);
  EXPECT_EQ(desk.bind("on-foot", {light, Axis::x, {9999}, 1, {}, PressStyle::hold}).what, Bound::misfit);
  EXPECT_EQ(desk.bind("on-foot", {light, Axis::x, findControl("KeyK"), 1, {9999}, PressStyle::hold}).what,
            Bound::misfit);
  EXPECT_EQ(desk.bind("on-foot", bound(Action::crouch, "MouseMove")).what, Bound::misfit);
  EXPECT_EQ(desk.bind("on-foot", bound(light, "KeyL")).what, Bound::already);
  desk.bindNext("on-fot", bound(light, ""));
  EXPECT_EQ(desk.boundNext().what, Bound::noMode);
  desk.bindNext("on-foot", bound(unknown, ""));
  EXPECT_EQ(desk.boundNext().what, Bound::misfit);
  EXPECT_FALSE(desk.unbind("on-foot", light, findControl("KeyKK"))) << "not all of them";
  EXPECT_FALSE(desk.unbind("on-fot", light, findControl("KeyL")));
  EXPECT_FALSE(desk.unbindAll("on-foot", unknown));
  EXPECT_FALSE(desk.state(unknown).exists);
  EXPECT_EQ(desk.value(unknown).x, 0);
  EXPECT_EQ(desk.displaced(unknown).x, 0);
  desk.on("KeyL");
  EXPECT_TRUE(desk.state(light).exists && desk.held(light));

  const Bindings wrong = ofTheGame({bound(light, "KeyL"), bound(unknown, "KeyU"), bound(light, "KeyKK"),
                                    bound(light, "KeyM", "KeyMM"), bound(Action::run, "TouchDrag")});
  EXPECT_EQ(misfits(wrong).size(), 3u) << "a modifier that is not named well counts as none";
  EXPECT_EQ(misfits(wrong)[0].binding, 1u);
  EXPECT_EQ(misfits(wrong)[0].misfit, Misfit::action);
  EXPECT_EQ(misfits(wrong)[2].misfit, Misfit::axis);
  Desk tolerant(wrong);
  EXPECT_EQ(tolerant.bindings().modes[0].bindings.size(), 2u) << "and the others work";
  tolerant.on("KeyU");
  tolerant.on("KeyL");
  EXPECT_TRUE(tolerant.held(light));
}

TEST(PlayerControls, UnbindingTakesNothingElseAlong) {
  Desk desk(ofTheGame({bound(light, "KeyL"), bound(light, "KeyK"), bound(call, "KeyC")}));
  EXPECT_TRUE(desk.unbind("on-foot", light, findControl("KeyL")));
  EXPECT_EQ(desk.bindings().modes[0].bindings.size(), 2u);
  EXPECT_TRUE(desk.unbindAll("on-foot", light));
  ASSERT_EQ(desk.bindings().modes[0].bindings.size(), 1u);
  EXPECT_EQ(desk.bindings().modes[0].bindings[0].action, call);
}

TEST(PlayerControls, NotchesPressWhatIsPressed) {
  Desk desk(
      ofTheGame({bound(light, "MouseWheel"),
                 bound(Action::swapShoulder, "MouseWheel", "ShiftLeft"),
                 bound(Action::switchPerspective, "MouseWheel", "AltLeft"),
                 bound(Action::swingBack, "MouseWheel", "ControlLeft"),
                 {Action::crouch, Axis::x, findControl("MouseWheel"), -1, findControl("KeyZ"), PressStyle::toggle}}));
  desk.on("MouseWheel", 2);
  EXPECT_TRUE(desk.state(light).pressed && desk.state(light).released);
  EXPECT_FALSE(desk.held(light));
  EXPECT_EQ(desk.changes().size(), 4u) << "twice on and off";
  EXPECT_EQ(desk.displaced(light).x, 2);
  desk.beginFrame();
  EXPECT_FALSE(desk.state(light).changed());
  EXPECT_EQ(desk.changes().size() + desk.intent().samples.size(), 0u);
  for (int i = 0; i < 3; ++i) desk.on("MouseWheel", 0.3);
  EXPECT_FALSE(desk.state(light).pressed) << "nine tenths of a notch";
  desk.on("MouseWheel", 0.3);
  EXPECT_TRUE(desk.state(light).pressed);
  desk.beginFrame();
  desk.on("MouseWheel", -5);
  EXPECT_FALSE(desk.state(light).pressed) << "the other way";
  for (const char* modifier : {"ShiftLeft", "AltLeft", "ControlLeft"}) {
    desk.beginFrame();
    desk.on(modifier);
    desk.on("MouseWheel", 1);
    EXPECT_EQ(desk.intent().samples.size(), 1u) << modifier << ": the camera hears of it";
    desk.off(modifier);
  }
  desk.on("KeyZ");
  desk.on("MouseWheel", -1);
  EXPECT_TRUE(desk.held(Action::crouch)) << "a toggle, turned round";
  desk.on("MouseWheel", -1);
  EXPECT_FALSE(desk.held(Action::crouch));
  desk.beginFrame();
  desk.block("menu", Blocked::actions);
  desk.on("MouseWheel", -1);
  EXPECT_TRUE(desk.changes().empty());
}

TEST(PlayerControls, TheGamesOwnActionsHaveValues) {
  Desk desk(ofTheGame({bound(light, "PadButton7"),
                       {call, Axis::x, findControl("PadAxis2")},
                       {call, Axis::y, findControl("PadAxis3"), -1},
                       {call, Axis::both, findControl("MouseMove"), 2}}));
  desk.on("PadButton7", 0.7);
  EXPECT_NEAR(desk.value(light).x, 0.7, 1e-15) << "how far a trigger is pulled";
  desk.on("PadAxis3", -1);
  EXPECT_NEAR(desk.value(call).y, 1, 1e-12);
  desk.on("MouseMove", 3, -4);
  desk.on("MouseMove", 1, 0);
  EXPECT_EQ(desk.displaced(call).x, 8);
  EXPECT_EQ(desk.displaced(call).y, -8);
  desk.block("menu");
  EXPECT_EQ(desk.value(call).y + desk.value(light).x, 0);
  desk.unblock("menu");
  desk.beginFrame();
  EXPECT_EQ(desk.displaced(call).x, 0);
  Desk toggled(ofTheGame({{light, Axis::x, findControl("KeyL"), 1, {}, PressStyle::toggle}}));
  toggled.on("KeyL");
  toggled.off("KeyL");
  EXPECT_EQ(toggled.value(light).x, 1);
}

TEST(PlayerControls, ListWhatChangedInAFrame) {
  Desk desk(ofTheGame({bound(light, "KeyL"), bound(call, "KeyC")}));
  desk.feed({0.002, findControl("KeyL"), 1});
  desk.feed({0.004, findControl("KeyC"), 1});
  desk.feed({0.006, findControl("KeyL"), 0});
  ASSERT_EQ(desk.changes().size(), 3u);
  EXPECT_EQ(desk.changes()[1].action, call);
  EXPECT_EQ(desk.changes()[1].time, 0.004);
  EXPECT_TRUE(desk.changes()[1].began);
  EXPECT_EQ(desk.changes()[2].action, light);
  EXPECT_FALSE(desk.changes()[2].began);
  desk.beginFrame();
  EXPECT_TRUE(desk.changes().empty());
  EXPECT_TRUE(desk.held(call));
}

/// What of an action's controls are on the pad, or not.
std::string controlsOf(const Bindings& bindings, Action action, bool onPad) {
  std::string names;
  for (const Binding& binding : bindings.modes[0].bindings) {
    const std::string name = nameOf(binding.control);
    if (binding.action != action || (name.rfind("Pad", 0) == 0) != onPad) continue;
    names += (names.empty() ? "" : ", ") + name;
  }
  return names;
}

/// ALPGLOW_WRITE_DOCS=1 writes the table anew.
TEST(StandardBindings, ThePadDoesWhatMouseAndKeyboardDo) {
  const Bindings bindings = standardBindings();
  EXPECT_TRUE(conflicts(bindings).empty());
  EXPECT_TRUE(misfits(bindings).empty());
  std::string table =
      "# Standard controls\n\nMade from `standardBindings()` by a test.\n\n| action | mouse and keyboard | pad "
      "|\n|---|---|---|\n";
  for (std::size_t i = 0; i < builtInActionNames().size(); ++i) {
    const auto action = static_cast<Action>(i);
    const std::string name = bindings.nameOf(action);
    std::string desk = controlsOf(bindings, action, false), pad = controlsOf(bindings, action, true);
    if (action == Action::slow) pad = "the stick, pushed less far";
    if (action == Action::pointerLock) pad = "has no pointer";
    if (action == Action::rise) desk = pad = "a mode for flying binds it";
    EXPECT_FALSE(desk.empty()) << name;
    EXPECT_FALSE(pad.empty()) << name;
    table += "| " + name + " | " + desk + " | " + pad + " |\n";
  }
  const std::string path = std::string(ALPGLOW_DOCS) + "/standard-controls.md";
  if (std::getenv("ALPGLOW_WRITE_DOCS") != nullptr) std::ofstream(path) << table;
  std::ostringstream written;
  written << std::ifstream(path).rdbuf();
  EXPECT_EQ(written.str(), table);
}

}  // namespace
}  // namespace alpglow
