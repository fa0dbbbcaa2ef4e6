#include "alpglow/io/level.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace alpglow {

template <>
Span<const Setting<io::Body>> settings<io::Body>() {
  using namespace describe;
  using B = io::Body;
  static const Setting<B> table[] = {
      number<B, &B::height>("height_m", "m", 0.4, 5, 1, "height of the character"),
      number<B, &B::eyeHeight>("eye_height_m", "m", 0.2, 5, 1, "height of its eyes"),
      number<B, &B::radius>("radius_m", "m", 0.1, 2, 1, "radius of its capsule"),
      number<B, &B::stepHeight>("step_height_m", "m", 0, 1, 1, "highest step that it climbs"),
      number<B, &B::walkSpeed>("walk_mps", "m/s", 0, 50, 1, "walking speed"),
      number<B, &B::runSpeed>("run_mps", "m/s", 0, 50, 1, "running speed"),
      number<B, &B::crouchHeight>("crouch_height_m", "m", 0.3, 5, 1, "height when crouching"),
      number<B, &B::crouchEyeHeight>("crouch_eye_height_m", "m", 0.1, 5, 1, "height of the eyes when crouching"),
      number<B, &B::crouchSpeed>("crouch_mps", "m/s", 0, 50, 1, "speed when crouching"),
      number<B, &B::jumpHeight>("jump_height_m", "m", 0, 5, 1, "how high a jump takes the feet"),
  };
  return table;
}

template <>
Span<const Setting<GroupSettings>> settings<GroupSettings>() {
  using namespace describe;
  using G = GroupSettings;
  static const Setting<G> table[] = {
      number<G, &G::margin>("margin", "", 0, 0.9, 1, "share of the half picture that stays free at each edge"),
      number<G, &G::nearest>("nearest_m", "m", 0.5, 1000, 1, "from the camera to the middle of the group, at least"),
      number<G, &G::farthest>("farthest_m", "m", 0.5, 1000, 1, "and at most"),
      number<G, &G::narrow>("narrow_fov_deg", "deg", 1, 150, degree, "vertical field of view while there is room"),
      number<G, &G::wide>("wide_fov_deg", "deg", 1, 150, degree, "and the widest it opens to"),
      number<G, &G::halfLife>("follow_half_life_s", "s", 0, 5, 1, "half-life of following"),
      number<G, &G::turnRate>("turn_degps", "deg/s", 0, 1000, degree, "fastest turning to another direction"),
      number<G, &G::join>("join_s", "s", 0, 10, 1, "time in which somebody is let in or out"),
      number<G, &G::patience>("patience_s", "s", 0, 60, 1,
                              "hidden for so long, another direction is looked for; 0 = never"),
  };
  return table;
}

}  // namespace alpglow

namespace alpglow::io {

using Eigen::Vector3d;

namespace {

/// The prism between two outlines of equal length, each counter-clockwise seen from above.
Mesh prism(const std::vector<Vector3d>& bottom, const std::vector<Vector3d>& top) {
  Mesh mesh;
  mesh.vertices = bottom;
  mesh.vertices.insert(mesh.vertices.end(), top.begin(), top.end());
  const int n = static_cast<int>(bottom.size());
  for (int i = 0; i < n; ++i) {
    const int j = (i + 1) % n;
    mesh.triangles.push_back({i, j, n + j});
    mesh.triangles.push_back({i, n + j, n + i});
    if (i >= 1 && i + 1 < n) {
      mesh.triangles.push_back({0, i + 1, i});
      mesh.triangles.push_back({n, n + i, n + i + 1});
    }
  }
  return mesh;
}

/// A cone: an outline, counter-clockwise seen from above, and a tip over it.
Mesh cone(const std::vector<Vector3d>& bottom, const Vector3d& tip) {
  Mesh mesh;
  mesh.vertices = bottom;
  mesh.vertices.push_back(tip);
  const int n = static_cast<int>(bottom.size());
  for (int i = 0; i < n; ++i) {
    mesh.triangles.push_back({i, (i + 1) % n, n});
    if (i >= 1 && i + 1 < n) mesh.triangles.push_back({0, i + 1, i});
  }
  return mesh;
}

std::vector<Vector3d> lifted(std::vector<Vector3d> outline, double rise) {
  for (Vector3d& corner : outline) corner.y() += rise;
  return outline;
}

std::vector<Vector3d> ring(const Vector3d& centre, double radius) {
  constexpr int sides = 16;
  std::vector<Vector3d> corners;
  for (int i = 0; i < sides; ++i) {
    const double angle = 2 * pi * i / sides;
    corners.push_back(centre + radius * Vector3d(std::cos(angle), 0, -std::sin(angle)));
  }
  return corners;
}

}  // namespace

bool LevelObject::labelled(std::string_view label) const {
  return std::find(labels.begin(), labels.end(), label) != labels.end();
}

ReferenceFrame MovingPlatform::at(double time, std::uint32_t id) const {
  ReferenceFrame frame;
  frame.id = id;
  double length = 0;
  for (std::size_t i = 1; i < path.size(); ++i) length += (path[i] - path[i - 1]).norm();
  const double ride = length / speed, half = pause + ride;
  double phase = std::fmod(std::max(time, 0.0), 2 * half);
  const bool back = phase >= half;
  if (back) phase -= half;
  const double s = ride > 0 ? std::clamp((phase - pause) / ride, 0.0, 1.0) : 0.0;
  const double done = s * s * s * (10 - 15 * s + 6 * s * s),
               rate = ride > 0 ? 30 * s * s * (1 - s) * (1 - s) / ride : 0;
  const double share = back ? 1 - done : done;
  double along = share * length;
  std::size_t leg = 1;
  while (leg + 1 < path.size() && along > (path[leg] - path[leg - 1]).norm()) {
    along -= (path[leg] - path[leg - 1]).norm();
    ++leg;
  }
  const Vector3d direction = (path[leg] - path[leg - 1]).normalized();
  frame.origin = path[leg - 1] + along * direction;
  frame.velocity = (back ? -rate : rate) * length * direction;
  frame.rotation = Rotation(Eigen::AngleAxisd(share * turn, Vector3d::UnitY()));
  return frame;
}

Mesh boxMesh(const Vector3d& baseCentre, const Vector3d& size, double yaw) {
  const Eigen::AngleAxisd turn(yaw, Vector3d::UnitY());
  std::vector<Vector3d> bottom;
  for (const auto& [x, z] : {std::pair(-0.5, 0.5), std::pair(0.5, 0.5), std::pair(0.5, -0.5), std::pair(-0.5, -0.5)}) {
    bottom.push_back(baseCentre + turn * Vector3d(x * size.x(), 0, z * size.z()));
  }
  return prism(bottom, lifted(bottom, size.y()));
}

Mesh rampMesh(const Vector3d& from, const Vector3d& to, double width, double thickness) {
  const Vector3d along = Vector3d(to.x() - from.x(), 0, to.z() - from.z()).normalized();
  const Vector3d right = along.cross(Vector3d::UnitY()) * (width / 2);
  const std::vector<Vector3d> top = {from - right, from + right, to + right, to - right};
  return prism(lifted(top, -thickness), top);
}

Mesh cylinderMesh(const Vector3d& baseCentre, double height, double radius, double topRadius) {
  const Vector3d top = baseCentre + height * Vector3d::UnitY();
  if (topRadius <= 0) return cone(ring(baseCentre, radius), top);
  return prism(ring(baseCentre, radius), ring(top, topRadius));
}

}  // namespace alpglow::io
