#include "alpglow/panel/feel_panel.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/panel/rows.hpp"
#include "alpglow/panel/theme.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>

namespace alpglow::panel {

namespace {

constexpr double measuredEvery = 0.3;  // seconds

struct Line {
  const char* name;
  ImU32 colour;
  std::function<double(std::size_t)> value;
};

/// Lines over time, all on one scale, that of `least` at least; legend above them and scale beside.
void plot(const char* title, const io::Trace& trace, const std::vector<Line>& lines, ImVec2 size, double least,
          const std::vector<double>& marks) {
  ImDrawList& draw = *ImGui::GetWindowDrawList();
  const ImVec2 at = ImGui::GetCursorScreenPos(), to(at.x + size.x, at.y + size.y);
  ImGui::InvisibleButton(title, size);
  draw.AddRectFilled(at, to, IM_COL32(28, 30, 38, 255), 3);
  double low = 1e300, high = -1e300;
  for (const Line& line : lines) {
    for (std::size_t i = 0; i < trace.size(); ++i) {
      low = std::min(low, line.value(i));
      high = std::max(high, line.value(i));
    }
  }
  if (trace.size() < 2 || !(low <= high)) return;
  const double middle = (low + high) / 2, half = std::max(high - low, least) / 2 * 1.1;
  const double from = trace.front().time, span = std::max(trace.back().time - from, 1e-3);
  constexpr float share = 0.85f;
  const float letters = ImGui::GetFontSize() * share;
  const auto wide = [&](const std::string& words) { return ImGui::CalcTextSize(words.c_str()).x * share; };
  const ImVec2 room(std::max(size.x - letters * 3.2f, 8.0f), std::max(size.y - letters * 1.3f - 4, 4.0f));
  const auto x = [&](double time) { return at.x + static_cast<float>((time - from) / span) * room.x; };
  const auto y = [&](double value) {
    return to.y - 2 - static_cast<float>((value - middle + half) / (2 * half)) * room.y;
  };
  for (const double mark : marks) draw.AddLine({x(mark), to.y - room.y}, {x(mark), to.y}, Colours::bad, 2);
  const std::size_t step = std::max<std::size_t>(trace.size() / static_cast<std::size_t>(std::max(room.x, 1.0f)), 1);
  for (const Line& line : lines) {
    std::vector<ImVec2> points;
    // What lasts a frame is seen, too: the lowest and the highest of each step.
    for (std::size_t i = 0; i < trace.size(); i += step) {
      double lowest = line.value(i), highest = lowest;
      for (std::size_t j = i + 1; j < std::min(i + step, trace.size()); ++j) {
        lowest = std::min(lowest, line.value(j));
        highest = std::max(highest, line.value(j));
      }
      points.emplace_back(x(trace[i].time), y(lowest));
      if (highest > lowest) points.emplace_back(x(trace[i].time), y(highest));
    }
    draw.AddPolyline(points.data(), static_cast<int>(points.size()), line.colour, 0, 1.5f);
  }
  float along = at.x + 5;
  const auto write = [&](const std::string& words, ImU32 colour) {
    draw.AddText(nullptr, letters, {along, at.y + 2}, colour, words.c_str());
    along += wide(words) + 6;
  };
  draw.PushClipRect(at, to, true);
  write(title, Colours::text);
  for (const Line& line : lines) write(fmt::format("{} {:.2f}", line.name, line.value(trace.size() - 1)), line.colour);
  const std::string top = fmt::format("{:.3g}", middle + half), bottom = fmt::format("{:.3g}", middle - half);
  draw.AddText(nullptr, letters, {to.x - wide(top) - 4, to.y - room.y}, Colours::quiet, top.c_str());
  draw.AddText(nullptr, letters, {to.x - wide(bottom) - 4, to.y - letters - 2}, Colours::quiet, bottom.c_str());
  draw.PopClipRect();
}

}  // namespace

void FeelPanel::add(const io::TraceFrame& frame) {
  if (!trace_.empty() && !(frame.time > trace_.back().time)) clear();
  trace_.push_back(frame);
  // In pieces, so that not every frame moves them all.
  const auto kept = std::find_if(trace_.begin(), trace_.end(),
                                 [&](const io::TraceFrame& each) { return each.time > frame.time - seconds_; });
  if (kept - trace_.begin() > 64) trace_.erase(trace_.begin(), kept);
  if (frame.time > measuredAt_ + measuredEvery || frame.time < measuredAt_) measure();
}

void FeelPanel::clear() {
  trace_.clear();
  feel_ = {};
  measuredAt_ = -1;
}

void FeelPanel::measure() {
  measuredAt_ = trace_.back().time;
  if (trace_.size() < 2) return;
  feel::FeelMeter meter;
  meter.add(trace_);
  feel_ = meter.feel();
}

double FeelPanel::sincePop() const {
  return feel_.pops.empty() || trace_.empty() ? std::numeric_limits<double>::infinity()
                                              : trace_.back().time - feel_.pops.back().time;
}

void FeelPanel::showNumbers() {
  const auto show = [this](std::size_t i) {
    const double value = feel_.values[i];
    const feel::Verdict verdict = feel::verdictOf(value, static_cast<io::Felt>(i), limits_);
    const io::LimitKey& key = io::limitKeys()[i];
    ImGui::PushStyleColor(ImGuiCol_Text, verdict == feel::Verdict::bad          ? Colours::bad
                                         : verdict == feel::Verdict::noticeable ? Colours::changed
                                                                                : Colours::text);
    ImGui::TextUnformatted(
        verdict == feel::Verdict::unmeasured ? "-" : fmt::format("{:.3g} {}", value, feel::nameOf(verdict)).c_str());
    ImGui::PopStyleColor();
    ImGui::SameLine(ImGui::GetFontSize() * 8);
    ImGui::TextUnformatted(key.key);
    if (ImGui::IsItemHovered()) ImGui::SetTooltip("%s", key.help);
  };
  const auto verdict = [this](std::size_t i) {
    return feel::verdictOf(feel_.values[i], static_cast<io::Felt>(i), limits_);
  };
  ImGui::TextDisabled("felt in the last %.0f s; %d pops", seconds_, static_cast<int>(feel_.pops.size()));
  for (const feel::Verdict which : {feel::Verdict::bad, feel::Verdict::noticeable}) {
    for (std::size_t i = 0; i < io::feltCount; ++i) {
      if (verdict(i) == which) show(i);
    }
  }
  ImGui::Checkbox("what is fine, too", &all_);
  for (std::size_t i = 0; all_ && i < io::feltCount; ++i) {
    if (verdict(i) == feel::Verdict::fine) show(i);
  }
}

void FeelPanel::showCurves() {
  const ImVec2 room = ImGui::GetContentRegionAvail();
  const ImVec2 gap = ImGui::GetStyle().ItemSpacing;
  const ImVec2 each((room.x - gap.x) / 2, std::max((room.y - gap.y) / 2, 20.0f));
  std::vector<double> pops;
  for (const feel::Pop& pop : feel_.pops) pops.push_back(pop.time);
  const io::Trace& t = trace_;
  plot("distance m", t,
       {{"wanted", Colours::quiet, [&](std::size_t i) { return t[i].freeDistance; }},
        {"room", Colours::changed, [&](std::size_t i) { return t[i].clearDistance; }},
        {"shown", Colours::fine, [&](std::size_t i) { return t[i].distance; }}},
       each, 0.5, pops);
  ImGui::SameLine();
  // Unwrapped, so that nothing jumps at ±180°.
  std::vector<double> yaw(t.size());
  for (std::size_t i = 0; i < t.size(); ++i)
    yaw[i] = i == 0 ? t[0].yaw : yaw[i - 1] + toDegrees(shortestTurn(degrees(t[i - 1].yaw), degrees(t[i].yaw)));
  plot("angles °", t,
       {{"yaw", Colours::fine, [&](std::size_t i) { return yaw[i]; }},
        {"pitch", Colours::changed, [&](std::size_t i) { return t[i].pitch; }}},
       each, 10, {});
  plot("lens °", t, {{"vertical", Colours::fine, [&](std::size_t i) { return t[i].fieldOfView; }}}, each, 4, {});
  ImGui::SameLine();
  plot("speed m/s", t,
       {{"camera", Colours::fine,
         [&](std::size_t i) {
           return i == 0 || !(t[i].dt > 0) ? 0.0 : (t[i].camera - t[i - 1].camera).norm() / t[i].dt;
         }},
        {"subject", Colours::changed, [&](std::size_t i) { return t[i].speed; }}},
       each, 1, {});
}

}  // namespace alpglow::panel
