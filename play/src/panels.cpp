#include "app.hpp"

#include "alpglow/design/settings.hpp"
#include "alpglow/panel/rows.hpp"
#include "alpglow/panel/theme.hpp"
#include "alpglow/play/controls_picture.hpp"

#include <fmt/format.h>
#include <imgui.h>

#include <algorithm>
#include <cmath>

namespace alpglow::play {

using panel::ShownItems;

namespace {

constexpr ImGuiWindowFlags fixed = ImGuiWindowFlags_NoTitleBar | ImGuiWindowFlags_NoResize | ImGuiWindowFlags_NoMove |
                                   ImGuiWindowFlags_NoCollapse | ImGuiWindowFlags_NoBringToFrontOnFocus |
                                   ImGuiWindowFlags_NoNavInputs;

void beginPanel(const char* name, const Area& area, ImGuiWindowFlags more = 0) {
  ImGui::SetNextWindowPos(area.from());
  ImGui::SetNextWindowSize({area.width, area.height});
  // The window behind has this colour already.
  ImGui::Begin(name, nullptr, fixed | more | ImGuiWindowFlags_NoBackground);
}

}  // namespace

bool App::button(const char* label, const char* tip, bool on) {
  if (on) ImGui::PushStyleColor(ImGuiCol_Button, IM_COL32(70, 105, 150, 255));
  const bool pressed = ImGui::Button(label);
  if (on) ImGui::PopStyleColor();
  ShownItems::note(std::string("button ") + label);
  if (ImGui::IsItemHovered()) ImGui::SetTooltip("%s", tip);
  return pressed;
}

/// Toolbar above, the design at the left, what is felt below, and the picture in what is left.
void App::layOut() {
  const ImVec2 whole = ImGui::GetIO().DisplaySize;
  const float font = ImGui::GetFontSize();
  const float side = panels_ ? std::min(font * 26, whole.x * 0.45f) : 0;
  const float bar = panels_ ? ImGui::GetFrameHeight() + 1.75f * ImGui::GetStyle().WindowPadding.y : 0,
              strip = panels_ ? std::min(font * 13, whole.y * 0.35f) : 0;
  view_ = {side, bar, whole.x - side, whole.y - bar - strip};
  outsideView_ = view_;
  if (outside_ == Outside::inset)
    outsideView_ = {view_.x + view_.width * 0.64f - 10, view_.y + 10, view_.width * 0.36f, view_.height * 0.36f};
  if (session_.beside() && !inHand_) {
    view_.width = view_.width / 2 - 1;
    besideView_ = view_;
    besideView_.x += view_.width + 2;
  }
  if (!panels_) return;
  beginPanel("bar", {0, 0, whole.x, bar}, ImGuiWindowFlags_NoScrollbar);
  showToolbar();
  ImGui::End();
  beginPanel("side", {0, bar, side, whole.y - bar});
  showSide();
  ImGui::End();
  beginPanel("strip", {side, whole.y - strip, whole.x - side, strip});
  showStrip();
  ImGui::End();
}

void App::showToolbar() {
  const auto next = [] { ImGui::SameLine(); };
  if (button(active_ == 0 ? "A" : "B", "which design is played; F4 switches")) switchSlot();
  next();
  if (button("both", "the other design beside, on the same input; F8", session_.beside())) toggleBeside();
  next();
  if (button("record", "from the start of the level; F5. Shift+F5 from here", session_.recording()))
    toggleRecording(ImGui::GetIO().KeyShift);
  next();
  if (button("replay", "what was recorded, or the take that was named, over and over; F6", session_.replaying()))
    toggleReplay();
  next();
  if (button("sheet", "pictures and plan of what was recorded")) writeSheet();
  next();
  if (button("rewind", "by ten seconds; F7")) rewind();
  next();
  if (button("pause", "F9; a single frame: F10", paused_)) paused_ = !paused_;
  next();
  if (button("frame", "a single one; F10")) paused_ = step_ = true;
  next();
  if (button(fmt::format("x{:g}###pace", pace_).c_str(), "how fast time goes; F11", pace_ < 1))
    pace_ = pace_ <= 0.11 ? 1 : pace_ * (pace_ > 0.26 ? 0.5 : 0.4);
  next();
  if (button("outside", "the camera from outside: off, inset, full; F3", outside_ != Outside::off))
    outside_ = static_cast<Outside>((static_cast<int>(outside_) + 1) % 3);
  next();
  const bool flies = cameraName_ == "flying";
  if (button("fly", "move the camera freely", flies)) fly(!flies);
  next();
  if (button("inspect", "take the small thing that is nearest to the crosshair into the hand", inHand_.has_value()))
    inspect();
  if (flies) {
    next();
    if (button("take this place", "as the numbers of the framing that applies")) placeByEye();
  }
  next();
  ImGui::SetNextItemWidth(ImGui::GetFontSize() * 6.5f);
  if (ImGui::BeginCombo("##camera", cameraName_.c_str())) {
    std::vector<std::string> names = {"character", "flying"};
    for (const io::LevelCamera& each : stage_.level().cameras) names.push_back(each.name);
    for (const io::LevelGroup& each : stage_.level().groups) names.push_back(each.name);
    for (const std::string& name : names) {
      if (ImGui::Selectable(name.c_str(), name == cameraName_)) showCamera(name);
    }
    ImGui::EndCombo();
  }
  next();
  ImGui::SetNextItemWidth(ImGui::GetFontSize() * 5.5f);
  constexpr std::pair<int, const char*> limits[] = {{0, "display"},   {24, "24 fps"},   {30, "30 fps"}, {60, "60 fps"},
                                                    {120, "120 fps"}, {240, "240 fps"}, {-1, "uneven"}};
  const auto shown =
      std::find_if(std::begin(limits), std::end(limits), [this](const auto& l) { return l.first == frameLimit_; });
  const bool rates = ImGui::BeginCombo("##rate", shown->second, ImGuiComboFlags_HeightLarge);
  ShownItems::note("rates");
  if (rates) {
    for (const auto& [limit, name] : limits) {
      if (ImGui::Selectable(name, limit == frameLimit_)) frameLimit_ = limit;
    }
    ImGui::Separator();
    if (ImGui::Checkbox("interpolated", &interpolated_)) session_.setInterpolated(interpolated_);
    ShownItems::note("interpolated");
    for (const int ticks : {20, 30, 60, 120}) {
      if (ImGui::Selectable(fmt::format("{} ticks a second", ticks).c_str(), stage_.ticksPerSecond() == ticks))
        setTicks(ticks);
      ShownItems::note(fmt::format("{} ticks", ticks));
    }
    ImGui::EndCombo();
  }
  next();
  if (button("save", "the design that is played, into its file; Ctrl+S", design().changed())) save();
  next();
  if (button("keys", "what the keys do; F1", help_)) help_ = !help_;
  next();
  ImGui::TextDisabled("%.0f fps, %.1f ms", 1 / std::max(frameTime_, 1e-3), 1000 * frameTime_);
}

void App::showSide() {
  if (!ImGui::BeginTabBar("tabs")) return;
  const auto tab = [](const std::string& title) {
    const bool open = ImGui::BeginTabItem(title.c_str());
    ShownItems::note("tab " + title.substr(0, title.find("###")));
    return open;
  };
  const std::string name = std::filesystem::path(slots_[active_].path).filename().string();
  if (tab("design")) {
    ImGui::TextDisabled("%s: %s%s", active_ == 0 ? "A" : "B", name.c_str(), design().changed() ? " (not saved)" : "");
    if (design().show()) useDesign();
    ImGui::EndTabItem();
  }
  if (tab("A and B")) {
    showDifferences();
    ImGui::EndTabItem();
  }
  if (tab("character")) {
    showCharacter();
    ImGui::EndTabItem();
  }
  if (tab("controls")) {
    if (button("save controls", "into the controls file")) saveControls();
    if (controlsMenu_.show(session_)) {
      controlsChanged_ = true;
      if (inHand_) inHand_->thing.setBindings(session_.controls().bindings(), preferences_);
    }
    ImGui::EndTabItem();
  }
  if (tab("parts")) {
    showParts();
    ImGui::EndTabItem();
  }
  ImGui::EndTabBar();
}

void App::showDifferences() {
  const auto found = panel::differences(slots_[0].panel.design(), slots_[1].panel.design());
  ImGui::TextDisabled("%zu numbers differ; an arrow copies one across", found.size());
  ImGui::BeginChild("differences");
  const auto text = [](const io::DesignSetting& setting) -> std::string {
    if (setting.curve) return "curve";
    if (setting.kind == SettingKind::choice) return setting.choices[static_cast<std::size_t>(setting.value)];
    if (setting.kind == SettingKind::flag) return setting.value != 0 ? "yes" : "no";
    return fmt::format("{:.5g}", setting.value);
  };
  for (const panel::DesignDifference& each : found) {
    const std::string id = io::inWords(each.first.name);
    ImGui::PushID(id.c_str());
    ImGui::AlignTextToFramePadding();
    ImGui::TextUnformatted(id.c_str());
    ImGui::SameLine(ImGui::GetFontSize() * 14);
    ImGui::TextUnformatted(text(each.first).c_str());
    ImGui::SameLine(ImGui::GetFontSize() * 17.5f);
    const bool toB = ImGui::SmallButton("→");
    ShownItems::note("copy " + id);
    ImGui::SameLine();
    const bool toA = ImGui::SmallButton("←");
    ImGui::SameLine();
    ImGui::TextUnformatted(text(each.second).c_str());
    ImGui::PopID();
    if (!toA && !toB) continue;
    if (!slots_[toA ? 0 : 1].panel.set(each.first.name, toA ? each.second.value : each.first.value))
      say(slots_[toA ? 0 : 1].panel.complaint(), true);
    useDesign();
  }
  ImGui::EndChild();
}

void App::showCharacter() {
  if (button("save preferences", "into the preferences file; the character's numbers are the level's"))
    savePreferences();
  ImGui::BeginChild("character");
  if (ImGui::CollapsingHeader("the character's own numbers", ImGuiTreeNodeFlags_DefaultOpen)) {
    io::Body body = stage_.level().body;
    for (const Setting<io::Body>& setting : settings<io::Body>()) {
      const panel::RowAnswer asked = panel::showRow(panel::rowOf(setting, body, "body"));
      if (asked.value) setting.assign(body, *asked.value);
      if (asked.value && body.eyeHeight <= body.height && body.crouchHeight <= body.height) {
        stage_.setBody(body);
        session_.bodyChanged();
      }
    }
  }
  if (ImGui::CollapsingHeader("the player's preferences", ImGuiTreeNodeFlags_DefaultOpen)) {
    bool another = false;
    for (const Setting<Preferences>& setting : settings<Preferences>()) {
      const panel::RowAnswer asked = panel::showRow(panel::rowOf(setting, preferences_, "preferences"));
      if (!asked.value) continue;
      setting.assign(preferences_, *asked.value);
      another = true;
    }
    if (another) {
      session_.setPreferences(preferences_);
      useDesign();
    }
  }
  ImGui::EndChild();
}

/// Each off, alone, or three times as much; nothing of it goes into the design.
void App::showParts() {
  constexpr double exaggerated = 3;
  ImGui::TextWrapped("What each part of a frame does: switch it off, leave it alone, or exaggerate it.");
  if (button("all as designed", "back to the design")) {
    parts_ = allParts();
    useDesign();
  }
  for (std::size_t i = 0; i < partCount; ++i) {
    ImGui::PushID(static_cast<int>(i));
    ImGui::AlignTextToFramePadding();
    ImGui::TextUnformatted(partNames()[i]);
    const PartFactors before = parts_;
    bool on = parts_[i] != 0, alone = false, much = parts_[i] == exaggerated;
    ImGui::SameLine(ImGui::GetFontSize() * 8);
    if (ImGui::Checkbox("on", &on)) parts_[i] = on ? 1 : 0;
    ShownItems::note(std::string("part ") + partNames()[i]);
    ImGui::SameLine();
    if (ImGui::Checkbox("x3", &much)) parts_[i] = much ? exaggerated : 1;
    ImGui::SameLine();
    alone = ImGui::SmallButton("alone");
    if (alone) {
      parts_.fill(0);
      parts_[i] = 1;
    }
    ImGui::PopID();
    if (parts_ != before) useDesign();
  }
}

void App::showStrip() {
  if (session_.replaying()) {
    auto at = static_cast<float>(session_.now());
    ImGui::SetNextItemWidth(-1);
    if (ImGui::SliderFloat("##time", &at, 0, static_cast<float>(session_.replayLength()), "%.2f s")) {
      session_.seek(static_cast<double>(at));
      felt_.clear();
    }
    ShownItems::note("time");
  }
  const float numbers = std::min(ImGui::GetFontSize() * 19, ImGui::GetContentRegionAvail().x * 0.4f);
  ImGui::BeginChild("numbers", {numbers, 0});
  felt_.showNumbers();
  ImGui::EndChild();
  ImGui::SameLine();
  ImGui::BeginChild("curves");
  felt_.showCurves();
  ImGui::EndChild();
}

/// What each key does, the playground's own among them.
void App::showHelp() {
  const float width = std::max(session_.beside() ? 2 * view_.width : view_.width, 640.0f);
  ImGui::SetNextWindowPos({view_.x, view_.y + 30}, ImGuiCond_Appearing);
  ImGui::Begin("keys", &help_, ImGuiWindowFlags_AlwaysAutoResize | ImGuiWindowFlags_NoCollapse);
  showControlsPicture(controls().bindings(), controls().mode(), width - 24);
  ImGui::TextDisabled(
      "F1 closes this. Shift+F5 records from here. Ctrl+S saves the design; Ctrl+Z and Ctrl+Y undo and redo "
      "(pointer free).\nPoint at a key for all that it does.");
  ImGui::End();
}

}  // namespace alpglow::play
