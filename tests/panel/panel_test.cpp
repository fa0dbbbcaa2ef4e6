// Panels without a window: Dear ImGui is told where the mouse is, and nothing is drawn.

#include "alpglow/panel/design_panel.hpp"
#include "alpglow/panel/feel_panel.hpp"
#include "alpglow/panel/rows.hpp"
#include "alpglow/panel/theme.hpp"

#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace alpglow {
namespace {

using panel::DesignPanel;
using panel::ShownItems;

struct Panels : ::testing::Test {
  void SetUp() override {
    ImGui::CreateContext();
    panel::applyTheme(1);
    ImGui::GetIO().DisplaySize = {800, 1600};
    ImGui::GetIO().IniFilename = nullptr;
    unsigned char* pixels = nullptr;
    int width = 0, height = 0;
    ImGui::GetIO().Fonts->GetTexDataAsRGBA32(&pixels, &width, &height);
    ShownItems::wanted = true;
  }
  void TearDown() override { ImGui::DestroyContext(); }

  bool frame() {
    ShownItems::begin();
    ImGui::GetIO().DeltaTime = 1.0f / 60;
    ImGui::NewFrame();
    ImGui::SetNextWindowPos({0, 0});
    ImGui::SetNextWindowSize({420, 1590});
    ImGui::Begin("design");
    const bool another = design.show();
    ImGui::End();
    ImGui::Render();
    return another;
  }
  void frames(int count) {
    for (int i = 0; i < count; ++i) frame();
  }
  const panel::Shown* item(const std::string& id) {
    const auto& all = ShownItems::items();
    const auto found = std::find_if(all.begin(), all.end(), [&](const panel::Shown& each) { return each.id == id; });
    return found == all.end() ? nullptr : &*found;
  }
  void point(const std::string& id, float along) {
    const panel::Shown* at = item(id);
    ASSERT_NE(at, nullptr) << id;
    ImGui::GetIO().MousePos = {at->from.x + along * (at->to.x - at->from.x), (at->from.y + at->to.y) / 2};
    frames(2);
  }
  void hold(bool down) {
    ImGui::GetIO().MouseDown[0] = down;
    frame();
  }
  void click(const std::string& id) {
    point(id, 0.5f);
    hold(true);
    hold(false);
    frame();
  }

  const std::string file = ALPGLOW_DEMO "/trail.camera.toml";
  DesignPanel design{io::DesignText(io::readWhole(file), file)};
};

TEST_F(Panels, EverySettingHasAPlaceInTheFlowOfAFrame) {
  CameraDesign all;
  all.pushes.push_back({"recoil", {}});
  for (const io::DesignSetting& each : io::settingsOf(all))
    EXPECT_STRNE(panel::groupOf(each.name), "other") << io::inWords(each.name);
}

TEST_F(Panels, ADragIsOneStepToUndo) {
  frames(2);
  click("section trail");
  point("trail.distance_m", 0.3f);
  hold(true);
  for (const float along : {0.35f, 0.4f, 0.5f, 0.6f}) point("trail.distance_m", along);
  hold(false);
  EXPECT_GT(design.design().framings[0].framing.distance, 3);
  EXPECT_EQ(design.undoSteps(), 1u);
  EXPECT_TRUE(design.changed());
  design.undo();
  EXPECT_FALSE(design.changed());
  EXPECT_TRUE(frame()) << "it is another one";
  EXPECT_FALSE(frame());
  design.redo();
  EXPECT_GT(design.design().framings[0].framing.distance, 3);
}

TEST_F(Panels, RowsStayTheSameWhateverOpensAboveThem) {
  frames(2);
  click("section trail");
  const float before = item("trail.distance_m")->from.y;
  point("trail.distance_m", 0.3f);
  hold(true);
  design.open("look");  // while it is held
  frames(3);
  EXPECT_GT(item("trail.distance_m")->from.y, before + 50);
  const double distance = design.design().framings[0].framing.distance;
  const double yaw = design.design().look.yawPerCount;
  const panel::Shown now = *item("trail.distance_m");
  ImGui::GetIO().MousePos.x = now.from.x + 0.45f * (now.to.x - now.from.x);
  frame();
  hold(false);
  EXPECT_GT(design.design().framings[0].framing.distance, distance) << "the drag goes on with its row";
  EXPECT_EQ(design.design().look.yawPerCount, yaw);
}

TEST_F(Panels, WhatCannotBeIsRefusedAndSaysWhy) {
  EXPECT_FALSE(design.set({"framing", "trail", "distance_min_m"}, 99));
  EXPECT_NE(design.complaint().find("distance_min_m"), std::string::npos) << design.complaint();
  EXPECT_FALSE(design.changed());
  EXPECT_TRUE(design.set({"framing", "trail", "distance_min_m"}, 1));
  EXPECT_EQ(design.complaint(), "");
  design.replace(io::DesignText("format = 1\n"));
  EXPECT_FALSE(design.changed());
  design.undo();
  EXPECT_TRUE(design.changed());
  frames(2);
}

TEST_F(Panels, TwoDesignsDifferWhereTheirNumbersDo) {
  CameraDesign first, second;
  EXPECT_TRUE(panel::differences(first, second).empty());
  second.framings[0].framing.distance = 4;
  second.look.invertPitch = true;
  const auto found = panel::differences(first, second);
  ASSERT_EQ(found.size(), 2u);
  EXPECT_EQ(io::inWords(found[0].first.name), "base.distance_m");
  EXPECT_EQ(found[0].second.value, 4);
}

TEST_F(Panels, WhatIsFeltIsMeasuredAsItIsElsewhereAndForgottenInTime) {
  panel::FeelPanel felt(5);
  io::Trace trace;
  for (int i = 0; i < 600; ++i) {
    io::TraceFrame frame;
    frame.frame = i;
    frame.time = (i + 1) / 60.0;
    frame.dt = 1 / 60.0;
    frame.cameraName = "character";
    frame.freeDistance = 3;
    frame.distance = frame.clearDistance = i >= 500 ? 2 : 3;
    trace.push_back(frame);
    felt.add(frame);
  }
  ASSERT_EQ(felt.feel().pops.size(), 1u);
  EXPECT_NEAR(felt.feel().pops[0].loss, 1, 1e-9);
  EXPECT_NEAR(felt.sincePop(), 99 / 60.0, 0.02);
  EXPECT_LT(felt.trace().size(), 5 * 60 + 66u);
  felt.add(trace.front());
  EXPECT_EQ(felt.trace().size(), 1u) << "time went back";
  ImGui::NewFrame();
  felt.showNumbers();
  felt.showCurves();
  ImGui::Render();
}

TEST(History, GoesBackAndForthAndForgetsWhatWasUndone) {
  panel::History history("a");
  history.add("b", false);
  history.add("c", false);
  history.add("d", true);
  EXPECT_EQ(history.undo(), "b");
  EXPECT_EQ(history.undo(), "a");
  EXPECT_EQ(history.undo(), "a");
  EXPECT_EQ(history.redo(), "b");
  history.add("e", false);
  EXPECT_FALSE(history.canRedo());
  EXPECT_EQ(history.undo(), "b");
  for (int i = 0; i < 1000; ++i) history.add(std::to_string(i), false);
  EXPECT_LE(history.undoSteps(), panel::History::most);
  EXPECT_EQ(history.now(), "999");
}

}  // namespace
}  // namespace alpglow
