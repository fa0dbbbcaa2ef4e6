#include "alpglow/input/touch.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double perHeight = 1000;  // units of drag for one height of the screen

void stick(double x, double y, double time, const TouchZones::Out& out) {
  const double length = std::max(std::hypot(x, y), 1.0);
  out({time, findControl("TouchStickX"), x / length, 0});
  out({time, findControl("TouchStickY"), y / length, 0});
}

}  // namespace

TouchZones::Finger* TouchZones::find(std::int64_t id) {
  const auto found = std::find_if(fingers_.begin(), fingers_.end(), [id](const Finger& f) { return f.id == id; });
  return found == fingers_.end() ? nullptr : &*found;
}

TouchZones::Finger* TouchZones::otherLooking(const Finger& finger) {
  const auto found = std::find_if(fingers_.begin(), fingers_.end(),
                                  [&](const Finger& f) { return f.id != finger.id && f.role == Role::look; });
  return found == fingers_.end() ? nullptr : &*found;
}

void TouchZones::down(std::int64_t finger, double x, double y, bool onButton) {
  if (find(finger) != nullptr || !std::isfinite(x) || !std::isfinite(y)) return;
  const bool moving =
      std::any_of(fingers_.begin(), fingers_.end(), [](const Finger& f) { return f.role == Role::move; });
  const Role role = onButton ? Role::button : x < settings_.moveZone && !moving ? Role::move : Role::look;
  fingers_.push_back({finger, role, x, y, x, y});
}

void TouchZones::move(std::int64_t id, double x, double y, double time, double aspect, const Out& out) {
  Finger* finger = find(id);
  if (finger == nullptr || !std::isfinite(x) || !std::isfinite(y) || !std::isfinite(aspect)) return;
  const double beforeX = finger->x, beforeY = finger->y;
  finger->x = x, finger->y = y;
  if (finger->role == Role::move) {
    const double scale = perHeight / settings_.moveTravel;
    return stick((x - finger->startX) * aspect * scale, (y - finger->startY) * scale, time, out);
  }
  if (finger->role != Role::look) return;
  const Finger* other = otherLooking(*finger);
  if (other == nullptr) {
    return out({time, findControl("TouchDrag"), (x - beforeX) * aspect * perHeight, (y - beforeY) * perHeight});
  }
  const double before = std::hypot((beforeX - other->x) * aspect, beforeY - other->y);
  const double after = std::hypot((x - other->x) * aspect, y - other->y);
  if (before > 0 && after > 0) out({time, findControl("TouchPinch"), std::log(after / before), 0});
}

void TouchZones::up(std::int64_t id, double time, const Out& out) {
  const Finger* finger = find(id);
  if (finger == nullptr) return;
  if (finger->role == Role::move) stick(0, 0, time, out);
  fingers_.erase(fingers_.begin() + (finger - fingers_.data()));
}

void TouchZones::cancel(double time, const Out& out) {
  while (!fingers_.empty()) up(fingers_.back().id, time, out);
}

}  // namespace alpglow
