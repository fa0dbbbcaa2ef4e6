// The distance of a point from a convex shape that only tells how far it reaches.

#include "alpglow/space/convex_sweep.hpp"
#include "alpglow/space/shapes.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <array>
#include <cmath>

namespace alpglow {

using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

/// Up to four points of the shape, relative to who asks, of which the nearest point is made.
class Simplex {
 public:
  void add(const Vector3d& point) { points_[count_++] = point; }
  bool has(const Vector3d& point) const {
    return std::find(points_.begin(), points_.begin() + count_, point) != points_.begin() + count_;
  }
  bool full() const { return count_ == 4; }

  /// The point that is nearest to the origin; only what it is made of stays. All parts of the simplex are tried: each
  /// is right if the foot of the origin's perpendicular is within it.
  Vector3d reduce() {
    unsigned best = 0;
    Vector3d nearest = points_[0];
    double square = std::numeric_limits<double>::infinity();
    for (unsigned part = 1; part < 1u << count_; ++part) {
      Vector3d foot;
      if (!footWithin(part, foot) || !(foot.squaredNorm() < square)) continue;
      best = part, nearest = foot, square = foot.squaredNorm();
    }
    std::size_t kept = 0;
    for (std::size_t i = 0; i < count_; ++i) {
      if ((best & 1u << i) != 0) points_[kept++] = points_[i];
    }
    count_ = kept;
    return nearest;
  }

 private:
  /// Where the perpendicular from the origin meets this part, if it does.
  bool footWithin(unsigned part, Vector3d& foot) const {
    const Vector3d* corners[4] = {&points_[0], nullptr, nullptr, nullptr};
    int count = 0;
    for (std::size_t i = 0; i < count_; ++i) {
      if ((part & 1u << i) != 0) corners[count++] = &points_[i];
    }
    const Vector3d& first = *corners[0];
    if (count == 1) return foot = first, true;
    Eigen::Matrix<double, 3, Eigen::Dynamic, 0, 3, 3> edges(3, count - 1);
    for (int i = 1; i < count; ++i) edges.col(i - 1) = *corners[i] - first;
    Eigen::Matrix<double, 3, 1> shares = Vector3d::Zero();
    if (count == 2) {
      const double square = edges.col(0).squaredNorm();
      if (!(square > 0)) return false;
      shares[0] = -first.dot(edges.col(0)) / square;
    } else if (count == 3) {
      const Vector3d u = edges.col(0), v = edges.col(1), normal = u.cross(v);
      const double square = normal.squaredNorm();
      if (!(square > 0)) return false;
      shares[0] = -first.cross(v).dot(normal) / square;
      shares[1] = -u.cross(first).dot(normal) / square;
    } else {
      const Vector3d u = edges.col(0), v = edges.col(1), w = edges.col(2);
      const double volume = u.dot(v.cross(w));
      if (!(std::abs(volume) > 0)) return false;
      shares = -Vector3d(first.dot(v.cross(w)), u.dot(first.cross(w)), u.dot(v.cross(first))) / volume;
    }
    if (shares.minCoeff() < 0 || shares.sum() > 1) return false;
    foot = first;
    for (int i = 1; i < count; ++i) foot += shares[i - 1] * edges.col(i - 1);
    if (count == 4) foot.setZero();
    return true;
  }

  std::array<Vector3d, 4> points_;
  std::size_t count_ = 0;
};

}  // namespace

Nearest nearestTo(const Convex& convex, const Vector3d& point) {
  constexpr int mostSteps = 64;
  constexpr double close = 1e-12, enough = 1e-10;
  const Vector3d to = convex.origin - point;
  const auto reach = [&](const Vector3d& direction) {
    return Vector3d(to + convex.axes * convex.reach(convex.self, convex.axes.transpose() * direction));
  };
  Simplex simplex;
  Vector3d nearest = reach(-to);
  simplex.add(nearest);
  Nearest best;
  for (int i = 0; i < mostSteps; ++i) {
    const double distance = nearest.norm();
    if (!(distance > close)) return {};
    const Vector3d toward = -nearest / distance, farthest = reach(toward);
    // All of the shape lies behind the plane through its farthest point.
    const double apart = -toward.dot(farthest);
    if (apart > best.distance) best = {apart, toward};
    if (distance - apart <= enough * distance || simplex.has(farthest)) break;
    simplex.add(farthest);
    const bool full = simplex.full();
    const Vector3d now = simplex.reduce();
    if (full && simplex.full()) return {};
    if (!(now.squaredNorm() < nearest.squaredNorm())) break;
    nearest = now;
  }
  best.distance -= convex.rounding;
  return best.distance > 0 ? best : Nearest();
}

Touch sweep(const Convex& convex, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  return sweepConvex([&convex](const Vector3d& p) { return nearestTo(convex, p); }, from, direction, length, radius);
}

}  // namespace alpglow
