#include "alpglow/io/controls_file.hpp"

#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

namespace alpglow::io {
namespace {

using testing::temporaryFile;

const std::string head = "format = 1\n[[mode]]\nname = \"on-foot\"\nbindings = [\n";

Bindings parsed(const std::string& bindings) {
  return readControls(temporaryFile("a.controls.toml", head + bindings + "]\n"));
}

void expectRefused(const std::string& bindings, std::initializer_list<const char*> words) {
  testing::expectError([&] { parsed(bindings); }, words);
}

TEST(ControlsFile, ReadsBackWhatItWrites) {
  Bindings bindings = standardBindings();
  bindings.ownActions = {"light-lantern"};
  bindings.rightStick.exponent = 2.5;
  bindings.pointer.look = PointerLook::dragging;
  bindings.pointer.dragButton = findControl("MouseButton1");
  Action own{};
  ASSERT_TRUE(bindings.findAction("light-lantern", own));
  bindings.modes[0].bindings.push_back(
      {own, Axis::x, findControl("KeyE"), 1, findControl("ShiftLeft"), PressStyle::toggle});
  const Bindings again = readControls(temporaryFile("a.controls.toml", writeControls(bindings)));
  EXPECT_EQ(writeControls(again), writeControls(bindings));
  ASSERT_EQ(again.modes.size(), 2u);
  EXPECT_TRUE(again.modes[0].bindings == bindings.modes[0].bindings);
  EXPECT_EQ(again.pointer.look, PointerLook::dragging);
  EXPECT_EQ(nameOf(again.pointer.dragButton), std::string("MouseButton1"));
  EXPECT_EQ(again.rightStick.exponent, 2.5);
}

TEST(ControlsFile, SaysWhereWhatAndWhatIsAllowed) {
  expectRefused("{action = \"crouhc\", control = \"KeyW\"},",
                {":5:", "action is \"crouhc\"", "nearest known one is crouch"});
  expectRefused("{action = \"aim\", control = \"KeyQQ\"},", {":5:", "KeyQQ", "KeyQ"});
  expectRefused("{action = \"move\", control = \"KeyW\"},", {":5:", "axis is missing", "x or y of move"});
  expectRefused("{action = \"aim\"},", {":5:", "control is missing"});
  expectRefused("{action = \"aim\", control = \"KeyW\", press = \"twice\"},",
                {":5:", "press is \"twice\"", "hold, toggle"});
  expectRefused("{action = \"aim\", control = \"KeyW\", sclae = 2},", {":5:", "unknown key sclae", "scale"});
  expectRefused("{action = \"aim\", control = \"KeyW\"},\n{action = \"run\", control = \"KeyW\"},",
                {":6:", "KeyW drives both aim and run in mode on-foot", "modifier"});
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readControls(temporaryFile("b.controls.toml", content)); }, words);
  };
  refused("format = 1\n[left_stick]\ninner_edge = 0.8\nouter_edge = 0.5\n",
          {":3:", "inner_edge", "less than outer_edge"});
  refused("format = 1\n[triggers]\npress_at = 0.2\nrelease_at = 0.5\n", {":4:", "release_at", "at most press_at"});
  refused("format = 1\n", {"holds no mode"});
  const std::string mode = "format = 1\n[[mode]]\nname = \"on-foot\"\nbindings = [{action = ";
  refused(mode + "\"crouch\", control = \"MouseMove\"}]\n", {":4:", "MouseMove", "not crouch"});
  refused("format = 1\n[pointer]\ndrag_button = \"MouseButton9\"\n", {":3:", "MouseButton9"});
}

TEST(ControlsFile, TheDemoBindingsHaveNoConflicts) {
  for (const char* name : {"keyboard", "pad", "touch"}) {
    EXPECT_TRUE(conflicts(readControls(std::string(ALPGLOW_DEMO "/") + name + ".controls.toml")).empty()) << name;
  }
  EXPECT_TRUE(conflicts(standardBindings()).empty());
}

TEST(PreferencesFile, ReadsBackWhatItWrites) {
  Preferences preferences;
  preferences.mouse = {1.5, 0.7, true, false};
  preferences.aim = PressPreference::toggle;
  preferences.prompts = PromptPreference::pad;
  preferences.fieldOfView = degrees(75);
  const Preferences again = readPreferences(temporaryFile("a.preferences.toml", writePreferences(preferences)));
  EXPECT_EQ(writePreferences(again), writePreferences(preferences));
  EXPECT_EQ(again.aim, PressPreference::toggle);
  EXPECT_TRUE(again.mouse.invertX);
  testing::expectError(
      [] { readPreferences(temporaryFile("b.preferences.toml", "format = 1\nmouse_sensitivity_x = 0\n")); },
      {":2:", "mouse_sensitivity_x is 0", "[0.05, 20]"});
  testing::expectError([] { readPreferences(temporaryFile("c.preferences.toml", "format = 1\nmouse_sens = 2\n")); },
                       {":2:1", "unknown key mouse_sens"});
}

}  // namespace
}  // namespace alpglow::io
