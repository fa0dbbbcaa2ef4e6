// The distance of a point from a convex shape that only tells how far it reaches.

#include "alpglow/space/convex_sweep.hpp"
#include "alpglow/space/shapes.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace alpglow {

using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

constexpr double noLimit = std::numeric_limits<double>::infinity();

/// Up to four points of the shape, of which the nearest point is made.
class Simplex {
 public:
  bool empty() const { return count_ == 0; }
  void add(const Vector3d& point) { points_[count_++] = point; }
  bool has(const Vector3d& point) const {
    return std::find(points_.begin(), points_.begin() + count_, point) != points_.begin() + count_;
  }
  bool full() const { return count_ == 4; }

  /// The way from here to the nearest point; only what that is made of stays. All parts of the simplex are tried: each
  /// is right if the foot of the perpendicular is within it. What was the nearest before a point was added is nearer
  /// with that point or not at all, so then only what it is part of is tried.
  Vector3d reduce(const Vector3d& from, bool added = false) {
    for (std::size_t i = 0; i < count_; ++i) ways_[i] = points_[i] - from;
    const unsigned all = (1u << count_) - 1;
    Vector3d whole;
    if (footWithin(all, whole)) return whole;  // of the whole simplex: nothing of it is nearer
    const unsigned first = added ? 1u << (count_ - 1) : 1u;
    unsigned best = first;
    Vector3d nearest = ways_[added ? count_ - 1 : 0];
    double square = noLimit;
    for (unsigned part = first; part < all; ++part) {
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
  /// Where the perpendicular meets this part, if it does.
  bool footWithin(unsigned part, Vector3d& foot) const {
    const Vector3d* corners[4] = {&ways_[0], &ways_[0], &ways_[0], &ways_[0]};
    int count = 0;
    for (std::size_t i = 0; i < count_; ++i) {
      if ((part & 1u << i) != 0) corners[count++] = &ways_[i];
    }
    const Vector3d& first = *corners[0];
    if (count == 1) return foot = first, true;
    const Vector3d u = *corners[1] - first;
    Vector3d v = Vector3d::Zero(), w = Vector3d::Zero(), shares = Vector3d::Zero();
    if (count == 2) {
      const double square = u.squaredNorm();
      if (!(square > 0)) return false;
      shares[0] = -first.dot(u) / square;
    } else if (count == 3) {
      v = *corners[2] - first;
      const Vector3d normal = u.cross(v);
      const double square = normal.squaredNorm();
      if (!(square > 0)) return false;
      shares[0] = -first.cross(v).dot(normal) / square;
      shares[1] = -u.cross(first).dot(normal) / square;
    } else {
      v = *corners[2] - first, w = *corners[3] - first;
      const double volume = u.dot(v.cross(w));
      if (!(std::abs(volume) > 0)) return false;
      shares = -Vector3d(first.dot(v.cross(w)), u.dot(first.cross(w)), u.dot(v.cross(first))) / volume;
    }
    if (shares.minCoeff() < 0 || shares.sum() > 1) return false;
    foot = count == 4 ? Vector3d(Vector3d::Zero()) : Vector3d(first + shares[0] * u + shares[1] * v);
    return true;
  }

  std::array<Vector3d, 4> points_, ways_;
  std::size_t count_ = 0;
};

/// Asks for the distance of one point after the other, each from what was found for the last: where they are close
/// together little is left to do.
class Seeker {
 public:
  /// Exact within `near`; farther away any plane will do that leaves the shape at least 0.7 of what it is beyond. A
  /// sphere of that radius can go as far as to the plane.
  Seeker(const Convex& convex, const Vector3d& start, double near)
      : convex_(convex), start_(start), origin_(convex.origin - start), near_(near + convex.rounding) {}

  Nearest nearestTo(const Vector3d& point) {
    constexpr int mostSteps = 64;
    constexpr double close = 1e-12, enough = 1e-10, far = 0.01, share = 0.7;
    const Vector3d at = point - start_;
    if (simplex_.empty()) simplex_.add(reach(at - origin_));
    Vector3d nearest = simplex_.reduce(at);
    if (simplex_.full()) return {};
    Nearest best;
    for (int i = 0; i < mostSteps; ++i) {
      const double distance = nearest.norm();
      if (!(distance > close)) return {};
      const Vector3d toward = -nearest / distance, farthest = reach(toward);
      // All of the shape lies behind the plane through its farthest point.
      const double apart = toward.dot(at - farthest);
      if (apart > best.distance) best = {apart, toward};
      if (best.distance > near_ + far && best.distance - near_ >= share * (distance - near_)) break;
      if (distance - apart <= enough * distance || simplex_.has(farthest)) break;
      simplex_.add(farthest);
      const bool full = simplex_.full();
      const Vector3d now = simplex_.reduce(at, true);
      if (full && simplex_.full()) return {};
      if (!(now.squaredNorm() < nearest.squaredNorm())) break;
      nearest = now;
    }
    best.distance -= convex_.rounding;
    return best.distance > 0 ? best : Nearest();
  }

 private:
  Vector3d reach(const Vector3d& direction) const {
    return origin_ + convex_.axes * convex_.reach(convex_.self, convex_.axes.transpose() * direction);
  }

  const Convex& convex_;
  const Vector3d start_, origin_;
  const double near_;
  Simplex simplex_;
};

}  // namespace

Nearest nearestTo(const Convex& convex, const Vector3d& point) {
  return Seeker(convex, point, noLimit).nearestTo(point);
}

Touch sweep(const Convex& convex, const Vector3d& from, const Vector3d& direction, double length, double radius) {
  Seeker seeker(convex, from, radius);
  return sweepConvex([&seeker](const Vector3d& p) { return seeker.nearestTo(p); }, from, direction, length, radius);
}

}  // namespace alpglow
