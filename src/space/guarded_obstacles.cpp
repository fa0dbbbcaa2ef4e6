#include "alpglow/space/guarded_obstacles.hpp"

#include "alpglow/space/surroundings.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double rounding = 1e-5;  // of a length, as single precision leaves it
constexpr double unit = 1e-3;      // that a normal may differ from unit length

}  // namespace

/// What the host leaves unanswered is no answer.
void GuardedObstacles::sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept {
  std::fill_n(contacts, sweeps.size(), noAnswer());
  host_.sweepAll(sweeps, contacts);
  for (std::size_t i = 0; i < sweeps.size(); ++i) contacts[i] = checked(contacts[i], sweeps[i].displacement.norm());
}

Contact GuardedObstacles::checked(Contact contact, double length) const noexcept {
  const double tolerance = rounding * (1 + length);
  if (!(contact.distance >= 0 && contact.distance <= length + tolerance)) {
    bad_ = true;
    return {0, unnamedObstacle};
  }
  if (!contact.hit() && contact.distance < length - tolerance) {
    bad_ = true;
    return {contact.distance, unnamedObstacle};
  }
  const double normal = contact.normal.squaredNorm();
  if (normal != 0 && !(std::abs(normal - 1) <= unit)) {
    bad_ = true;
    contact.normal.setZero();
  }
  return {std::min(contact.distance, length), contact.obstacle, contact.normal, contact.startsApart};
}

double GuardedObstacles::checked(double clearance, double range) const noexcept {
  if (clearance >= 0) return std::min(clearance, range);
  bad_ = true;
  return 0;
}

}  // namespace alpglow
