#include "alpglow/space/checked_obstacles.hpp"

#include <algorithm>

namespace alpglow {

namespace {

constexpr double rounding = 1e-5;  // of a length, as single precision leaves it

}  // namespace

Contact CheckedObstacles::checked(Contact contact, double length) const noexcept {
  const double tolerance = rounding * (1 + length);
  if (!(contact.distance >= 0 && contact.distance <= length + tolerance)) {
    bad_ = true;
    return {0, unnamedObstacle};
  }
  if (!contact.hit() && contact.distance < length - tolerance) {
    bad_ = true;
    return {contact.distance, unnamedObstacle};
  }
  return {std::min(contact.distance, length), contact.obstacle};
}

double CheckedObstacles::checked(double clearance, double range) const noexcept {
  if (clearance >= 0) return std::min(clearance, range);
  bad_ = true;
  return 0;
}

}  // namespace alpglow
