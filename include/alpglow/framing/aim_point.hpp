#pragma once
// Keeping the aim point: which look puts a point under the crosshair, in closed form.
//
// The pivot lies s to the right of the anchor in the yaw frame, the camera behind it on its axis. With w from the
// anchor to the point and r its length along the ground: m = sqrt(r² − s²), yaw = yaw(w) + asin(s/r), pitch =
// atan2(w.y, m). The distance drops out: pulling in along the axis never moves the crosshair. A tilt τ at the distance
// d passes the axis d·sin τ above the pivot: pitch −= asin(d·sin τ/hypot(m, w.y)).

#include "alpglow/look/look.hpp"

#include <Eigen/Core>

namespace alpglow {

/// How the crosshair's axis passes the anchor: metres to the right, the tilt in radians, and the camera's distance
/// behind, metres.
struct AimAxis {
  double shoulder = 0, tilt = 0, distance = 0;
};

struct AimSolution {
  LookAngles look;
  /// 0 … 1: fades to 0 where the point comes closer to the anchor's vertical than 1.2·|s| (at least 0.4 m), and cannot
  /// be reached within |s|.
  double authority = 0;
};

/// `point` is relative to the anchor, in level axes.
AimSolution aimAt(const Eigen::Vector3d& point, const AimAxis& axis);

}  // namespace alpglow
