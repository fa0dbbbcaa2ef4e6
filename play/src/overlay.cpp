#include "overlay.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/panel/theme.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow::play {

using Eigen::Vector3d;
using panel::Colours;

namespace {

ImU32 colourOf(DebugDraw::Meaning meaning) {
  switch (meaning) {
    case DebugDraw::Meaning::subject: return IM_COL32(140, 215, 255, 255);
    case DebugDraw::Meaning::camera: return IM_COL32(255, 255, 255, 255);
    case DebugDraw::Meaning::without: return IM_COL32(160, 200, 240, 160);
    case DebugDraw::Meaning::limit: return IM_COL32(255, 110, 70, 255);
    case DebugDraw::Meaning::ahead: return IM_COL32(255, 185, 75, 255);
    case DebugDraw::Meaning::aim: return IM_COL32(250, 230, 115, 255);
  }
  return IM_COL32_WHITE;
}

}  // namespace

ImVec2 LinesOverPicture::at(const Vector3d& seen) const {
  const double halfHeight = std::tan(from_.fieldOfView / 2) * -seen.z();
  const double right = seen.x() / (halfHeight * from_.aspect), up = seen.y() / halfHeight;
  return {area_.x + area_.width * static_cast<float>(0.5 + 0.5 * right),
          area_.y + area_.height * static_cast<float>(0.5 - 0.5 * up)};
}

void LinesOverPicture::line(const Vector3d& from, const Vector3d& to, Meaning meaning) {
  constexpr double nearest = -0.05;
  Vector3d a = (toView_ * from.homogeneous()).head<3>(), b = (toView_ * to.homogeneous()).head<3>();
  if (a.z() > nearest && b.z() > nearest) return;
  if (a.z() > nearest) a += (b - a) * ((nearest - a.z()) / (b.z() - a.z()));
  if (b.z() > nearest) b += (a - b) * ((nearest - b.z()) / (a.z() - b.z()));
  draw_.AddLine(at(a), at(b), colourOf(meaning), 1.6f);
}

void LinesOverPicture::sphere(const Vector3d& middle, double radius, Meaning meaning) {
  constexpr int sides = 24;
  const Eigen::Matrix3d turn = from_.rotation();
  Vector3d before = middle + radius * turn.col(0);
  for (int i = 1; i <= sides; ++i) {
    const double angle = 2 * pi * i / sides;
    const Vector3d next = middle + radius * (std::cos(angle) * turn.col(0) + std::sin(angle) * turn.col(1));
    line(before, next, meaning);
    before = next;
  }
}

void LinesOverPicture::label(const Vector3d& point, const std::string& text, Meaning meaning) {
  const Vector3d seen = (toView_ * point.homogeneous()).head<3>();
  if (seen.z() > -0.05) return;
  ImVec2 place = at(seen);
  // All of it within the picture.
  const ImVec2 size = ImGui::CalcTextSize(text.c_str());
  place.x = std::clamp(place.x, area_.x + 4, std::max(area_.x + area_.width - size.x - 4, area_.x + 4));
  place.y = std::clamp(place.y, area_.y + 4, std::max(area_.y + area_.height - size.y - 4, area_.y + 4));
  drawWords(draw_, place, text, colourOf(meaning));
}

void drawWords(ImDrawList& draw, ImVec2 at, const std::string& words, ImU32 colour) {
  for (const ImVec2 shift : {ImVec2(1, 1), ImVec2(-1, 1), ImVec2(1, -1), ImVec2(-1, -1)})
    draw.AddText({at.x + shift.x, at.y + shift.y}, IM_COL32(12, 12, 18, 190), words.c_str());
  draw.AddText(at, colour, words.c_str());
}

void EventList::add(const io::TraceFrame& frame) {
  constexpr double readFor = 2.5;
  if (frame.time < now_) events_.clear();
  now_ = frame.time;
  for (const std::string& event : io::wordsOf(frame.events)) events_.push_back({frame.time, event});
  while (!events_.empty() && events_.front().time < now_ - readFor) events_.pop_front();
}

void EventList::draw(ImDrawList& list, ImVec2 at) const {
  for (auto each = events_.rbegin(); each != events_.rend() && each - events_.rbegin() < 6; ++each) {
    drawWords(list, at, each->what, Colours::text);
    at.y += ImGui::GetFontSize() * 1.15f;
  }
}

void drawCrosshair(ImDrawList& draw, const Area& area) {
  const ImVec2 middle(area.x + area.width / 2, area.y + area.height / 2);
  for (const auto& [colour, width] : {std::pair(IM_COL32(0, 0, 0, 200), 3.6f), std::pair(IM_COL32_WHITE, 1.5f)}) {
    for (const ImVec2 way : {ImVec2(1, 0), ImVec2(-1, 0), ImVec2(0, 1), ImVec2(0, -1)})
      draw.AddLine({middle.x + 3 * way.x, middle.y + 3 * way.y}, {middle.x + 8 * way.x, middle.y + 8 * way.y}, colour,
                   width);
  }
}

void drawStick(ImDrawList& draw, ImVec2 at, float size, const PlayerControls::Stick& stick, double innerEdge) {
  const float half = size / 2;
  const ImVec2 middle(at.x + half, at.y + half);
  const auto place = [&](Rate rate) {
    return ImVec2(middle.x + half * static_cast<float>(rate.x), middle.y + half * static_cast<float>(rate.y));
  };
  draw.AddCircleFilled(middle, half, IM_COL32(20, 21, 28, 170));
  draw.AddCircle(middle, half, Colours::quiet);
  draw.AddCircle(middle, half * static_cast<float>(innerEdge), Colours::quiet);
  draw.AddCircleFilled(place(stick.raw), 3.5f, Colours::changed);
  draw.AddCircleFilled(place(stick.shaped), 3.5f, Colours::fine);
}

}  // namespace alpglow::play
