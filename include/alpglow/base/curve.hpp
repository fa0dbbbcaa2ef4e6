#pragma once
// A number over another: a few points, and a smooth way through them that is monotone wherever they are.
//
//   const Curve orbit({{-1.0, 5.0}, {0.0, 3.2}, {0.9, 1.6}});        // farther away as one looks down
//   const double distance = orbit.at(pitch);
//
// Cubic between two points, with one tangent in each: that of Steffen ("A simple method for monotonic interpolation in
// one dimension", 1990), so that no bump comes up between points and the slope has no jumps. Constant before the first
// and after the last. A trivially copyable value.

#include "alpglow/base/span.hpp"

#include <array>
#include <cstddef>
#include <initializer_list>

namespace alpglow {

struct CurvePoint {
  double x = 0, y = 0;
};

class Curve {
 public:
  static constexpr std::size_t most = 8;

  Curve() = default;
  /// At most `most` points of finite numbers, each x larger than the one before; any others are left out.
  explicit Curve(Span<const CurvePoint> points);
  Curve(std::initializer_list<CurvePoint> points) : Curve(Span<const CurvePoint>(points.begin(), points.size())) {}

  bool empty() const { return count_ == 0; }
  Span<const CurvePoint> points() const { return {points_.data(), count_}; }
  /// The same points, with another number at each: `map(y)`.
  template <class Map>
  Curve mapped(Map&& map) const {
    std::array<CurvePoint, most> points = points_;
    for (std::size_t i = 0; i < count_; ++i) points[i].y = map(points[i].y);
    return Curve(Span<const CurvePoint>(points.data(), count_));
  }
  /// 0 without points. Not a number gives that of the first point.
  double at(double x) const;
  /// Of all its values.
  double least() const;
  double largest() const;

 private:
  std::array<CurvePoint, most> points_{};
  std::array<double, most> slopes_{};
  std::size_t count_ = 0;
};

}  // namespace alpglow
