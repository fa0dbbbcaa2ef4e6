#include "alpglow/panel/theme.hpp"

namespace alpglow::panel {

void applyTheme(float scale) {
  ImGuiStyle style;
  ImGui::StyleColorsDark(&style);
  style.WindowRounding = style.FrameRounding = style.GrabRounding = style.PopupRounding = 3;
  style.WindowPadding = {10, 8};
  style.FramePadding = {6, 3};
  style.ItemSpacing = {6, 4};
  style.WindowBorderSize = 0;
  const auto colour = [&style](int which, float red, float green, float blue, float alpha = 1) {
    style.Colors[which] = {red, green, blue, alpha};
  };
  colour(ImGuiCol_Text, 0.88f, 0.885f, 0.91f);
  colour(ImGuiCol_TextDisabled, 0.58f, 0.60f, 0.66f);
  colour(ImGuiCol_WindowBg, 0.095f, 0.10f, 0.13f, 0.97f);
  colour(ImGuiCol_PopupBg, 0.12f, 0.125f, 0.16f, 0.98f);
  colour(ImGuiCol_FrameBg, 0.17f, 0.18f, 0.225f);
  colour(ImGuiCol_FrameBgHovered, 0.22f, 0.235f, 0.30f);
  colour(ImGuiCol_FrameBgActive, 0.25f, 0.275f, 0.36f);
  colour(ImGuiCol_SliderGrab, 0.43f, 0.62f, 0.82f);
  colour(ImGuiCol_SliderGrabActive, 0.55f, 0.76f, 0.96f);
  colour(ImGuiCol_CheckMark, 0.55f, 0.76f, 0.96f);
  colour(ImGuiCol_Button, 0.20f, 0.22f, 0.285f);
  colour(ImGuiCol_ButtonHovered, 0.27f, 0.31f, 0.41f);
  colour(ImGuiCol_ButtonActive, 0.33f, 0.40f, 0.53f);
  colour(ImGuiCol_Header, 0.17f, 0.19f, 0.245f);
  colour(ImGuiCol_HeaderHovered, 0.23f, 0.26f, 0.34f);
  colour(ImGuiCol_HeaderActive, 0.27f, 0.31f, 0.41f);
  colour(ImGuiCol_Tab, 0.14f, 0.15f, 0.19f);
  colour(ImGuiCol_TabHovered, 0.28f, 0.33f, 0.44f);
  colour(ImGuiCol_TabActive, 0.22f, 0.26f, 0.35f);
  colour(ImGuiCol_TitleBgActive, 0.13f, 0.145f, 0.19f);
  style.ScaleAllSizes(scale);
  ImGui::GetStyle() = style;
}

}  // namespace alpglow::panel
