#include "alpglow/base/curve.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr auto lower = [](const CurvePoint& a, const CurvePoint& b) { return a.y < b.y; };

}  // namespace

Curve::Curve(Span<const CurvePoint> points) {
  for (const CurvePoint& point : points) {
    const bool next = count_ == 0 || point.x > points_[count_ - 1].x;
    if (count_ < most && next && std::isfinite(point.x) && std::isfinite(point.y)) points_[count_++] = point;
  }
  const auto chord = [this](std::size_t i) {
    return (points_[i + 1].y - points_[i].y) / (points_[i + 1].x - points_[i].x);
  };
  for (std::size_t i = 1; i + 1 < count_; ++i) {
    const double before = chord(i - 1), after = chord(i);
    const double left = points_[i].x - points_[i - 1].x, right = points_[i + 1].x - points_[i].x;
    const double mean = (before * right + after * left) / (left + right);
    const double least = std::min(std::abs(before), std::abs(after));
    slopes_[i] = before * after > 0 ? std::copysign(std::min(2 * least, std::abs(mean)), before) : 0;
  }
}

double Curve::at(double x) const {
  if (count_ == 0) return 0;
  if (!(x > points_[0].x)) return points_[0].y;
  std::size_t i = 0;
  while (i + 1 < count_ && x >= points_[i + 1].x) ++i;
  if (i + 1 == count_) return points_[i].y;
  const CurvePoint &from = points_[i], &to = points_[i + 1];
  const double width = to.x - from.x, t = (x - from.x) / width, rest = 1 - t;
  const double value = from.y * rest * rest * (1 + 2 * t) + to.y * t * t * (3 - 2 * t) +
                       width * t * rest * (slopes_[i] * rest - slopes_[i + 1] * t);
  return std::clamp(value, std::min(from.y, to.y), std::max(from.y, to.y));
}

double Curve::least() const {
  return count_ == 0 ? 0 : std::min_element(points_.begin(), points_.begin() + count_, lower)->y;
}

double Curve::largest() const {
  return count_ == 0 ? 0 : std::max_element(points_.begin(), points_.begin() + count_, lower)->y;
}

}  // namespace alpglow
