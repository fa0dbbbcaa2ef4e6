#include "alpglow/play/place_by_eye.hpp"

#include "alpglow/base/rotation.hpp"
#include "alpglow/design/settings.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow::play {

using Eigen::Vector3d;

std::vector<std::pair<std::string, double>> placedByEye(const View& view, const Subject& subject,
                                                        const Framing& framing) {
  const Vector3d up = Vector3d::UnitY();
  const Vector3d anchor = subject.feet + framing.anchorHeight * (subject.head - subject.feet);
  const Vector3d camera = view.position - anchor;
  const Vector3d ahead(-std::sin(view.yaw), 0, -std::cos(view.yaw)), right = ahead.cross(up);
  const double distance = -camera.dot(ahead) / std::cos(view.pitch);
  if (!(distance >= 0) || std::abs(view.pitch) > degrees(85)) return {};
  const double rounded = std::round(distance * 1000) / 1000;
  std::vector<std::pair<std::string, double>> keys = {
      {"distance_min_m", std::min(framing.distanceRange.nearest, rounded)},
      {"distance_max_m", std::max(framing.distanceRange.farthest, rounded)},
      {"distance_m", rounded},
      {"shoulder_m", camera.dot(right)},
      {"anchor_rise_m", camera.dot(up) + distance * std::sin(view.pitch)},
      {"pitch_deg", toDegrees(view.pitch)}};
  if (framing.lens.kind == LensKind::verticalFieldOfView) keys.emplace_back("fov_deg", toDegrees(view.fieldOfView));
  for (auto& [key, value] : keys) {
    if (key != "distance_min_m" && key != "distance_max_m") value = std::round(value * 1000) / 1000;
    for (const Setting<Framing>& setting : settings<Framing>()) {
      if (key == setting.key && !(value >= setting.low && value <= setting.high)) return {};
    }
  }
  return keys;
}

}  // namespace alpglow::play
