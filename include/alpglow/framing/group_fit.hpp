#pragma once
// Several subjects in one picture: where a camera that looks this way must be to hold them all, and how wide its lens
// must be from where it is. Both in closed form.
//
//   const GroupPlace place = fitGroup(balls, look, fieldOfView, aspect, 0.1);
//   const double lens = lensFor(balls, place.position, look, aspect, 0.1);  // the same lens again, or a narrower one
//
// A camera at (X, D) has an edge with the tangent t. A ball at (x, depth d) with the radius ρ is inside that edge if
// x − d·t + ρ·√(1 + t²) ≤ X − D·t. So of each pair of edges only the largest of these counts: with A for the right edge
// and B for the left one, D ≤ −(A + B)/2t, and X = (A − B)/2 lies in the middle. The farther of the two pairs decides.

#include "alpglow/base/span.hpp"
#include "alpglow/look/look.hpp"

#include <Eigen/Core>

namespace alpglow {

/// What has to be in the picture: a ball around it, metres.
struct Ball {
  Eigen::Vector3d centre = Eigen::Vector3d::Zero();
  double radius = 0.5;
};

struct GroupPlace {
  Eigen::Vector3d position = Eigen::Vector3d::Zero();
  /// From there to the middle of the balls, along the look, metres.
  double distance = 0;
};

/// The nearest place from which all balls are in the picture and at least `nearest` metres ahead. `fieldOfView` is the
/// vertical one, radians; `margin` the share of the half picture that stays free at each edge, 0 … 0.9. No balls: the
/// origin.
GroupPlace fitGroup(Span<const Ball> balls, const LookAngles& look, double fieldOfView, double aspect, double margin,
                    double nearest = 0.1);

/// The narrowest vertical field of view that holds all balls from a place, radians; π where that cannot be.
double lensFor(Span<const Ball> balls, const Eigen::Vector3d& position, const LookAngles& look, double aspect,
               double margin);

}  // namespace alpglow
