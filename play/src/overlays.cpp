#include "app.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/panel/theme.hpp"

#include <fmt/format.h>
#include <imgui.h>

#include <algorithm>
#include <cmath>

namespace alpglow::play {

using panel::Colours;

namespace {

/// What else turns or holds the look, and what may not.
std::string assistsOf(const io::TraceFrame& shown) {
  std::string words;
  if (!shown.blocks.empty()) words += "  blocked: " + shown.blocks;
  if (!shown.lock.empty()) words += "  locked on " + shown.lock;
  if (shown.handShare < 1) words += fmt::format("  guided, the hand counts {:.0f} %", 100 * shown.handShare);
  if (shown.swingBack != 0) words += "  swings back";
  if (shown.holdoff > 0) words += fmt::format("  swinging back waits {:.1f} s", shown.holdoff);
  if (shown.lookScale != 1) words += fmt::format("  look x{:.2f}", shown.lookScale);
  return words;
}

}  // namespace

void App::drawOutside() {
  ImDrawList& draw = *ImGui::GetBackgroundDrawList();
  draw.PushClipRect(outsideView_.from(), outsideView_.to(), true);
  const View& view = session_.view();
  const Explanation why = explain(view, stage_.obstacles());
  LinesOverPicture lines(draw, outsideView_, outsideFrom_);
  drawCamera(view, why, lines, {[this](ObstacleId id) { return stage_.nameOf(id); }, {}, {}});
  draw.PopClipRect();
  draw.AddRect(outsideView_.from(), outsideView_.to(), Colours::quiet);
}

std::string App::freeingKey() {
  const Bindings& bindings = controls().bindings();
  for (const Binding& binding : bindings.modes[bindings.findMode(controls().mode())].bindings) {
    if (binding.action == Action::pointerLock) return controlText(binding);
  }
  return "Escape";
}

/// How to leave, or to enter.
void App::showHint(const char* enters) {
  const std::string hint = pointerFree_ ? enters : freeingKey() + " frees the pointer";
  const float wide = ImGui::CalcTextSize(hint.c_str()).x;
  drawWords(*ImGui::GetBackgroundDrawList(), {view_.x + (view_.width - wide) / 2, view_.y + 10}, hint,
            pointerFree_ ? Colours::changed : Colours::quiet);
}

void App::showInHand() {
  ImDrawList& draw = *ImGui::GetBackgroundDrawList();
  const Inspection& seen = inHand_->thing.inspection();
  const float left = view_.x + 12, font = ImGui::GetFontSize(), below = view_.y + view_.height - font * 1.6f;
  drawWords(draw, {left, below},
            fmt::format("{}  yaw {:.1f}°  pitch {:.1f}°  roll {:.1f}°  {:.2f} m", inHand_->thing.name(),
                        toDegrees(seen.angles().yaw), toDegrees(seen.angles().pitch), toDegrees(seen.roll()),
                        seen.distance()),
            Colours::text);
  drawWords(draw, {left, below - font * 1.3f}, "look turns it, zoom moves it, walking sideways rolls it; time waits",
            Colours::quiet);
  showHint("click into the picture to turn it");
}

/// What was said last, for as long as it takes to read.
void App::showSaid() {
  constexpr double readFor = 6;
  if (clock_ >= saidAt_ + (saidBad_ ? 3 * readFor : readFor)) return;
  const float room = view_.width - 24, font = ImGui::GetFontSize();
  ImDrawList& draw = *ImGui::GetBackgroundDrawList();  // beneath whatever is opened over the picture
  const ImVec2 size = ImGui::CalcTextSize(said_.c_str(), nullptr, false, room);
  const ImVec2 at(view_.x + 12, view_.y + view_.height - font * 4.2f - size.y);
  draw.AddRectFilled({at.x - 6, at.y - 4}, {at.x + size.x + 6, at.y + size.y + 4}, IM_COL32(20, 21, 28, 225), 3);
  draw.AddText(nullptr, 0, at, saidBad_ ? Colours::bad : Colours::text, said_.c_str(), nullptr, room);
}

void App::overlays() {
  if (inHand_) {
    showInHand();
  } else {
    showPlayed();
  }
  showSaid();
  if (help_) showHelp();
}

void App::showPlayed() {
  ImDrawList& draw = *ImGui::GetBackgroundDrawList();
  const float font = ImGui::GetFontSize();
  const io::TraceFrame& shown = session_.shown();
  if (outside_ != Outside::full) drawCrosshair(draw, view_);
  if (session_.beside()) {
    drawCrosshair(draw, besideView_);
    drawWords(draw, {view_.x + 12, view_.y + 10}, active_ == 0 ? "A" : "B", Colours::text);
    drawWords(draw, {besideView_.x + 12, besideView_.y + 10}, active_ == 0 ? "B" : "A", Colours::text);
  }
  if (outside_ != Outside::off) drawOutside();
  constexpr double flashes = 0.5;
  if (felt_.sincePop() < flashes) {
    draw.AddRect({view_.x + 2, view_.y + 2}, {view_.x + view_.width - 2, view_.y + view_.height - 2}, Colours::bad, 0,
                 0, 5);
    drawWords(draw, {view_.x + 14, view_.y + 34}, fmt::format("pop: {:.2f} m", felt_.feel().pops.back().loss),
              Colours::bad);
  }
  // Why it is here, along the lower edge.
  const View& view = session_.view();
  const CompiledDesign& design = *session_.design();
  const ExplanationNames names{[this](ObstacleId id) { return stage_.nameOf(id); },
                               [&design](int index) {
                                 const auto& framings = design.design().framings;
                                 return static_cast<std::size_t>(index) < framings.size() && index >= 0
                                            ? framings[static_cast<std::size_t>(index)].name
                                            : std::string();
                               },
                               {}};
  const float left = view_.x + 12;
  float below = view_.y + view_.height - font * 1.6f;
  draw.PushClipRect(view_.from(), view_.to(), true);
  drawWords(draw, {left, below}, inWords(view, explain(view, stage_.obstacles()), names), Colours::text);
  below -= font * 1.3f;
  std::string state = fmt::format("{}  {:.1f}° {:.1f}°  {:.2f} m  lens {:.1f}°", shown.framing, shown.yaw, shown.pitch,
                                  shown.distance, shown.fieldOfView);
  if (shown.lookX != 0 || shown.lookY != 0) {
    state +=
        fmt::format("  mouse {:.0f} {:.0f} counts: {:.1f}° {:.1f}°", shown.lookX, shown.lookY,
                    toDegrees(shortestTurn(degrees(before_.yaw), degrees(shown.yaw))), shown.pitch - before_.pitch);
  }
  state += assistsOf(shown);
  drawWords(draw, {left, below}, state, Colours::text);
  draw.PopClipRect();
  events_.draw(draw, {view_.x + view_.width - font * 11, view_.y + view_.height - font * 9});
  if (shown.device == "pad") {
    const PlayerControls& controls = session_.controls();
    const Bindings& bindings = controls.bindings();
    drawStick(draw, {left, below - font * 5}, font * 4, controls.leftStick(), bindings.leftStick.innerEdge);
    drawStick(draw, {left + font * 5, below - font * 5}, font * 4, controls.rightStick(),
              bindings.rightStick.innerEdge);
  }
  showHint("click into the picture to play");
  if (session_.recording())
    drawWords(draw, {left, view_.y + 10}, fmt::format("● recording {:.1f} s", session_.now()), Colours::bad);
}

}  // namespace alpglow::play
