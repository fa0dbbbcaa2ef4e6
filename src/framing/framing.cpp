#include "alpglow/framing/framing.hpp"

#include <cmath>

namespace alpglow {

Lens LensSpec::lens(double base, int step) const {
  switch (kind) {
    case LensKind::horizontalFieldOfView: return Lens::horizontal(fieldOfView, aspect);
    case LensKind::focalLength: return Lens::focalLength(focalLength, sensorHeight);
    case LensKind::magnification: {
      const double times = step == 0 ? magnification : step == 1 ? magnification2 : magnification3;
      return Lens::vertical(2 * std::atan(std::tan(base / 2) / times));
    }
    case LensKind::verticalFieldOfView: break;
  }
  return Lens::vertical(fieldOfView);
}

int LensSpec::steps() const {
  if (kind != LensKind::magnification || magnification2 <= 0) return 1;
  return magnification3 > 0 ? 3 : 2;
}

double LookScale::at(double fieldOfView, double base, double aspect) const {
  if (kind == LookScaleKind::fixed) return factor;
  const double shown = std::tan(fieldOfView / 2), wide = std::tan(base / 2);
  if (atFraction <= 0) return shown / wide;
  return std::atan(atFraction * aspect * shown) / std::atan(atFraction * aspect * wide);
}

}  // namespace alpglow
