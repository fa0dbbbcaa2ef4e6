#pragma once
// The triangles of a height field near a box; part of shapes.hpp.

#include "alpglow/space/shapes.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

template <class Visit>
void forEachTriangle(const HeightField& field, const Bounds& bounds, Visit&& visit) {
  if (field.columns < 2 || field.rows < 2 || !(field.spacing > 0)) return;
  const auto cells = [&field](double low, double high, double origin, int count, int& first, int& last) {
    first = static_cast<int>(std::clamp(std::floor((low - origin) / field.spacing), 0.0, count - 1.0));
    last = static_cast<int>(std::clamp(std::floor((high - origin) / field.spacing), -1.0, count - 2.0));
  };
  int column, lastColumn, row, lastRow;
  cells(bounds.low.x(), bounds.high.x(), field.origin.x(), field.columns, column, lastColumn);
  cells(bounds.low.z(), bounds.high.z(), field.origin.z(), field.rows, row, lastRow);
  const auto corner = [&field](int x, int z) {
    const auto index = static_cast<std::size_t>(z) * static_cast<std::size_t>(field.columns);
    const double height = static_cast<double>(field.heights[index + static_cast<std::size_t>(x)]);
    return Eigen::Vector3d(field.origin + Eigen::Vector3d(x * field.spacing, height, z * field.spacing));
  };
  for (int z = row; z <= lastRow; ++z) {
    for (int x = column; x <= lastColumn; ++x) {
      const Eigen::Vector3d a = corner(x, z), b = corner(x + 1, z), c = corner(x + 1, z + 1), d = corner(x, z + 1);
      for (const Triangle& t : {Triangle{a, c, b}, Triangle{a, d, c}}) {  // upward
        if (std::isfinite(t.a.y() + t.b.y() + t.c.y())) visit(t);
      }
    }
  }
}

}  // namespace alpglow
