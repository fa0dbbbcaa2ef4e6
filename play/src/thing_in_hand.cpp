#include "alpglow/play/thing_in_hand.hpp"

#include "alpglow/view/view.hpp"

#include <Eigen/Geometry>

#include <cmath>

namespace alpglow::play {

using Eigen::Vector3d;

namespace {

Eigen::AlignedBox3d boundsOf(const io::LevelObject& object) {
  Eigen::AlignedBox3d bounds;
  for (const Vector3d& vertex : object.mesh.vertices) bounds.extend(vertex);
  return bounds;
}

io::Level alone(const io::Level& level, int index) {
  io::Level result;
  io::LevelObject object = level.objects[static_cast<std::size_t>(index)];
  const Vector3d middle = boundsOf(object).center();
  for (Vector3d& vertex : object.mesh.vertices) vertex -= middle;
  object.labels.clear();
  object.platform = -1;
  result.objects.push_back(std::move(object));
  return result;
}

/// So that it fills half of the picture's height at first, and is never entered.
InspectionSettings settingsFor(const io::Level& level) {
  InspectionSettings settings;
  const double radius = boundsOf(level.objects.front()).diagonal().norm() / 2;
  const double half = std::tan(settings.lens.lens().verticalFieldOfView() / 2);
  settings.distance = 2 * radius / half;
  settings.range = {1.2 * radius + settings.nearPlane, 4 * settings.distance};
  return settings;
}

}  // namespace

int smallThingAhead(const io::Level& level, const View& view) {
  constexpr double longest = 1.2, farthest = 15;
  int best = -1;
  double least = 1;
  for (std::size_t i = 0; i < level.objects.size(); ++i) {
    const Eigen::AlignedBox3d bounds = boundsOf(level.objects[i]);
    if (level.objects[i].platform >= 0 || bounds.isEmpty() || bounds.diagonal().norm() > longest) continue;
    const auto seen = view.onScreen(bounds.center());
    if (!seen || (bounds.center() - view.position).norm() > farthest) continue;
    if (seen->cwiseAbs().maxCoeff() >= 1 || seen->norm() >= least) continue;
    least = seen->norm();
    best = static_cast<int>(i);
  }
  return best;
}

ThingInHand::ThingInHand(const io::Level& level, int object, const Bindings& bindings, const Preferences& preferences)
    : level_(alone(level, object)),
      controls_(bindings, preferences),
      inspection_(settingsFor(level_), InspectionTurns::camera) {}

void ThingInHand::frame(double dt) {
  inspection_.step(dt, controls_.intent(), controls_.move().x);
  controls_.beginFrame();
}

}  // namespace alpglow::play
