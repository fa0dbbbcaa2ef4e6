#include "alpglow/panel/design_panel.hpp"

#include "alpglow/io/input_error.hpp"
#include "alpglow/panel/rows.hpp"
#include "alpglow/panel/theme.hpp"

#include <fmt/format.h>
#include <imgui.h>

#include <algorithm>
#include <cctype>
#include <utility>

namespace alpglow::panel {

using io::DesignSetting;
using io::SettingName;

namespace {

constexpr const char* groupNames[] = {"look",    "follow", "framings", "place", "steady",
                                      "assists", "pushes", "flight",   "other"};

struct SectionGroup {
  const char* section;
  int group;
};
constexpr SectionGroup sectionGroups[] = {
    {"look", 0},  {"zoom", 0},          {"glance", 0},      {"lead", 1},   {"platform", 1},   {"bob", 1},
    {"dip", 1},   {"breath", 1},        {"curves", 2},      {"", 2},       {"pull_in", 3},    {"large", 3},
    {"fade", 3},  {"free_shoulder", 3}, {"steady", 4},      {"unrest", 4}, {"swing_back", 5}, {"lock", 5},
    {"guide", 5}, {"idle_drift", 5},    {"push_limits", 6}, {"flight", 7},
};

bool contains(std::string text, const char* part) {
  std::string sought = part;
  for (std::string* each : {&text, &sought}) {
    std::transform(each->begin(), each->end(), each->begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  }
  return text.find(sought) != std::string::npos;
}

const DesignSetting* find(const std::vector<DesignSetting>& all, const SettingName& name) {
  const auto found = std::find_if(all.begin(), all.end(), [&name](const auto& each) { return each.name == name; });
  return found == all.end() ? nullptr : &*found;
}

bool otherwise(const DesignSetting& setting, const DesignSetting* other) {
  return other == nullptr || other->value != setting.value || other->curve != setting.curve;
}

}  // namespace

Span<const char* const> groups() { return groupNames; }

const char* groupOf(const SettingName& setting) {
  if (setting.list == "framing") return groupNames[2];
  if (setting.list == "push") return groupNames[6];
  for (const SectionGroup& each : sectionGroups) {
    if (setting.section == each.section) return groupNames[each.group];
  }
  return groupNames[8];
}

std::vector<DesignDifference> differences(const CameraDesign& first, const CameraDesign& second) {
  std::vector<DesignDifference> found;
  const std::vector<DesignSetting> others = io::settingsOf(second);
  for (const DesignSetting& each : io::settingsOf(first)) {
    const DesignSetting* other = find(others, each.name);
    if (other != nullptr && otherwise(each, other)) found.push_back({each, *other});
  }
  return found;
}

DesignPanel::DesignPanel(io::DesignText design)
    : design_(std::move(design)),
      saved_(design_),
      settings_(design_.settings()),
      savedSettings_(settings_),
      history_(design_.text()) {}

void DesignPanel::markSaved() {
  saved_ = design_;
  savedSettings_ = settings_;
}

void DesignPanel::replace(io::DesignText design) {
  design_ = std::move(design);
  settings_ = design_.settings();
  history_.add(design_.text(), false);
  markSaved();
  complaint_.clear();
}

void DesignPanel::go(const std::string& text) {
  if (text == design_.text()) return;
  design_ = io::DesignText(text, design_.name());
  settings_ = design_.settings();
  isAnother_ = true;
  complaint_.clear();
}

template <class Change>
bool DesignPanel::change(Change&& change, bool goesOn) {
  const std::string before = design_.text();
  try {
    change();
    complaint_.clear();
  } catch (const io::InputError& error) {
    complaint_ = error.reason();
    return false;
  }
  if (design_.text() == before) return true;
  settings_ = design_.settings();
  history_.add(design_.text(), goesOn);
  return isAnother_ = true;
}

bool DesignPanel::set(const SettingName& setting, double value, bool goesOn) {
  return change([&] { design_.set(setting, value); }, goesOn);
}

/// As it is in the file that was saved, or as if it were not in it.
void DesignPanel::answer(const DesignSetting& setting, bool toFile) {
  const std::optional<std::string> was = toFile ? saved_.stated(setting.name) : std::nullopt;
  const SettingName name = setting.name;
  change([&] { return was ? design_.set(name, *was) : design_.leaveOut(name); }, false);
}

bool DesignPanel::show() {
  ImGui::SetNextItemWidth(ImGui::GetFontSize() * 10);
  ImGui::InputTextWithHint("##search", "search", search_.data(), search_.size());
  ShownItems::note("search");
  ImGui::SameLine();
  ImGui::Checkbox("changed", &onlyChanged_);
  ImGui::SameLine();
  ImGui::BeginDisabled(!canUndo());
  if (ImGui::Button("undo")) undo();
  ShownItems::note("undo");
  ImGui::EndDisabled();
  ImGui::SameLine();
  ImGui::BeginDisabled(!canRedo());
  if (ImGui::Button("redo")) redo();
  ShownItems::note("redo");
  ImGui::EndDisabled();
  if (!complaint_.empty()) {
    ImGui::PushStyleColor(ImGuiCol_Text, Colours::bad);
    ImGui::TextWrapped("%s", complaint_.c_str());
    ImGui::PopStyleColor();
  }
  ImGui::BeginChild("settings");
  ShownItems::note("settings");
  const std::vector<DesignSetting> all = settings_;  // rows may change them
  for (const char* group : groupNames) {
    std::vector<const DesignSetting*> rows;
    for (const DesignSetting& each : all) {
      if (groupOf(each.name) == group) rows.push_back(&each);
    }
    if (!rows.empty()) showGroup(group, rows);
  }
  ImGui::EndChild();
  return std::exchange(isAnother_, false);
}

/// Section by section, each under its name.
void DesignPanel::showGroup(const char* name, const std::vector<const DesignSetting*>& rows) {
  std::vector<const DesignSetting*> shown;
  for (const DesignSetting* each : rows) {
    const bool sought = search_[0] == 0 || contains(io::inWords(each->name) + " " + each->help, search_.data());
    if (sought && (!onlyChanged_ || otherwise(*each, find(savedSettings_, each->name)))) shown.push_back(each);
  }
  if (shown.empty()) return;
  ImGui::TextDisabled("%s", name);
  for (auto first = shown.begin(); first != shown.end();) {
    const auto last = std::find_if(first, shown.end(), [first](const DesignSetting* each) {
      return each->name.list != (*first)->name.list || each->name.section != (*first)->name.section;
    });
    const SettingName& of = (*first)->name;
    showSection(of.section.empty() ? "all" : of.section, {first, last});
    first = last;
  }
}

void DesignPanel::showSection(const std::string& title, const std::vector<const DesignSetting*>& rows) {
  const std::string id = rows.front()->name.list + "/" + title;
  const bool another = std::any_of(rows.begin(), rows.end(), [this](const DesignSetting* each) {
    return otherwise(*each, find(savedSettings_, each->name));
  });
  if (search_[0] != 0 || onlyChanged_) ImGui::SetNextItemOpen(true);
  if (open_ == title) {
    ImGui::SetNextItemOpen(true);
    open_.clear();
  }
  if (another) ImGui::PushStyleColor(ImGuiCol_Text, Colours::changed);
  const bool open = ImGui::CollapsingHeader(fmt::format("{}###{}", another ? "• " + title : title, id).c_str());
  if (another) ImGui::PopStyleColor();
  ShownItems::note("section " + title);
  if (!open) return;
  for (const DesignSetting* each : rows) {
    Row row;
    row.id = io::inWords(each->name);
    row.key = each->name.key.c_str();
    row.unit = each->unit;
    row.help = each->help;
    row.kind = each->kind;
    row.low = each->low;
    row.high = each->high;
    row.choices = each->choices;
    row.value = each->value;
    row.fallback = each->fallback;
    row.changed = otherwise(*each, find(savedSettings_, each->name));
    row.fixed = each->curve ? "a curve in the file" : nullptr;
    const RowAnswer asked = showRow(row);
    if (asked.value) set(each->name, *asked.value, asked.goesOn);
    if (asked.toFile || asked.toDefault) answer(*each, asked.toFile);
  }
}

}  // namespace alpglow::panel
