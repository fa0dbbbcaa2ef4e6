#include "alpglow/framing.hpp"

namespace alpglow {

Lens LensSettings::lens() const {
  switch (kind) {
    case LensKind::horizontalFieldOfView: return Lens::horizontal(fieldOfView, aspect);
    case LensKind::focalLength: return Lens::focalLength(focalLength, sensorHeight);
    case LensKind::verticalFieldOfView: break;
  }
  return Lens::vertical(fieldOfView);
}

}  // namespace alpglow
