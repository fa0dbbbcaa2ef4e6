#include "alpglow/panel/rows.hpp"

#include "alpglow/panel/theme.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace alpglow::panel {

bool ShownItems::wanted = false;

std::vector<Shown>& ShownItems::items() {
  static std::vector<Shown> all;
  return all;
}

void ShownItems::note(const std::string& id) {
  if (wanted && ImGui::IsItemVisible()) items().push_back({id, ImGui::GetItemRectMin(), ImGui::GetItemRectMax()});
}

namespace {

/// What a slider spans: all of a small range; of a large one what is likely.
std::array<double, 2> likely(const Row& row) {
  const double most = std::max({4 * std::abs(row.fallback), 2 * std::abs(row.value), row.unit[0] == 0 ? 2.0 : 5.0});
  const bool angle = std::string(row.unit) == "deg";
  return {angle || row.low >= -most ? row.low : -most, angle || row.high <= most ? row.high : most};
}

/// To four digits of what the slider spans, so that files stay readable.
double readable(double value, double span) {
  const double step = std::pow(10, std::floor(std::log10(std::max(span, 1e-9))) - 3);
  return std::round(value / step) * step;
}

void explain(const Row& row) {
  if (!ImGui::IsItemHovered()) return;
  ImGui::BeginTooltip();
  ImGui::PushTextWrapPos(ImGui::GetFontSize() * 22);
  ImGui::TextUnformatted(row.help);
  if (row.kind == SettingKind::number)
    ImGui::TextDisabled(
        "%s", fmt::format("{:g} to {:g} {}; without it {:g}", row.low, row.high, row.unit, row.fallback).c_str());
  if (row.fixed != nullptr) ImGui::TextDisabled("%s", row.fixed);
  ImGui::PopTextWrapPos();
  ImGui::EndTooltip();
}

void showNumber(const Row& row, RowAnswer& answer) {
  const auto [low, high] = likely(row);
  const float whole = ImGui::GetContentRegionAvail().x, field = ImGui::GetFontSize() * 4.6f;
  double slid = row.value;
  ImGui::SetNextItemWidth(std::max(whole - field - ImGui::GetStyle().ItemSpacing.x, 40.0f));
  if (ImGui::SliderScalar("##slide", ImGuiDataType_Double, &slid, &low, &high, "", ImGuiSliderFlags_NoInput)) {
    answer.value = std::clamp(readable(slid, high - low), row.low, row.high);
    answer.goesOn = !ImGui::IsItemActivated();
  }
  ShownItems::note(row.id);
  explain(row);
  ImGui::SameLine();
  double typed = row.value;
  ImGui::SetNextItemWidth(field);
  ImGui::InputScalar("##type", ImGuiDataType_Double, &typed, nullptr, nullptr, "%.5g");
  if (ImGui::IsItemDeactivatedAfterEdit() && std::isfinite(typed)) answer.value = std::clamp(typed, row.low, row.high);
  ShownItems::note(row.id + "#type");
  explain(row);
}

void showChoice(const Row& row, RowAnswer& answer) {
  const auto now = static_cast<std::size_t>(row.value);
  ImGui::SetNextItemWidth(-1);
  const bool open = ImGui::BeginCombo("##choose", now < row.choices.size() ? row.choices[now] : "");
  ShownItems::note(row.id);
  if (!open) return explain(row);
  for (std::size_t i = 0; i < row.choices.size(); ++i) {
    if (ImGui::Selectable(row.choices[i], i == now)) answer.value = static_cast<double>(i);
  }
  ImGui::EndCombo();
}

}  // namespace

RowAnswer showRow(const Row& row) {
  RowAnswer answer;
  ImGui::PushID(row.id.c_str());
  ImGui::AlignTextToFramePadding();
  ImGui::PushStyleColor(ImGuiCol_Text, row.changed ? ImGui::ColorConvertU32ToFloat4(Colours::changed)
                                                   : ImGui::GetStyleColorVec4(ImGuiCol_Text));
  ImGui::TextUnformatted(fmt::format("{}{}", row.changed ? "• " : "", row.key).c_str());
  ImGui::PopStyleColor();
  explain(row);
  if (ImGui::BeginPopupContextItem("back")) {
    answer.toFile = ImGui::MenuItem("as it is in the file", nullptr, false, row.changed);
    answer.toDefault = ImGui::MenuItem("without it");
    ImGui::EndPopup();
  }
  ImGui::SameLine(ImGui::GetFontSize() * 13.5f);
  ImGui::BeginDisabled(row.fixed != nullptr);
  if (row.kind == SettingKind::number) {
    showNumber(row, answer);
  } else if (row.kind == SettingKind::choice) {
    showChoice(row, answer);
  } else {
    bool on = row.value != 0;
    if (ImGui::Checkbox("##tick", &on)) answer.value = on ? 1 : 0;
    ShownItems::note(row.id);
    explain(row);
  }
  ImGui::EndDisabled();
  ImGui::PopID();
  return answer;
}

}  // namespace alpglow::panel
