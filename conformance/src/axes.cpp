#include "alpglow/conformance/axes.hpp"

#include "alpglow/base/angles.hpp"
#include "dice.hpp"

#include <Eigen/Geometry>

#include <array>
#include <cmath>
#include <sstream>
#include <utility>

namespace alpglow::conformance {

using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

constexpr int points = 200;
constexpr double tolerance = 2e-3;  // of half the picture

constexpr std::array<std::pair<const char*, Vector2d (*)(const Vector2d&)>, 6> suspects{{
    {"left and right are exchanged: one of the axes points the other way",
     [](const Vector2d& p) { return Vector2d(-p.x(), p.y()); }},
    {"up and down are exchanged", [](const Vector2d& p) { return Vector2d(p.x(), -p.y()); }},
    {"the picture is turned by half a turn", [](const Vector2d& p) { return Vector2d(-p.x(), -p.y()); }},
    {"x and y of the picture are exchanged", [](const Vector2d& p) { return Vector2d(p.y(), p.x()); }},
    {"the picture goes from 0 to 1", [](const Vector2d& p) { return Vector2d((p.x() + 1) / 2, (p.y() + 1) / 2); }},
    {"the picture goes from 0 to 1, downward",
     [](const Vector2d& p) { return Vector2d((p.x() + 1) / 2, (1 - p.y()) / 2); }},
}};

}  // namespace

std::string proveAxes(const HostAxes& axes, const Drawn& drawn) {
  if (std::string wrong = problemOf(axes); !wrong.empty()) return wrong;
  Dice dice(1);
  int wrong = 0;
  std::array<int, suspects.size()> alike{};
  std::ostringstream said;
  for (int i = 0; i < points; ++i) {
    const double yaw = dice.between(-pi, pi), pitch = dice.between(-1.2, 1.2), fieldOfView = dice.between(0.5, 1.5);
    const Vector3d eye = 20 * dice.direction();
    const Eigen::Matrix3d turn =
        (Eigen::AngleAxisd(yaw, Vector3d::UnitY()) * Eigen::AngleAxisd(pitch, Vector3d::UnitX())).toRotationMatrix();
    const double half = std::tan(fieldOfView / 2), away = dice.between(1, 30);
    const Vector2d right(dice.between(-0.9, 0.9), dice.between(-0.9, 0.9));
    const Vector3d point = eye + away * turn * Vector3d(half * right.x(), half * right.y(), -1);
    const Shot shot{axes.toHost(eye), axes.toHost(eye - 5 * turn.col(2)), axes.directionToHost(Vector3d::UnitY()),
                    fieldOfView};
    const Vector2d got = drawn(shot, axes.toHost(point));
    if ((got - right).norm() < tolerance) continue;
    if (wrong++ == 0) {
      said << "a point at (" << right.x() << ", " << right.y() << ") of the picture is drawn at (" << got.x() << ", "
           << got.y() << ')';
    }
    for (std::size_t k = 0; k < suspects.size(); ++k)
      alike[k] += (got - suspects[k].second(right)).norm() < tolerance ? 1 : 0;
  }
  if (wrong == 0) return {};
  said << ", and " << wrong << " of " << points << " elsewhere than they should be";
  for (std::size_t k = 0; k < suspects.size(); ++k) {
    if (10 * alike[k] > 9 * wrong) said << ": " << suspects[k].first;
  }
  return said.str();
}

}  // namespace alpglow::conformance
