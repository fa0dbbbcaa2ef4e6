#include "alpglow/conformance/checked_obstacles.hpp"

#include <cmath>

namespace alpglow::conformance {

using Eigen::Vector3d;

bool CheckedObstacles::due() const noexcept {
  owed_ += share_;
  if (owed_ < 1) return false;
  owed_ -= 1;
  return true;
}

Contact CheckedObstacles::sweep(const Vector3d& from, const Vector3d& displacement, double radius) const noexcept {
  Contact contact = host_.sweep(from, displacement, radius);
  if (due()) check({from, displacement, radius}, contact);
  return contact;
}

void CheckedObstacles::sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept {
  host_.sweepAll(sweeps, contacts);
  for (std::size_t i = 0; i < sweeps.size(); ++i) {
    if (due()) check(sweeps[i], contacts[i]);
  }
}

Contact CheckedObstacles::cast(const Vector3d& from, const Vector3d& displacement,
                               Purpose::Bit purpose) const noexcept {
  Contact contact = host_.cast(from, displacement, purpose);
  const double length = displacement.norm();
  if (due() && !(contact.distance >= 0 && contact.distance <= length * (1 + 1e-5) + tolerance_))
    report_("a ray's distance is not within its way", {from, displacement, 0}, contact);
  return contact;
}

void CheckedObstacles::check(const Sweep& asked, const Contact& got) const noexcept {
  const double length = asked.displacement.norm();
  if (!(length > 1e-8)) return;
  if (!(got.distance >= 0 && got.distance <= length * (1 + 1e-5) + tolerance_))
    return report_("a sweep's distance is not within its way", asked, got);
  const double range = asked.radius + 0.1;
  if (host_.clearance(asked.from, range) < asked.radius + tolerance_) return;  // it began in touch: anything may be
  const Vector3d direction = asked.displacement / length;
  const double room = host_.clearance(asked.from + got.distance * direction, range);
  if (room < asked.radius - tolerance_) return report_("late: the sphere ends inside something", asked, got);
  if (got.hit() && room > asked.radius + tolerance_)
    return report_("early: the sphere was stopped and touches nothing", asked, got);
  const Contact ray = host_.cast(asked.from, asked.displacement, Purpose::camera);
  if (ray.hit() && ray.distance < got.distance + asked.radius - tolerance_)
    report_("through: a ray along the same way is stopped before", asked, got);
}

}  // namespace alpglow::conformance
