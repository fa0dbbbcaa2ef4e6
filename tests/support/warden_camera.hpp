#pragma once
// A design with everything that blends into each other: third and first person, each with a scope, a sprint and a
// crouch. And a world to aim at that is never in the way.

#include "alpglow/camera/character_camera.hpp"

#include <cmath>

namespace alpglow::testing {

inline CameraDesign wardenDesign() {
  CameraDesign design;
  Framing trail;
  trail.transition = 0.45;
  trail.keeps = Keeps::aim;
  Framing scope = trail;
  scope.lens.kind = LensKind::magnification;
  scope.lens.magnification2 = 4;
  scope.lens.magnification3 = 8;
  scope.shoulder = 0.55;
  scope.distance = 1.3;
  scope.distanceRange = {1, 2};
  scope.pitch = {degrees(-60), degrees(60)};
  scope.follow.halfLife = 0.04;
  scope.transition = 0.3;
  Framing sprint = trail;
  sprint.distance = 3.8;
  sprint.lens.fieldOfView = degrees(70);
  Framing crouch = trail;
  crouch.distance = 2.2;
  crouch.anchorRise = 0.3;
  crouch.transition = 0.25;
  Framing eyes = trail;
  eyes.distance = eyes.distanceRange.nearest = eyes.distanceRange.farthest = 0;
  eyes.shoulder = eyes.anchorRise = 0;
  eyes.follow.halfLife = eyes.follow.verticalHalfLife = 0;
  eyes.nearPlane = 0.05;
  Framing glass = eyes;
  glass.lens = scope.lens;
  glass.transition = 0.25;
  design.framings = {{"trail", trail, "", Perspective::third},
                     {"scope", scope, "aiming", Perspective::third},
                     {"sprint", sprint, "sprinting", Perspective::third},
                     {"crouch", crouch, "crouched", Perspective::third},
                     {"eyes", eyes, "", Perspective::first},
                     {"glass", glass, "aiming", Perspective::first}};
  return design;
}

/// A ball all around, so that the crosshair is always on something; nothing is ever in the way.
class FarSphere final : public Obstacles {
 public:
  explicit FarSphere(double radius, const Eigen::Vector3d& centre = Eigen::Vector3d::Zero())
      : radius_(radius), centre_(centre) {}
  Contact sweep(const Eigen::Vector3d&, const Eigen::Vector3d& displacement, double) const noexcept override {
    return {displacement.norm(), noObstacle};
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, Purpose::Bit) const noexcept override {
    const Eigen::Vector3d ahead = displacement.normalized();
    const double b = (from - centre_).dot(ahead), c = (from - centre_).squaredNorm() - radius_ * radius_;
    const double distance = -b + std::sqrt(std::max(b * b - c, 0.0));
    return distance > 0 && distance < displacement.norm() ? Contact{distance, 1}
                                                          : Contact{displacement.norm(), noObstacle};
  }
  double clearance(const Eigen::Vector3d&, double range) const noexcept override { return range; }

 private:
  double radius_;
  Eigen::Vector3d centre_;
};

}  // namespace alpglow::testing
