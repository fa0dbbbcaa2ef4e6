#include "alpglow/follow/rest_zone.hpp"

#include "alpglow/base/limits.hpp"

#include <Eigen/Geometry>

#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double rounding = 1e-6;  // metres of a step that may be none

/// The share of `way` after which a point that starts within the circle leaves it; 1 if it does not.
double shareUntilOut(const Vector3d& from, const Vector3d& way, double radius) {
  const double a = way.squaredNorm(), b = from.dot(way), c = std::min(from.squaredNorm() - radius * radius, 0.0);
  if (a == 0) return 1;
  const double root = std::sqrt(b * b - a * c);
  const double share = b > 0 ? -c / (b + root) : (root - b) / a;
  return std::clamp(share, 0.0, 1.0);
}

}  // namespace

Vector3d towed(const Vector3d& lag, const Vector3d& moved, double length) {
  const double distance = moved.norm();
  if (distance == 0) return lag;
  const Vector3d ahead = moved / distance;
  const Vector3d toTarget = -lag.normalized();
  const double cosine = std::clamp(toTarget.dot(ahead), -1.0, 1.0);
  const Vector3d across = toTarget - cosine * ahead;  // of length sin θ
  const double halfPerSine = std::exp(-distance / length) / (1 + cosine);
  const double half = halfPerSine * across.norm();  // tan(θ/2)
  return -length / (1 + half * half) * ((1 - half * half) * ahead + 2 * halfPerSine * across);
}

RestZone::Course RestZone::courseOf(const Vector3d& moved, const Vector3d& up, bool onGround,
                                    const RestZoneSettings& settings) const {
  Course course;
  course.rises = up.dot(moved);
  course.rise = rise_;
  course.walks = moved - course.rises * up;
  course.radius = std::min(settings.radius, widest);
  course.aside = limitedTo(aside_.vector() - up.dot(aside_.vector()) * up, course.radius);
  course.along = course.radius > 0 ? shareUntilOut(course.aside, -course.walks, course.radius) : 1;
  const bool rests = !onGround && settings.above + settings.below > 0;
  course.above = rests ? settings.above : -rise_;
  course.below = rests ? settings.below : rise_;
  const double free = rise_ - course.rises, edge = std::clamp(free, -course.above, course.below);
  course.upward = rests && free != edge ? std::clamp((rise_ - edge) / course.rises, 0.0, 1.0) : 1;
  return course;
}

void RestZone::at(const Course& course, double share, const Vector3d& up) {
  rise_ = std::clamp(course.rise - share * course.rises, -course.above, course.below);
  const double free = std::min(share, course.along);
  const Vector3d aside = course.aside - free * course.walks;
  aside_ = course.radius == 0                 ? Vector3d(0, 0, 0)
           : share > free && course.along < 1 ? towed(aside, (share - free) * course.walks, course.radius)
                                              : aside;
  aside_ = aside_.vector() - up.dot(aside_.vector()) * up;
}

void RestZone::stand(const Vector3d& walks, double seconds) {
  stood_ = walks.norm() <= standingSpeed * seconds + rounding ? std::min(stood_ + seconds, 1e9) : 0;
}

Vector3d RestZone::velocity(const Vector3d& velocity, const Vector3d& up, bool onGround,
                            const RestZoneSettings& settings) const {
  double rises = up.dot(velocity);
  Vector3d walks = velocity - rises * up;
  const bool rests = !onGround && settings.above + settings.below > 0 && !(rises > 0 && rise_ <= -settings.above) &&
                     !(rises < 0 && rise_ >= settings.below);
  if (rests) rises = 0;
  if (settings.radius > 0) {
    constexpr double taut = 1e-6;  // of the radius
    const double away = aside_.vector().norm();
    const Vector3d toSubject = away > 0 ? Vector3d(-aside_.vector() / away) : Vector3d(0, 0, 0);
    walks = away < settings.radius * (1 - taut) ? Vector3d(0, 0, 0)
                                                : Vector3d(std::max(walks.dot(toSubject), 0.0) * toSubject);
  }
  return walks + rises * up;
}

void RestZone::limit(const RestZoneSettings& settings) {
  rise_ = std::clamp(rise_, -settings.above, settings.below);
  aside_ = limitedTo(aside_, settings.radius);
}

}  // namespace alpglow
