#pragma once
// Obstacles by pencil and paper: infinite walls, and upright poles without end.

#include "alpglow/space/obstacles.hpp"

#include <algorithm>
#include <cmath>
#include <vector>

namespace alpglow::testing {

/// Free where normal·p > offset.
struct Wall {
  Eigen::Vector3d normal;
  double offset;
};

struct Pole {
  double x, z, radius;
};

class Walls final : public Obstacles {
 public:
  std::vector<Wall> walls;
  std::vector<Pole> poles;

  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    Contact first{displacement.norm(), noObstacle};
    const double length = first.distance;
    const auto touch = [&](double fraction, std::size_t id, const Eigen::Vector3d& normal) {
      if (fraction < 1 && fraction * length < first.distance)
        first = {std::max(fraction, 0.0) * length, static_cast<ObstacleId>(id), normal};
    };
    for (std::size_t i = 0; i < walls.size(); ++i) {
      const double speed = walls[i].normal.dot(displacement);
      if (speed < 0) touch((walls[i].offset + radius - walls[i].normal.dot(from)) / speed, i, walls[i].normal);
    }
    for (std::size_t i = 0; i < poles.size(); ++i) {
      const double x = from.x() - poles[i].x, z = from.z() - poles[i].z, reach = poles[i].radius + radius;
      const double a = displacement.x() * displacement.x() + displacement.z() * displacement.z();
      const double b = x * displacement.x() + z * displacement.z(), c = x * x + z * z - reach * reach;
      if (!(a > 0 && b < 0 && b * b - a * c >= 0)) continue;
      const double fraction = (-b - std::sqrt(b * b - a * c)) / a;
      const Eigen::Vector3d normal(x + fraction * displacement.x(), 0, z + fraction * displacement.z());
      touch(fraction, walls.size() + i, normal / reach);
    }
    return first;
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, Purpose::Bit) const noexcept override {
    return sweep(from, displacement, 0);
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    double nearest = range;
    for (const Wall& wall : walls) nearest = std::min(nearest, wall.normal.dot(point) - wall.offset);
    for (const Pole& pole : poles)
      nearest = std::min(nearest, std::hypot(point.x() - pole.x, point.z() - pole.z) - pole.radius);
    return std::max(nearest, 0.0);
  }
};

}  // namespace alpglow::testing
