#pragma once
// How the panels look: calm and dark, with two hues that colour-blind eyes tell apart.
//
//   panel::applyTheme();                 // once, after ImGui::CreateContext

#include <imgui.h>

namespace alpglow::panel {

/// The colours of Dear ImGui's current context, and its sizes times `scale` (2 on a display with twice the pixels).
void applyTheme(float scale = 1);

/// What was changed, and what needs a look; what is good; the lines of plots. Blue and orange: no red beside green.
struct Colours {
  static constexpr ImU32 changed = IM_COL32(240, 170, 80, 255), bad = IM_COL32(240, 120, 70, 255),
                         fine = IM_COL32(110, 180, 230, 255), quiet = IM_COL32(150, 155, 170, 255),
                         text = IM_COL32(225, 226, 232, 255);
};

}  // namespace alpglow::panel
