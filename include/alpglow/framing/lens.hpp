#pragma once
// The lens: how much the camera sees, however one prefers to say it.
//
//   const Lens normal = Lens::vertical(degrees(60));
//   const Lens wide = Lens::horizontal(degrees(90), 16.0 / 9.0);
//   const Lens fifty = Lens::focalLength(0.050, 0.024);       // 50 mm on a sensor 24 mm high
//
// The vertical angle is what counts; the width of the window never changes it.

namespace alpglow {

class Lens {
 public:
  /// Vertical field of view in radians, in (0, π).
  static Lens vertical(double fieldOfView);
  /// Horizontal field of view in radians at an aspect (width over height): tan(v/2) = tan(h/2)/aspect.
  static Lens horizontal(double fieldOfView, double aspect);
  /// Focal length and sensor height in the same unit: tan(v/2) = height/(2·focal length).
  static Lens focalLength(double focalLength, double sensorHeight);

  double verticalFieldOfView() const { return fieldOfView_; }
  double horizontalFieldOfView(double aspect) const;
  double focalLengthAt(double sensorHeight) const;

 private:
  explicit Lens(double fieldOfView) : fieldOfView_(fieldOfView) {}
  double fieldOfView_;
};

/// Radius of the smallest sphere around the eye that holds the near plane's corners:
/// near·sqrt(1 + tan²(fov/2)·(1 + aspect²)).
double nearPlaneRadius(double nearPlane, double verticalFieldOfView, double aspect);

}  // namespace alpglow
