#include "alpglow/conformance/suite.hpp"

#include "alpglow/base/angles.hpp"

#include <cmath>

namespace alpglow::conformance {

std::vector<Box> yard() {
  const auto turned = [](double degreesLeft) {
    const double angle = degrees(degreesLeft);
    Eigen::Matrix3d axes;
    axes << std::cos(angle), 0, std::sin(angle), 0, 1, 0, -std::sin(angle), 0, std::cos(angle);
    return axes;
  };
  return {
      {{0, -0.5, 0}, turned(0), {10, 0.5, 10}},      // the ground
      {{3, 1.5, -2}, turned(20), {0.05, 1.5, 2.5}},  // a thin wall
      {{-4, 1, 3}, turned(-35), {1.2, 1, 0.8}},      // a hut
      {{-2, 2.6, -4}, turned(0), {2, 0.1, 1.5}},     // a roof
      {{1, 1.5, 4}, turned(45), {0.06, 1.5, 0.06}},  // a post
      {{-6, 0.4, -5}, turned(10), {1, 0.4, 1.7}},    // a trough
      {{5.5, 2, 5}, turned(-10), {0.8, 2, 0.8}},     // a tower
  };
}

YardShapes yardShapes() {
  const Eigen::Vector3d foot(-1, 0, 0.5), a(2, 0, -6), b(5, 0, -6), c(2, 1.6, -7.5), d(5, 1.6, -7.5);
  const Eigen::Vector3d slope = Eigen::Vector3d(1.5, 2, 0).normalized();
  const auto behind = [&foot](const Eigen::Vector3d& normal, const Eigen::Vector3d& on) {
    return Plane{normal, normal.dot(foot + on)};
  };
  return {{{-6.5, 0.7, 1}, {-6.5, 0.7, 1}, 0.7},
          {{6, 0.4, 0}, {6.8, 2.2, 1}, 0.4},
          {{-3, 0, 6.5}, Eigen::Vector3d::UnitY(), 2.4, 0.5, 0.2},
          {{a, b, c}, {b, d, c}},
          {behind({0, -1, 0}, {0, 0, 0}), behind({-1, 0, 0}, {0, 0, 0}), behind({0, 0, 1}, {0, 0, 1}),
           behind({0, 0, -1}, {0, 0, -1}), behind(slope, {2, 0, 0})},
          {foot + Eigen::Vector3d(0, 0, -1), foot + Eigen::Vector3d(2, 1.5, 1)}};
}

Yard::Yard(bool shapes, const Eigen::Vector3d& at) : withShapes_(shapes), at_(at) {
  for (Box& box : boxes_) box.centre += at;
  for (Capsule* each : {&shapes_.ball, &shapes_.capsule}) each->a += at, each->b += at;
  shapes_.cylinder.base += at;
  for (Triangle& t : shapes_.triangles) t = {t.a + at, t.b + at, t.c + at};
  for (Plane& plane : shapes_.hull) plane.offset += plane.normal.dot(at);
  shapes_.hullBounds = shapes_.hullBounds.moved(at);
}

void Yard::list(const Bounds& bounds, Found& found) const noexcept {
  ObstacleId id = 0;
  const auto add = [&](const auto& shape) {
    if (boundsOf(shape).touches(bounds)) found.add(shape, {id});
  };
  for (const Box& box : boxes_) add(box), ++id;
  if (!withShapes_) return;
  add(shapes_.ball), ++id;
  add(shapes_.capsule), ++id;
  add(shapes_.cylinder), ++id;
  for (const Triangle& triangle : shapes_.triangles) add(triangle);
  ++id;
  add(Hull{shapes_.hull, shapes_.hullBounds});
}

}  // namespace alpglow::conformance
