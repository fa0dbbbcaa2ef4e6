#include "alpglow/framing/lens.hpp"

#include <cmath>

namespace alpglow {

Lens Lens::vertical(double fieldOfView) { return Lens(fieldOfView); }

Lens Lens::horizontal(double fieldOfView, double aspect) {
  return Lens(2 * std::atan(std::tan(fieldOfView / 2) / aspect));
}

Lens Lens::focalLength(double focalLength, double sensorHeight) {
  return Lens(2 * std::atan(sensorHeight / (2 * focalLength)));
}

double Lens::horizontalFieldOfView(double aspect) const { return 2 * std::atan(std::tan(fieldOfView_ / 2) * aspect); }

double Lens::focalLengthAt(double sensorHeight) const { return sensorHeight / (2 * std::tan(fieldOfView_ / 2)); }

double nearPlaneRadius(double nearPlane, double verticalFieldOfView, double aspect) {
  const double tangent = std::tan(verticalFieldOfView / 2);
  return nearPlane * std::sqrt(1 + tangent * tangent * (1 + aspect * aspect));
}

}  // namespace alpglow
